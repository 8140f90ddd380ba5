import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { newPart } from "@/core/machine/defaults";
import { measured, typical } from "@/core/machine/figure";
import type { Cell } from "@/core/machine/load-schema";
import type { Load } from "@/core/machine/schema";
import { at, must, part, simple } from "@/tests/support/small";
import { parseCell } from "../machine/typed";
import { ALL_STALLED, budgeted } from "./budget";
import { drawIn, estimate, MEASURED_MARGIN } from "./draw";
import { twoPointModel } from "./motor";
import { cellWords, levelWord } from "./words";

const motor = (over: Partial<Load> = {}): Load =>
  newPart("load", "p1", "Motor", {
    nominalV: typical(12),
    levels: { idle: typical(0.5), run: typical(4), stall: typical(20) },
    ...over,
  });

describe("what a state draws", () => {
  it.each<[Cell, number]>([
    [{ state: "off" }, 0],
    [{ state: "idle" }, 0.5],
    [{ state: "run", percent: 100 }, 4],
    [{ state: "run", percent: 50 }, 2],
    [{ state: "run", percent: 5 }, 0.5],
    [{ state: "start" }, 20],
    [{ state: "stall" }, 20],
    [{ state: "reverse" }, 39.5],
    [{ state: "amps", amps: typical(7) }, 7],
  ])("%j", (cell, amps) => expect(estimate(motor(), cell).nominalA).toBeCloseTo(amps, 9));

  it("a held motor is a resistance, a running one a current, a board a power", () => {
    expect(estimate(motor(), { state: "stall" })).toMatchObject({ amps: 0, watts: 0, siemens: 20 / 12 });
    expect(estimate(motor(), { state: "run", percent: 100 })).toMatchObject({ amps: 4, siemens: 0, watts: 0 });
    const board = motor({ behaviour: "power", levels: { run: typical(1), start: typical(2) } });
    expect(estimate(board, { state: "start" })).toMatchObject({ watts: 24, siemens: 0 });
  });

  it("of a group some are held and the rest run", () => {
    const draw = estimate(motor({ count: 5 }), { state: "stall", pieces: 2 });
    expect(draw.nominalA).toBeCloseTo(2 * 20 + 3 * 4, 9);
    expect(draw.amps).toBeCloseTo(12, 9);
  });

  it("a state whose figure is not known says which one it lacks, and draws nothing", () => {
    const bare = motor({ levels: { run: typical(4) } });
    expect(estimate(bare, { state: "stall" })).toMatchObject({ missing: "stall", nominalA: 0 });
    expect(estimate(bare, { state: "idle" }).missing).toBe("idle");
    expect(estimate(motor({ levels: { stall: typical(9) }, count: 2 }), { state: "stall", pieces: 1 }).missing).toBe("run");
    expect(estimate(bare, undefined).missing).toBe("cell");
  });

  it("a reading stands in for the estimate, with a margin under the school that plans by readings", () => {
    const cell: Cell = { state: "run", percent: 100, measured: measured(3) };
    expect(drawIn(motor(), cell).nominalA).toBe(3);
    expect(estimate(motor(), cell).nominalA).toBe(4);
    expect(drawIn(motor(), cell, "measured").nominalA).toBeCloseTo(3 * MEASURED_MARGIN, 9);
    expect(drawIn(motor(), { state: "amps", amps: measured(2) }, "measured").nominalA).toBeCloseTo(2 * MEASURED_MARGIN, 9);
    expect(drawIn(motor(), { state: "amps", amps: typical(2) }, "measured").nominalA).toBe(2);
  });
});

describe("properties of the two-point motor", () => {
  const points = { volts: 24, noLoadA: 1.5, noLoadRpm: 3200, stallA: 60, stallTorque: 9 };
  it("what goes in at any current is heat and back-EMF power, nothing else", () => {
    const { ohm, ke } = twoPointModel(points);
    const free = (points.noLoadRpm * 2 * Math.PI) / 60;
    for (let share = 0; share <= 1; share += 0.1) {
      const amps = points.noLoadA + (points.stallA - points.noLoadA) * share;
      const speed = free * (1 - share);
      expect(points.volts * amps).toBeCloseTo(amps ** 2 * ohm + ke * speed * amps, 6);
    }
  });
  it("scales: twice the stall at the same volts is half the resistance and twice the power", () => {
    const twice = twoPointModel({ ...points, noLoadA: 3, stallA: 120, stallTorque: 18 });
    const once = twoPointModel(points);
    expect(twice.ohm).toBeCloseTo(once.ohm / 2, 9);
    expect(twice.maxPowerW).toBeCloseTo(once.maxPowerW * 2, 9);
    expect(twice.maxEfficiency).toBeCloseTo(once.maxEfficiency, 9);
  });
});

describe("cells as words", () => {
  it.each(["off", "idle", "run", "run 70 %", "run 200 % at 40 %", "start 2", "stall", "stall 1", "reverse"])(
    "%s reads back to itself",
    (text) => {
      const load = motor({ count: 3 });
      const cell = parseCell(text, 12, 3);
      if (!cell.ok || !cell.value) throw new Error(text);
      expect(cellWords(load, cell.value)).toBe(text);
    },
  );

  it("a share alone is a run, peak is a start, and a whole group needs no number", () => {
    expect(parseCell("70%", 12)).toMatchObject({ value: { state: "run", percent: 70 } });
    expect(parseCell("peak", 12)).toMatchObject({ value: { state: "start" } });
    expect(parseCell("stall 3", 12, 3)).toEqual({ ok: true, value: { state: "stall" } });
  });

  it.each(["stall 4", "stall 1.5", "run 900 %", "run 50 % at 0 %", "stall 20 %", "measured", "measured lots"])(
    "%s gets a message",
    (text) => {
      const read = parseCell(text, 12, 3);
      expect(read.ok).toBe(false);
      if (!read.ok) expect(read.message.length).toBeGreaterThan(10);
    },
  );

  it("a typed reading keeps the state it was read in", () => {
    const present: Cell = { state: "run", percent: 60 };
    expect(parseCell("measured 2.2A", 12, 1, present)).toMatchObject({
      value: { state: "run", percent: 60, measured: { value: 2.2, provenance: "measured" } },
    });
    expect(parseCell("measured 800 mA", 12)).toMatchObject({ value: { state: "amps", amps: { value: 0.8, provenance: "measured" } } });
  });

  it("boards have peaks, not stalls; heaters no idle", () => {
    expect(levelWord("board", "stall")).toBeNull();
    expect(levelWord("heater", "idle")).toBeNull();
    expect(levelWord("motor", "stall")).not.toBeNull();
  });
});

describe("schools of peak budget", () => {
  const machine = () => {
    let made = must(simple(), {
      type: "updatePart",
      id: "motor",
      changes: { levels: { run: typical(2), stall: typical(18) }, cells: { m1: { state: "run", percent: 100 } } },
    });
    made = part(
      made,
      "load",
      "lamp",
      { loadKind: "light", nominalV: typical(12), behaviour: "resistance", cells: { m1: { state: "amps", amps: typical(1) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: typical(1) } },
    );
    return made;
  };
  const school = (peakBudget: "all stalled" | "named modes") => {
    const made = machine();
    return must(made, { type: "setSettings", changes: { schools: { ...made.settings.schools, peakBudget } } });
  };

  it("all stalled adds one mode in which motors are held and the rest does its most; the document stays", () => {
    const made = school("all stalled");
    const { analysis } = analyse(made);
    expect(analysis.modes.map(({ id }) => id)).toEqual(["m1", ALL_STALLED]);
    expect(analysis.modes[1]?.sourceA ?? 0).toBeGreaterThan(15);
    expect(made.modes).toHaveLength(1);
    expect(analyse(school("named modes")).analysis.modes).toHaveLength(1);
  });

  it("a motor whose stall nobody knows leaves the sum a least value", () => {
    const made = must(school("all stalled"), { type: "updatePart", id: "motor", changes: { levels: { run: typical(2) } } });
    expect(analyse(made).analysis.modes[1]?.atLeast).toBe(true);
  });

  it("the same document is planned once", () => {
    const made = school("all stalled");
    expect(budgeted(made)).toBe(budgeted(made));
    expect(at("pack.+").part).toBe("pack");
  });
});
