import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { compareArrangements } from "@/core/choosing/central";
import { converterCandidates, converterFromClass } from "@/core/choosing/converters";
import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import { joinSource, jointsOf, plusPlaces } from "@/core/machine/join";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { CHEMISTRIES } from "@/core/reference/chemistries";
import { REGULATORS } from "@/core/reference/regulators";
import { reedcutter } from "@/demo/reedcutter";
import { supplied } from "@/tests/support/judged";
import { packed } from "@/tests/support/packed";
import { must, part } from "@/tests/support/small";
import { benchPlan, fitReading } from "../sources/bench";
import { railDemand } from "../sources/demand";
import { Discharge } from "../sources/discharge";
import { runMission, runMode, runTimes } from "../sources/run";
import { sagPicture, stopCharge } from "../sources/sag";
import { composed, compositionsFor } from "./compose";
import { packCandidates, ranked, type SourceCandidate } from "./packs";
import { mainSource, nominalOf, replanned, replans } from "./replan";
import { supplyCandidates } from "./supplies";

const figuresOf = (machine: Machine) => analyse(machine).figures;
const weighed = (machine: Machine, most = 60, shelf: Parameters<typeof packCandidates>[2] = []) =>
  [...packCandidates(figuresOf(machine), "pack", shelf, most)].map(({ candidate }) => candidate);

describe("packs composed on the spot", () => {
  it("are near the rail's volts, around the capacity asked for, and never more than wanted", () => {
    const all = compositionsFor(24, 40, 10000);
    expect(all.length).toBeGreaterThan(100);
    for (const { chemistry, series, parallel, cellAh } of all) {
      const row = CHEMISTRIES.find(({ id }) => id === chemistry);
      expect(series * (row?.nominalV ?? 0)).toBeGreaterThanOrEqual(24 * 0.78 - 1e-9);
      expect(series * (row?.nominalV ?? 0)).toBeLessThanOrEqual(24 * 1.3 + 1e-9);
      if (parallel > 1) expect(cellAh * parallel).toBeLessThanOrEqual(40 * 3);
      if (row?.family === "alkaline") expect(parallel).toBe(1);
      if (row?.family === "lead") expect(series % 3).toBe(0);
    }
    expect(compositionsFor(24, 40, 50)).toHaveLength(50);
    expect(new Set(all.map((each) => JSON.stringify(each))).size).toBe(all.length);
  });

  it("give figures a plan can hold, for every chemistry", () => {
    for (const { id, sizesAh } of CHEMISTRIES) {
      let machine = newMachine("Composed");
      machine = part(machine, "pack", "pack", { ...composed({ chemistry: id, series: 6, parallel: 2, cellAh: sizesAh.at(-1) ?? 1 }) });
      expect(readMachine(JSON.parse(JSON.stringify(machine))), id).toMatchObject({ ok: true });
    }
  });

  it("each is weighed as the plan would be with it in place: same run, same worst volts", () => {
    const machine = packed({ amps: 12, leastV: 20, cutoffV: 19, reserve: 0.2 });
    const some = weighed(machine, 24).filter(({ from, changes }) => from === "composed" && changes);
    expect(some.length).toBeGreaterThan(10);
    for (const candidate of some) {
      const there = must(machine, { type: "updatePart", id: "pack", changes: { ...candidate.changes } });
      const discharge = Discharge.of(there);
      const run = runMode(discharge, 0);
      expect(Math.abs((candidate.runS ?? 0) - run.end.seconds)).toBeLessThanOrEqual(0.03 * run.end.seconds + 30);
      const low = discharge.at(0, [discharge.packs[0]?.reserve ?? 0]);
      expect(candidate.worstV).toBeCloseTo(discharge.packV(low, 0), 6);
    }
  });

  it("what fails says why: window, sag, rating, run", () => {
    const machine = must(packed({ amps: 30, leastV: 22, mostV: 27, reserve: 0.2 }), { type: "setSettings", changes: { wantedRunS: 3600 } });
    const all = weighed(machine, 300);
    for (const each of all) {
      if (each.from === "plan") continue;
      const fits = each.refused.length === 0;
      expect(fits).toBe(each.margin >= 0);
      if (each.fullV !== null && each.fullV > 27) expect(fits).toBe(false);
      if (each.continuousA !== null && each.continuousA < 30) expect(fits).toBe(false);
      if (each.runS !== null && each.runS < 3600) expect(fits).toBe(false);
    }
    expect(all.some(({ refused }) => refused.length === 0)).toBe(true);
    expect(all.some(({ refused }) => refused.length > 1)).toBe(true);
  });

  it("tell what every board is left with, the tightest first, as the plan would", () => {
    const machine = reedcutter(true);
    const figures = figuresOf(machine);
    const [planned] = weighed(machine, 2);
    expect(planned?.lows.map(({ part }) => part)).toEqual(expect.arrayContaining(["Controller", "Computer", "Buck 12 V", "Cutter driver"]));
    planned?.lows.slice(1).forEach((low, i) => {
      expect(low.volts / low.leastV).toBeGreaterThanOrEqual((planned.lows[i]?.volts ?? 0) / (planned.lows[i]?.leastV ?? 1));
    });
    const computer = planned?.lows.find(({ part }) => part === "Computer");
    expect(computer?.volts).toBeCloseTo(figures.parts.computer?.lowestV?.volts ?? 0, 3);
  });

  it("the one planned comes first, what fits by mass, the shelf among them", () => {
    const shelf = [{ id: "own", part: { ...packed().parts[0], id: "x", name: "Mine" } as Machine["parts"][number] }];
    const order = ranked(weighed(packed({ amps: 5 }), 40, shelf));
    expect(order[0]?.from).toBe("plan");
    expect(order.find(({ from }) => from === "shelf")).toMatchObject({ id: "own", name: "Mine" });
    const fitting = order.slice(1).filter(({ refused }) => refused.length === 0);
    fitting.slice(1).forEach((each, i) => {
      expect(each.massKg ?? Infinity).toBeGreaterThanOrEqual(fitting[i]?.massKg ?? Infinity);
    });
  });

  it("are offered for a pack of which only the volts are known", () => {
    const bare = packed({ over: { chemistry: undefined, series: undefined, capacityAh: undefined, internalOhm: undefined } });
    const [planned, ...rest] = weighed(bare, 20);
    expect(planned?.refused.join()).toMatch(/chemistry/);
    expect(rest.length).toBeGreaterThan(5);
  });

  it("choosing one rewires nothing", () => {
    const machine = reedcutter(false);
    const taken = weighed(machine, 30).find(({ from }) => from === "composed");
    const after = must(machine, { type: "updatePart", id: "pack", changes: { ...taken?.changes } });
    expect(after.wires).toEqual(machine.wires);
    expect(after.parts.filter(({ id }) => id !== "pack")).toEqual(machine.parts.filter(({ id }) => id !== "pack"));
  });
});

describe("converters and supplies to choose from", () => {
  const machine = reedcutter(false);
  const figures = figuresOf(machine);

  it("converters that can be set to the rail's volts, each refused for what it cannot do", () => {
    const all = converterCandidates(figures, "buck-5", []);
    const by = (id: string): SourceCandidate | undefined => all.find((each) => each.id === id);
    expect(by("buck_sync_5A")?.refused).toEqual([]);
    // 29.2 V full is more than it bears; 2.4 A is more than it holds at 40 °C.
    expect(by("buck_mini_3A")?.refused.length).toBeGreaterThanOrEqual(2);
    expect(by("lin_5v_to220")?.heatW).toBeGreaterThan(40);
    expect(by("buck_48_12_20A")).toBeUndefined();
    for (const each of all) expect(each.refused.length === 0).toBe(each.margin >= 0 || each.from === "plan");
  });

  it("a class taken into the plan is a valid part that the network agrees with", () => {
    for (const row of REGULATORS) {
      const taken = must(machine, { type: "updatePart", id: "buck-5", changes: { ...converterFromClass(row, 5) } });
      expect(readMachine(JSON.parse(JSON.stringify(taken))), row.id).toMatchObject({ ok: true });
    }
    const sync = must(machine, {
      type: "updatePart",
      id: "buck-5",
      changes: { ...converterFromClass(REGULATORS.find(({ id }) => id === "buck_sync_5A") ?? (REGULATORS[0] as never), 5) },
    });
    const heat = converterCandidates(figuresOf(sync), "buck-5", [])[0]?.heatW ?? 0;
    const cruise = machine.modes.findIndex(({ id }) => id === "cruise");
    expect(heat).toBeCloseTo(analyse(sync).analysis.parts["buck-5"]?.lossW?.[cruise] ?? 0, 1);
  });

  it("supplies near the rail's volts by 80 % continuously and their limit for the peak", () => {
    let plan = newMachine("Supplied");
    plan = part(plan, "supply", "supply", { outputV: f(24), outputOhm: f(0.01), ratedA: f(5) });
    plan = part(
      plan,
      "load",
      "load",
      { nominalV: f(24), inputMaxV: f(28), cells: { m1: { state: "amps", amps: f(8) } } },
      { from: "supply.+", back: "supply.-" },
    );
    const all = supplyCandidates(figuresOf(plan), "supply", []);
    const fits = all.filter(({ from, refused }) => from === "class" && refused.length === 0).map(({ id }) => id);
    // 8 A continuously wants 10 A printed: 240 W.
    expect(fits).toEqual(["enclosed-24-250", "enclosed-24-350", "enclosed-24-500", "enclosed-24-600", "enclosed-24-1000"]);
  });

  it("USB ports for a 5 V rail, each at its allowance", () => {
    let plan = newMachine("USB");
    plan = part(plan, "supply", "supply", { outputV: f(5), outputOhm: f(0.05), make: "usb", usbPort: "usb2" });
    plan = part(
      plan,
      "load",
      "load",
      { nominalV: f(5), cells: { m1: { state: "amps", amps: f(0.8) } } },
      { from: "supply.+", back: "supply.-" },
    );
    const fits = supplyCandidates(figuresOf(plan), "supply", []).filter(
      ({ id, refused }) => !id.startsWith("enclosed") && refused.length === 0,
    );
    expect(fits.map(({ id }) => id).sort()).toEqual(["c_1a5", "c_3a", "charging"]);
  });
});

describe("the demand of a rail", () => {
  it("continuous, peak with its time, r.m.s. over the mission, and the window everything accepts", () => {
    const figures = figuresOf(reedcutter(true));
    const rail = figures.ledger.rails[0];
    if (!rail) throw new Error("no rail");
    const demand = railDemand(figures, rail);
    expect(figures.machine.modes[demand.continuousMode]?.id).toBe("cruise");
    expect(demand.peakA).toBeGreaterThan(demand.continuousA);
    expect(demand.peakS).toBe(0.8);
    expect(demand.rmsA).toBeLessThan(demand.continuousA);
    expect(demand.least).toMatchObject({ volts: 15, part: "Buck 12 V" });
    expect(demand.most).toMatchObject({ volts: 32 });
  });
});

describe("runs", () => {
  const two = (mission: NonNullable<Parameters<typeof packed>[0]>["mission"]) => {
    let machine = packed({ amps: 4, reserve: 0.1 });
    machine = must(machine, { type: "addMode", name: "Hard", lastsS: 60, copyFrom: "m1" });
    const hard = machine.modes[1]?.id ?? "";
    machine = must(machine, { type: "setCell", loadId: "load", modeId: hard, cell: { state: "amps", amps: f(24) } });
    return must(machine, {
      type: "setMission",
      mission: mission
        ? { ...mission, steps: mission.steps.map((step) => ({ ...step, mode: step.mode === "hard" ? hard : step.mode })) }
        : null,
    });
  };

  it("a mission over and over takes the charge of its mean current, whole rounds counted", () => {
    const machine = two({
      repeats: true,
      steps: [
        { mode: "m1", seconds: 90 },
        { mode: "hard", seconds: 30 },
      ],
    });
    const times = runTimes(machine);
    // (4 A · 90 s + 24 A · 30 s) / 120 s = 9 A: 18 Ah last two hours.
    expect(times.mission?.end.seconds).toBeCloseTo(7200, -2);
    expect(times.mission?.rounds).toBeCloseTo(60, -1);
    expect(times.alone.map(({ mode }) => mode)).toEqual([0]);
    expect(times.alone[0]?.run.end.seconds).toBeCloseTo(16200, -1);
  });

  it("leaps over short cycles end where walking them step by step ends", () => {
    const short = two({
      repeats: true,
      steps: [
        { mode: "m1", seconds: 6 },
        { mode: "hard", seconds: 2 },
      ],
    });
    const discharge = Discharge.of(short);
    const plan = {
      steps: [
        { mode: 0, seconds: 6 },
        { mode: 1, seconds: 2 },
      ],
      repeats: true,
      cycleS: 8,
    };
    const leaping = runMission(discharge, plan);
    // A step too fine for any leap walks every cycle.
    const walking = runMission(discharge, plan, { step: 1e-4 });
    expect(Math.abs(leaping.end.seconds - walking.end.seconds)).toBeLessThan(16);
    expect(leaping.trace.length).toBeLessThan(walking.trace.length / 10);
  });

  it("once through ends when done, with what is left", () => {
    const times = runTimes(two({ repeats: false, steps: [{ mode: "m1", seconds: 3600 }] }));
    expect(times.mission).toMatchObject({ rounds: 1, end: { cause: "done" } });
    expect(times.mission?.end.seconds).toBeCloseTo(3600, 6);
    expect(times.mission?.left.pack).toBeCloseTo(0.8, 3);
  });

  it("a dip shorter than the cut-off's delay, or carried by a capacitor, does not end it", () => {
    const dip = (over: object) => {
      let machine = packed({ amps: 5, leastV: 20, cutoffV: 25, ohm: 0.05, reserve: 0.2, over });
      machine = must(machine, { type: "addMode", name: "Start", lastsS: 0.5, copyFrom: "m1" });
      const start = machine.modes[1]?.id ?? "";
      machine = must(machine, { type: "setCell", loadId: "load", modeId: start, cell: { state: "amps", amps: f(30) } });
      return must(machine, {
        type: "setMission",
        mission: {
          repeats: true,
          steps: [
            { mode: start, seconds: 0.5 },
            { mode: "m1", seconds: 600 },
          ],
        },
      });
    };
    const [abrupt, patient] = [dip({}), dip({ cutoffS: f(2) })].map((machine) => runTimes(machine).mission);
    expect(abrupt?.end.cause).toBe("cut-off");
    expect(patient?.end.cause).toBe("reserve");
    expect(patient?.end.seconds ?? 0).toBeGreaterThan((abrupt?.end.seconds ?? 0) + 600);
  });

  it("two packs of a machine run down side by side, and the first to be spent ends it", () => {
    let machine = packed({ amps: 10, reserve: 0.1 });
    machine = part(machine, "pack", "logic", {
      ...composed({ chemistry: "lipo", series: 2, parallel: 1, cellAh: 1 }, 25, 1),
      lowCharge: f(0.1),
      cutoffV: f(0),
      peukert: f(1),
    });
    machine = part(
      machine,
      "load",
      "board",
      { behaviour: "power", nominalV: f(7.4), cells: { m1: { state: "amps", amps: f(0.9) } } },
      { from: "logic.+", back: "logic.-" },
    );
    const { alone } = runTimes(machine);
    expect(alone[0]?.run.end).toMatchObject({ cause: "reserve", part: "logic" });
    expect(alone[0]?.run.left.pack).toBeGreaterThan(0.4);
    expect(alone[0]?.run.left.logic).toBeCloseTo(0.1, 2);
  });

  it("constant power shortens it against the same amps held constant", () => {
    const of = (behaviour: "current" | "power") =>
      runMode(Discharge.of(packed({ amps: 15, behaviour, reserve: 0.1, ohm: 0.06 })), 0).end.seconds;
    expect(of("power")).toBeLessThan(of("current"));
  });

  it("unknown loads make it an upper bound; a machine that draws nothing has no end", () => {
    expect(runMode(Discharge.of(must(packed(), { type: "setCell", loadId: "load", modeId: "m1", cell: null })), 0)).toMatchObject({
      atMost: true,
      end: { cause: "endless" },
    });
  });

  it("a collapse ends it and is named", () => {
    const run = runMode(Discharge.of(packed({ amps: 120, behaviour: "power", ohm: 0.06 })), 0);
    expect(run.end.cause).toBe("collapse");
  });
});

describe("the sag picture", () => {
  it("falls with charge and with load, and says where the first thing stops", () => {
    const machine = reedcutter(true);
    const picture = sagPicture(machine, "pack");
    if (!picture) throw new Error("no picture");
    const [parked, cruise] = ["parked", "cruise"].map(
      (id) => picture.curves[machine.modes.findIndex((mode) => mode.id === id)]?.volts ?? [],
    );
    picture.charges.forEach((_, i) => {
      expect(cruise?.[i] ?? 0).toBeLessThan(parked?.[i] ?? 0);
      expect(parked?.[i] ?? 0).toBeLessThan(picture.openV[i] ?? 0);
      if (i > 0) expect(parked?.[i] ?? 0).toBeGreaterThanOrEqual(parked?.[i - 1] ?? 0);
    });
    expect(picture.lines[0]).toMatchObject({ kind: "cut-off", volts: 22.4 });
    for (const end of picture.ends) {
      const discharge = Discharge.of(machine);
      const stop = discharge.stops.find((each) => each.part.id === end.part && each.kind === end.kind);
      expect(stop && stopCharge(discharge, 0, end.mode, stop)).toBeCloseTo(end.charge, 6);
    }
    expect(sagPicture(packed({ over: { chemistry: undefined } }), "pack")).toBeNull();
  });
});

describe("another main voltage", () => {
  const figures = figuresOf(reedcutter(true));

  it("keeps the watts: twice the volts halve the amps and quarter the heat in the same wires", () => {
    const plans = replans(figures) ?? [];
    const [twelve, present, fortyEight] = plans;
    expect(plans.map(({ volts }) => volts)).toEqual([12, 24, 48]);
    expect(present).toMatchObject({ present: true, refuses: [], rewound: [] });
    expect((twelve?.continuousA ?? 0) / (present?.continuousA ?? 1)).toBeCloseTo(2, 1);
    expect((fortyEight?.continuousA ?? 0) / (present?.continuousA ?? 1)).toBeCloseTo(0.5, 1);
    expect((twelve?.wireW ?? 0) / (present?.wireW ?? 1)).toBeCloseTo(4, 0);
    expect(twelve?.copperKg).toBeGreaterThan(present?.copperKg ?? 0);
    expect(fortyEight?.copperKg).toBeLessThan(present?.copperKg ?? 0);
    expect(fortyEight?.refuses.map(({ name }) => name)).toContain("Cutter driver");
    expect(replans(figuresOf(reedcutter(false)))?.[0]).toMatchObject({ continuousAtLeast: false, peakAtLeast: true });
    expect(twelve?.sourceName).toBe("4S, 210 Ah");
    expect(fortyEight?.fullV).toBeCloseTo(58.4, 6);
    expect(twelve?.mainFuse?.ratingA ?? 0).toBeGreaterThan(present?.mainFuse?.ratingA ?? 0);
  });

  it("does not touch what hangs behind converters", () => {
    const source = mainSource(figures);
    if (!source) throw new Error("no source");
    const twin = replanned(figures, source, 48);
    const find = (machine: Machine, id: string) => machine.parts.find((each) => each.id === id);
    expect(find(twin, "computer")).toEqual(find(figures.machine, "computer"));
    expect(find(twin, "paddle-left")).toMatchObject({ nominalV: { value: 48 }, levels: { stall: { value: 23 } } });
    expect(replanned(figures, source, 24)).toBe(figures.machine);
    expect([11.1, 25.9, 26.4, 36.9, 51.2].map(nominalOf)).toEqual([12, 24, 24, 48, 48]);
  });
});

describe("learning on a bench supply", () => {
  const machine = reedcutter(true);
  const figures = figuresOf(machine);

  it("sets the planned volts, never above the weakest part, modes from the lightest to the heaviest", () => {
    const [rail] = benchPlan(figuresOf(reedcutter(false)));
    expect(rail).toMatchObject({ origin: "pack", setV: 26.4, mostV: 28 });
    rail?.settings.slice(1).forEach((setting, i) => {
      expect(setting.expectedA).toBeGreaterThanOrEqual(rail.settings[i]?.expectedA ?? 0);
    });
    for (const { limitA, expectedA } of rail?.settings ?? []) expect(limitA).toBeGreaterThanOrEqual(expectedA * 1.3);
  });

  it("a reading of a whole rail becomes readings of its loads, and the plan then draws it", () => {
    const cruise = machine.modes.findIndex(({ id }) => id === "cruise");
    const before = figures.parts.pack?.amps[cruise] ?? 0;
    const fitted = fitReading(figures, "pack", cruise, before * 0.8);
    if (!fitted.ok) throw new Error(fitted.message);
    expect(fitted.factor).toBeLessThan(0.85);
    const after = analyse(must(machine, fitted.command)).analysis;
    expect(after.parts.pack?.amps[cruise]).toBeCloseTo(before * 0.8, 2);
    // Loads with a reading of their own stay; the other modes too.
    expect(after.parts.controller?.amps[cruise]).toBeCloseTo(figures.parts.controller?.amps[cruise] ?? 0, 2);
    expect(after.parts.pack?.amps[0]).toBeCloseTo(figures.parts.pack?.amps[0] ?? 0, 6);
  });

  it("refuses what cannot be", () => {
    expect(fitReading(figures, "pack", 1, 0.01)).toMatchObject({ ok: false });
    expect(fitReading(figures, "pack", 1, 5000)).toMatchObject({ ok: false });
    expect(
      fitReading(figuresOf(must(packed(), { type: "setCell", loadId: "load", modeId: "m1", cell: null })), "pack", 0, 3),
    ).toMatchObject({ ok: false });
    const read = must(packed(), {
      type: "setCell",
      loadId: "load",
      modeId: "m1",
      cell: { state: "amps", amps: { value: 3, provenance: "measured" } },
    });
    expect(fitReading(figuresOf(read), "pack", 0, 3)).toMatchObject({ ok: false });
  });
});

describe("one regulator or one at each load", () => {
  it("keeps the loads, spreads the regulators, and steadies the volts at the cost of their losses", () => {
    const found = compareArrangements(figuresOf(reedcutter(false)), "buck-5");
    if (!found) throw new Error("nothing to compare");
    expect(found.central.converters).toBe(1);
    expect(found.pointOfUse.converters).toBe(found.central.lowest.length);
    expect(found.pointOfUse.swingV).toBeLessThan(found.central.swingV);
    expect(found.pointOfUse.wiresW).toBeLessThan(found.central.wiresW);
    expect(found.pointOfUse.convertersW).toBeGreaterThan(found.central.convertersW);
    const names = (each: typeof found.central) => each.lowest.map(({ name }) => name);
    expect(names(found.pointOfUse)).toEqual(names(found.central));
    expect(compareArrangements(figuresOf(reedcutter(false)), "pack")).toBeNull();
  });
});

describe("a source joined to a rail that another feeds", () => {
  it("gets both conductors in one step, is found again, and comes off without a trace", () => {
    let machine = reedcutter(true);
    machine = must(machine, {
      type: "addPart",
      part: {
        id: "charger",
        name: "Charger",
        kind: "supply",
        outputV: f(28.8),
        outputOhm: f(0.01),
        make: "charger",
        overload: "constant current",
        limitA: f(10),
      },
    });
    const before = machine;
    expect(jointsOf(machine, "charger")).toEqual([]);
    expect(plusPlaces(machine).map(({ name }) => name)).toContain("Bar P0");
    machine = must(
      machine,
      joinSource(
        machine,
        "charger",
        { part: "bar-p0", terminal: "bar" },
        { part: "bar-n1", terminal: "bar" },
        { gauge: "10 AWG", lengthM: f(0.5) },
      ),
    );
    const [joint] = jointsOf(machine, "charger");
    expect(joint?.back?.pair).toBe(joint?.supply.id);
    const { parts } = analyse(machine).analysis;
    const cruise = machine.modes.findIndex(({ id }) => id === "cruise");
    expect(parts.charger?.amps[cruise]).toBeCloseTo(10, 6);
    expect(jointsOf(machine, "pack")).toEqual([]);
    for (const wire of [joint?.supply, joint?.back]) machine = must(machine, { type: "removeWire", id: wire?.id ?? "" });
    expect(machine).toEqual(before);
  });

  it("keeps the watts of a supply: amps by the volts, resistance by their square; of a load its range and its reading", () => {
    const machine = supplied({ ratedA: f(10), limitA: f(13), outputOhm: f(0.02) }, 4, {
      levels: { run: { ...f(4), low: 3, high: 5 } },
      cells: { m1: { state: "run", percent: 100, measured: f(3.6) } },
    });
    const own = figuresOf(machine);
    const source = mainSource(own);
    if (!source) throw new Error("no source");
    const [supply, load] = replanned(own, source, 12).parts;
    expect(supply).toMatchObject({ outputV: { value: 12 }, ratedA: { value: 20 }, limitA: { value: 26 }, outputOhm: { value: 0.005 } });
    expect(load).toMatchObject({
      nominalV: { value: 12 },
      levels: { run: { value: 8, low: 6, high: 10 } },
      cells: { m1: { measured: { value: 7.2 } } },
    });
  });
});
