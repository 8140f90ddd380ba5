import { describe, expect, it } from "vitest";
import { reedcutter } from "@/demo/reedcutter";
import { change, supplied } from "@/tests/support/judged";
import { packed } from "@/tests/support/packed";
import { must, part } from "@/tests/support/small";
import { analyseFully } from "../analysis/fully";
import { converterFromClass } from "../choosing/converters";
import { datasheet as f } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { REGULATORS } from "../reference/regulators";
import { readConverter } from "../sources/converter";
import { explain } from "./explain";
import type { FigureRef, Working } from "./types";

function working(machine: Machine, ref: FigureRef): Working {
  const found = explain(analyseFully(machine).figures, ref);
  if (!found) throw new Error("no working");
  return found;
}

/** A converter of a class between 24 V and a load. */
function converting(id: string, outV: number, amps: number): Machine {
  const row = REGULATORS.find((each) => each.id === id);
  if (!row) throw new Error(id);
  const made = part(supplied({ ratedA: f(10) }, 0.1), "converter", "conv", converterFromClass(row, outV), {
    from: "supply.+",
    back: "supply.-",
  });
  return part(
    made,
    "load",
    "board",
    { nominalV: f(outV), cells: { m1: { state: "amps", amps: f(amps) } } },
    { from: "conv.out+", back: "conv.out-" },
  );
}

describe("workings of sources and converters", () => {
  it("a run: its capacity with age and cold, what was drawn, and what ended it", () => {
    const machine = packed({ amps: 10, ambientC: 0, health: 0.9 });
    const run = working(machine, { kind: "run", mode: 0 });
    // 20 Ah, 0.9 by age, 0.8 by cold.
    expect(run.value).toBeCloseTo((20 * 0.9 * 0.8 * 3600) / 10, 0);
    expect(run.inputs.map(({ text }) => text).join(" ")).toMatch(/14/);
    expect(explain(analyseFully(machine).figures, { kind: "run", mode: null })).toBeNull();
    const barge = analyseFully(reedcutter(true));
    expect(working(reedcutter(true), { kind: "run", mode: null }).value).toBeCloseTo(barge.late.times.mission?.end.seconds ?? 0, 6);
  });

  it("ratings: as entered, by ambient, by C rate and by port, each saying which", () => {
    const rating = (machine: Machine, id: string) => working(machine, { kind: "rating", part: id });
    expect(rating(supplied({ ratedA: f(6) }), "supply").value).toBe(6);
    const hot = must(supplied({ ratedA: f(6) }), { type: "setSettings", changes: { ambientC: 60 } });
    expect(rating(hot, "supply")).toMatchObject({ rounding: "down" });
    expect(rating(hot, "supply").value).toBeCloseTo(4.5, 9);
    const guessed = rating(packed({ over: { continuousA: undefined } }), "pack");
    expect(guessed.value).toBe(20);
    expect(guessed.notes).toHaveLength(1);
    expect(explain(analyseFully(supplied({})).figures, { kind: "rating", part: "supply" })).toBeNull();
  });

  it.each([
    ["lin_5v_to220", 5, 0.1],
    ["buck_sync_5A", 5, 2],
    ["boost_150W", 30, 1],
  ] as const)("%s: efficiency, input amps and worst input say what the network says", (id, outV, amps) => {
    const machine = converting(id, outV, amps);
    const { figures } = analyseFully(machine);
    const figure = figures.parts.conv;
    const converter = figures.partOf.get("conv");
    if (!figure || converter?.kind !== "converter") throw new Error("no converter");
    const read = readConverter(converter, figure, 0, machine.settings);
    expect(working(machine, { kind: "efficiency", part: "conv", mode: 0 }).value).toBeCloseTo((read.efficiency ?? 0) * 100, 9);
    expect(working(machine, { kind: "converterInput", part: "conv", mode: 0 }).value).toBeCloseTo(figure.amps[0] ?? 0, 9);
    const worst = working(machine, { kind: "worstInput", part: "conv" });
    // One mode: its lowest input is its only one.
    expect(worst.value).toBeCloseTo(figure.amps[0] ?? 0, 2);
    expect(worst.rounding).toBe("up");
    const chip = explain(figures, { kind: "chip", part: "conv", mode: 0 });
    if (id === "lin_5v_to220") expect(chip?.value).toBeCloseTo(25 + 65 * (figure.lossW?.[0] ?? 0), 6);
    else expect(chip).toBeNull();
  });

  it("what is gone has no working", () => {
    const { figures } = analyseFully(change(packed(), "load", { note: "x" }));
    for (const kind of ["chip", "efficiency"] as const) expect(explain(figures, { kind, part: "load", mode: 0 })).toBeNull();
    expect(explain(figures, { kind: "worstInput", part: "gone" })).toBeNull();
  });
});
