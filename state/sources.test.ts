import { describe, expect, it, vi } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { newMachine } from "@/core/machine/defaults";
import type { Machine } from "@/core/machine/schema";
import type { Verdict } from "@/core/verdicts/types";
import { packed } from "@/tests/support/packed";
import { startAnalyst } from "./analyst";
import { analysedOf, analysisOf, isBroken, ranThroughOf } from "./findings";
import { keepLate, type LateRunner } from "./sources";
import { NotLoaded } from "./thread";
import { createWorkbench } from "./workbench";

const verdict = (headline: string): Verdict => ({
  id: "run-time",
  rule: "run-time",
  severity: "fix",
  step: "sources",
  subject: { kind: "part", id: "load" },
  headline,
  detail: "",
  remedies: [],
});
const late = (headline: string) => ({
  faults: null,
  loose: [],
  times: { missing: [], mission: null, alone: [] },
  verdicts: [verdict(headline)],
});

const runner = (
  run: LateRunner["run"],
  drop: LateRunner["drop"] = () => undefined,
  weigh: LateRunner["weigh"] = () => null,
): LateRunner => ({ run, weigh, drop });

/** The same with a pack whose resistance nobody gave. */
function without(machine: Machine): Machine {
  return { ...machine, parts: machine.parts.map((part) => (part.kind === "pack" ? { ...part, internalOhm: undefined } : part)) };
}

function open(machine: Machine = packed()) {
  const store = createWorkbench({ id: "x", machine, revision: 1, send: () => new Promise(() => undefined) });
  const { stop } = startAnalyst(store);
  const said = () =>
    analysisOf(store.getState())
      ?.verdicts.filter(({ rule }) => rule === "run-time")
      .map(({ headline }) => headline);
  const edit = (name: string) => store.getState().dispatch({ type: "rename", name });
  return { store, stop, said, edit };
}

describe("late verdicts", () => {
  it("come after the figures, take their place among the others, and colour the status", async () => {
    const { store, stop, said } = open();
    expect(said()).toEqual([]);
    expect(analysisOf(store.getState())?.status.load).not.toBe("fix");
    expect(ranThroughOf(store.getState())).toBeNull();
    const end = keepLate(
      store,
      runner(async () => late("first")),
      0,
    );
    await vi.waitFor(() => expect(said()).toEqual(["first"]));
    expect(analysisOf(store.getState())?.status.load).toBe("fix");
    expect(ranThroughOf(store.getState())).toBe(analysedOf(store.getState()));
    end();
    stop();
  });

  it("are followed by what need not be asked: it is left out, and asked again when the plan changes so that it matters", async () => {
    const { store, stop, edit } = open(without(packed()));
    const asked = () => analysisOf(store.getState())?.verdicts.some(({ id }) => id === "missing-figure:internal:pack");
    expect(asked()).toBe(true);
    let matters = false;
    const end = keepLate(
      store,
      runner(
        async () => late("first"),
        undefined,
        () => (matters ? null : { figures: [], verdicts: ["missing-figure:internal:pack"], lacking: [] }),
      ),
      0,
    );
    await vi.waitFor(() => expect(asked()).toBe(false));
    matters = true;
    edit("Another");
    await vi.waitFor(() => expect(asked()).toBe(true));
    end();
    stop();
  });

  it("wait where their worker could not be loaded: figures stay, nothing is said to be clear, and it is tried again", async () => {
    const { store, stop, said } = open();
    let loads = 0;
    const run = async () => {
      if (++loads < 3) throw new NotLoaded("away");
      return late("first");
    };
    const end = keepLate(store, runner(run), 0, () => 80);
    await vi.waitFor(() => expect(store.getState().lateHeld).toBe(true));
    expect([isBroken(store.getState()), analysisOf(store.getState()) === null, ranThroughOf(store.getState())]).toEqual([
      false,
      false,
      null,
    ]);
    await vi.waitFor(() => expect(said()).toEqual(["first"]));
    expect([store.getState().lateHeld, loads]).toEqual([false, 3]);
    end();
    stop();
  });

  it("of the version before stay until the new version has been run through, which happens once for a burst of edits", async () => {
    const { store, stop, said, edit } = open();
    const asked: Machine[] = [];
    const end = keepLate(
      store,
      runner(async (machine) => {
        asked.push(machine);
        return late(`of ${machine.name}`);
      }),
      5,
    );
    await vi.waitFor(() => expect(said()).toEqual(["of Packed"]));
    for (const name of ["A", "B", "C"]) edit(name);
    expect(said()).toEqual(["of Packed"]);
    await vi.waitFor(() => expect(said()).toEqual(["of C"]));
    expect(asked.map(({ name }) => name)).toEqual(["Packed", "C"]);
    end();
    stop();
  });

  it("at work when an edit comes are dropped at once, and are made anew when edits pause", async () => {
    const { store, stop, said, edit } = open();
    const asked: string[] = [];
    const drop = vi.fn();
    const answer: (() => void)[] = [];
    const end = keepLate(
      store,
      runner((machine) => {
        asked.push(machine.name);
        return new Promise((resolve) => answer.push(() => resolve(late(`of ${machine.name}`))));
      }, drop),
      5,
    );
    await vi.waitFor(() => expect(asked).toEqual(["Packed"]));
    edit("Newer");
    expect(drop).toHaveBeenCalledTimes(1);
    answer[0]?.();
    await vi.waitFor(() => expect(asked).toEqual(["Packed", "Newer"]));
    expect(said()).toEqual([]);
    answer[1]?.();
    await vi.waitFor(() => expect(said()).toEqual(["of Newer"]));
    edit("Newest");
    expect(drop).toHaveBeenCalledTimes(1);
    end();
    stop();
  });

  it("an answer for an older version is dropped", () => {
    const { store, stop, said, edit } = open();
    const old = store.getState().machine;
    edit("Newer");
    store.getState().adoptLate(late("stale"), old);
    expect(said()).toEqual([]);
    stop();
  });

  it("are known to be missing until they come: the screen calls nothing clear meanwhile", async () => {
    const { store, stop } = open();
    const waiting = () => ranThroughOf(store.getState()) !== analysedOf(store.getState());
    expect(waiting()).toBe(true);
    const end = keepLate(
      store,
      runner(async () => ({ ...late(""), verdicts: [] })),
      0,
    );
    await vi.waitFor(() => expect(waiting()).toBe(false));
    store.getState().dispatch({ type: "rename", name: "Edited" });
    expect(waiting()).toBe(true);
    await vi.waitFor(() => expect(waiting()).toBe(false));
    end();
    stop();
  });

  it("of a machine without a source to short or run down are settled at once, without a worker", () => {
    const store = createWorkbench({ id: "x", machine: newMachine("Bare"), revision: 1, send: () => new Promise(() => undefined) });
    const { stop } = startAnalyst(store);
    const end = keepLate(
      store,
      runner(() => Promise.reject(new Error("nobody should ask"))),
      0,
    );
    expect(ranThroughOf(store.getState())).toBe(analysedOf(store.getState()));
    store.getState().dispatch({ type: "rename", name: "Edited" });
    expect(ranThroughOf(store.getState())).toBe(analysedOf(store.getState()));
    expect(isBroken(store.getState())).toBe(false);
    end();
    stop();
  });

  it("that break off are told, and do not leave figures that look complete", async () => {
    const { store, stop } = open();
    const end = keepLate(
      store,
      runner(() => Promise.reject(new Error("a fault"))),
      0,
    );
    await vi.waitFor(() => expect(isBroken(store.getState())).toBe(true));
    expect(analysisOf(store.getState())).toBeNull();
    store.getState().dispatch({ type: "rename", name: "Again" });
    expect(isBroken(store.getState())).toBe(false);
    expect(analysisOf(store.getState())?.verdicts.length).toBe(analyse(store.getState().machine).analysis.verdicts.length);
    end();
    stop();
  });
});
