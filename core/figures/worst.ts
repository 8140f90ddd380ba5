import { type MissionPlan, missionHeating } from "../loads/mission";
import type { Solved } from "./solved";
import type { ModeFigures, Worst } from "./types";

/** The two worst currents of one series of per-mode figures, at the planned and at the lowest charge. */
export interface Worsts {
  worst: Worst;
  worstContinuous: Worst;
}

/**
 * Reads the worst over all modes and over those without a time limit: of equals the planned one, and of those the first.
 * @param planned current of the element by mode at the planned charge, A; 0 in modes that collapse
 * @param low the same at the lowest charge; null where it cannot differ
 */
export function worstsOf({ untimed }: Solved, planned: Float64Array, low: Float64Array | null): Worsts {
  const worst = new Largest();
  const continuous = new Largest();
  for (let m = 0; m < planned.length; m++) {
    const amps = Math.abs(planned[m] as number);
    worst.offer(amps, m, false);
    if (untimed[m] === 1) continuous.offer(amps, m, false);
  }
  for (let m = 0; low && m < low.length; m++) {
    const amps = Math.abs(low[m] as number);
    worst.offer(amps, m, true);
    if (untimed[m] === 1) continuous.offer(amps, m, true);
  }
  return { worst: worst.told(), worstContinuous: continuous.told() };
}

class Largest {
  private amps = 0;
  private mode = 0;
  private low = false;

  offer(amps: number, mode: number, low: boolean): void {
    if (!(amps > this.amps)) return;
    this.amps = amps;
    this.mode = mode;
    this.low = low;
  }

  told(): Worst {
    return { amps: this.amps, mode: this.mode, low: this.low };
  }
}

/** A body without a known time constant follows its current at once, s. */
const AT_ONCE_S = 1e-3;

/**
 * Adds what the mission does over time to what goes on continuously: a cycle of short modes heats too. A time constant of 0
 * (not known) counts as none, so that the largest current of the mission rules.
 */
export function withMission(
  plan: MissionPlan | null,
  worsts: Worsts,
  planned: Float64Array,
  low: Float64Array | null,
  tauS: number,
): Worsts {
  if (!plan || !exceeds(plan, worsts.worstContinuous.amps, planned, low)) return worsts;
  const amps = missionHeating(plan, planned, low, Math.max(tauS, AT_ONCE_S));
  if (amps <= worsts.worstContinuous.amps) return worsts;
  const largestStep = plan.steps.reduce((most, step) =>
    Math.abs(planned[step.mode] ?? 0) > Math.abs(planned[most.mode] ?? 0) ? step : most,
  );
  return { worst: worsts.worst, worstContinuous: { amps, mode: largestStep.mode, low: false, mission: true } };
}

/** Whether some step of a mission takes more than a current: where none does, nothing heats further than it. */
function exceeds({ steps }: MissionPlan, amps: number, planned: Float64Array, low: Float64Array | null): boolean {
  return steps.some(({ mode }) => Math.abs(planned[mode] ?? 0) > amps || Math.abs(low?.[mode] ?? 0) > amps);
}

/**
 * The most that packs and supplies give together in any mode that has an operating point, A; null where none has.
 * `atLeast`: a load is unknown, or a mode has no operating point at one of the two charges, so that it may be more.
 */
export function worstOfModes(modes: readonly ModeFigures[]): { amps: number | null; atLeast: boolean } {
  const live = modes.filter((mode) => !mode.collapsed);
  const atLeast = modes.some((mode) => mode.atLeast || mode.collapsed || mode.collapsedLow);
  return { amps: live.length > 0 ? Math.max(...live.map((mode) => mode.worstA)) : null, atLeast };
}

/** Some mode has no operating point, so that a worst over the others is a least value. */
export function anyCollapse(solved: Solved): boolean {
  return solved.planned.some((point) => point.status === "collapsed") || solved.low.some((point) => point.status === "collapsed");
}
