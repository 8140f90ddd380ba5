import { fuseOpening } from "../fuses/opening";
import type { FuseRef, Wire } from "../machine/schema";
import type { Ampacity } from "../wires/ampacity";
import type { FaultFlow, FaultNetwork } from "./network";
import { SELECTIVITIES, type Selectivity, selectivityAt } from "./selectivity";
import { FATES, rank, type WireFate, wireFate } from "./withstand";

/** A fuse or breaker in a branch of the network. */
export interface Device {
  branch: number;
  fuse: FuseRef;
  /** Row it belongs to. */
  subject: { kind: "wire" | "part"; id: string };
}

/** What the walk knows of each wire before any short. */
export interface WireState {
  wire: Wire;
  branch: number;
  ampacity: Ampacity | null;
  /** Worst continuous current over its limit. */
  preload: number;
}

/** What ends a short, and how fast. */
export interface Clearing {
  flow: FaultFlow;
  /** Volts between the two nodes before the short. */
  openV: number;
  /** What opens first for sure, with the current in it. */
  first: { device: Device; amps: number; minS: number; maxS: number } | null;
  /** The earliest anything may open, s. */
  fastestS: number;
  /** Until no current flows any more, s; infinite when nothing ends it. */
  slowestS: number;
  /** Wires that carry it, the worst fate first. */
  wires: { state: WireState; amps: number; fate: WireFate }[];
  /** Fuses in line with one that opens that may open with it, the worst first. */
  along: { device: Device; selectivity: Selectivity }[];
  /** Largest current through each device, by its index. */
  deviceA: Float64Array;
}

/** A current that is no longer one, A. */
const NOTHING_A = 1e-3;
/** A fuse that carries more than this of its current on when another has opened is not in line with it, share. */
const BESIDE_SHARE = 0.5;
/** Share of its rating below which no fuse opens, however hot its place (the steepest here holds a third of it at its hottest). */
const FAR_BELOW = 0.1;
/** Most devices that open one after the other in one short. */
const MOST_STEPS = 6;

/**
 * Follows a short until it is cleared: the device sure to open first does, the rest is solved again, and so on. Each wire
 * bears its current for as long as it flows.
 */
export function followShort(
  network: FaultNetwork,
  devices: readonly Device[],
  wires: readonly WireState[],
  [plus, minus]: readonly [number, number],
  ohm: number,
  hotC: number,
  coldC: number,
): Clearing | null {
  const start = network.short(plus, minus, ohm);
  if (!start || Math.abs(start.faultA) < NOTHING_A) return null;
  const opened: number[] = [];
  const heat = noHeat(wires.length);
  let flow: FaultFlow | null = start;
  let first: Clearing["first"] = null;
  const along: Clearing["along"] = [];
  let slowestS = 0;
  let fastestS = Number.POSITIVE_INFINITY;
  for (const { branch, fuse } of devices) {
    const amps = Math.abs(start.branchA[branch] as number);
    if (amps < FAR_BELOW * fuse.ratingA) continue;
    const { minS } = fuseOpening(fuse, amps, hotC, coldC, true);
    fastestS = Math.min(fastestS, minS);
  }
  for (let step = 0; step <= MOST_STEPS; step++) {
    if (flow === null) {
      // Nothing can be said of what is left: it is not called cleared.
      slowestS = Number.POSITIVE_INFINITY;
      break;
    }
    if (Math.abs(flow.faultA) < NOTHING_A) break;
    const next = step === MOST_STEPS ? null : soonest(flow, devices, opened, hotC, coldC);
    const lasts = next?.maxS ?? Number.POSITIVE_INFINITY;
    for (let i = 0; i < wires.length; i++) {
      const amps = Math.abs(flow.branchA[(wires[i] as WireState).branch] as number);
      if (amps < NOTHING_A) continue;
      if (amps > (heat.most[i] as number)) heat.most[i] = amps;
      // What is left when nothing more opens goes on; what flowed before it was over in its own time.
      if (!Number.isFinite(lasts)) heat.lastingA[i] = amps;
      else {
        heat.seconds[i] = (heat.seconds[i] as number) + lasts;
        heat.a2s[i] = (heat.a2s[i] as number) + amps ** 2 * lasts;
      }
    }
    slowestS += lasts;
    if (!next) break;
    first ??= next;
    opened.push(next.device.branch);
    const before: FaultFlow = flow;
    flow = network.short(plus, minus, ohm, opened);
    along.push(...alongWith(before, flow, devices, opened, next, hotC, coldC));
  }
  return {
    flow: start,
    openV: network.openV(plus, minus),
    first,
    fastestS: first === null ? Number.POSITIVE_INFINITY : Math.min(fastestS, first.maxS),
    slowestS,
    wires: fates(wires, heat),
    along: along.sort((a, b) => SELECTIVITIES.indexOf(a.selectivity) - SELECTIVITIES.indexOf(b.selectivity)),
    deviceA: currentsOf(start, devices),
  };
}

function currentsOf(flow: FaultFlow, devices: readonly Device[]): Float64Array {
  const amps = new Float64Array(devices.length);
  for (let i = 0; i < amps.length; i++) amps[i] = Math.abs(flow.branchA[(devices[i] as Device).branch] as number);
  return amps;
}

/** The device that is sure to open before all others at these currents; null when none is. */
function soonest(flow: FaultFlow, devices: readonly Device[], opened: readonly number[], hotC: number, coldC: number): Clearing["first"] {
  let best: Clearing["first"] = null;
  for (const device of devices) {
    const amps = Math.abs(flow.branchA[device.branch] as number);
    if (amps < device.fuse.ratingA || opened.includes(device.branch)) continue;
    const { minS, maxS } = fuseOpening(device.fuse, amps, hotC, coldC, true);
    if (Number.isFinite(maxS) && maxS < (best?.maxS ?? Number.POSITIVE_INFINITY)) best = { device, amps, minS, maxS };
  }
  return best;
}

/** What each wire carries in a short until the last device has opened, and after; a short has many wires, so they stand in columns. */
interface Heat {
  seconds: Float64Array;
  a2s: Float64Array;
  /** The largest at any time, A. */
  most: Float64Array;
  /** What nothing ends, A. */
  lastingA: Float64Array;
}

function noHeat(many: number): Heat {
  const zeros = () => new Float64Array(many);
  return { seconds: zeros(), a2s: zeros(), most: zeros(), lastingA: zeros() };
}

function fates(wires: readonly WireState[], heat: Heat): Clearing["wires"] {
  const found: Clearing["wires"] = [];
  for (let i = 0; i < wires.length; i++) {
    const state = wires[i] as WireState;
    const most = heat.most[i] as number;
    if (most <= (state.ampacity?.limitA ?? 0)) continue;
    found.push({ state, amps: most, fate: worseOf(state, heat.seconds[i] as number, heat.a2s[i] as number, heat.lastingA[i] as number) });
  }
  if (found.length < 2) return found;
  const strain = ({ fate }: Clearing["wires"][number]) => (fate.letThroughA2s ?? 0) / (fate.withstandA2s ?? 1);
  return found.sort((a, b) => FATES.indexOf(a.fate.fate) - FATES.indexOf(b.fate.fate) || strain(b) - strain(a));
}

/** What the energy until all has opened does to it, or what goes on after: whichever is worse. */
function worseOf({ wire, ampacity, preload }: WireState, seconds: number, a2s: number, lastingA: number): WireFate {
  // The same energy at a steady current.
  const brief = seconds > 0 ? wireFate(wire, ampacity, Math.sqrt(a2s / seconds), seconds, preload) : null;
  const lasting = lastingA > 0 ? wireFate(wire, ampacity, lastingA, Number.POSITIVE_INFINITY, preload) : null;
  if (!brief || !lasting) return brief ?? lasting ?? wireFate(wire, ampacity, 0, 0, preload);
  return rank(lasting) < rank(brief) ? lasting : brief;
}

/** Fuses in line with one that opens, which need not open with it; one beside it, in a way of its own, must open too. */
function alongWith(
  flow: FaultFlow,
  after: FaultFlow | null,
  devices: readonly Device[],
  opened: readonly number[],
  near: NonNullable<Clearing["first"]>,
  hotC: number,
  coldC: number,
): Clearing["along"] {
  const found: Clearing["along"] = [];
  for (const device of devices) {
    const amps = Math.abs(flow.branchA[device.branch] as number);
    if (amps < device.fuse.ratingA || opened.includes(device.branch)) continue;
    if (after && Math.abs(after.branchA[device.branch] as number) > BESIDE_SHARE * amps) continue;
    const selectivity = selectivityAt(near.device.fuse, near.amps, device.fuse, amps, hotC, coldC);
    if (selectivity !== "assured") found.push({ device, selectivity });
  }
  return found;
}
