import { type Exposure, returnExposure, supplyExposure } from "../fuses/protection";
import { groupBy } from "../machine/group";
import type { Machine, Part, Wire } from "../machine/schema";
import { inputTerminals, isConsumer, isSource } from "../machine/terminals";
import { buildLedger, type Ledger, railOrigin } from "../machine/tree";
import { fuseOhm, wireOhm } from "../network/circuit";
import type { OperatingPoint } from "../network/solve";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { chassisAmpacity, conductorTemperature } from "../wires/ampacity";
import type { Solved } from "./solved";
import type { ModeFigures, PartFigures, WireFigures, Wiring, Worst } from "./types";

/** Figures of the whole machine before any rule has looked at them, with lookups the rules share. */
export interface Figures {
  solved: Solved;
  machine: Machine;
  ledger: Ledger;
  modes: ModeFigures[];
  wires: Record<string, WireFigures>;
  parts: Record<string, PartFigures>;
  partOf: ReadonlyMap<string, Part>;
  wireOf: ReadonlyMap<string, Wire>;
  /** Conductors that return for a supply wire, by its id. */
  returnsOf: ReadonlyMap<string, readonly Wire[]>;
  /** Wires by what limits a fault on them: "wire w3", "part main-fuse", "source buck-5". */
  guardedBy: ReadonlyMap<string, readonly Wire[]>;
}

function anyCollapse(solved: Solved): boolean {
  return solved.planned.some((point) => point.status === "collapsed") || solved.low.some((point) => point.status === "collapsed");
}

/** Volts per amp of an unknown load from which the voltage at a part is not known either. */
const UNSURE_V_PER_A = 1e-4;

const NOTHING: Worst = { amps: 0, mode: 0, low: false };

/** The two worst currents of one series of per-mode figures, at the planned and at the lowest charge. */
interface Worsts {
  worst: Worst;
  worstContinuous: Worst;
}

/** Reads the worst over all modes and over those without a time limit; `at(point)` is the current of the element, A. */
function worstsOf(solved: Solved, at: (point: OperatingPoint) => number): Worsts {
  const { machine, planned, low } = solved;
  let worst = NOTHING;
  let worstContinuous = NOTHING;
  const runs = low === planned ? 1 : 2;
  for (let run = 0; run < runs; run++) {
    const points = run === 0 ? planned : low;
    for (let mode = 0; mode < points.length; mode++) {
      const point = points[mode] as OperatingPoint;
      if (point.status !== "solved") continue;
      const amps = Math.abs(at(point));
      if (amps > worst.amps) worst = { amps, mode, low: run === 1 };
      if (amps > worstContinuous.amps && machine.modes[mode]?.lastsS === null) worstContinuous = { amps, mode, low: run === 1 };
    }
  }
  return { worst, worstContinuous };
}

function wireFigures(solved: Solved, wire: Wire, branch: number, exposure: Exposure | null): WireFigures {
  const { machine, planned, unknown } = solved;
  const { settings } = machine;
  const inline = wire.fuse ? fuseOhm(wire.fuse) : 0;
  const runOhm = wireOhm(machine, wire) - inline;
  const count = machine.modes.length;
  const amps = new Float64Array(count);
  const atLeast = new Uint8Array(count);
  const dropV = new Float64Array(count);
  const heatW = new Float64Array(count);
  for (let m = 0; m < count; m++) {
    const current = planned[m]?.branchA[branch] ?? 0;
    amps[m] = current;
    atLeast[m] = unknown[m]?.branch[branch] ?? 0;
    dropV[m] = Math.abs(current) * (runOhm + inline);
    heatW[m] = current * current * runOhm;
  }
  const { worst, worstContinuous } = worstsOf(solved, (point) => point.branchA[branch] as number);
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const insulation = insulationById(wire.insulation);
  const ampacity =
    gauge && insulation ? chassisAmpacity(gauge, insulation.maxC, settings.ambientC, wire.bundle ?? settings.bundle, wire.parallel) : null;
  const temperatureC = ampacity ? conductorTemperature(worstContinuous.amps, ampacity.limitA, settings.ambientC, ampacity.maxC) : null;
  return {
    id: wire.id,
    amps,
    atLeast,
    dropV,
    heatW,
    runOhm,
    fuseOhm: inline,
    worst,
    worstContinuous,
    worstAtLeast: anyCollapse(solved) || atLeast.some((flag) => flag === 1),
    ampacity,
    exposure,
    temperatureC,
  };
}

/** How a part is joined to its source with every switch closed. */
function wiringOf(solved: Solved, part: Part, hasFeed: boolean, hasBack: boolean): Wiring {
  if (isSource(part)) return "source";
  if (!isConsumer(part)) return "metal";
  const { circuit, wiring } = solved;
  const input = inputTerminals(part);
  const pos = circuit.nodeOf.get(`${part.id}.${input.supply}`) as number;
  const neg = circuit.nodeOf.get(`${part.id}.${input.back}`) as number;
  if (wiring.unknownOf[pos] !== -2 && wiring.island[pos] === wiring.island[neg]) return "ok";
  if (!hasFeed) return "notFed";
  if (!hasBack) return "noReturn";
  return wiring.unknownOf[pos] === -2 ? "notFed" : "apart";
}

interface Lookup {
  load: ReadonlyMap<string, number>;
  emf: ReadonlyMap<string, number>;
  converter: ReadonlyMap<string, number>;
  branchesOfPart: ReadonlyMap<string, number[]>;
  wiresAtNode: ReadonlyMap<number, { branch: number; sign: number }[]>;
}

function lookups(solved: Solved): Lookup {
  const { circuit } = solved;
  const branchesOfPart = new Map<string, number[]>();
  const wiresAtNode = new Map<number, { branch: number; sign: number }[]>();
  const note = (node: number, branch: number, sign: number) => {
    const list = wiresAtNode.get(node);
    if (list) list.push({ branch, sign });
    else wiresAtNode.set(node, [{ branch, sign }]);
  };
  circuit.branches.forEach((branch, i) => {
    if (branch.kind === "wire") {
      note(branch.a, i, -1);
      note(branch.b, i, 1);
      return;
    }
    const list = branchesOfPart.get(branch.id);
    if (list) list.push(i);
    else branchesOfPart.set(branch.id, [i]);
  });
  const index = (list: readonly { id: string }[]) => new Map(list.map(({ id }, i) => [id, i]));
  return { load: index(circuit.loads), emf: index(circuit.emfs), converter: index(circuit.converters), branchesOfPart, wiresAtNode };
}

/** Current through or into a part at an operating point, A. */
function partAmps(solved: Solved, lookup: Lookup, part: Part): (point: OperatingPoint) => number {
  const { circuit } = solved;
  switch (part.kind) {
    case "pack":
    case "supply": {
      const emf = lookup.emf.get(part.id) as number;
      return (point) => point.emfA[emf] as number;
    }
    case "load": {
      const load = lookup.load.get(part.id) as number;
      return (point) => point.loadA[load] as number;
    }
    case "converter": {
      const converter = lookup.converter.get(part.id) as number;
      return (point) => point.converterA[converter] as number;
    }
    case "driver": {
      const load = lookup.load.get(part.id) as number;
      const plus = circuit.nodeOf.get(`${part.id}.in+`);
      const legs = (lookup.branchesOfPart.get(part.id) ?? []).filter((i) => circuit.branches[i]?.a === plus);
      return (point) => legs.reduce((sum, i) => sum + (point.branchA[i] as number), point.loadA[load] as number);
    }
    case "switch":
    case "fuse": {
      const branch = lookup.branchesOfPart.get(part.id)?.[0] as number;
      return (point) => Math.abs(point.branchA[branch] as number);
    }
    case "bar": {
      const node = circuit.nodeOf.get(`${part.id}.bar`) as number;
      const wires = lookup.wiresAtNode.get(node) ?? [];
      return (point) => wires.reduce((sum, { branch, sign }) => sum + Math.max(0, sign * (point.branchA[branch] as number)), 0);
    }
  }
}

function terminalPair(part: Part): [string, string] | null {
  if (isSource(part)) return ["+", "-"];
  const input = inputTerminals(part);
  return isConsumer(part) && input.supply && input.back ? [input.supply, input.back] : null;
}

function outputPair(part: Part): [string, string] {
  return part.kind === "converter" ? ["out+", "out-"] : ["+", "-"];
}

function fullVolts(part: Part | undefined): number | null {
  if (part?.kind === "pack") return part.fullV?.value ?? null;
  return part?.kind === "supply" || part?.kind === "converter" ? part.outputV.value : null;
}

function partFigures(
  solved: Solved,
  ledger: Ledger,
  lookup: Lookup,
  parts: ReadonlyMap<string, Part>,
  part: Part,
  wireIndex: ReadonlyMap<string, number>,
): PartFigures {
  const { circuit, machine, planned, low, topologies, unknown } = solved;
  const count = machine.modes.length;
  const row = ledger.rowOf.get(part.id);
  const node = (id: string, terminal: string) => circuit.nodeOf.get(`${id}.${terminal}`) as number;
  const originId = railOrigin(ledger, part.id);
  const origin = originId === null ? undefined : parts.get(originId);
  const originPair = origin ? outputPair(origin).map((terminal) => node(origin.id, terminal)) : null;
  const pair = terminalPair(part)?.map((terminal) => node(part.id, terminal)) ?? null;
  const input = inputTerminals(part);
  const single = node(part.id, part.kind === "bar" ? "bar" : (input.supply ?? "+"));
  const across = (point: OperatingPoint, ends: number[]) =>
    (point.nodeV[ends[0] as number] as number) - (point.nodeV[ends[1] as number] as number);
  const voltsAt = (point: OperatingPoint) =>
    pair ? across(point, pair) : (point.nodeV[single] as number) - (originPair ? (point.nodeV[originPair[1] as number] as number) : 0);
  const ampsAt = partAmps(solved, lookup, part);

  // A motor behind a driver: what its bridge keeps is the driver's, not the wiring's.
  const driver = row?.feed ? parts.get(row.feed.from.part) : undefined;
  const bridgeOhm = part.kind === "load" && driver?.kind === "driver" ? (driver.bridgeOhm?.value ?? 0.02) : 0;

  const loadIndex = lookup.load.get(part.id);
  const emfIndex = lookup.emf.get(part.id);
  const feedBranch = row?.feed ? wireIndex.get(row.feed.id) : undefined;
  const amps = new Float64Array(count);
  const volts = new Float64Array(count);
  const dropV = new Float64Array(count);
  const offsetV = new Float64Array(count);
  const live = new Uint8Array(count);
  const atLeast = new Uint8Array(count);
  const outA = part.kind === "converter" ? new Float64Array(count) : null;
  const gives = part.kind === "converter" || isSource(part);
  const outV = gives ? new Float64Array(count) : null;
  const lossW = gives ? new Float64Array(count) : null;
  const output = gives ? outputPair(part).map((terminal) => node(part.id, terminal)) : null;
  const innerOhm = emfIndex === undefined ? 0 : (circuit.emfs[emfIndex]?.ohm ?? 0);
  let lowestV: PartFigures["lowestV"] = null;
  let voltsUnsure = false;

  for (let m = 0; m < count; m++) {
    const point = planned[m] as OperatingPoint;
    const sagged = low[m] as OperatingPoint;
    const shift = unknown[m]?.nodeV;
    if (pair && shift && Math.abs((shift[pair[0] as number] as number) - (shift[pair[1] as number] as number)) > UNSURE_V_PER_A)
      voltsUnsure = true;
    const topology = topologies[m];
    const joined =
      topology !== undefined &&
      (pair
        ? topology.unknownOf[pair[0] as number] !== -2 && topology.island[pair[0] as number] === topology.island[pair[1] as number]
        : topology.unknownOf[single] !== -2);
    live[m] = joined && point.status === "solved" ? 1 : 0;
    atLeast[m] =
      (part.kind === "load" && loadIndex !== undefined && circuit.loads[loadIndex]?.unknown[m]) ||
      (emfIndex !== undefined && unknown[m]?.emf[emfIndex]) ||
      (feedBranch !== undefined && unknown[m]?.branch[feedBranch])
        ? 1
        : 0;
    if (joined && sagged.status === "solved" && pair) {
      const sag = voltsAt(sagged);
      if (lowestV === null || sag < lowestV.volts) lowestV = { volts: sag, mode: m };
    }
    if (!live[m]) continue;
    amps[m] = ampsAt(point);
    volts[m] = voltsAt(point);
    if (outV && lossW && output && emfIndex !== undefined) {
      const given = point.emfA[emfIndex] as number;
      const terminalV = across(point, output);
      outV[m] = terminalV;
      if (outA) outA[m] = given;
      lossW[m] = outA ? (volts[m] as number) * (amps[m] as number) - terminalV * given : given * given * innerOhm;
    }
    if (isConsumer(part) && originPair && pair) {
      dropV[m] = across(point, originPair) - across(point, pair) - bridgeOhm * (amps[m] as number);
      offsetV[m] = (point.nodeV[pair[1] as number] as number) - (point.nodeV[originPair[1] as number] as number);
    }
  }
  return {
    id: part.id,
    wiring: wiringOf(solved, part, Boolean(row?.feed), Boolean(row?.back)),
    live,
    amps,
    volts,
    lowestV,
    highestV: fullVolts(origin),
    dropV,
    offsetV,
    atLeast,
    voltsUnsure,
    outV,
    outA,
    lossW,
    ...worstsOf(solved, ampsAt),
    worstAtLeast: anyCollapse(solved) || atLeast.some((flag) => flag === 1),
  };
}

/** Power delivered by packs and supplies, less everything consumed and lost, W. Nil but for rounding. */
export function powerBalance(solved: Solved, mode: number): number {
  const { circuit } = solved;
  const point = solved.planned[mode] as OperatingPoint;
  if (point.status !== "solved") return 0;
  const across = (a: number, b: number) => (point.nodeV[a] as number) - (point.nodeV[b] as number);
  let balance = 0;
  circuit.emfs.forEach((emf, i) => {
    const amps = point.emfA[i] as number;
    balance += emf.converter < 0 ? emf.volts * amps - amps * amps * emf.ohm : across(emf.pos, emf.neg) * amps;
  });
  circuit.branches.forEach((branch, i) => {
    balance -= (point.branchA[i] as number) ** 2 * branch.ohm;
  });
  circuit.loads.forEach((load, i) => {
    balance -= across(load.pos, load.neg) * (point.loadA[i] as number);
  });
  circuit.converters.forEach((converter, i) => {
    balance -= across(converter.inPos, converter.inNeg) * (point.converterA[i] as number);
  });
  return balance;
}

/** Reads every figure the screens and rules need off the solved network. */
export function computeFigures(solved: Solved): Figures {
  const { machine, circuit, planned, low, unknown } = solved;
  const ledger = buildLedger(machine);
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  const wireOf = new Map(machine.wires.map((wire) => [wire.id, wire]));
  const wireIndex = new Map(machine.wires.map((wire, i) => [wire.id, i]));
  const supply = supplyExposure(circuit);
  const back = returnExposure(circuit, supply);
  const lookup = lookups(solved);

  const wires: Record<string, WireFigures> = {};
  machine.wires.forEach((wire, i) => {
    wires[wire.id] = wireFigures(solved, wire, i, supply[i] ?? back[i] ?? null);
  });
  const parts: Record<string, PartFigures> = {};
  for (const part of machine.parts) parts[part.id] = partFigures(solved, ledger, lookup, partOf, part, wireIndex);

  const modes = machine.modes.map((mode, m): ModeFigures => {
    let sourceA = 0;
    let atLeast = false;
    circuit.emfs.forEach((emf, i) => {
      if (emf.converter >= 0) return;
      sourceA += planned[m]?.emfA[i] ?? 0;
      atLeast ||= unknown[m]?.emf[i] === 1;
    });
    return {
      id: mode.id,
      name: mode.name,
      collapsed: planned[m]?.status === "collapsed",
      collapsedLow: low[m]?.status === "collapsed",
      sourceA,
      atLeast,
      balanceW: powerBalance(solved, m),
    };
  });
  const returnsOf = groupBy(machine.wires, (wire) => wire.pair);
  const guardedBy = groupBy(machine.wires, (wire) => {
    const by = wires[wire.id]?.exposure?.by;
    return by ? `${by.kind} ${by.id}` : undefined;
  });
  return { solved, machine, ledger, modes, wires, parts, partOf, wireOf, returnsOf, guardedBy };
}
