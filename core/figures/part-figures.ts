import { bridgeDrop } from "../drivers/bridge";
import type { OperatingPoint } from "../network/point";
import type { Rows } from "../network/rows";
import { givingTo, type PartPlan } from "./part-plan";
import type { Solved } from "./solved";
import type { PartFigures } from "./types";
import { worstsOf } from "./worst";

/** Volts per amp of an unknown load from which the voltage at a part is not known either. */
const UNSURE_V_PER_A = 1e-4;

function across({ nodeV }: OperatingPoint, [a, b]: readonly [number, number]): number {
  return (nodeV[a] as number) - (nodeV[b] as number);
}

/** Current through or into a part at an operating point, A. */
function ampsAt({ amps }: PartPlan, point: OperatingPoint): number {
  switch (amps.from) {
    case "emf":
      return point.emfA[amps.emf] as number;
    case "input":
      return point.converterA[amps.converter] as number;
    case "draw": {
      let sum = (point.loadA[amps.place] as number) + (amps.converter < 0 ? 0 : (point.converterA[amps.converter] as number));
      for (const branch of amps.legs) sum += point.branchA[branch] as number;
      return sum;
    }
    case "through":
      return Math.abs(point.branchA[amps.branch] as number);
    case "bar": {
      let sum = 0;
      for (const { branch, sign } of amps.wires) sum += Math.max(0, sign * (point.branchA[branch] as number));
      return sum;
    }
  }
}

/**
 * Volts of a part at an operating point. For a motor on a channel: what its bridge leaves it, for the network is solved as
 * if the bridge were always on; duty is the bus share of the motor current.
 */
function voltsAt({ pair, channel, single, origin, load }: PartPlan, point: OperatingPoint): number {
  if (!pair) return (point.nodeV[single] as number) - (origin ? (point.nodeV[origin[1]] as number) : 0);
  const networkV = across(point, pair);
  const motorA = channel ? (point.loadA[load] as number) : 0;
  if (!channel || !(motorA > 0)) return networkV;
  const duty = Math.min(1, (point.branchA[channel.branch] as number) / motorA);
  const leads = across(point, [channel.leg, channel.back]) - networkV;
  return duty * across(point, [channel.plus, channel.minus]) - bridgeDrop(channel.bridge, motorA) - leads;
}

/** Everything computed for one part; `scratch` holds one entry per mode, `collapse`: some mode has no operating point. */
export function partFigures(solved: Solved, scratch: Float64Array, rows: Rows, plan: PartPlan, collapse: boolean): PartFigures {
  const { circuit, planned, low, topologies, unknown } = solved;
  const { pair, origin, sources, output, channel, emf, converter, feed, load, single } = plan;
  const count = scratch.length;
  const amps = rows.next();
  const volts = rows.next();
  const dropV = rows.next();
  const offsetV = rows.next();
  const live = new Uint8Array(count);
  const atLeast = new Uint8Array(count);
  const outA = converter < 0 ? null : rows.next();
  const outV = output && rows.next();
  const lossW = output && rows.next();
  const draws = circuit.loads[load];
  const innerOhm = circuit.emfs[emf]?.ohm ?? 0;
  let lowestV: PartFigures["lowestV"] = null;
  let voltsUnsure = false;
  let reachesV = plan.reach?.volts ?? null;

  for (let m = 0; m < count; m++) {
    const point = planned[m] as OperatingPoint;
    const sagged = low[m] as OperatingPoint;
    const touched = unknown[m];
    if (pair && touched && Math.abs((touched.nodeV[pair[0]] as number) - (touched.nodeV[pair[1]] as number)) > UNSURE_V_PER_A)
      voltsUnsure = true;
    const topology = topologies[m];
    const joined =
      topology !== undefined &&
      (pair
        ? topology.unknownOf[pair[0]] !== -2 && topology.island[pair[0]] === topology.island[pair[1]]
        : topology.unknownOf[single] !== -2);
    live[m] = joined && point.status === "solved" ? 1 : 0;
    if (draws?.unknown[m] || (emf >= 0 && touched?.emf[emf]) || (feed >= 0 && touched?.branch[feed])) atLeast[m] = 1;
    if (joined && sagged.status === "solved" && pair) {
      const sag = voltsAt(plan, sagged);
      if (lowestV === null || sag < lowestV.volts) lowestV = { volts: sag, mode: m };
      if (reachesV !== null && sag > reachesV) reachesV = sag;
    }
    if (!live[m]) continue;
    amps[m] = ampsAt(plan, point);
    volts[m] = voltsAt(plan, point);
    if (pair && reachesV !== null && (volts[m] as number) > reachesV) reachesV = volts[m] as number;
    if (outV && lossW && output) {
      const given = point.emfA[emf] as number;
      const terminalV = across(point, output);
      outV[m] = terminalV;
      if (outA) outA[m] = given;
      lossW[m] =
        converter < 0 ? given * given * innerOhm : (volts[m] as number) * (point.converterA[converter] as number) - terminalV * given;
    }
    if (plan.consumes && origin && pair) {
      // What a driver's bridge keeps is the driver's, not the wiring's.
      const bridgeV = channel ? channel.bridge.ohm * (point.branchA[channel.branch] as number) : 0;
      dropV[m] = across(point, givingTo(sources, point)?.pair ?? origin) - across(point, pair) - bridgeV;
      offsetV[m] = (point.nodeV[pair[1]] as number) - (point.nodeV[origin[1]] as number);
    }
  }
  const lowOf = (at: (point: OperatingPoint) => number): Float64Array | null => {
    if (low === planned) return null;
    for (let m = 0; m < count; m++) scratch[m] = at(low[m] as OperatingPoint);
    return scratch;
  };
  const worsts = worstsOf(
    solved,
    amps,
    lowOf((point) => ampsAt(plan, point)),
  );
  const given = outA
    ? worstsOf(
        solved,
        outA,
        lowOf((point) => point.emfA[emf] as number),
      )
    : worsts;
  return {
    id: plan.id,
    wiring: plan.wiring,
    live,
    amps,
    volts,
    lowestV,
    highestV: plan.reach?.known ? reachesV : null,
    reachesV,
    dropV,
    offsetV,
    atLeast,
    voltsUnsure,
    outV,
    outA,
    worstOut: output && given.worst,
    lossW,
    ...worsts,
    worstAtLeast: collapse || atLeast.includes(1),
  };
}
