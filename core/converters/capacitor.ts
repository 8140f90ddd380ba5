/**
 * Capacitance that carries `amps` for `seconds` while the voltage falls by `fallV`, F; null when the step in its own
 * resistance alone is as large: C = I·t / (ΔV − I·ESR).
 */
export function carryCapacitance(amps: number, seconds: number, fallV: number, esrOhm: number): number | null {
  const left = fallV - amps * esrOhm;
  return left > 0 ? (amps * seconds) / left : null;
}

/** Seconds a capacitor carries a constant power from `fromV` down to `toV`, its own resistance taken off at the larger current. */
export function carryTime(farad: number, esrOhm: number, watts: number, fromV: number, toV: number): number {
  if (!(watts > 0)) return Number.POSITIVE_INFINITY;
  // At the end the capacitor itself still holds what its resistance takes: I = P / V_end is the most that flows.
  const inside = toV + (watts / toV) * esrOhm;
  return inside >= fromV ? 0 : (farad * (fromV ** 2 - inside ** 2)) / (2 * watts);
}

/** A second-order low-pass of choke and capacitor: corner, Hz, and wave resistance, Ω (H, F). */
export function lowPass(henry: number, farad: number): { cornerHz: number; ohm: number } {
  return { cornerHz: 1 / (2 * Math.PI * Math.sqrt(henry * farad)), ohm: Math.sqrt(henry / farad) };
}

/** What passes an unloaded choke and capacitor with series resistance at a frequency, dB. */
export function lowPassGain(henry: number, farad: number, esrOhm: number, hertz: number): number {
  const w = 2 * Math.PI * hertz;
  const reactance = w * henry - 1 / (w * farad);
  return 20 * Math.log10(Math.hypot(esrOhm, 1 / (w * farad)) / Math.hypot(esrOhm, reactance));
}

/** Next value up that capacitors are sold in (E6 steps, standard IEC 60063), F. */
export function nextCapacitor(farad: number): number {
  const steps = [1, 1.5, 2.2, 3.3, 4.7, 6.8, 10];
  const decade = 10 ** Math.floor(Math.log10(farad) + 1e-12);
  const step = steps.find((each) => each * decade >= farad * (1 - 1e-9)) ?? 10;
  return Number((step * decade).toPrecision(3));
}
