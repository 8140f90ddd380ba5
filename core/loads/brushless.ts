/**
 * Brushless motors behind a drive: the bus and the phases carry different currents. SI units.
 * Source: handbook motors-and-drivers section 4 (Mohan, Undeland & Robbins, Power Electronics, from memory, and derived).
 */

/** R.m.s. current in each phase wire, A: six-step from the DC-link current, sine from its amplitude. */
export function phaseRms(amps: number, drive: "six-step" | "sine"): number {
  return drive === "six-step" ? amps * Math.sqrt(2 / 3) : amps / Math.SQRT2;
}

/** Duty below which the phase limit rules and the bus carries less than its own limit. */
export function crossoverDuty(busLimitA: number, phaseLimitA: number): number {
  return Math.min(1, busLimitA / phaseLimitA);
}

/** Bus current (A) of a stalled field-oriented drive at current amplitude `amps` and resistance of one phase. */
export function stalledBusCurrent(amps: number, phaseOhm: number, busV: number): number {
  return (1.5 * amps ** 2 * phaseOhm) / busV;
}
