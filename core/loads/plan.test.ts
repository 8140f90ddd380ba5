import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { packAnalysis, unpackAnalysis } from "@/core/analysis/packed";
import { driverCandidates, driverFromClass } from "@/core/choosing/drivers";
import { newPart } from "@/core/machine/defaults";
import { measured, typical } from "@/core/machine/figure";
import { placeUnder } from "@/core/machine/placing";
import type { Load, Machine } from "@/core/machine/schema";
import { ledgerOf } from "@/core/machine/tree";
import { DRIVER_CLASSES } from "@/core/reference/classes";
import { EXAMPLES } from "@/demo/index";
import { driven, must, part, simple } from "@/tests/support/small";
import { compareSchools } from "../analysis/schools";
import { railShares } from "../analysis/shares";
import { missionFigures, missionOf } from "./mission";
import { PRESETS, presetCommand } from "./presets";
import { SIMULTANEITY } from "./stepper";

const example = (key: string): Machine => {
  const found = EXAMPLES.find((each) => each.key === key);
  if (!found) throw new Error(key);
  return found.make();
};

describe("missions", () => {
  /** Idle continuously; a hard brief mode that alone no continuous rule judges. */
  const machine = (steps: [string, number][], repeats = true) => {
    let made = must(simple({ gauge: "18 AWG", amps: 2 }), { type: "addMode", name: "Hard", lastsS: 5 });
    made = must(made, { type: "setCell", loadId: "motor", modeId: "m2", cell: { state: "amps", amps: typical(30) } });
    return must(made, { type: "setMission", mission: { steps: steps.map(([mode, seconds]) => ({ mode, seconds })), repeats } });
  };
  const feed = (made: Machine) => analyse(made).analysis.wires.w2;

  it("a brief mode that comes over and over heats continuously, and is judged so", () => {
    const often = feed(
      machine([
        ["m2", 5],
        ["m1", 10],
      ]),
    );
    expect(often?.worstContinuous).toMatchObject({ mission: true });
    expect(often?.worstContinuous.amps ?? 0).toBeGreaterThan(15);
    const rules = analyse(
      machine([
        ["m2", 5],
        ["m1", 10],
      ]),
    ).analysis.verdicts.map(({ rule, subject }) => `${rule} ${subject.id}`);
    expect(rules).toContain("wire-overload w2");
    const seldom = feed(
      machine([
        ["m2", 5],
        ["m1", 3000],
      ]),
    );
    expect(seldom?.worstContinuous.amps ?? 0).toBeLessThan(often?.worstContinuous.amps ?? 0);
  });

  it("never lowers what goes on continuously", () => {
    const without = must(machine([["m1", 10]]), { type: "setMission", mission: null });
    expect(feed(machine([["m1", 10]]))?.worstContinuous.amps).toBeCloseTo(feed(without)?.worstContinuous.amps ?? 0, 9);
  });

  it("lies between the r.m.s. and the largest, nearer the r.m.s. the quicker the cycle", () => {
    const amps = [2, 30];
    const at = (scale: number) => {
      const plan = missionOf(
        machine([
          ["m2", 5 * scale],
          ["m1", 10 * scale],
        ]),
      );
      if (!plan) throw new Error("no plan");
      return missionFigures(plan, amps, null, 60);
    };
    for (const scale of [0.01, 1, 100]) {
      const { heatingA, rmsA, peakA } = at(scale);
      expect(heatingA).toBeGreaterThanOrEqual(rmsA - 1e-9);
      expect(heatingA).toBeLessThanOrEqual(peakA + 1e-9);
    }
    expect(at(0.01).heatingA).toBeCloseTo(at(0.01).rmsA, 1);
    expect(at(100).heatingA).toBeCloseTo(30, 1);
    expect(at(0.01).rmsHolds).toBe(true);
    expect(at(1).rmsHolds).toBe(false);
  });

  it("loses the steps of a mode that goes, and itself with the last", () => {
    const gone = must(
      machine([
        ["m2", 5],
        ["m1", 10],
      ]),
      { type: "removeMode", id: "m2" },
    );
    expect(gone.mission?.steps).toEqual([{ mode: "m1", seconds: 10 }]);
    expect(must(machine([["m2", 5]]), { type: "removeMode", id: "m2" }).mission).toBeUndefined();
  });

  it("travels between threads with its mark", () => {
    const { analysis } = analyse(
      machine([
        ["m2", 5],
        ["m1", 10],
      ]),
    );
    expect(unpackAnalysis(packAnalysis(analysis)).wires.w2?.worstContinuous).toEqual(analysis.wires.w2?.worstContinuous);
  });
});

describe("modes from a pattern", () => {
  it.each(PRESETS.map((preset) => [preset.name, preset] as const))(
    "%s gives every load of every example a state, in one undoable step",
    (_, preset) => {
      for (const { make } of EXAMPLES) {
        const before = make();
        const command = presetCommand(before, preset);
        if (!command) throw new Error("does not fit");
        const after = must(before, command);
        const added = after.modes.slice(before.modes.length);
        expect(added).toHaveLength(preset.modes.length);
        for (const load of after.parts)
          if (load.kind === "load") for (const mode of added) expect(load.cells[mode.id], `${load.name} ${mode.name}`).toBeDefined();
      }
    },
  );

  it("refuses what would be more modes than a plan holds", () => {
    let machine = simple();
    for (let i = 0; i < 20; i++) machine = must(machine, { type: "addMode", name: `Mode ${i}`, lastsS: null });
    expect(PRESETS[0] && presetCommand(machine, PRESETS[0])).toBeNull();
  });
});

describe("schools side by side", () => {
  it("all stalled never asks less than named modes; readings with their margin more than the same as estimates", () => {
    const { rails, schools } = compareSchools(example("reedcutter-corrected"));
    const at = (name: string) => (schools as readonly string[]).indexOf(name);
    for (const { demand, name } of rails)
      expect(demand[at("all stalled")]?.peakA ?? 0, name).toBeGreaterThanOrEqual((demand[at("named modes")]?.peakA ?? 0) - 1e-9);
    const pack = rails[0];
    expect(pack?.demand[at("all stalled")]?.peakA ?? 0).toBeGreaterThan(100);
  });

  it("what is read counts a quarter more, and says who is not read yet", () => {
    const cell = { state: "run" as const, percent: 100, measured: measured(4) };
    const machine = driven({}, { cells: { m1: cell } });
    const { rails, unread } = compareSchools(machine);
    expect(rails[0]?.demand[0]?.peakA).toBeCloseTo(4.02, 2);
    expect(rails[0]?.demand[2]?.peakA).toBeCloseTo(5.02, 2);
    expect(unread).toEqual([]);
    expect(compareSchools(driven()).unread).toEqual(["motor"]);
  });

  it("steppers on one supply: the sum, and what the simultaneity school takes of it", () => {
    const machine = example("carillon");
    const [found] = compareSchools(machine).steppers;
    expect(found?.count).toBe(6);
    expect(found?.factorA).toBeCloseTo(SIMULTANEITY * (found?.sumA ?? 0), 9);
    const over = (school: "sum" | "simultaneity") =>
      analyse(
        must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, stepperSum: school } } }),
      ).analysis.verdicts.find(({ rule, subject }) => rule === "source-rating" && subject.id === "supply-24");
    expect(over("sum")?.severity).toBe("fix");
    expect(over("simultaneity")?.value ?? 0).toBeLessThan(over("sum")?.value ?? 0);
  });
});

describe("who takes what from a rail", () => {
  it("the parts add up to what the rail gives, whatever the rail", () => {
    const machine = example("reedcutter-corrected");
    const { analysis, figures } = analyse(machine);
    for (const rail of figures.ledger.rails) {
      const { takers } = railShares(machine, figures.ledger, analysis, rail.origin);
      machine.modes.forEach((_, m) => {
        const given = (analysis.parts[rail.origin]?.outA ?? analysis.parts[rail.origin]?.amps)?.[m] ?? 0;
        expect(takers.reduce((sum, taker) => sum + (taker.amps[m] ?? 0), 0)).toBeCloseTo(given, 6);
      });
    }
  });

  it("a reading in place of an estimate shows both", () => {
    const machine = driven({}, { cells: { m1: { state: "run", percent: 100, measured: measured(4) } } });
    const { analysis, figures } = analyse(machine);
    const { takers, estimated } = railShares(machine, figures.ledger, analysis, "pack");
    expect(takers[0]?.amps[0]).toBeCloseTo(4.02, 6);
    expect(estimated?.[0]).toBeCloseTo(6.02, 6);
    const plain = analyse(driven());
    expect(railShares(driven(), plain.figures.ledger, plain.analysis, "pack").estimated).toBeNull();
  });
});

describe("choosing a driver", () => {
  const load = (over: Partial<Load> = {}) =>
    newPart("load", "p1", "Motor", { nominalV: typical(24), levels: { run: typical(9), stall: typical(46) }, ...over });
  const demand = { load: load(), continuousA: 9, peakA: 46, highestV: 29.2, lowestV: 22 };

  it("refuses with the limit that is broken, fits with the room that is left, and forgives size", () => {
    const found = driverCandidates(demand, []);
    const of = (id: string) => found.find((each) => each.id === id);
    expect(of("bip2")?.refused.join()).toContain("continuously");
    expect(of("auto30")?.refused.join()).toContain("volts");
    expect(of("disc25")).toMatchObject({ refused: [], stall: "brief" });
    expect(of("veh60")?.refused).toEqual([]);
    expect(of("veh60")?.notes.join()).toContain("no harm");
    expect(found.findIndex(({ refused }) => refused.length > 0)).toBe(found.filter(({ refused }) => refused.length === 0).length);
  });

  it("a harder motor never has more drivers that fit", () => {
    const fits = [1, 5, 9, 20, 60].map(
      (amps) =>
        driverCandidates(
          { ...demand, load: load({ levels: { run: typical(amps), stall: typical(amps * 3) } }), continuousA: amps, peakA: amps * 3 },
          [],
        ).filter(({ refused }) => refused.length === 0).length,
    );
    expect([...fits].sort((a, b) => b - a)).toEqual(fits);
  });

  it("steppers and brushless motors see their own kinds only", () => {
    const kinds = (loadKind: Load["loadKind"]) =>
      driverCandidates({ ...demand, load: load({ loadKind, behaviour: "power" }) }, []).map(({ id }) => id);
    expect(kinds("stepper").every((id) => id.startsWith("step"))).toBe(true);
    expect(kinds("brushless")).toContain("foc60");
    expect(kinds("motor").some((id) => id.startsWith("step") || id === "foc60")).toBe(false);
  });

  it("an unknown rail voltage is said, not passed over", () => {
    expect(driverCandidates({ ...demand, highestV: null }, [])[0]?.notes.join()).toContain("not known");
  });

  it("the builder's own drivers stand beside the classes, and every class can be planned", () => {
    const machine = driven();
    const drive = machine.parts.find(({ id }) => id === "drive");
    if (drive?.kind !== "driver") throw new Error("no driver");
    const found = driverCandidates(
      { ...demand, load: load({ levels: { run: typical(6), stall: typical(25) } }), continuousA: 6, peakA: 25 },
      [drive],
    );
    expect(found.find(({ id }) => id === "drive")).toMatchObject({ from: "shelf", refused: [] });
    for (const { id } of DRIVER_CLASSES) {
      const figures = driverFromClass(id);
      expect(() => must(machine, { type: "updatePart", id: "drive", changes: figures ?? {} }), id).not.toThrow();
    }
  });
});

describe("where logic supply can be taken from", () => {
  it("a board offers its pins, a driver with a logic side its terminal, and what hangs there is fed by a supply wire", () => {
    const machine = driven({ logic: "controller" });
    expect(placeUnder(machine, ledgerOf(machine), "drive").outlets.map(({ id }) => id)).toEqual(["", "5v"]);
    const place = placeUnder(machine, ledgerOf(machine), "drive", "5v");
    expect(place).toMatchObject({ from: { part: "drive", terminal: "5v" }, kinds: ["load"] });
    const hung = part(machine, "load", "brain", { loadKind: "board", nominalV: typical(5) }, { from: "drive.5v", back: "drive.in-" });
    expect(hung.wires.filter(({ to, from }) => to.part === "brain" || from.part === "brain").map(({ role }) => role)).toEqual([
      "supply",
      "return",
    ]);
    expect(placeUnder(hung, ledgerOf(hung), "brain").outlets.map(({ id }) => id)).toEqual(["", "5v", "pin"]);
    expect(placeUnder(hung, ledgerOf(hung), "motor").outlets).toEqual([]);
  });
});
