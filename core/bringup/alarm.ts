import type { Reading } from "./log";

/** Readings that say "smoke, heat or a smell: stopped" name this step; what and where stands in their note. */
export const ALARM_STEP = "alarm";

/** Alarms that nobody has struck out yet, the newest first. */
export function alarmsOf(readings: readonly Reading[]): Reading[] {
  return readings.filter(({ step, struck }) => step === ALARM_STEP && !struck).reverse();
}
