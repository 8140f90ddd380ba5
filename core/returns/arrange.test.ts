import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { backOf, board, join, land, link, workshop } from "@/tests/support/grounds";
import { must, part } from "@/tests/support/small";
import { linkedBars, mainPoint, separateReturns, singlePoint } from "./arrange";
import { groundOf } from "./ground";
import { linksOf } from "./links";
import { mainPackFor, ownPackFor } from "./logic-supply";
import { sharedMetal } from "./shared";

const run = (machine: Machine, build: (figures: ReturnType<typeof figuresOf>) => ReturnType<typeof singlePoint>): Machine => {
  const command = build(figuresOf(machine));
  if (!command) throw new Error("no command");
  return must(machine, command);
};
const figuresOf = (machine: Machine) => analyse(machine).figures;
const landing = (machine: Machine, id: string) => backOf(machine, id).to.part;

/** Boards on a regulator, one of them brought home wrongly, and a chain of two on a driver. */
function tangled(): Machine {
  let machine = part(
    workshop(),
    "converter",
    "buck",
    { outputV: typical(5), inputMinV: typical(7), inputMaxV: typical(36) },
    { from: "plus", back: "n2", wire: { gauge: "18 AWG", lengthM: typical(0.4) } },
  );
  const amps = { state: "amps" as const, amps: typical(0.4) };
  const cells = { m1: amps, m2: amps };
  for (const [id, back] of [
    ["brain", "n1"],
    ["eye", "buck.out-"],
  ] as const)
    machine = part(
      machine,
      "load",
      id,
      { loadKind: "board", nominalV: typical(5), cells },
      { from: "buck.out+", back, wire: { gauge: "20 AWG", lengthM: typical(0.3) } },
    );
  machine = land(machine, "sense", "mind.-");
  return land(machine, "mind", "drive.in-");
}

describe("returns landed at single points", () => {
  it("bring each regulator's loads to its own minus and everything else to the bar beside the pack", () => {
    const after = run(tangled(), singlePoint);
    expect(["drive", "mind", "sense", "buck"].map((id) => landing(after, id))).toEqual(["n1", "n1", "n1", "n1"]);
    expect(["brain", "eye"].map((id) => landing(after, id))).toEqual(["buck", "buck"]);
    expect(sharedMetal(figuresOf(after))).toEqual([]);
    expect(singlePoint(figuresOf(after))).toBeNull();
  });

  it("drop signal grounds that close loops, lift shields, and leave a ground that is the only tie", () => {
    let looped = join(link(tangled(), "mind", "drive"), "signal", "mind.-", "drive.in-", "26 AWG");
    looped = join(link(looped, "brain", "eye"), "signal", "brain.-", "eye.-", "24 AWG", { shield: true });
    const after = run(looped, singlePoint);
    expect(after.wires.some(({ role }) => role === "signal")).toBe(false);
    expect(after.signals?.map(({ shieldLifted }) => shieldLifted ?? false)).toEqual([false, true]);
    const isolated = part(
      workshop(),
      "converter",
      "iso",
      { isolated: true, outputV: typical(5) },
      { from: "plus", back: "n2", wire: { gauge: "18 AWG", lengthM: typical(0.3) } },
    );
    const amps = { state: "amps" as const, amps: typical(0.1) };
    let tied = part(
      isolated,
      "load",
      "far",
      { loadKind: "board", nominalV: typical(5), cells: { m1: amps, m2: amps } },
      { from: "iso.out+", back: "iso.out-", wire: { gauge: "20 AWG", lengthM: typical(0.2) } },
    );
    tied = join(link(tied, "far", "mind"), "signal", "far.-", "mind.-", "22 AWG");
    expect(run(tied, singlePoint).wires.some(({ role }) => role === "signal")).toBe(true);
  });

  it("use the pack's own post where no bar stands beside it", () => {
    let machine = workshop();
    machine = must(machine, { type: "removePart", id: "n2", moveTo: { part: "n1", terminal: "bar" } });
    machine = must(machine, { type: "removePart", id: "n1", moveTo: { part: "pack", terminal: "-" } });
    expect(mainPoint(figuresOf(machine))).toEqual({ part: "pack", terminal: "-" });
    expect(singlePoint(figuresOf(machine))).toBeNull();
    expect(separateReturns(figuresOf(machine))).toBeNull();
  });
});

describe("linked bars", () => {
  it("make links as heavy as the trunk and bring chained returns to bars, leaving the rest where it lands", () => {
    let machine = tangled();
    machine = must(machine, { type: "updateWire", id: backOf(machine, "n2").id, changes: { gauge: "14 AWG" } });
    const after = run(machine, linkedBars);
    expect(backOf(after, "n2").gauge).toBe("6 AWG");
    expect(landing(after, "drive")).toBe("n2");
    expect(["mind", "sense"].map((id) => landing(after, id))).toEqual(["n1", "n1"]);
    expect(linkedBars(figuresOf(after))).toBeNull();
  });

  it("need a second bar", () => {
    const one = must(workshop(), { type: "removePart", id: "n2", moveTo: { part: "n1", terminal: "bar" } });
    expect(linkedBars(figuresOf(one))).toBeNull();
  });
});

describe("power and logic apart", () => {
  it("give boards and the regulators that feed only boards a bar joined once, and leave motors on power", () => {
    const after = run(tangled(), separateReturns);
    const bar = after.parts.find((each) => each.kind === "bar" && each.carries === "logic");
    expect(["mind", "sense", "buck"].map((id) => landing(after, id))).toEqual([bar?.id, bar?.id, bar?.id]);
    expect(["brain", "eye"].map((id) => landing(after, id))).toEqual(["buck", "buck"]);
    expect(landing(after, "drive")).toBe("n2");
    const joins = after.wires.filter(({ role, from }) => role === "return" && from.part === bar?.id);
    expect(joins.map(({ to }) => to.part)).toEqual(["n1"]);
    expect(joins[0]?.gauge).toBe(backOf(after, "n1").gauge);
    // Asked again it finds nothing to move, and uses the bar that is there.
    expect(separateReturns(figuresOf(after))).toBeNull();
    const strayed = land(after, "sense", "n1");
    const back = run(strayed, separateReturns);
    expect(back.parts).toHaveLength(strayed.parts.length);
    expect(landing(back, "sense")).toBe(bar?.id);
  });

  it("free the boards' links of what motors do", () => {
    const before = link(tangled(), "mind", "brain");
    const worst = (machine: Machine) => Math.abs(linksOf(figuresOf(machine))[0]?.worst?.volts ?? 0);
    expect(worst(run(before, separateReturns))).toBeLessThan(worst(before) / 3);
  });
});

describe("logic on a pack of its own", () => {
  it("moves the regulators of boards alone, ties once, and comes back", () => {
    const machine = tangled();
    const command = ownPackFor(figuresOf(machine));
    const own = command ? must(machine, command) : machine;
    const pack = own.parts.find((each) => each.kind === "pack" && each.id !== "pack");
    expect(pack).toMatchObject({ openCircuitV: { value: 12, provenance: "guess" } });
    const ties = own.wires.filter(({ role, from }) => role === "return" && from.part === pack?.id);
    expect(ties.map(({ to }) => to.part)).toEqual(["n1"]);
    expect(landing(own, "buck")).toBe(pack?.id);
    expect(groundOf(figuresOf(own)).chords).toHaveLength(0);
    expect(ownPackFor(figuresOf(own))).toBeNull();
    const home = mainPackFor(figuresOf(own));
    const back = home ? must(own, home) : own;
    expect(back.wires.find(({ to, role }) => to.part === "buck" && role === "supply")?.from.part).toBe("plus");
  });

  it("takes the main pack's volts where a regulator does not bear 12 V, and leaves mixed regulators alone", () => {
    const high = must(tangled(), { type: "updatePart", id: "buck", changes: { inputMinV: typical(18) } });
    const command = ownPackFor(figuresOf(high));
    const own = command ? must(high, command) : high;
    expect(own.parts.find((each) => each.kind === "pack" && each.id !== "pack")).toMatchObject({ openCircuitV: { value: 24 } });
    const amps = { state: "amps" as const, amps: typical(1) };
    const mixed = part(
      tangled(),
      "load",
      "whirl",
      { loadKind: "fan", nominalV: typical(5), cells: { m1: amps, m2: amps } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "20 AWG", lengthM: typical(0.3) } },
    );
    expect(ownPackFor(figuresOf(mixed))).toBeNull();
    expect(mainPackFor(figuresOf(board(workshop(), "more", "n1")))).toBeNull();
  });
});
