import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { join, land, link, workshop } from "@/tests/support/grounds";
import { must, part } from "@/tests/support/small";
import { talking } from "@/tests/support/talking";
import { behind, type Flow, flowOf } from "./flow";
import { returnsOf } from "./summary";

const flowIn = (machine: Machine, mode = 0): Flow => {
  const { figures, analysis } = analyse(machine);
  return flowOf(machine, analysis, returnsOf(figures), mode);
};

describe("what flows where", () => {
  it("balances at every bar of a machine without meshes: what its trunk brings is what its loads and bars take", () => {
    for (let seed = 1; seed <= 10; seed++) {
      const flow = flowIn(generateMachine({ parts: 26, seed, meshed: false, converters: false }));
      for (const hub of flow.supply) {
        if (!hub.up || hub.kind !== "bar") continue;
        const taken =
          flow.loads.filter(({ from }) => from === hub.id).reduce((sum, { amps }) => sum + amps, 0) +
          flow.supply.filter(({ up }) => up?.at === hub.id).reduce((sum, { up }) => sum + (up?.amps ?? 0), 0);
        expect(taken, `${hub.name} of seed ${seed}`).toBeCloseTo(hub.up.amps, 6);
      }
      for (const hub of flow.returns) {
        if (!hub.up || hub.kind !== "bar") continue;
        const brought =
          flow.loads.filter(({ back }) => back?.at === hub.id).reduce((sum, { amps }) => sum + amps, 0) +
          flow.returns.filter(({ up }) => up?.at === hub.id).reduce((sum, { up }) => sum + (up?.amps ?? 0), 0);
        expect(brought, `${hub.name} of seed ${seed}`).toBeCloseTo(hub.up.amps, 6);
      }
    }
  });

  it("names shared metal by what it does, the worst first", () => {
    let several = 0;
    const machines = Array.from({ length: 12 }, (_, seed) =>
      talking(generateMachine({ parts: 40, seed: seed + 1, meshed: true }), seed + 1),
    );
    for (const [seed, machine] of [...machines, ...EXAMPLES.map(({ make }) => make())].entries()) {
      const { shares } = flowIn(machine);
      const worst = shares.map(({ boards }) => Math.max(...boards.map(({ worstV }) => worstV)));
      expect(worst, `seed ${seed}`).toEqual([...worst].sort((a, b) => b - a));
      if (new Set(worst).size > 1) several++;
    }
    expect(several).toBeGreaterThan(0);
  });

  it("has every part with a return once, every conductor of the return side once, and nothing twice", () => {
    for (let seed = 1; seed <= 10; seed++) {
      const machine = talking(generateMachine({ parts: 30, seed, meshed: true }), seed);
      const flow = flowIn(machine);
      expect(new Set(flow.loads.map(({ id }) => id)).size).toBe(flow.loads.length);
      const drawn = [
        ...flow.loads.flatMap(({ back }) => (back ? [back.wire] : [])),
        ...flow.returns.flatMap(({ up }) => (up ? [up.wire] : [])),
        ...flow.ties.map(({ wire }) => wire),
      ];
      expect(new Set(drawn).size).toBe(drawn.length);
      const side = machine.wires.filter(({ role }) => role === "return" || role === "signal" || role === "bond");
      expect([...drawn].sort()).toEqual(side.map(({ id }) => id).sort());
    }
  });

  it("follows a load through its regulator to the pack, out and home", () => {
    const amps = { state: "amps" as const, amps: typical(0.5) };
    let machine = part(
      workshop(),
      "converter",
      "buck",
      { outputV: typical(5) },
      { from: "plus", back: "n1", wire: { gauge: "18 AWG", lengthM: typical(0.3) } },
    );
    machine = part(
      machine,
      "load",
      "brain",
      { loadKind: "board", nominalV: typical(5), cells: { m1: amps, m2: amps } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "20 AWG", lengthM: typical(0.3) } },
    );
    const flow = flowIn(machine, 1);
    const trunk = flow.returns.find(({ id }) => id === "n1")?.up?.wire ?? "";
    expect(flow.through[trunk]).not.toContain("brain");
    expect(flow.follows[trunk]).toContain("brain");
    expect(behind(flow.supply, flow.loads, "pack").sort()).toEqual(["brain", "drive", "mind", "sense"]);
    // The regulator is a place on the way, not a load.
    expect(flow.loads.map(({ id }) => id)).not.toContain("buck");
  });

  it("names shared metal with its boards and movers, worst first, and says which ties close loops", () => {
    const machine = join(link(land(workshop(), "mind", "n2"), "mind", "sense"), "signal", "mind.-", "sense.-", "24 AWG");
    const flow = flowIn(machine, 1);
    expect(flow.shares[0]).toMatchObject({ boards: [{ id: "mind", mode: 1 }], movers: ["motor"] });
    expect(flow.ties).toMatchObject([{ kind: "signal", from: "mind", to: "sense", looped: true }]);
    const open = flowIn(must(machine, { type: "removeWire", id: flow.loads.find(({ id }) => id === "sense")?.back?.wire ?? "" }), 1);
    expect(open.loads.find(({ id }) => id === "sense")).toMatchObject({ back: null, offsetV: expect.any(Number) });
    expect(open.ties).toMatchObject([{ looped: false }]);
  });
});
