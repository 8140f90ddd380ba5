/** Charging and discharging of the capacitors behind a contact (handbook protection section 7, derived). V, F, Ω, H, s, J. */

/** Energy in a capacitor; the same amount heats whatever it is charged through, J. */
export function bankJ(farads: number, volts: number): number {
  return 0.5 * farads * volts ** 2;
}

/** Largest current when a contact closes onto an empty capacitor, A: V/R, or less where the loop's inductance holds it. */
export function inrushA(farads: number, volts: number, loopOhm: number, loopH = 0): number {
  const byResistance = volts / loopOhm;
  if (loopH === 0) return byResistance;
  const surge = Math.sqrt(loopH / farads);
  return loopOhm < 2 * surge ? Math.min(byResistance, volts / surge) : byResistance;
}

/** I²t of that pulse, A²s. */
export function inrushA2s(farads: number, volts: number, loopOhm: number): number {
  return (farads * volts ** 2) / (2 * loopOhm);
}

/** Time constants a precharge waits: 99.3 % of the volts. */
const WAIT = 5;

/** Time until capacitors are full to 99.3 %, five time constants, s. */
export function prechargeS(ohm: number, farads: number): number {
  return WAIT * ohm * farads;
}

/** Resistor that fills a bank within `seconds`, Ω. */
export function prechargeOhm(seconds: number, farads: number): number {
  return seconds / (WAIT * farads);
}

/** A usual time to wait for, s. */
export const USUAL_S = 1;

/** Volts still missing after `seconds`, and what a standing load of `loadA` keeps missing; never more than there are. */
export function prechargeGapV(volts: number, ohm: number, farads: number, seconds: number, loadA: number): number {
  return Math.min(volts, volts * Math.exp(-seconds / (ohm * farads)) + loadA * ohm);
}

/** Resistor that empties a bank to `endV` within `seconds`, Ω. */
export function bleedOhm(farads: number, volts: number, endV: number, seconds: number): number {
  return seconds / (farads * Math.log(volts / endV));
}

/** Common practice, no source: from here on a contact wants precharging. */
export const PRECHARGE_J = 0.5;
/** Volts from which a bank of PRECHARGE_F needs a precharge, V (handbook, common practice). */
export const PRECHARGE_V = 24;
/** Capacitance from which a contact at PRECHARGE_V needs a precharge, F (handbook, common practice). */
export const PRECHARGE_F = 500e-6;
/** A precharge resistor's pulse rating over the bank's energy. */
export const PULSE_ROOM = 2;
/** The main contact may close onto a gap of this share of the volts. */
export const GAP_SHARE = 0.05;

/** Whether a contact needs a precharge before it closes onto capacitors. */
export function needsPrecharge(farads: number, volts: number): boolean {
  return bankJ(farads, volts) > PRECHARGE_J || (volts >= PRECHARGE_V && farads > PRECHARGE_F);
}
