import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { typical } from "@/core/machine/figure";
import type { Machine, Wire } from "@/core/machine/schema";
import { join, land, workshop } from "@/tests/support/grounds";
import { must, part } from "@/tests/support/small";
import { chassisOf, slips } from "./chassis";

const framed = (bonds: readonly [string, Partial<Wire>][] = [["n1", {}]]): Machine =>
  bonds.reduce(
    (machine, [at, over]) => join(machine, "bond", at, "frame", "6 AWG", { bondBy: "wire", ...over }),
    part(workshop(), "bar", "frame", { side: "negative", form: "chassis" }),
  );
const read = (machine: Machine) => {
  const { figures } = analyse(machine);
  const [chassis] = chassisOf(figures);
  if (!chassis) throw new Error("no frame");
  return { chassis, slips: slips(figures, chassis.frame) };
};
const endOf = (machine: Machine, place: string) => read(machine).slips.find((slip) => slip.place === place)?.ends;

describe("the frame", () => {
  it("floats without a bond: no plus that touches it closes a circuit", () => {
    const { chassis, slips: found } = read(framed([]));
    expect([chassis.bonds.length, chassis.landed.length, chassis.bleeds, found.length]).toEqual([0, 0, false, 0]);
  });

  it("carries nothing through one bond, and a share of the motors' current through two", () => {
    expect(read(framed()).chassis.worst?.amps ?? 0).toBeLessThan(1e-6);
    const twice = read(
      framed([
        ["n1", {}],
        ["n2", {}],
      ]),
    ).chassis;
    expect(twice.worst?.amps).toBeGreaterThan(1);
    expect(twice.worst?.mode).toBe(1);
    expect(read(land(framed(), "drive", "frame")).chassis.landed).toHaveLength(1);
  });

  it("only bleeds static through a megohm, also beside another, and not beside a wire", () => {
    const megohm = { resistorOhm: typical(1e6) };
    expect(read(framed([["n1", megohm]])).chassis.bleeds).toBe(true);
    expect(
      read(
        framed([
          ["n1", megohm],
          ["n2", megohm],
        ]),
      ).chassis.bleeds,
    ).toBe(true);
    expect(
      read(
        framed([
          ["n1", megohm],
          ["n2", {}],
        ]),
      ).chassis.bleeds,
    ).toBe(false);
  });
});

describe("a tool slipped from plus to the frame", () => {
  it("is cleared behind the main fuse, and by nothing at the pack's own post", () => {
    const machine = framed();
    expect(endOf(machine, "plus")).toBe("clears");
    expect(endOf(machine, "pack")).toBe("posts");
    const { slips: found } = read(machine);
    for (const { leastA, mostA } of found) expect(leastA).toBeLessThanOrEqual(mostA + 1e-6);
  });

  it("gets weaker and its bond hotter with resistance in the bond, until no fuse is sure to open", () => {
    const at = (ohm: number) => read(framed([["n1", { resistorOhm: typical(ohm) }]])).slips.find(({ place }) => place === "plus");
    const [little, more, much] = [0.01, 0.1, 3].map(at);
    expect(little?.leastA ?? 0).toBeGreaterThan(more?.leastA ?? 0);
    expect(more?.leastA ?? 0).toBeGreaterThan(much?.leastA ?? 0);
    expect(more?.bondW ?? 0).toBeGreaterThan(100);
    expect(much?.ends).toBe("never");
  });

  it("is never cleared where a pack has no fuse, and held where a regulator limits itself", () => {
    const bare = must(framed(), { type: "removePart", id: "main", moveTo: { part: "pack", terminal: "+" } });
    expect(endOf(bare, "plus")).toBe("never");
    const regulated = part(
      framed(),
      "converter",
      "buck",
      { outputV: typical(5), ratedA: typical(3), limitA: typical(4) },
      { from: "plus", back: "n1", wire: { gauge: "18 AWG", lengthM: typical(0.3) } },
    );
    expect(endOf(regulated, "buck.out+")).toBe("held");
  });
});
