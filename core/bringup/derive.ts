import { type Figure, measured } from "../machine/figure";
import { together } from "./compare";

/** A value with its expanded uncertainty (k = 2). */
export interface Sure {
  readonly value: number;
  readonly u: number;
}

/** As a measured figure of the plan, its doubt as its tolerance. */
export function sureFigure({ value, u }: Sure): Figure {
  return { ...measured(Number(value.toPrecision(3))), tolerance: Math.min(1, Number((u / value).toPrecision(2))) };
}

/** Two readings taken at the same time, V and A. */
export interface VoltsAmps {
  readonly volts: number;
  readonly amps: number;
}

/** A meter's doubt (k = 2) apart: of its gain, as a share, and of the last digits of each reading. */
export interface MeterDoubt {
  readonly gainU: number;
  readonly digitsU: number;
}

/** Doubt of the difference of two readings of one meter: its gain is off the same way in both, only the digits are free. */
function differenceU({ gainU, digitsU }: MeterDoubt, difference: number): number {
  return together(Math.SQRT2 * digitsU, gainU * difference);
}

/**
 * Resistance of a source from two readings at different currents, Ω: (V₁ − V₂)/(I₂ − I₁), each pair by one meter and one clamp
 * (handbook uncertainty section 4, UN32). Null where the currents are too close to tell anything, or the volts do not fall.
 */
export function sourceOhm(one: VoltsAmps, other: VoltsAmps, voltmeter: MeterDoubt, ammeter: MeterDoubt): Sure | null {
  const [low, high] = one.amps <= other.amps ? [one, other] : [other, one];
  const [amps, volts] = [high.amps - low.amps, low.volts - high.volts];
  const ampsU = differenceU(ammeter, amps);
  if (!(amps > 2 * ampsU) || !(volts > 0)) return null;
  const value = volts / amps;
  return { value, u: value * together(differenceU(voltmeter, volts) / volts, ampsU / amps) };
}

/** What a conductor has beyond its plan, Ω, from the volts across it at a current; null where the reading tells less than its doubt. */
export function extraOhm(drop: Sure, amps: Sure, planned: Sure): Sure | null {
  if (!(Math.abs(amps.value) > 2 * amps.u)) return null;
  const all = Math.abs(drop.value / amps.value);
  const u = together(all * together(drop.u / Math.max(Math.abs(drop.value), 1e-9), amps.u / Math.abs(amps.value)), planned.u);
  const value = all - planned.value;
  return value > u ? { value, u } : null;
}

/** A panel meter against a reference, at one point. */
export interface TrimPoint {
  readonly shown: number;
  readonly reference: Sure;
}

/** What turns a panel meter's figure into a true one: reference = gain·shown + offset, and what is left at each point. */
export interface Trim {
  readonly gain: number;
  readonly offset: number;
  /** Largest of what it is off by as it stands, and with the trim. */
  readonly offBy: number;
  readonly restAfter: number;
  /** The reference's own doubt, at its worst. */
  readonly referenceU: number;
}

/** A straight line through the points by least squares; one point, or points at one volt, give an offset alone. */
export function trimOf(points: readonly TrimPoint[]): Trim | null {
  const n = points.length;
  if (n === 0) return null;
  const mean = (of: (point: TrimPoint) => number) => points.reduce((sum, point) => sum + of(point), 0) / n;
  const [x, y] = [mean(({ shown }) => shown), mean(({ reference }) => reference.value)];
  const spread = points.reduce((sum, { shown }) => sum + (shown - x) ** 2, 0);
  const gain = spread > 1e-9 ? points.reduce((sum, { shown, reference }) => sum + (shown - x) * (reference.value - y), 0) / spread : 1;
  const offset = y - gain * x;
  const worst = (of: (point: TrimPoint) => number) => points.reduce((most, point) => Math.max(most, Math.abs(of(point))), 0);
  return {
    gain,
    offset,
    offBy: worst(({ shown, reference }) => shown - reference.value),
    restAfter: worst(({ shown, reference }) => gain * shown + offset - reference.value),
    referenceU: worst(({ reference }) => reference.u),
  };
}

/** A temperature at a time from the start, °C and s. */
export interface Warmth {
  readonly s: number;
  readonly celsius: number;
}

/**
 * Where a temperature ends by three readings, and its time constant, first order (handbook CV35; for readings at equal steps that
 * is (T₁² − T₀T₂)/(2T₁ − T₀ − T₂)). Null where it does not settle by these readings: then it has to run for longer.
 */
export function settlesAt(first: Warmth, middle: Warmth, last: Warmth): { endC: number; tauS: number } | null {
  const [a, b] = [middle.celsius - first.celsius, last.celsius - middle.celsius];
  if (!(a > 0) || !(b > 0) || !(middle.s > first.s) || !(last.s > middle.s)) return null;
  // What rose in the first span over what rose in the second falls as the time constant grows.
  const ratio = (tauS: number) =>
    (1 - Math.exp(-(middle.s - first.s) / tauS)) / (Math.exp(-(middle.s - first.s) / tauS) * (1 - Math.exp(-(last.s - middle.s) / tauS)));
  let [short, long] = [(last.s - first.s) / 40, (last.s - first.s) * LONGEST];
  if (ratio(long) > a / b || ratio(short) < a / b) return null;
  for (let i = 0; i < 60; i++) {
    const tauS = Math.sqrt(short * long);
    if (ratio(tauS) > a / b) short = tauS;
    else long = tauS;
  }
  const tauS = Math.sqrt(short * long);
  const left = 1 - Math.exp(-(middle.s - first.s) / tauS);
  return { endC: first.celsius + a / left, tauS };
}

/** Time constants longer than so many times the readings' span cannot be told from a straight climb. */
const LONGEST = 3;
