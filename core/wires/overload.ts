/**
 * Longest time in s that a wire may carry m times its continuous limit, after running at p times it (both ratios).
 * First order: t = τ ln[(m² − p²)/(m² − 1)]; infinite for m ≤ 1, 0 for p ≥ 1.
 * τ is that of wire and insulation up to m = 2 and of the copper alone above (handbook, checked there by simulation as safe).
 */
export function overloadTime(m: number, p: number, tauS: number, tauCopperS: number): number {
  if (m <= 1) return Number.POSITIVE_INFINITY;
  if (p >= 1) return 0;
  const tau = m <= 2 ? tauS : tauCopperS;
  return tau * Math.log((m * m - p * p) / (m * m - 1));
}

/**
 * The same turned round: the largest multiple of its continuous limit that a wire may carry for `seconds` after running at p
 * times it. At least 1, which it carries continuously.
 */
export function overloadRatio(seconds: number, p: number, tauS: number, tauCopperS: number): number {
  if (p >= 1) return 1;
  const within = (tau: number) => {
    const grown = Math.expm1(seconds / tau);
    return Number.isFinite(grown) ? Math.sqrt((grown + 1 - p * p) / grown) : 1;
  };
  const short = within(tauCopperS);
  return short > 2 ? short : Math.min(2, within(tauS));
}
