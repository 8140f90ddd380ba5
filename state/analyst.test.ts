import { describe, expect, it, vi } from "vitest";
import type { Machine } from "@/core/machine/schema";
import { simple } from "@/tests/support/small";
import { startAnalyst } from "./analyst";
import { createWorkbench } from "./workbench";

function open(machine: Machine = simple()) {
  const store = createWorkbench({ id: "x", machine, revision: 1, send: () => new Promise(() => undefined) });
  return { store, ...startAnalyst(store) };
}

describe("the figures of a machine of ordinary size", () => {
  it("are there with the edit, and answer for it", async () => {
    const { store, analyst, stop } = open();
    const wire = simple().wires.find((each) => each.to.part === "motor")?.id ?? "";
    const amps = () => store.getState().analysis?.wires[wire]?.amps[0];
    expect(amps()).toBeCloseTo(5, 9);
    store.getState().dispatch({
      type: "setCell",
      loadId: "motor",
      modeId: "m1",
      cell: { state: "amps", amps: { value: 7, provenance: "measured" } },
    });
    expect(amps()).toBeCloseTo(7, 9);
    expect(store.getState().analysed).toBe(store.getState().machine);
    expect((await analyst.explain({ kind: "wireAmps", wire, mode: 0 }))?.value).toBeCloseTo(7, 9);
    expect((await analyst.account("motor", 0))?.arrives[0]?.amps).toBeCloseTo(7, 9);
    store.getState().undo();
    expect(amps()).toBeCloseTo(5, 9);
    stop();
    store.getState().dispatch({ type: "rename", name: "Later" });
    expect(store.getState().analysed).not.toBe(store.getState().machine);
  });

  it("are shown before they are judged where only they changed; changed rows wait for their verdicts", async () => {
    const store = createWorkbench({ id: "x", machine: simple(), revision: 1, send: () => new Promise(() => undefined) });
    const frames: (() => void)[] = [];
    const { stop } = startAnalyst(store, () => new Promise((resolve) => frames.push(resolve)));
    const wire = simple().wires.find((each) => each.to.part === "motor")?.id ?? "";
    const now = () => ({ amps: store.getState().analysis?.wires[wire]?.amps[0], worst: store.getState().analysis?.status[wire] });
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
    expect(store.getState().analysed).not.toBe(store.getState().machine);
    set(5);
    set(190);
    frames.shift()?.();
    await vi.waitFor(() => expect(now().amps).toBeCloseTo(190, 6));
    frames.shift()?.();
    await vi.waitFor(() => expect(store.getState().analysed).toBe(store.getState().machine));
    expect(now().worst).not.toBe(before);
    expect(frames).toEqual([]);
    store.getState().dispatch({ type: "removePart", id: "motor" });
    expect(store.getState().analysed).toBe(store.getState().machine);
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
    expect(store.getState()).toMatchObject({ analysis: null, broken: true });
    store.setState({ machine: { ...sound } });
    expect(store.getState().broken).toBe(false);
    expect(store.getState().analysis).not.toBeNull();
  });

  it("answer for the sizes of a feed, its fuse and the contacts of the newest plan", async () => {
    const { store, analyst, stop } = open();
    const now = async () => (await analyst.ladder("w2", null))?.rungs.find((rung) => rung.now)?.gauge;
    expect(await now()).toBe("14 AWG");
    store.getState().dispatch({ type: "setFeed", id: "w2", changes: { gauge: "10 AWG" } });
    expect(await now()).toBe("10 AWG");
    expect((await analyst.picture({ kind: "part", id: "main" }, null))?.fuse.ratingA).toBe(20);
    expect(await analyst.picture({ kind: "wire", id: "w2" }, null)).toBeNull();
    expect(await analyst.contacts()).toEqual({ contacts: [], stop: null });
    expect(await analyst.ladder("gone", null)).toBeNull();
    store.getState().undo();
    expect(await now()).toBe("14 AWG");
    const shown = store.getState().analysis?.status.w2;
    expect(shown).toBeDefined();
    stop();
  });
});
