import type { Machine } from "../machine/schema";
import { buildCircuit, type Circuit } from "../network/circuit";
import { type Charge, ModeSolver, type OperatingPoint, type Touched } from "../network/solve";
import { openKey, type Topology, TopologyCache } from "../network/topology";

/** The network of a machine solved for every mode, at the planned charge and at the lowest. */
export interface Solved {
  machine: Machine;
  circuit: Circuit;
  /** With every switch closed: what the wiring allows. */
  wiring: Topology;
  topologies: Topology[];
  planned: OperatingPoint[];
  low: OperatingPoint[];
  unknown: Touched[];
}

/** Solves all modes. Pass the same cache again while editing: orderings are then reused. */
export function solveMachine(machine: Machine, cache = new TopologyCache()): Solved {
  const circuit = buildCircuit(machine);
  cache.adopt(circuit);
  const wiring = cache.get(circuit, "c".repeat(circuit.switches.length));
  const keys = machine.modes.map((mode) => openKey(circuit, mode.id));
  const topologies = keys.map((key) => cache.get(circuit, key));
  const unknown: Solved["unknown"] = [];
  const anyUnknown = machine.modes.map((_, m) => circuit.loads.some((load) => load.unknown[m] === 1));
  const none: Touched = {
    branch: new Uint8Array(circuit.branches.length),
    emf: new Uint8Array(circuit.emfs.length),
    nodeV: new Float64Array(circuit.nodeCount),
  };

  const solveAll = (charge: Charge): OperatingPoint[] => {
    const solvers = new Map<string, ModeSolver>();
    return keys.map((key, m) => {
      const topology = topologies[m] as Topology;
      let solver = solvers.get(key);
      if (!solver) {
        solver = new ModeSolver(circuit, topology, charge);
        solvers.set(key, solver);
      }
      const point = solver.solve(m);
      if (charge === "planned") unknown.push(anyUnknown[m] && point.status === "solved" ? solver.touchedByUnknown(m) : none);
      return point;
    });
  };
  const planned = solveAll("planned");
  const sags = circuit.emfs.some((emf) => emf.lowVolts !== emf.volts);
  return { machine, circuit, wiring, topologies, planned, low: sags ? solveAll("low") : planned, unknown };
}
