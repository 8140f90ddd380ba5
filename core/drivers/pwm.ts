/**
 * Pulse-width control: motor current, duty and bus current are different things. SI units, D from 0 to 1.
 * Source: handbook motors-and-drivers section 2 (Mohan, Undeland & Robbins, Power Electronics, from memory, and derived).
 */

/** R.m.s. current (A) in a supply wire with no capacitor at the driver: the pulses themselves. */
export function pulsedRms(motorA: number, duty: number): number {
  return motorA * Math.sqrt(duty);
}

/** R.m.s. ripple (A) that the capacitor at the driver carries instead. */
export function capacitorRms(motorA: number, duty: number): number {
  return motorA * Math.sqrt(duty * (1 - duty));
}

/** The duty that keeps a motor at its own voltage on a higher rail; the rail counts at its highest. */
export function dutyCap(motorV: number, railMaxV: number): number {
  return Math.min(1, motorV / railMaxV);
}

/** What a failed cap does: motor current and winding heat against those at its own voltage. */
export function capFailure(motorV: number, railMaxV: number): { current: number; heat: number } {
  const current = railMaxV / motorV;
  return { current, heat: current ** 2 };
}
