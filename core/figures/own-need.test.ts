import { describe, expect, it } from "vitest";
import { change } from "@/tests/support/judged";
import { driven, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { typical as f } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { ownNeed, sourceGives } from "./own-need";

const managed = (machine: Machine, id = "pack") => change(machine, id, { management: "inside", continuousA: f(10), peakA: f(15) });
const gives = (machine: Machine, to: string) => {
  const { figures } = analyse(machine);
  const wire = figures.machine.wires.find((each) => each.role !== "return" && each.to.part === to);
  return wire ? sourceGives(figures, wire) : null;
};
const NO_LIMIT = { lastingA: Number.POSITIVE_INFINITY, brieflyA: Number.POSITIVE_INFINITY };

describe("currents that a source ends", () => {
  it("a managed pack gives what its management lets through, one without gives whatever is asked", () => {
    expect(gives(managed(simple()), "motor")).toEqual({ lastingA: 10, brieflyA: 15 });
    expect(gives(simple(), "motor")).toEqual(NO_LIMIT);
  });

  it("behind a converter the pack's amps say nothing: 10 A at 12 V are more at 5 V", () => {
    let machine = managed(simple());
    machine = part(
      machine,
      "converter",
      "buck",
      { outputV: f(5), efficiency: f(0.9) },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(0.3) } },
    );
    machine = part(
      machine,
      "load",
      "strip",
      { loadKind: "light", nominalV: f(5), levels: { run: f(20) }, cells: { m1: { state: "run", percent: 100 } } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "12 AWG", lengthM: f(1) } },
    );
    expect(gives(machine, "strip")).toEqual(NO_LIMIT);
    expect(gives(change(machine, "buck", { limitA: f(25) }), "strip")).toEqual({ lastingA: 25, brieflyA: 25 });
  });

  it("a bridge that chops drives more into its motor than it takes from the pack", () => {
    const machine = managed(driven());
    expect(gives(machine, "drive")?.lastingA).toBe(10);
    expect(gives(machine, "motor")).toEqual(NO_LIMIT);
  });

  it("two packs on one rail give more than either", () => {
    let machine = managed(simple());
    machine = part(machine, "pack", "second", { openCircuitV: f(12), internalOhm: f(0.02), management: "inside", continuousA: f(10) });
    machine = {
      ...machine,
      wires: [
        ...machine.wires,
        {
          id: "x1",
          role: "supply",
          from: { part: "second", terminal: "+" },
          to: { part: "main", terminal: "in" },
          gauge: "10 AWG",
          parallel: 1,
          lengthM: f(0.2),
          insulation: "pvc80",
        },
        {
          id: "x2",
          role: "return",
          from: { part: "second", terminal: "-" },
          to: { part: "pack", terminal: "-" },
          gauge: "10 AWG",
          parallel: 1,
          lengthM: f(0.2),
          insulation: "pvc80",
        },
      ],
    };
    expect(gives(machine, "motor")).toEqual(NO_LIMIT);
    expect(gives(machine, "main")).toEqual(NO_LIMIT);
  });
});

describe("currents that a thing draws by itself", () => {
  it("a siren that rests in the lasting mode still draws what it draws", () => {
    const siren = change(simple(), "motor", { loadKind: "sound", levels: { run: f(1.11) }, cells: { m1: { state: "off" } } });
    expect(ownNeed(analyse(siren).figures, "motor").lastingA).toBeCloseTo(1.11, 9);
  });

  it("a driver counts its motors' starts up to its limit", () => {
    const { figures } = analyse(driven({ limitA: f(15) }, { levels: { run: f(6), start: f(18), stall: f(48) } }));
    expect(ownNeed(figures, "drive").starts).toEqual([{ amps: 15, seconds: 0.5 }]);
  });
});
