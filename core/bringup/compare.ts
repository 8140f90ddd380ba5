import { INSTRUMENTS, type InstrumentId, instrumentHalf, type ReadQuantity } from "../reference/instruments";
import { uniformU } from "../reference/tolerances";
import type { Reading } from "./log";

/** Coverage factor for about 95 % (JCGM 100, 6.2). */
export const COVERAGE = 2;

/**
 * Expanded uncertainty (k = 2) of one reading of an instrument, in the unit read: a specification of ± a is a rectangle, so
 * 2·a/√3 (JCGM 100, 4.3.7). Null: the instrument does not read that.
 */
export function readingU(instrument: InstrumentId, quantity: ReadQuantity, value: number): number | null {
  const half = instrumentHalf(instrument, quantity, value);
  return half === null ? null : COVERAGE * uniformU(half);
}

/** Expanded uncertainty of a reading that was taken: as its taker knew it, else by what it was taken with. */
export function uncertaintyOf({
  uncertainty,
  instrument,
  quantity,
  value,
}: Pick<Reading, "uncertainty" | "instrument" | "quantity" | "value">): number {
  return uncertainty ?? readingU(instrument, quantity, value ?? 0) ?? 0;
}

/** An instrument's doubt at a reading apart (k = 2): of its gain, as a share, and of its last digits. */
export function meterDoubt(instrument: InstrumentId, quantity: ReadQuantity, value: number): { gainU: number; digitsU: number } {
  const gain = INSTRUMENTS[instrument].reads[quantity]?.gain ?? 0;
  const half = instrumentHalf(instrument, quantity, value) ?? 0;
  return { gainU: COVERAGE * uniformU(gain), digitsU: COVERAGE * uniformU(Math.max(0, half - gain * Math.abs(value))) };
}

/** Independent uncertainties together, root of the sum of squares (JCGM 100, 5.1.2). */
export function together(...parts: readonly number[]): number {
  return Math.hypot(...parts);
}

/** Normalised error of a reading against an expectation, both with expanded uncertainty; up to 1 they agree (ISO 13528). */
export function normalisedError(read: number, readU: number, expected: number, expectedU: number): number {
  const u = together(readU, expectedU);
  const off = Math.abs(read - expected);
  return u > 0 ? off / u : off === 0 ? 0 : Number.POSITIVE_INFINITY;
}

/** How a reading stands to what was expected: holds (E_n up to 1), look (up to the sum of both doubts), outside. */
export type Standing = "holds" | "look" | "outside";

/** What an expectation allows: the plan's own band, and how much wider the instrument makes it. */
export interface Band {
  /** What the plan expects. */
  value: number;
  /** Band of the plan alone: its tolerances. */
  planLow: number;
  planHigh: number;
  /** Expanded uncertainty of the instrument at the expected value. */
  meterU: number;
  /** Bounds no reading may pass whatever the doubt, already moved inward by the instrument's (guard band, JCGM 106). */
  floor?: number | undefined;
  ceiling?: number | undefined;
}

/** Pass band: the plan's and the instrument's doubts by root sum square, cut at the bounds. */
export function passBand(band: Band): { low: number; high: number } {
  const low = band.value - together(band.value - band.planLow, band.meterU);
  const high = band.value + together(band.planHigh - band.value, band.meterU);
  return { low: Math.max(low, band.floor ?? Number.NEGATIVE_INFINITY), high: Math.min(high, band.ceiling ?? Number.POSITIVE_INFINITY) };
}

/**
 * Where a reading stands. Between the root sum square and the plain sum of both doubts it is looked at again; beyond that, or
 * past a bound, it is outside (handbook grounding section 10).
 */
export function standingOf(band: Band, read: number): Standing {
  if (band.ceiling !== undefined && read > band.ceiling) return "outside";
  if (band.floor !== undefined && read < band.floor) return "outside";
  const { low, high } = passBand(band);
  if (read >= low && read <= high) return "holds";
  return read < band.planLow - band.meterU || read > band.planHigh + band.meterU ? "outside" : "look";
}

/** Whether an instrument is too coarse for a check: its doubt is more than half of what the plan's own band leaves. */
export function tooCoarse(band: Band): boolean {
  return band.meterU > (band.planHigh - band.planLow) / 2 && band.meterU > 0.02 * Math.abs(band.value);
}
