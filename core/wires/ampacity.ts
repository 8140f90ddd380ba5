import { chassisReference, type Gauge } from "../reference/gauges";

/** The chassis column states no ambient or insulation: read as an 80 °C wire in 25 °C air (common practice, no source). */
export const CHASSIS_MAX_C = 80;
export const CHASSIS_REFERENCE_C = 25;

/**
 * Ambient factor √((Tmax − Ta)/(Tmax − Tref)); 0 at or above Tmax. Reproduces NEC Table 310.15(B)(1).
 * The chassis school does not credit cooler air: callers cap it at 1.
 */
export function ambientFactor(maxC: number, referenceC: number, ambientC: number): number {
  if (ambientC >= maxC) return 0;
  return Math.sqrt((maxC - ambientC) / (maxC - referenceC));
}

/** Factor for n loaded conductors that run together. Source: NEC 310.15(C)(1), from memory. */
export function bundleFactor(loaded: number): number {
  if (loaded <= 3) return 1;
  if (loaded <= 6) return 0.8;
  if (loaded <= 9) return 0.7;
  if (loaded <= 20) return 0.5;
  if (loaded <= 30) return 0.45;
  if (loaded <= 40) return 0.4;
  return 0.35;
}

/** Factor for wires in parallel that never share evenly: two × 0.9, three or more × 0.8 (common practice, no source). */
export function parallelFactor(parallel: number): number {
  return parallel <= 1 ? 1 : parallel === 2 ? 0.9 : 0.8;
}

export interface Ampacity {
  /** Allowed continuous current of the whole run, A. */
  readonly limitA: number;
  readonly tableA: number;
  /** Gauge whose table figure was used: for metric wire the next AWG that is not thicker. */
  readonly reference: Gauge;
  readonly ambient: number;
  readonly bundle: number;
  readonly parallel: number;
  readonly maxC: number;
}

/**
 * Continuous current of a run in A, handbook chassis-wiring school with ambient and bundling.
 * @param insulationMaxC insulation rating, °C: below 80 °C it lowers the limit, above it earns nothing in this school
 * @returns null when the size is thinner than the table reaches
 */
export function chassisAmpacity(gauge: Gauge, insulationMaxC: number, ambientC: number, bundle: number, parallel: number): Ampacity | null {
  const reference = chassisReference(gauge);
  if (!reference || reference.chassisA === null) return null;
  const maxC = Math.min(CHASSIS_MAX_C, insulationMaxC);
  const byInsulation = Math.sqrt((maxC - CHASSIS_REFERENCE_C) / (CHASSIS_MAX_C - CHASSIS_REFERENCE_C));
  const ambient = byInsulation * Math.min(1, ambientFactor(maxC, CHASSIS_REFERENCE_C, ambientC));
  const group = bundleFactor(bundle);
  const shared = parallelFactor(parallel);
  const limitA = reference.chassisA * ambient * group * shared * parallel;
  return { limitA, tableA: reference.chassisA, reference, ambient, bundle: group, parallel: shared * parallel, maxC };
}

/**
 * Estimated conductor temperature in °C: the rise goes with the square of current, and at the limit it reaches `maxC`.
 */
export function conductorTemperature(currentA: number, limitA: number, ambientC: number, maxC: number): number {
  if (limitA <= 0) return currentA === 0 ? ambientC : Number.POSITIVE_INFINITY;
  return ambientC + Math.max(0, maxC - ambientC) * (currentA / limitA) ** 2;
}
