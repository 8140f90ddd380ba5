/** Melting points in °C behind the ambient models of fuses (handbook section 5, derived). */
const ZINC_MELTS_C = 419;
const REFERENCE_C = 25;

/**
 * Factor on a zinc fuse's rating at ambient T (°C): √((419 − T)/(419 − 25)), never above 1: a cold day is not planned on.
 */
export function zincAmbientFactor(ambientC: number): number {
  return Math.min(1, Math.sqrt((ZINC_MELTS_C - ambientC) / (ZINC_MELTS_C - REFERENCE_C)));
}

/**
 * Least rating in A for a continuous current: I / (f · k_T).
 * @param loadFactor school's share of the rating a fuse may carry for good, 0.75 or 0.80 (common practice)
 */
export function leastRating(continuousA: number, loadFactor: number, ambientC: number): number {
  return continuousA / (loadFactor * zincAmbientFactor(ambientC));
}

export function loadFactorOf(school: "75 %" | "80 %"): number {
  return school === "75 %" ? 0.75 : 0.8;
}
