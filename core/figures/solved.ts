import { goesOn } from "../machine/lasting";
import { sameBuild } from "../machine/same-build";
import type { Machine } from "../machine/schema";
import { circuitOn } from "../network/build";
import type { Circuit, ConverterElement, Emf } from "../network/circuit";
import type { OperatingPoint, Touched } from "../network/point";
import { type AtRest, restKeys, restPoint } from "../network/rest";
import { buildSkeleton } from "../network/skeleton";
import { ModeSolver } from "../network/solve";
import { openKey, type Topology, TopologyCache } from "../network/topology";
import { fullVoltsOf } from "../packs/pack";
import { type Build, buildOf } from "./build";

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
  /** 1 for each mode that goes on so long that only what holds continuously holds in it. */
  untimed: Uint8Array;
  unknown: Touched[];
  build: Build;
}

/** What was solved last with a cache: an edit of one mode leaves the solutions of the others as they were. */
const lastOf = new WeakMap<TopologyCache, Solved>();

function sameEmf(a: Emf, b: Emf | undefined): boolean {
  return (
    a.volts === b?.volts &&
    a.lowVolts === b.lowVolts &&
    a.ohm === b.ohm &&
    a.lowOhm === b.lowOhm &&
    a.leastA === b.leastA &&
    a.mostA === b.mostA
  );
}

function sameConverter(a: ConverterElement, b: ConverterElement | undefined): boolean {
  if (a.efficiency !== b?.efficiency || a.quiescentA !== b.quiescentA) return false;
  if (a.loss === null || b.loss === null) return a.loss === b.loss;
  const { watts, volts, ohm, atInput, atV } = a.loss;
  return watts === b.loss.watts && volts === b.loss.volts && ohm === b.loss.ohm && atInput === b.loss.atInput && atV === b.loss.atV;
}

/** 1 for each mode of `now` that is in every number the mode it was in `before`: its solution still holds. */
function unchangedModes(before: Solved | null, now: Circuit, topologies: readonly Topology[]): Uint8Array {
  const same = new Uint8Array(topologies.length);
  const old = before?.circuit;
  if (!before || !old || before.topologies.length !== topologies.length || old.loads.length !== now.loads.length) return same;
  const sameMetal =
    old.branches.length === now.branches.length &&
    old.emfs.length === now.emfs.length &&
    old.converters.length === now.converters.length &&
    now.branches.every((branch, i) => branch.ohm === old.branches[i]?.ohm) &&
    now.emfs.every((emf, i) => sameEmf(emf, old.emfs[i])) &&
    now.converters.every((converter, i) => sameConverter(converter, old.converters[i]));
  if (!sameMetal) return same;
  // The same topology object: the same nodes, contacts and elements.
  for (let m = 0; m < same.length; m++) same[m] = topologies[m] === before.topologies[m] ? 1 : 0;
  for (let i = 0; i < now.loads.length; i++) {
    const [a, b] = [now.loads[i], old.loads[i]];
    if (!a || !b) continue;
    for (let m = 0; m < same.length; m++) {
      if (a.amps[m] !== b.amps[m] || a.siemens[m] !== b.siemens[m] || a.watts[m] !== b.watts[m] || a.unknown[m] !== b.unknown[m])
        same[m] = 0;
    }
  }
  return same;
}

/** The machine with every pack full and nothing drawn. No mode may be half solved meanwhile: it uses the same solvers. */
function restOf(circuit: Circuit, cache: TopologyCache): AtRest {
  const parts = new Map(circuit.machine.parts.map((part) => [part.id, part]));
  const full = circuit.emfs.map(({ id, volts, lowVolts, converter }) => {
    const part = converter < 0 ? parts.get(id) : undefined;
    const most = part?.kind === "pack" ? fullVoltsOf(part, circuit.machine.settings.coldestC) : null;
    // A plan with more than a full pack is no reason to look the other way.
    return { volts: Math.max(volts, lowVolts, most ?? 0), known: part?.kind !== "pack" || part.fullV !== undefined };
  });
  const at = (key: string) => restPoint(circuit, key, cache.get(circuit, key), (emf) => full[emf] ?? NOTHING);
  return { points: restKeys(circuit).map(at), closed: at("c".repeat(circuit.switches.length)) };
}

const NOTHING = { volts: 0, known: true };

/** Solves all modes. Pass the same cache again while editing: orderings are then reused. */
export function solveMachine(machine: Machine, cache = new TopologyCache()): Solved {
  const before = lastOf.get(cache) ?? null;
  const kept = before && sameBuild(before.machine, machine) ? before.build : null;
  const skeleton = kept?.solved.circuit ?? buildSkeleton(machine);
  const circuit = circuitOn(skeleton, machine);
  cache.adopt(circuit);
  const wiring = cache.get(circuit, "c".repeat(circuit.switches.length));
  const keys = machine.modes.map((mode) => openKey(circuit, mode.id));
  const topologies = keys.map((key) => cache.get(circuit, key));
  const anyUnknown = machine.modes.map((_, m) => circuit.loads.some((load) => load.unknown[m] === 1));
  const sags = circuit.emfs.some((emf) => emf.lowVolts !== emf.volts || emf.lowOhm !== emf.ohm);
  const none: Touched = {
    branch: new Uint8Array(circuit.branches.length),
    emf: new Uint8Array(circuit.emfs.length),
    nodeV: new Float64Array(circuit.nodeCount),
  };
  const planned: OperatingPoint[] = [];
  const low: OperatingPoint[] = [];
  const unknown: Touched[] = [];
  const same = unchangedModes(before, circuit, topologies);
  for (let m = 0; m < same.length; m++) {
    if (!same[m] || !before) continue;
    planned[m] = before.planned[m] as OperatingPoint;
    low[m] = before.low[m] as OperatingPoint;
    unknown[m] = before.unknown[m] as Touched;
  }
  for (const key of new Set(keys)) {
    const modes = keys.flatMap((each, m) => (each === key && !same[m] ? [m] : []));
    if (modes.length === 0) continue;
    const solver = new ModeSolver(circuit, cache.get(circuit, key));
    // Doubts first: they are read off the bare metal, whose factor the solver begins with.
    for (const m of modes) unknown[m] = anyUnknown[m] ? solver.touchedByUnknown(m) : none;
    for (const m of modes) {
      const point = solver.solve(m, "planned");
      planned[m] = point;
      if (point.status === "collapsed") unknown[m] = none;
      if (sags) low[m] = solver.solve(m, "low");
    }
  }
  const untimed = Uint8Array.from(machine.modes, (mode) => (goesOn(mode) ? 1 : 0));
  const build = kept ?? buildOf(machine, skeleton, wiring, restOf(circuit, cache));
  const solved: Solved = { machine, circuit, wiring, topologies, planned, low: sags ? low : planned, untimed, unknown, build };
  lastOf.set(cache, solved);
  return solved;
}
