import { describe, expect, it } from "vitest";
import { generateMachine } from "@/tests/support/generate";
import { must, part, simple } from "@/tests/support/small";
import { powerBalance } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { newMachine } from "../machine/defaults";
import { typical } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { type Circuit, nodeAt } from "./circuit";
import type { OperatingPoint } from "./point";
import { ModeSolver } from "./solve";
import { buildTopology, TopologyCache } from "./topology";

/** Largest current left over at any node, A. */
function worstImbalance(circuit: Circuit, point: OperatingPoint): number {
  const left = new Float64Array(circuit.nodeCount);
  const flow = (from: number, to: number, amps: number) => {
    left[from] = (left[from] ?? 0) - amps;
    left[to] = (left[to] ?? 0) + amps;
  };
  circuit.branches.forEach((branch, i) => {
    flow(branch.a, branch.b, point.branchA[i] ?? 0);
  });
  circuit.emfs.forEach((emf, i) => {
    flow(emf.neg, emf.pos, point.emfA[i] ?? 0);
  });
  circuit.loads.forEach((load, i) => {
    flow(load.pos, load.neg, point.loadA[i] ?? 0);
  });
  circuit.converters.forEach((converter, i) => {
    flow(converter.inPos, converter.inNeg, point.converterA[i] ?? 0);
  });
  return Math.max(...left.map(Math.abs));
}

describe("the solved network", () => {
  it("balances every node to a nanoamp and all power to a microwatt, meshed or radial", () => {
    for (let seed = 1; seed <= 60; seed++) {
      const solved = solveMachine(generateMachine({ parts: 20 + seed, seed, meshed: seed % 2 === 0 }));
      solved.planned.forEach((point, mode) => {
        expect(point.status, `seed ${seed}`).toBe("solved");
        expect(worstImbalance(solved.circuit, point), `seed ${seed}`).toBeLessThan(1e-9);
        expect(Math.abs(powerBalance(solved, mode)), `seed ${seed}`).toBeLessThan(1e-6);
      });
    }
  });

  it("superposes on linear machines: two sets of loads together do what each does alone", () => {
    for (let seed = 1; seed <= 25; seed++) {
      const machine = generateMachine({ parts: 30, seed, meshed: true, linear: true, modes: 3 });
      let turn = 0;
      for (const each of machine.parts) {
        if (each.kind === "driver") each.ownA = typical(0);
        if (each.kind !== "load") continue;
        each.behaviour = "current";
        const mine = turn++ % 2;
        const amps = { state: "amps" as const, amps: typical(1 + (turn % 5)) };
        each.cells = { m1: mine === 0 ? amps : { state: "off" }, m2: mine === 1 ? amps : { state: "off" }, m3: amps };
      }
      const { planned, circuit } = solveMachine(machine);
      for (let i = 0; i < circuit.branches.length; i++) {
        const [a, b, both] = planned.map((point) => point.branchA[i] ?? 0);
        expect((a ?? 0) + (b ?? 0)).toBeCloseTo(both ?? 0, 8);
      }
    }
  });

  it("finds the operating point of a constant-power load in closed form", () => {
    const machine = simple({ amps: 5, behaviour: "power", metres: 3 });
    const { circuit, planned } = solveMachine(machine);
    const loop = circuit.branches.reduce((sum, branch) => sum + branch.ohm, circuit.emfs[0]?.ohm ?? 0);
    const watts = 60;
    const amps = (12 - Math.sqrt(144 - 4 * loop * watts)) / (2 * loop);
    expect(planned[0]?.loadA[0]).toBeCloseTo(amps, 10);
  });

  it("reports collapse just above the largest deliverable power, and a solution just below it", () => {
    const probe = solveMachine(simple({ behaviour: "power", metres: 10 }));
    const loop = probe.circuit.branches.reduce((sum, branch) => sum + branch.ohm, probe.circuit.emfs[0]?.ohm ?? 0);
    const most = 144 / (4 * loop) / 12;
    const at = (amps: number) => solveMachine(simple({ behaviour: "power", metres: 10, amps })).planned[0]?.status;
    expect(at(most * 1.001)).toBe("collapsed");
    expect(at(most * 0.999)).toBe("solved");
  });

  it("calls it a collapse when a motor would have to draw its current at negative voltage, and names it", () => {
    const [point] = solveMachine(simple({ amps: 400, metres: 30 })).planned;
    expect(point).toMatchObject({ status: "collapsed", starved: "motor" });
    expect(solveMachine(simple({ amps: 400, metres: 30, behaviour: "resistance" })).planned[0]?.status).toBe("solved");
  });

  it("leaves parts without a way back or without a source undriven instead of dividing by zero", () => {
    let machine = simple();
    machine = part(
      machine,
      "load",
      "lost",
      { cells: { m1: { state: "amps", amps: typical(3) } } },
      { from: "main.out", wire: { gauge: "18 AWG", lengthM: typical(1) } },
    );
    machine = part(machine, "bar", "island", {});
    machine = part(
      machine,
      "load",
      "apart",
      { behaviour: "power", cells: { m1: { state: "amps", amps: typical(3) } } },
      { from: "island", back: "island", wire: {} },
    );
    const { planned, circuit, wiring } = solveMachine(machine);
    const load = (id: string) => circuit.loads.findIndex((each) => each.id === id);
    expect(planned[0]?.status).toBe("solved");
    expect(planned[0]?.loadA[load("lost")]).toBe(0);
    expect(planned[0]?.loadA[load("apart")]).toBe(0);
    expect(planned[0]?.loadA[load("motor")]).toBe(5);
    expect(wiring.unknownOf[nodeAt(circuit, "island", "bar")]).toBe(-2);
    expect([...(planned[0]?.nodeV ?? [])].every(Number.isFinite)).toBe(true);
  });

  it("solves an empty machine and a source alone", () => {
    expect(solveMachine(newMachine("Empty")).planned[0]?.status).toBe("solved");
    const alone = part(newMachine("Alone"), "pack", "pack", { openCircuitV: typical(12) });
    expect(solveMachine(alone).planned[0]?.emfA[0]).toBe(0);
  });

  it("an open switch cuts off what is behind it, in that mode only", () => {
    let machine = must(simple(), { type: "addMode", name: "Stopped", lastsS: null, copyFrom: "m1" });
    machine = part(machine, "switch", "stop", { openIn: ["m2"] }, { from: "main.out", wire: { gauge: "14 AWG", lengthM: typical(0.2) } });
    machine = part(
      machine,
      "load",
      "fan",
      { cells: { m1: { state: "amps", amps: typical(2) }, m2: { state: "amps", amps: typical(2) } } },
      { from: "stop.out", back: "pack.-", wire: { gauge: "16 AWG", lengthM: typical(1) } },
    );
    const { planned, circuit } = solveMachine(machine);
    const fan = circuit.loads.findIndex((each) => each.id === "fan");
    expect(planned.map((point) => point.loadA[fan])).toEqual([2, 0]);
  });

  it("shares current between parallel ways by their conductance", () => {
    let machine = simple({ amps: 10 });
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: "return",
        from: { part: "motor", terminal: "-" },
        to: { part: "pack", terminal: "-" },
        gauge: "22 AWG",
        parallel: 1,
        insulation: "pvc80",
        lengthM: typical(1),
      },
    });
    const { planned, circuit } = solveMachine(machine);
    const [thick, thin] = circuit.branches
      .map((branch, i) => ({ branch, amps: planned[0]?.branchA[i] ?? 0 }))
      .filter(
        ({ branch }) => branch.kind === "wire" && circuit.machine.wires.some((wire) => wire.id === branch.id && wire.role === "return"),
      );
    expect((thick?.amps ?? 0) * (thick?.branch.ohm ?? 0)).toBeCloseTo((thin?.amps ?? 0) * (thin?.branch.ohm ?? 0), 10);
    expect((thick?.amps ?? 0) + (thin?.amps ?? 0)).toBeCloseTo(10, 10);
  });

  it("draws more at the pack's lowest charge when its loads are converters", () => {
    const { low, planned } = solveMachine(simple({ behaviour: "power" }));
    expect(low[0]?.loadA[0] ?? 0).toBeGreaterThan(planned[0]?.loadA[0] ?? 0);
  });

  it("finishes the lowest charge from the planned solution with the answer it has on its own, collapse included", () => {
    const machines = Array.from({ length: 40 }, (_, i) => generateMachine({ parts: 20 + i, seed: i + 1, meshed: i % 2 === 0 }));
    // A pack so weak that the planned charge still works and the lowest does not.
    const weak = simple({ behaviour: "power", amps: 5, metres: 10, gauge: "18 AWG" });
    for (let lowV = 11.9; lowV > 6; lowV -= 0.2) {
      machines.push({ ...weak, parts: weak.parts.map((each) => (each.kind === "pack" ? { ...each, lowV: typical(lowV) } : each)) });
    }
    const statuses = new Set<string>();
    for (const machine of machines) {
      const { circuit, topologies, planned, low } = solveMachine(machine);
      machine.modes.forEach((_, m) => {
        const alone = new ModeSolver(circuit, topologies[m] ?? buildTopology(circuit, "")).solve(m, "low");
        statuses.add(`${planned[m]?.status} then ${alone.status}`);
        expect(low[m]?.status).toBe(alone.status);
        alone.nodeV.forEach((volts, node) => {
          expect(Math.abs((low[m]?.nodeV[node] ?? 0) - volts)).toBeLessThan(1e-8);
        });
      });
    }
    expect([...statuses].sort()).toEqual(["solved then collapsed", "solved then solved"]);
  });

  it("reuses an ordering while only figures change, with the same answer", () => {
    const cache = new TopologyCache();
    const first = generateMachine({ parts: 40, seed: 7, meshed: true });
    const before = solveMachine(first, cache);
    const longer: Machine = structuredClone(first);
    for (const wire of longer.wires) if (wire.lengthM) wire.lengthM = typical(wire.lengthM.value * 1.5);
    const after = solveMachine(longer, cache);
    expect(after.wiring).toBe(before.wiring);
    const fresh = solveMachine(longer);
    expect([...(after.planned[0]?.branchA ?? [])]).toEqual([...(fresh.planned[0]?.branchA ?? [])]);
  });
});
