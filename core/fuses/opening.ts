import { oncePer } from "../machine/once";
import type { FuseRef } from "../machine/schema";
import { FUSE_FAMILIES, type FuseGate, gatesOf } from "../reference/fuses";
import { ambientRating, carryingFactor } from "./rating";

/** Seconds after which a fuse may open and by which it is sure to; infinite where it need not open. */
export interface OpeningTime {
  minS: number;
  maxS: number;
}

interface Point {
  m: number;
  t: number;
}

/**
 * A curve through gates at multiple `m`. Strict takes only what the gates assure, and of fuses that I²t never rises with the
 * current (handbook protection section 2); interpolated is straight in log-log.
 * `lower` is the earliest-opening curve, else the latest.
 */
function curve(points: readonly Point[], m: number, lower: boolean, strict: boolean, breaker: boolean): number {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last || m < first.m) return Number.POSITIVE_INFINITY;
  if (m > last.m && breaker) return lower ? 0 : last.t;
  if (m > last.m) {
    const constantEnergy = last.t * (last.m / m) ** 2;
    return lower && last.t > 5 ? 0 : constantEnergy;
  }
  for (let i = 0; i < points.length; i++) {
    const a = points[i] as Point;
    if (m === a.m) return a.t;
    const b = points[i + 1];
    if (!b || m >= b.m) continue;
    if (strict && (lower || breaker)) return lower ? b.t : a.t;
    const between = Math.exp(Math.log(a.t) + ((Math.log(b.t) - Math.log(a.t)) * Math.log(m / a.m)) / Math.log(b.m / a.m));
    // The energy it takes to open never rises with the current in a body that gives heat away: between gates as above the last.
    return strict ? Math.max(between, a.t * (a.m / m) ** 2) : between;
  }
  return last.t;
}

/** Gate sets of what opens a contact: above its last gate it takes no less time, and its least is unknown. */
const BREAKERS = /^(mcb|hydmag|sae|iec60934|electronic)/;

interface Bounds {
  breaker: boolean;
  lower: readonly Point[];
  upper: readonly Point[];
}

/** Earliest and latest curve of a family: every fuse is judged in every mode. */
const boundsOf = oncePer(
  (gates: readonly FuseGate[]): Bounds => ({
    breaker: gates.length > 0 && BREAKERS.test(gates[0]?.family ?? ""),
    lower: gates.filter((gate) => gate.minS > 0).map((gate) => ({ m: gate.multiple, t: gate.minS })),
    upper: gates.filter((gate) => gate.maxS !== null).map((gate) => ({ m: gate.multiple, t: gate.maxS as number })),
  }),
);

/**
 * When a fuse opens at `m` times its rating. Source: the family's standard gates (core/reference/data/fuse-gates.json),
 * handbook algorithm. Use strict for verdicts, interpolated for drawing.
 */
export function openingTime(gates: readonly FuseGate[], m: number, strict: boolean): OpeningTime {
  const { lower, upper, breaker } = boundsOf(gates);
  const maxS = curve(upper, m, false, strict, breaker);
  return { minS: Math.min(curve(lower, m, true, strict, breaker), maxS), maxS };
}

/**
 * When a fuse opens at a current in A: at the earliest on the hottest day, at the latest on the coldest. Resettable parts and
 * thermal breakers differ much between the two.
 */
export function fuseOpening(fuse: FuseRef, amps: number, hotC: number, coldC: number, strict: boolean): OpeningTime {
  const gates = gatesOf(fuse.family, fuse.ratingA);
  const cold = Math.max(1, ambientRating(FUSE_FAMILIES[fuse.family].ambient, coldC));
  const { minS } = openingTime(gates, amps / (fuse.ratingA * carryingFactor(fuse.family, hotC)), strict);
  const { maxS } = openingTime(gates, amps / (fuse.ratingA * cold), strict);
  return { minS: Math.min(minS, maxS), maxS };
}

/** The current in A that is sure to open a fuse within `seconds`; infinite where none is (strict gates). */
export function opensWithin(fuse: FuseRef, seconds: number, coldC: number): number {
  const cold = Math.max(1, ambientRating(FUSE_FAMILIES[fuse.family].ambient, coldC));
  const gates = gatesOf(fuse.family, fuse.ratingA);
  let [low, high] = [Math.log(0.5), Math.log(1000)];
  if (openingTime(gates, Math.exp(high), true).maxS > seconds) return Number.POSITIVE_INFINITY;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (openingTime(gates, Math.exp(middle), true).maxS <= seconds) high = middle;
    else low = middle;
  }
  return Math.exp(high) * fuse.ratingA * cold;
}

/** Whether a fuse is sure to hold currents that end, A and s, each beginning with the fuse cold of what went before. */
export function holdsBriefly(fuse: FuseRef, brief: readonly { amps: number; seconds: number }[], airC: number): boolean {
  return brief.every(({ amps, seconds }) => fuseOpening(fuse, amps, airC, airC, true).minS >= seconds);
}

/** A start is planned on this much longer than it takes (handbook practice section 8). */
const START_ROOM = 1.5;

/** Time at which a fuse of the middle of its lot opens, s: the geometric mean of the two curves, drawn straight between gates. */
export function middleOpeningS(fuse: FuseRef, amps: number, airC: number): number {
  const gates = gatesOf(fuse.family, fuse.ratingA);
  const { minS, maxS } = openingTime(gates, amps / (fuse.ratingA * carryingFactor(fuse.family, airC)), false);
  return Number.isFinite(minS) && Number.isFinite(maxS) ? Math.sqrt(Math.max(0, minS) * maxS) : minS;
}

/**
 * Reports whether a fuse of the middle of its lot rides currents through that end, A and s, half as long again: practice plans a start
 * through the middle of the curve (handbook practice section 1.4). The quickest of a lot may open earlier.
 */
export function ridesThrough(fuse: FuseRef, brief: readonly { amps: number; seconds: number }[], airC: number): boolean {
  return brief.every(
    ({ amps, seconds }) =>
      fuseOpening(fuse, amps, airC, airC, true).minS >= seconds || middleOpeningS(fuse, amps, airC) >= seconds * START_ROOM,
  );
}
