import { bridgeDrop } from "../drivers/bridge";
import { bridgeOf } from "../drivers/channel";
import type { Part } from "../machine/schema";
import { inputTerminals, isConsumer, isSource, regulates } from "../machine/terminals";
import { type Ledger, railOrigin } from "../machine/tree";
import { type LoadElement, nodeAt } from "../network/circuit";
import type { Rows } from "../network/rows";
import type { OperatingPoint } from "../network/solve";
import type { Solved } from "./solved";
import type { PartFigures, Wiring } from "./types";
import { worstsOf } from "./worst";

/** Volts per amp of an unknown load from which the voltage at a part is not known either. */
const UNSURE_V_PER_A = 1e-4;

/** How a part is joined to its source with every switch closed. */
function wiringOf(solved: Solved, part: Part, hasFeed: boolean, hasBack: boolean): Wiring {
  if (isSource(part)) return "source";
  if (!isConsumer(part)) return "metal";
  const { circuit, wiring } = solved;
  const input = inputTerminals(part);
  const pos = nodeAt(circuit, part.id, input.supply ?? "");
  const neg = nodeAt(circuit, part.id, input.back ?? "");
  if (wiring.unknownOf[pos] !== -2 && wiring.island[pos] === wiring.island[neg]) return "ok";
  if (!hasFeed) return "notFed";
  if (!hasBack) return "noReturn";
  return wiring.unknownOf[pos] === -2 ? "notFed" : "apart";
}

/** Indexes shared by all parts of one machine. */
export interface Lookup {
  parts: ReadonlyMap<string, Part>;
  wireIndex: ReadonlyMap<string, number>;
  /** Index of a load element by `loadKey`. */
  load: ReadonlyMap<string, number>;
  emf: ReadonlyMap<string, number>;
  converter: ReadonlyMap<string, number>;
  branchesOfPart: ReadonlyMap<string, number[]>;
  wiresAtNode: ReadonlyMap<number, { branch: number; sign: number }[]>;
}

export function loadKey({ role, id }: Pick<LoadElement, "role" | "id">): string {
  return `${role} ${id}`;
}

export function lookups(solved: Solved, parts: ReadonlyMap<string, Part>): Lookup {
  const { circuit, machine } = solved;
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
  return {
    parts,
    wireIndex: index(machine.wires),
    load: new Map(circuit.loads.map((load, i) => [loadKey(load), i])),
    emf: index(circuit.emfs),
    converter: index(circuit.converters),
    branchesOfPart,
    wiresAtNode,
  };
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
      const load = lookup.load.get(loadKey({ role: "load", id: part.id })) as number;
      const onboard = lookup.converter.get(part.id);
      if (onboard !== undefined) return (point) => (point.loadA[load] as number) + (point.converterA[onboard] as number);
      return (point) => point.loadA[load] as number;
    }
    case "converter": {
      const converter = lookup.converter.get(part.id) as number;
      return (point) => point.converterA[converter] as number;
    }
    case "driver": {
      const own = lookup.load.get(loadKey({ role: "own", id: part.id })) as number;
      const onboard = lookup.converter.get(part.id);
      const plus = nodeAt(circuit, part.id, "in+");
      const legs = (lookup.branchesOfPart.get(part.id) ?? []).filter((i) => circuit.branches[i]?.a === plus);
      return (point) =>
        legs.reduce(
          (sum, i) => sum + (point.branchA[i] as number),
          (point.loadA[own] as number) + (onboard === undefined ? 0 : (point.converterA[onboard] as number)),
        );
    }
    case "switch":
    case "fuse": {
      const branch = lookup.branchesOfPart.get(part.id)?.[0] as number;
      return (point) => Math.abs(point.branchA[branch] as number);
    }
    case "bar": {
      const node = nodeAt(circuit, part.id, "bar");
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
  if (part.kind === "converter") return ["out+", "out-"];
  if (part.kind === "driver") return ["5v", "in-"];
  return regulates(part) ? ["5v", "-"] : ["+", "-"];
}

function fullVolts(part: Part | undefined): number | null {
  if (part?.kind === "pack") return part.fullV?.value ?? null;
  if (part?.kind === "driver" || part?.kind === "load") return part.onboard?.outputV.value ?? null;
  return part?.kind === "supply" || part?.kind === "converter" ? part.outputV.value : null;
}

interface ChannelVolts {
  /** Volts at the motor, given those the network has there: it is solved as if the bridge were always on. */
  motorV: (point: OperatingPoint, networkV: number) => number;
  /** What the network's bridge resistance takes, V. */
  bridgeV: (point: OperatingPoint) => number;
}

/** For a motor on a driver's channel: what its bridge leaves it. Duty is the bus share of the motor current. */
function channelOf(solved: Solved, lookup: Lookup, part: Part): ChannelVolts | null {
  const { circuit } = solved;
  const feed = circuit.feeds.get(part.id);
  const load = lookup.load.get(loadKey({ role: "load", id: part.id }));
  if (!feed || load === undefined) return null;
  const leg = nodeAt(circuit, feed.driver.id, `${feed.channel}a`);
  const back = nodeAt(circuit, feed.driver.id, `${feed.channel}b`);
  const plus = nodeAt(circuit, feed.driver.id, "in+");
  const minus = nodeAt(circuit, feed.driver.id, "in-");
  const branch = (lookup.branchesOfPart.get(feed.driver.id) ?? []).find((i) => circuit.branches[i]?.b === leg);
  if (branch === undefined) return null;
  const bridge = bridgeOf(feed.driver);
  const across = (point: OperatingPoint, a: number, b: number) => (point.nodeV[a] as number) - (point.nodeV[b] as number);
  return {
    motorV: (point, networkV) => {
      const motorA = point.loadA[load] as number;
      if (!(motorA > 0)) return networkV;
      const duty = Math.min(1, (point.branchA[branch] as number) / motorA);
      const leads = across(point, leg, back) - networkV;
      return duty * across(point, plus, minus) - bridgeDrop(bridge, motorA) - leads;
    },
    bridgeV: (point) => bridge.ohm * (point.branchA[branch] as number),
  };
}

/** Everything computed for one part; `scratch` holds one entry per mode, `collapse`: some mode has no operating point. */
export function partFigures(
  solved: Solved,
  scratch: Float64Array,
  rows: Rows,
  ledger: Ledger,
  lookup: Lookup,
  part: Part,
  collapse: boolean,
): PartFigures {
  const { circuit, planned, low, topologies, unknown } = solved;
  const { parts } = lookup;
  const row = ledger.rowOf.get(part.id);
  const node = (id: string, terminal: string) => nodeAt(circuit, id, terminal);
  const originId = railOrigin(ledger, part.id);
  const origin = originId === null ? undefined : parts.get(originId);
  const originPair = origin ? outputPair(origin).map((terminal) => node(origin.id, terminal)) : null;
  const pair = terminalPair(part)?.map((terminal) => node(part.id, terminal)) ?? null;
  const input = inputTerminals(part);
  const single = node(part.id, part.kind === "bar" ? "bar" : (input.supply ?? "+"));
  const across = (point: OperatingPoint, ends: number[]) =>
    (point.nodeV[ends[0] as number] as number) - (point.nodeV[ends[1] as number] as number);
  const channel = channelOf(solved, lookup, part);
  const voltsAt = (point: OperatingPoint) =>
    channel && pair
      ? channel.motorV(point, across(point, pair))
      : pair
        ? across(point, pair)
        : (point.nodeV[single] as number) - (originPair ? (point.nodeV[originPair[1] as number] as number) : 0);
  const ampsAt = partAmps(solved, lookup, part);

  const loadIndex = lookup.load.get(loadKey({ role: "load", id: part.id }));
  const emfIndex = lookup.emf.get(part.id);
  const feedBranch = row?.feed ? lookup.wireIndex.get(row.feed.id) : undefined;
  const count = scratch.length;
  const amps = rows.next();
  const volts = rows.next();
  const dropV = rows.next();
  const offsetV = rows.next();
  const live = new Uint8Array(count);
  const atLeast = new Uint8Array(count);
  const converter = lookup.converter.get(part.id);
  const outA = converter === undefined ? null : rows.next();
  const gives = emfIndex !== undefined;
  const outV = gives ? rows.next() : null;
  const lossW = gives ? rows.next() : null;
  const output = gives ? outputPair(part).map((terminal) => node(part.id, terminal)) : null;
  const innerOhm = emfIndex === undefined ? 0 : (circuit.emfs[emfIndex]?.ohm ?? 0);
  let lowestV: PartFigures["lowestV"] = null;
  let voltsUnsure = false;

  for (let m = 0; m < amps.length; m++) {
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
      lossW[m] =
        converter === undefined
          ? given * given * innerOhm
          : (volts[m] as number) * (point.converterA[converter] as number) - terminalV * given;
    }
    if (isConsumer(part) && originPair && pair) {
      // What a driver's bridge keeps is the driver's, not the wiring's.
      dropV[m] = across(point, originPair) - across(point, pair) - (channel ? channel.bridgeV(point) : 0);
      offsetV[m] = (point.nodeV[pair[1] as number] as number) - (point.nodeV[originPair[1] as number] as number);
    }
  }
  const lowOf = (at: (point: OperatingPoint) => number): Float64Array | null => {
    if (low === planned) return null;
    for (let m = 0; m < scratch.length; m++) scratch[m] = at(low[m] as OperatingPoint);
    return scratch;
  };
  const worsts = worstsOf(solved, amps, lowOf(ampsAt));
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
    worstOut:
      outA && emfIndex !== undefined
        ? worstsOf(
            solved,
            outA,
            lowOf((point) => point.emfA[emfIndex] as number),
          ).worst
        : gives
          ? worsts.worst
          : null,
    lossW,
    ...worsts,
    worstAtLeast: collapse || atLeast.includes(1),
  };
}
