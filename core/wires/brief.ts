import { LASTING_S } from "../machine/lasting";

/** How long a peak that is stated without a time is taken to hold, s (the usual pulse of sheets; common practice, no source). */
export const PEAK_S = 10;

/**
 * The most (A) that something bears for `seconds` when it bears `continuousA` continuously and `peakA` for `peakS`: its peak up to
 * that time, then a first-order body's √(1/(1 − e^(−t/τ))) with the τ that reaches its limit at the peak just then, down to
 * what holds continuously. Never below `continuousA`; `seconds` null: continuously.
 */
export function bearsFor(seconds: number | null, continuousA: number, peakA: number, peakS = PEAK_S): number {
  if (seconds === null || seconds >= LASTING_S || !(peakA > continuousA) || continuousA <= 0) return continuousA;
  if (seconds <= peakS) return peakA;
  const tau = -peakS / Math.log(1 - (continuousA / peakA) ** 2);
  return continuousA / Math.sqrt(1 - Math.exp(-seconds / tau));
}

/** Rise of a contact at its rating, and where a contact is worn out and where its housing gives way, K (IEC 60512-5-2 and common practice, from memory). */
export const CONTACT_RISE_K = 30;
/** See `CONTACT_RISE_K`. */
export const CONTACT_MOST_K = 60;

/** What a contact does without a short-time figure: half as much again for ten seconds (common practice, no source). */
export const CONTACT_PEAK = 1.5;
