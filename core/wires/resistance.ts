/** Copper at 20 °C: 58.0 MS/m, 17.241 nΩ·m (IEC 60028). */
export const COPPER_RESISTIVITY_OHM_M = 17.241e-9;
/** Temperature coefficient of copper's resistance at 20 °C, 1/K (IEC 60028). */
export const COPPER_ALPHA_20 = 0.00393;

/** Solid AWG diameter in mm for gauge number n (1/0 is 0, 2/0 is −1, …). Source: ASTM B258. */
export function awgDiameterMm(n: number): number {
  return 0.127 * 92 ** ((36 - n) / 39);
}

/** Area in mm² of a round conductor of diameter `mm`. */
export function areaMm2(diameterMm: number): number {
  return (Math.PI / 4) * diameterMm ** 2;
}

/** Resistance of solid copper in Ω/km at 20 °C for an area in mm². Source: IEC 60028. */
export function solidOhmPerKm(area: number): number {
  return (COPPER_RESISTIVITY_OHM_M * 1e9) / area;
}

/** R(T)/R(20 °C) for copper; `conductorC` in °C. Within 0.01 % of the 234.5 form between 0 and 200 °C. */
export function temperatureFactor(conductorC: number): number {
  return 1 + COPPER_ALPHA_20 * (conductorC - 20);
}

/**
 * Resistance of one conductor run in Ω: wire at its running temperature plus two ends, shared by `parallel` equal wires.
 * @param r20OhmPerKm design value at 20 °C, Ω/km
 * @param lengthM one-way length, m
 * @param conductorC conductor temperature, °C
 * @param jointOhm one crimped or bolted end, Ω
 */
export function runResistance(r20OhmPerKm: number, lengthM: number, conductorC: number, jointOhm: number, parallel: number): number {
  const one = (r20OhmPerKm / 1000) * lengthM * temperatureFactor(conductorC) + 2 * jointOhm;
  return one / parallel;
}
