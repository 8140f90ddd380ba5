/**
 * Steppers behind a chopper: phase current is set, supply current follows from power. SI units; currents r.m.s.
 * Source: handbook motors-and-drivers section 3 (Acarnley, Stepping Motors, from memory, and derived).
 */

/** A stepper driver that holds its phase currents. */
export interface Chopper {
  phaseA: number;
  phaseOhm: number;
  /** Both switches of a phase, Ω, and the driver's own power, W. */
  driverOhm: number;
  driverW: number;
  supplyV: number;
}

/** Supply current (A) at standstill: copper loss of two phases and the driver's own, at the supply's voltage. */
export function standstillCurrent({ phaseA, phaseOhm, driverOhm, driverW, supplyV }: Chopper): number {
  return (2 * phaseA ** 2 * (phaseOhm + driverOhm) + driverW) / supplyV;
}

/** Supply current (A) turning at a torque (N·m) and speed (rpm): standstill plus shaft power. */
export function runningCurrent(chopper: Chopper, torque: number, rpm: number): number {
  return standstillCurrent(chopper) + (torque * rpm * 2 * Math.PI) / 60 / chopper.supplyV;
}

/** Upper guide for the supply voltage, V: 32·√(mH) (common practice, no source). */
export function supplyGuideV(inductanceMh: number): number {
  return 32 * Math.sqrt(inductanceMh);
}

/** A setpoint read off a peak-current scale as r.m.s., A. */
export function rmsOfPeak(peakA: number): number {
  return peakA / Math.SQRT2;
}

/** Share of the sum of steppers that the simultaneity school plans (common practice, no source: 0.6-0.8). */
export const SIMULTANEITY = 0.7;
