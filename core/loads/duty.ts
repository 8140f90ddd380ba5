/** Duty: what heats, what drains, what peaks. Source: handbook motors-and-drivers section 7; IEC 60034-1 duty types, from memory. */

/** One step of a cycle, A and s. */
export interface DutyStep {
  amps: number;
  seconds: number;
}

const total = (steps: readonly DutyStep[]) => steps.reduce((sum, step) => sum + step.seconds, 0);

/** √(ΣI²t / Σt), A: what heats wires and windings once the cycle is short against their thermal time constant. */
export function rmsCurrent(steps: readonly DutyStep[]): number {
  return Math.sqrt(steps.reduce((sum, step) => sum + step.amps ** 2 * step.seconds, 0) / total(steps));
}

/** ΣIt / Σt, A: what drains the battery. */
export function meanCurrent(steps: readonly DutyStep[]): number {
  return steps.reduce((sum, step) => sum + step.amps * step.seconds, 0) / total(steps);
}

/**
 * The steady current (A) that would heat a first-order body with time constant `tau` (s) as far as the cycle's hottest
 * moment does. It is the r.m.s. for a cycle short against tau and the largest current for a long one. With `repeats`
 * false the cycle is run once from cold.
 */
export function heatingCurrent(steps: readonly DutyStep[], tau: number, repeats = true): number {
  let heat = 0;
  if (repeats) {
    // Where the temperature must begin so that it ends where it began.
    let end = 0;
    let kept = 1;
    for (const { amps, seconds } of steps) {
      const decay = Math.exp(-seconds / tau);
      end = end * decay + amps ** 2 * (1 - decay);
      kept *= decay;
    }
    heat = kept < 1 ? end / (1 - kept) : 0;
  }
  let hottest = heat;
  for (const { amps, seconds } of steps) {
    const decay = Math.exp(-seconds / tau);
    heat = heat * decay + amps ** 2 * (1 - decay);
    hottest = Math.max(hottest, heat);
  }
  return Math.sqrt(hottest);
}

/** Share of the thermal time constant up to which the handbook admits the r.m.s. of a cycle. */
export const RMS_SHARE = 0.2;
