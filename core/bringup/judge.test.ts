import { describe, expect, it } from "vitest";
import { carillon } from "@/demo/carillon";
import { marbleLift } from "@/demo/marble-lift";
import { reedcutter } from "@/demo/reedcutter";
import { readAt } from "@/tests/cases/bring-up";
import { must } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { typical } from "../machine/figure";
import type { Machine, Pack } from "../machine/schema";
import type { InstrumentId } from "../reference/instruments";
import { settledTemperature } from "../wires/ampacity";
import { passBand } from "./compare";
import { correctionsOf } from "./corrections";
import { compare, judge } from "./judge";
import { EMPTY_LOG, type Log } from "./log";
import { bringUpOf } from "./plan";
import { BENCH_C } from "./situation";
import { bandExpect, shownMost } from "./steps";
import { USUAL_KIT } from "./types";

const judged = (machine: Machine, log: Log) => {
  const { figures } = analyse(machine);
  return judge(figures, bringUpOf(figures), log);
};
const stepIn = (machine: Machine, log: Log, ending: string) =>
  judged(machine, log)
    .stages.flatMap(({ steps }) => steps)
    .find(({ step }) => step.id.endsWith(ending));

describe("what is expected is never more lenient than what is known", () => {
  const soaked = (machine: Machine) => {
    const { figures } = analyse(machine);
    const soak = bringUpOf(figures).stages.find(({ id }) => id === "soak");
    return { figures, steps: soak?.steps ?? [] };
  };

  it.each([
    ["Reedcutter", () => reedcutter(true)],
    ["Carillon", () => carillon(true)],
    ["Marble lift", () => marbleLift(true)],
    [
      "Reedcutter, its lights on at night",
      () => must(reedcutter(true), { type: "setCell", loadId: "deck-light", modeId: "parked", cell: { state: "amps", amps: typical(12) } }),
    ],
  ] as const)("%s: a wire in the soak rises by what this mode warms it, and stays off its limit by the thermometer's doubt", (_, make) => {
    const { figures, steps } = soaked(make());
    const wires = steps.filter(({ id }) => id.startsWith("soak:wire"));
    const rises = figures.modes.map((__, m) => (id: string) => {
      const figure = figures.wires[id];
      const wire = figures.wireOf.get(id);
      return figure?.ampacity && wire ? settledTemperature(wire, figure.ampacity, Math.abs(figure.amps[m] ?? 0)) - figure.ampacity.airC : 0;
    });
    // All wires of one soak are of one mode.
    const fits = rises.filter((rise) =>
      wires.every(({ expect: each, about: [id = ""] }) => each.kind !== "band" || each.band.value <= BENCH_C + rise(id) + 1e-9),
    );
    expect(fits.length).toBeGreaterThan(0);
    for (const { expect: each, about } of wires) {
      if (each.kind !== "band") continue;
      const most = figures.wires[about[0] ?? ""]?.ampacity?.maxC ?? 0;
      expect(each.band.ceiling).toBeLessThanOrEqual(most - 15 - each.band.meterU + 0.01);
    }
  });

  it("a plan that itself is past what may be is to be settled first", () => {
    const band = { value: 80, planLow: 70, planHigh: 90, meterU: 1, ceiling: 75 };
    expect(bandExpect(band, "celsius")).toMatchObject({ kind: "ask" });
    expect(bandExpect({ ...band, value: 74 }, "celsius")).toMatchObject({ kind: "band" });
    expect(bandExpect({ ...band, ceiling: undefined, floor: 81 }, "volts")).toMatchObject({ kind: "ask" });
    expect(shownMost("probe", "celsius", 85)).toBeLessThan(85);
  });

  it("a rested pack may show what its chemistry says, and where nobody said of it that is asked for", () => {
    const machine = reedcutter(true);
    const resting = (change: (pack: Pack) => Pack) => {
      const changed = { ...machine, parts: machine.parts.map((part) => (part.kind === "pack" ? change(part) : part)) };
      return stepIn(changed, EMPTY_LOG, `rest ${machine.parts.find(({ kind }) => kind === "pack")?.id}`)?.step.expect;
    };
    const bare = ({ fullV: _full, lowV: _low, chemistry: _chemistry, series: _series, ...pack }: Pack): Pack => pack;
    expect(resting(bare)).toMatchObject({ kind: "ask" });
    const cells = resting((pack) => ({ ...bare(pack), chemistry: "lifepo4_energy", series: 8 }));
    // Eight cells that are charged to 3.65 V each (handbook table of chemistries).
    expect(cells).toMatchObject({ kind: "band", band: { planHigh: 29.2 } });
    expect(resting((pack) => ({ ...bare(pack), fullV: typical(29), lowV: typical(24) }))).toMatchObject({
      kind: "band",
      band: { planLow: 24, planHigh: 29 },
    });
  });

  it("a reading is in doubt by what it was taken with, not by what is at hand today", () => {
    const machine = marbleLift(true);
    const found = judged(machine, EMPTY_LOG).stages.flatMap(({ steps }) => steps);
    const step = found.find(
      ({ step: { expect: each, quantity, stage } }) => stage === "tree" && each.kind === "band" && quantity === "volts",
    )?.step;
    if (step?.expect.kind !== "band") throw new Error("a band is expected");
    const { high } = passBand(step.expect.band);
    const just = high + 0.2 * step.expect.band.meterU;
    const taken = (instrument: InstrumentId) => stepIn(machine, readAt(machine, step.id, just, { instrument }), step.id)?.state;
    expect(taken(step.instrument)).not.toBe("holds");
    expect(taken("pocket")).toBe("holds");
    expect(taken("bench")).toBe("outside");
  });
});

describe("stages", () => {
  it("open one after the other: when the one before holds, or is left with a reason", () => {
    const machine = marbleLift(true);
    expect(judged(machine, EMPTY_LOG).stages.map(({ opens }) => opens)).toEqual([true, ...Array.from({ length: 10 }, () => false)]);
    const waiver = {
      queueId: "waiver-0",
      stage: "inspect" as const,
      step: null,
      reason: "known good",
      at: "2026-03-01T10:00:00.000Z",
      ended: false,
    };
    expect(
      judged(machine, { readings: [], waivers: [waiver] })
        .stages.slice(0, 3)
        .map(({ opens }) => opens),
    ).toEqual([true, true, false]);
    expect(judged(machine, { readings: [], waivers: [{ ...waiver, ended: true }] }).stages[1]?.opens).toBe(false);
    // Every step of the first stage as it should be.
    const all = judged(machine, EMPTY_LOG).stages[0]?.steps ?? [];
    const value = ({ step }: (typeof all)[number]) =>
      step.expect.kind === "exact" ? step.expect.value : step.expect.kind === "least" ? null : step.expect.kind === "yes" ? 1 : 0;
    const readings = all.flatMap((each, i) => readAt(machine, each.step.id, value(each), { queueId: `reading-${i}00000` }).readings);
    const done = judged(machine, { readings, waivers: [] });
    expect(done.stages[0]).toMatchObject({ holds: true, done: all.length });
    expect(done.stages[1]?.opens).toBe(true);
    // One of them read again, and outside now: what was open closes.
    const spoilt = judged(machine, {
      readings: [
        ...readings,
        ...readAt(machine, "fuse w1", 15, { queueId: "reading-again", takenAt: "2026-03-01T11:00:00.000Z" }).readings,
      ],
      waivers: [],
    });
    expect(spoilt.stages[1]?.opens).toBe(false);
  });

  it("come in the usual order; what the bench supply cannot carry waits for the machine's own source", () => {
    const { figures } = analyse(marbleLift(true));
    const order = (supplyA: number) => bringUpOf(figures, { ...USUAL_KIT, supplyA }).stages.map(({ id }) => id);
    expect(order(10)).toEqual(["inspect", "tree", "logic", "drivers", "signals", "single", "free", "loaded", "soak", "stop", "source"]);
    expect(order(0.3)).toEqual(["inspect", "tree", "logic", "drivers", "signals", "single", "free", "stop", "source", "loaded", "soak"]);
  });
});

describe("a reading", () => {
  it("goes stale when what it reads is built otherwise, not when it is only called otherwise or better known", () => {
    const machine = marbleLift(true);
    const log = readAt(machine, "tree volts bridge", 5.2);
    const state = (after: Machine) => stepIn(after, log, "tree volts bridge")?.state;
    expect(state(machine)).toBe("holds");
    expect(state(must(machine, { type: "updatePart", id: "bridge", changes: { name: "The bridge" } }))).toBe("holds");
    expect(state(must(machine, { type: "setFeed", id: "w4", changes: { gauge: "18 AWG" } }))).toBe("stale");
    // Stored and read again its fields stand in another order: it is the same plan.
    const turned = {
      ...machine,
      parts: machine.parts.map((each) => Object.fromEntries(Object.entries(each).reverse()) as typeof each),
      wires: machine.wires.map((each) => Object.fromEntries(Object.entries(each).reverse()) as typeof each),
    };
    expect(state(turned)).toBe("holds");
    const amps = readAt(machine, "amps gate", 0.16);
    const levels = { idle: { value: 0.16, provenance: "measured" as const } };
    expect(stepIn(must(machine, { type: "updatePart", id: "gate", changes: { levels } }), amps, "amps gate")?.state).toBe("holds");
  });

  it("that was struck out counts nowhere; the newest of a step counts", () => {
    const machine = marbleLift(true);
    const [first] = readAt(machine, "fuse w1", 15).readings;
    const [second] = readAt(machine, "fuse w1", 2, { queueId: "second-reading", takenAt: "2026-03-01T11:00:00.000Z" }).readings;
    if (!first || !second) throw new Error("no readings");
    expect(stepIn(machine, { readings: [second, first], waivers: [] }, "fuse w1")?.state).toBe("holds");
    expect(stepIn(machine, { readings: [first, { ...second, struck: true }], waivers: [] }, "fuse w1")?.state).toBe("outside");
  });

  it("of over range is right between rails and wrong along a wire", () => {
    expect(compare({ kind: "least", limit: 10, open: true }, null, null).state).toBe("holds");
    expect(compare({ kind: "most", limit: 0.5, usual: null }, null, null).state).toBe("outside");
    expect(compare({ kind: "most", limit: 0.5, usual: null }, -0.7, null).state).toBe("outside");
    expect(compare({ kind: "ask", missing: "x" }, 3, null).state).toBe("noted");
  });
});

describe("corrections", () => {
  const machine = marbleLift(true);
  const corrections = (log: Log, of = machine) => correctionsOf(analyse(of).figures, judged(of, log));

  it("put a current that was read in the place of an estimate, and keep that beside it", () => {
    const [found] = corrections(readAt(machine, "single gate amps gate", 0.2));
    expect(found).toMatchObject({ id: "idle gate", command: { type: "updatePart", id: "gate" } });
    const after = must(machine, found?.command ?? { type: "rename" });
    const gate = after.parts.find(({ id }) => id === "gate");
    expect(gate?.kind === "load" && gate.levels?.idle).toMatchObject({ value: 0.2, provenance: "measured", estimate: { value: 0.15 } });
    // What the plan knows already is not offered again.
    expect(corrections(readAt(after, "single gate amps gate", 0.2), after)).toEqual([]);
  });

  it("give a load that nobody knew its current", () => {
    const [found] = corrections(readAt(machine, "single screw amps screw", 0.12));
    expect(found?.before).toBe("not known");
    const after = must(machine, found?.command ?? { type: "rename" });
    expect(stepIn(after, EMPTY_LOG, "free amps cells")?.step.expect.kind).toBe("band");
    expect(stepIn(machine, EMPTY_LOG, "free amps cells")?.step.expect.kind).toBe("ask");
  });

  it("in a working mode stand beside the estimate of its cell", () => {
    const [found] = corrections(readAt(machine, "mode run amps screw", 0.31));
    expect(found?.command).toMatchObject({ type: "setCell", loadId: "screw", modeId: "run", cell: { measured: { value: 0.31 } } });
  });
});
