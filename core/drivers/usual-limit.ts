import type { BuiltLoad, Driver } from "../machine/schema";

/**
 * Limit of a driver over the running current of its motor (handbook practice sections 2 and 9: 1.5 to 3): small
 * motors need more to turn at all, and so do those of chairs and carts, which stall at much; a propeller starts softly.
 */
const LIMIT_TIMES = 2.1;
const LIMIT_SMALL = 3;
const LIMIT_TRACTION = 2.5;
const LIMIT_SOFT = 1.3;
/** Running current below which a motor is small, and stall over running current from which it is made for traction. */
const SMALL_A = 10;
const TRACTION_STALL = 6.5;
/** A limit stays so far below what a driver survives: it is set by a turn of a screw or a number, and overshoots (common practice). */
const BELOW_PEAK = 0.9;
/** Least limit over the running current: below it the motor cannot do its work. */
const ABOVE_RUN = 1.1;

/** Printed amps from which a driver has a limit to set, unless its own figures tell (common practice, no source). */
const HAS_LIMIT_A = 10;

/** Reports whether a limit can be set in a driver: it has one, or is of a size that has; bipolar bridges, relays and single transistors have none. */
export function hasLimit({ bridge, limitA, headlineA, peakA }: Partial<Driver>): boolean {
  if (bridge === "bipolar" || bridge === "relay" || bridge === "low side") return false;
  return limitA !== undefined || (headlineA?.value ?? peakA?.value ?? 0) >= HAS_LIMIT_A;
}

/**
 * Limit that a careful builder sets in the driver of a motor, A: never so low that the motor cannot run, never above what the
 * driver survives (`peakA`). Null where none helps: nothing is known of the motor, or it stalls below it.
 */
export function usualLimit({ levels }: Pick<BuiltLoad, "levels">, peakA: number): number | null {
  const runA = levels?.run?.value;
  const stallA = levels?.stall?.value ?? levels?.start?.value;
  if (!runA || !stallA) return null;
  const traction = stallA / runA >= TRACTION_STALL;
  const soft = (levels?.start?.value ?? Number.POSITIVE_INFINITY) <= runA * LIMIT_SOFT;
  const wanted = runA * (soft ? LIMIT_SOFT : runA < SMALL_A ? LIMIT_SMALL : traction ? LIMIT_TRACTION : LIMIT_TIMES);
  const limit = Math.min(peakA * BELOW_PEAK, wanted);
  return limit < stallA && limit > runA * ABOVE_RUN ? Number(limit.toPrecision(2)) : null;
}
