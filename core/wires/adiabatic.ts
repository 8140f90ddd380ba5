/** Reciprocal temperature coefficient of copper at 0 °C, K (IEC 60364-5-54 annex A). */
const COPPER_B = 234.5;
/** √(Qc (B + 20) / ρ20) of copper, A·√s/mm². */
const COPPER_K = 226;

/**
 * k of copper in A·√s/mm² for a fault that heats it from `fromC` to `toC` before it gives heat away (IEC 60364-5-54 annex A,
 * 60364-4-43 table 43A); 0 where it starts as hot as it may get.
 */
export function adiabaticK(fromC: number, toC: number): number {
  if (toC <= fromC) return 0;
  return COPPER_K * Math.sqrt(Math.log(1 + (toC - fromC) / (COPPER_B + fromC)));
}

/** °C after `seconds` of `amps` in `area` mm² of copper that keeps all of its heat: the most it can reach (the same equation turned round). */
export function adiabaticC(fromC: number, amps: number, area: number, seconds: number): number {
  return (COPPER_B + fromC) * Math.exp((amps / (COPPER_K * area)) ** 2 * seconds) - COPPER_B;
}

/** I²t in A²s that a conductor of `area` mm² bears: (kS)², for faults up to 5 s. */
export function withstandA2s(k: number, area: number): number {
  return (k * area) ** 2;
}

/** The longest the adiabatic equation may be used for, s (IEC 60364-4-43 cl. 434.5.2). */
export const ADIABATIC_S = 5;

/** Where a joint is soldered the solder decides: 160 °C whatever the insulation (IEC 60364-4-43, tin-soldered joints). */
export const SOLDER_C = 160;
