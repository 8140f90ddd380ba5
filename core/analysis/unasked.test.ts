import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { settledBarge } from "@/tests/support/barge";
import { must, part, simple } from "@/tests/support/small";
import { datasheet } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { analyse } from "./analyse";
import { analyseFully } from "./fully";
import { type End, missingFigures } from "./missing";

const corrected = EXAMPLES.filter(({ key }) => key.endsWith("corrected")).map(({ key, make }) => [key, make()] as const);
/** The largest takes as long as all others together: it is for the long run, but for one figure. */
const LARGEST = "reedcutter-corrected";
const inTurn = (key: string) =>
  corrected.filter(([name]) => name !== LARGEST || key === "bridgeOhm" || process.env.NODE_LEDGER_SEEDS === "all");

const asks = (machine: Machine) => analyseFully(machine).analysis.verdicts.filter(({ severity }) => severity === "ask");
const without = (machine: Machine, key: string): Machine => ({
  ...machine,
  parts: machine.parts.map((each) => Object.fromEntries(Object.entries(each).filter(([name]) => name !== key)) as typeof each),
});
const graver = (machine: Machine) =>
  analyseFully(machine)
    .analysis.verdicts.filter(({ severity }) => severity !== "ask")
    .map(({ id, severity }) => `${severity} ${id}`)
    .sort();

/** A lamp of some amps on a 24 V supply that has far more, its feed fused. */
function lamp(amps: number, supply: object = {}, wire: object = {}): Machine {
  let machine = simple({ amps: 1 });
  machine = { ...machine, parts: [], wires: [] };
  machine = part(machine, "supply", "supply", {
    outputV: datasheet(24),
    ratedA: datasheet(20),
    limitA: datasheet(22),
    outputOhm: datasheet(0.01),
    ...supply,
  });
  return part(
    machine,
    "load",
    "lamp",
    { loadKind: "light", behaviour: "resistance", nominalV: datasheet(24), cells: { m1: { state: "amps", amps: datasheet(amps) } } },
    {
      from: "supply.+",
      back: "supply.-",
      wire: { gauge: "14 AWG", lengthM: datasheet(0.5), fuse: { family: "blade_regular_32v", ratingA: 5 }, ...wire },
    },
  );
}

describe("a figure that is missing", () => {
  it("is not asked for where no value in its range changes anything, and its row is clear then", () => {
    const machine = lamp(0.5, { outputOhm: undefined });
    expect(analyse(machine).analysis.verdicts.map(({ id }) => id)).toContain("missing-figure:inner:supply");
    const { analysis, late } = analyseFully(machine);
    expect(analysis.verdicts.filter(({ severity }) => severity === "ask")).toEqual([]);
    expect(late.unasked?.figures.map(({ row }) => row)).toEqual(["supply"]);
    expect(analysis.status.supply).toBe("clear");
  });

  it("is asked for as soon as an end of its range would bring something", () => {
    // Five metres of thin wire lose too much; half a metre does not.
    const machine = lamp(4, {}, { gauge: "22 AWG", lengthM: undefined });
    const [asked] = asks(machine);
    expect(asked?.rule).toBe("missing-figure");
    expect(analyseFully(machine).analysis.status[asked?.subject.id ?? ""]).not.toBe("clear");
  });

  it("is asked for where it has no range: a size of wire, a pack of nobody knows what", () => {
    const bare = must(settledBarge(), { type: "setFeed", id: "w2", changes: { gauge: undefined } });
    expect(asks(bare).length).toBeGreaterThan(0);
    const pack = without(without(simple(), "internalOhm"), "chemistry");
    expect(asks(pack).map(({ id }) => id)).toContain("missing-figure:internal:pack");
  });

  it.each(["outputOhm", "contactOhm", "bridgeOhm", "internalOhm", "inputMinV"])(
    "%s, taken from machines that are in order: what is not asked changes nothing at any of five values",
    (key) => {
      let weighed = 0;
      for (const [name, whole] of inTurn(key)) {
        const machine = without(whole, key);
        const { late } = analyseFully(machine);
        const rows = new Set(late.unasked?.figures.map(({ what }) => what));
        const idle = missingFigures(machine).filter(({ what }) => rows.has(what));
        weighed += idle.length;
        const before = graver(machine);
        for (const end of ["weak", "usual", "strong"] as const)
          expect(graver(idle.reduce((now, each) => each.given(now, end), machine)), `${name} ${end}`).toEqual(before);
        // Each at an end of its own.
        for (const turn of [0, 1]) {
          const ends: readonly End[] = ["weak", "strong"];
          const mixed = idle.reduce((now, each, i) => each.given(now, ends[(i + turn) % 2] ?? "usual"), machine);
          expect(graver(mixed), `${name} mixed ${turn}`).toEqual(before);
        }
      }
      expect(weighed).toBeGreaterThan(0);
    },
  );

  it.each(corrected)("%s lacks nothing, so that nothing is weighed", (_, machine) => {
    expect(analyseFully(machine).late.unasked).toBeNull();
  });

  it("has no range where nobody can know the most: a board or a motor that was only seen to draw so much", () => {
    const cells = { m1: { state: "amps" as const, amps: datasheet(0.2) } };
    const twoModes = (loadKind: string) => {
      const machine = must(lamp(0.5), { type: "addMode", name: "Another", lastsS: null });
      return {
        ...machine,
        parts: machine.parts.map((each) => (each.id === "lamp" ? ({ ...each, loadKind, levels: undefined, cells } as typeof each) : each)),
      };
    };
    const what = (loadKind: string) => missingFigures(twoModes(loadKind)).filter(({ what }) => what.includes("does in"));
    for (const kind of ["motor", "board", "computer", "sound"]) expect(what(kind), kind).toEqual([]);
    expect(what("light")).toHaveLength(1);
  });

  it("that only a loaded start was told of may take more held still than that", () => {
    const machine = lamp(0.5);
    const levels = { run: { ...datasheet(1) }, start: { ...datasheet(2) } };
    const motor = {
      ...machine,
      parts: machine.parts.map((each) =>
        each.id === "lamp" ? ({ ...each, loadKind: "motor", levels, cells: { m1: { state: "stall" } } } as typeof each) : each,
      ),
    };
    const [stall] = missingFigures(motor);
    const given = stall?.given(motor, "weak").parts.find(({ id }) => id === "lamp");
    expect(given?.kind === "load" && given.levels?.stall?.value).toBeGreaterThan(2);
  });

  it("hides nothing but questions, and only those it answers", () => {
    for (const { key, make } of EXAMPLES) {
      const machine = make();
      const { late } = analyseFully(machine);
      const said = new Map([...analyse(machine).analysis.verdicts, ...late.verdicts].map((verdict) => [verdict.id, verdict.severity]));
      for (const id of late.unasked?.verdicts ?? []) expect(said.get(id), `${key} ${id}`).toBe("ask");
    }
  });
});
