import { missionHeating, missionOf } from "../loads/mission";
import type { Machine } from "../machine/schema";
import type { Solved } from "./solved";
import type { Worst } from "./types";

const NOTHING: Worst = { amps: 0, mode: 0, low: false };

/** The two worst currents of one series of per-mode figures, at the planned and at the lowest charge. */
export interface Worsts {
  worst: Worst;
  worstContinuous: Worst;
}

/** The larger of two worsts; the first where they are the same. */
function worse(a: Worst, b: Worst): Worst {
  return b.amps > a.amps ? b : a;
}

/** Largest magnitude of a series, over all modes or only over those that count. */
function largest(series: Float64Array, counts: Uint8Array | null, low: boolean): Worst {
  let mode = -1;
  let amps = 0;
  for (let m = 0; m < series.length; m++) {
    const size = Math.abs(series[m] as number);
    if (size > amps && (counts === null || counts[m] === 1)) {
      amps = size;
      mode = m;
    }
  }
  return mode < 0 ? NOTHING : { amps, mode, low };
}

/**
 * Reads the worst over all modes and over those without a time limit.
 * @param planned current of the element by mode at the planned charge, A; 0 in modes that collapse
 * @param low the same at the lowest charge; null where it cannot differ
 */
export function worstsOf(solved: Solved, planned: Float64Array, low: Float64Array | null): Worsts {
  const { untimed } = solved;
  const worst = largest(planned, null, false);
  const worstContinuous = largest(planned, untimed, false);
  if (low === null) return { worst, worstContinuous };
  return { worst: worse(worst, largest(low, null, true)), worstContinuous: worse(worstContinuous, largest(low, untimed, true)) };
}

/** A body without a known time constant follows its current at once, s. */
const AT_ONCE_S = 1e-3;

/**
 * Adds what the mission does over time to what goes on for good: a cycle of short modes heats too. A time constant of 0
 * (not known) counts as none, so that the largest current of the mission rules.
 */
export function withMission(machine: Machine, worsts: Worsts, planned: Float64Array, low: Float64Array | null, tauS: number): Worsts {
  const plan = missionOf(machine);
  if (!plan || plan.steps.length === 0) return worsts;
  const amps = missionHeating(plan, planned, low, Math.max(tauS, AT_ONCE_S));
  if (amps <= worsts.worstContinuous.amps) return worsts;
  const largestStep = plan.steps.reduce((most, step) =>
    Math.abs(planned[step.mode] ?? 0) > Math.abs(planned[most.mode] ?? 0) ? step : most,
  );
  return { worst: worsts.worst, worstContinuous: { amps, mode: largestStep.mode, low: false, mission: true } };
}

/** Some mode has no operating point, so that a worst over the others is a least value. */
export function anyCollapse(solved: Solved): boolean {
  return solved.planned.some((point) => point.status === "collapsed") || solved.low.some((point) => point.status === "collapsed");
}
