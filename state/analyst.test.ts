import { describe, expect, it, vi } from "vitest";
import type { Machine } from "@/core/machine/schema";
import { simple } from "@/tests/support/small";
import { startAnalyst } from "./analyst";
import { analysedOf, analysisOf, isBroken } from "./findings";
import { createWorkbench } from "./workbench";

function open(machine: Machine = simple()) {
  const store = createWorkbench({ id: "x", machine, revision: 1, send: () => new Promise(() => undefined) });
  return { store, ...startAnalyst(store) };
}

describe("the figures of a machine of ordinary size", () => {
  it("are there with the edit, and answer for it", async () => {
    const { store, ask, stop } = open();
    const wire = simple().wires.find((each) => each.to.part === "motor")?.id ?? "";
    const amps = () => analysisOf(store.getState())?.wires[wire]?.amps[0];
    expect(amps()).toBeCloseTo(5, 9);
    store.getState().dispatch({
      type: "setCell",
      loadId: "motor",
      modeId: "m1",
      cell: { state: "amps", amps: { value: 7, provenance: "measured" } },
    });
    expect(amps()).toBeCloseTo(7, 9);
    expect(analysedOf(store.getState())).toBe(store.getState().machine);
    expect((await ask("explain", { kind: "wireAmps", wire, mode: 0 }))?.value).toBeCloseTo(7, 9);
    expect((await ask("account", "motor", 0))?.arrives[0]?.amps).toBeCloseTo(7, 9);
    store.getState().undo();
    expect(amps()).toBeCloseTo(5, 9);
    stop();
    store.getState().dispatch({ type: "rename", name: "Later" });
    expect(analysedOf(store.getState())).not.toBe(store.getState().machine);
  });

  it("are shown before they are judged where only they changed; changed rows wait for their verdicts", async () => {
    const store = createWorkbench({ id: "x", machine: simple(), revision: 1, send: () => new Promise(() => undefined) });
    const frames: (() => void)[] = [];
    const { stop } = startAnalyst(store, () => new Promise((resolve) => frames.push(resolve)));
    const wire = simple().wires.find((each) => each.to.part === "motor")?.id ?? "";
    const now = () => ({ amps: analysisOf(store.getState())?.wires[wire]?.amps[0], worst: analysisOf(store.getState())?.status[wire] });
    const set = (amps: number) =>
      store.getState().dispatch({
        type: "setCell",
        loadId: "motor",
        modeId: "m1",
        cell: { state: "amps", amps: { value: amps, provenance: "measured" } },
      });
    const before = now().worst;
    expect(before).not.toBe("stop");
    set(200);
    expect(now()).toEqual({ amps: expect.closeTo(200, 6), worst: before });
    expect(analysedOf(store.getState())).not.toBe(store.getState().machine);
    set(5);
    set(190);
    frames.shift()?.();
    await vi.waitFor(() => expect(now().amps).toBeCloseTo(190, 6));
    frames.shift()?.();
    await vi.waitFor(() => expect(analysedOf(store.getState())).toBe(store.getState().machine));
    expect(now().worst).not.toBe(before);
    expect(frames).toEqual([]);
    store.getState().dispatch({ type: "removePart", id: "motor" });
    expect(analysedOf(store.getState())).toBe(store.getState().machine);
    stop();
  });

  it("are gone, and said to be, when the analysis breaks off; the next edit is analysed again", () => {
    const { store } = open();
    const sound = store.getState().machine;
    const poisoned = {
      ...sound,
      get parts(): never {
        throw new Error("a fault");
      },
    };
    store.setState({ machine: poisoned });
    expect([analysisOf(store.getState()), isBroken(store.getState())]).toEqual([null, true]);
    store.setState({ machine: { ...sound } });
    expect(isBroken(store.getState())).toBe(false);
    expect(analysisOf(store.getState())).not.toBeNull();
  });

  it("answer for the sizes of a feed, its fuse and the contacts of the newest plan", async () => {
    const { store, ask, stop } = open();
    const now = async () => (await ask("ladder", "w2", null))?.rungs.find((rung) => rung.now)?.gauge;
    expect(await now()).toBe("14 AWG");
    store.getState().dispatch({ type: "setFeed", id: "w2", changes: { gauge: "10 AWG" } });
    expect(await now()).toBe("10 AWG");
    expect((await ask("picture", { kind: "part", id: "main" }, null))?.fuse.ratingA).toBe(20);
    expect(await ask("picture", { kind: "wire", id: "w2" }, null)).toBeNull();
    expect(await ask("contacts")).toEqual({ contacts: [], stop: null });
    expect(await ask("ladder", "gone", null)).toBeNull();
    store.getState().undo();
    expect(await now()).toBe("14 AWG");
    const shown = analysisOf(store.getState())?.status.w2;
    expect(shown).toBeDefined();
    stop();
  });
});
