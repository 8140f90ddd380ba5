import { describe, expect, it } from "vitest";
import { measured, typical } from "@/core/machine/figure";
import type { Cell } from "@/core/machine/load-schema";
import type { Load, Machine } from "@/core/machine/schema";
import { driven, must } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { explain } from "./explain";

const doing = (cell: Cell, over: Partial<Load> = {}) => driven({}, { cells: { m1: cell }, ...over });
const amps = (machine: Machine) => {
  const { figures, analysis } = analyse(machine);
  const working = explain(figures, { kind: "partAmps", part: "motor", mode: 0 });
  if (!working) throw new Error("no working");
  expect(working.value).toBeCloseTo(analysis.parts.motor?.amps[0] ?? Number.NaN, 9);
  return working;
};

describe("the working of what a load draws", () => {
  it.each<[string, Cell, RegExp, RegExp]>([
    ["idle", { state: "idle" }, /I_idle/, /0\.50/],
    ["run", { state: "run", percent: 60 }, /share · I_rated/, /60 % × 6\.00/],
    ["stall", { state: "stall" }, /I_held/, /25\.0/],
    ["reverse", { state: "reverse" }, /back-EMF/, /2 × 25\.0/],
    ["a typed current", { state: "amps", amps: typical(3) }, /I_entered/, /3\.00/],
  ])("%s names its formula and has its numbers in", (_, cell, formula, numbers) => {
    const working = amps(doing(cell));
    expect(working.formula).toMatch(formula);
    expect(working.numbers).toMatch(numbers);
    expect(working.inputs.length).toBeGreaterThan(0);
  });

  it("of a group it counts the held and the rest apart", () => {
    const working = amps(doing({ state: "stall", pieces: 1 }, { count: 3 }));
    expect(working.formula).toContain("(n − k)");
    expect(working.numbers).toContain("2 × 6.00");
    expect(working.notes.join(" ")).toContain("3 pieces");
  });

  it("a reading says what the estimate would be, and its margin under the school of readings", () => {
    const machine = doing({ state: "run", percent: 100, measured: measured(4) });
    expect(amps(machine).notes.join(" ")).toContain("6.00");
    const school = must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, peakBudget: "measured" } } });
    expect(amps(school).formula).toContain("1.25");
    expect(amps(school).value).toBeCloseTo(5, 9);
  });

  it("a limit that acts is named, one that does not is not", () => {
    const limited = must(doing({ state: "stall" }), { type: "updatePart", id: "drive", changes: { limitA: typical(10) } });
    expect(amps(limited).notes.join(" ")).toContain("limits it to 10.0");
    const trip = must(doing({ state: "stall" }), { type: "updatePart", id: "drive", changes: { limitA: typical(100) } });
    expect(amps(trip).notes.join(" ")).not.toContain("limits it");
  });

  it("what is missing is said, never shown as nought", () => {
    const working = amps(doing({ state: "stall" }, { levels: { run: typical(6) } }));
    expect(working.formula).toBe("not known");
    expect(working.numbers).toContain("stall");
  });

  it("off is off", () => {
    expect(amps(doing({ state: "off" }))).toMatchObject({ value: 0, formula: "I = 0" });
  });
});
