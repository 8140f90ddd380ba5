import type { Machine } from "../machine/schema";
import { buildCircuit, type Circuit } from "../network/circuit";
import { ModeSolver, type OperatingPoint, type Touched } from "../network/solve";
import { openKey, type Topology, TopologyCache } from "../network/topology";

/** The network of a machine solved for every mode, at the planned charge and at the lowest. */
export interface Solved {
  machine: Machine;
  circuit: Circuit;
  /** With every switch closed: what the wiring allows. */
  wiring: Topology;
  topologies: Topology[];
  planned: OperatingPoint[];
  /** The same array as `planned` where the charge makes no difference. */
  low: OperatingPoint[];
  /** 1 for each mode without a time limit. */
  untimed: Uint8Array;
  unknown: Touched[];
}

/** Solves all modes. Pass the same cache again while editing: orderings are then reused. */
export function solveMachine(machine: Machine, cache = new TopologyCache()): Solved {
  const circuit = buildCircuit(machine);
  cache.adopt(circuit);
  const wiring = cache.get(circuit, "c".repeat(circuit.switches.length));
  const keys = machine.modes.map((mode) => openKey(circuit, mode.id));
  const topologies = keys.map((key) => cache.get(circuit, key));
  const anyUnknown = machine.modes.map((_, m) => circuit.loads.some((load) => load.unknown[m] === 1));
  const sags = circuit.emfs.some((emf) => emf.lowVolts !== emf.volts);
  const none: Touched = {
    branch: new Uint8Array(circuit.branches.length),
    emf: new Uint8Array(circuit.emfs.length),
    nodeV: new Float64Array(circuit.nodeCount),
  };
  const planned: OperatingPoint[] = [];
  const low: OperatingPoint[] = [];
  const unknown: Touched[] = [];
  for (const key of new Set(keys)) {
    const solver = new ModeSolver(circuit, cache.get(circuit, key));
    const modes = keys.flatMap((each, m) => (each === key ? [m] : []));
    // Doubts first: they are read off the bare metal, whose factor the solver begins with.
    for (const m of modes) unknown[m] = anyUnknown[m] ? solver.touchedByUnknown(m) : none;
    for (const m of modes) {
      const point = solver.solve(m, "planned");
      planned[m] = point;
      if (point.status === "collapsed") unknown[m] = none;
      if (sags) low[m] = solver.solve(m, "low");
    }
  }
  const untimed = Uint8Array.from(machine.modes, (mode) => (mode.lastsS === null ? 1 : 0));
  return { machine, circuit, wiring, topologies, planned, low: sags ? low : planned, untimed, unknown };
}
