import type { BuiltMachine } from "../machine/schema";
import { type DutyStep, heatingCurrent, meanCurrent, RMS_SHARE, rmsCurrent } from "./duty";

/** A mission with its modes as indexes, ready to read series of per-mode figures by. */
export interface MissionPlan {
  steps: readonly { mode: number; seconds: number }[];
  repeats: boolean;
  cycleS: number;
}

const plans = new WeakMap<object, MissionPlan>();

/** The machine's mission, or null where it has none. */
export function missionOf(machine: BuiltMachine): MissionPlan | null {
  const { mission } = machine;
  if (!mission) return null;
  const known = plans.get(machine.modes);
  if (known && known.repeats === mission.repeats && known.steps.length === mission.steps.length) {
    const same = known.steps.every(
      (step, i) => step.seconds === mission.steps[i]?.seconds && machine.modes[step.mode]?.id === mission.steps[i]?.mode,
    );
    if (same) return known;
  }
  const index = new Map(machine.modes.map((mode, m) => [mode.id, m]));
  const steps = mission.steps.flatMap(({ mode, seconds }) => {
    const at = index.get(mode);
    return at === undefined ? [] : [{ mode: at, seconds }];
  });
  const plan = { steps, repeats: mission.repeats, cycleS: steps.reduce((sum, step) => sum + step.seconds, 0) };
  plans.set(machine.modes, plan);
  return plan;
}

function dutyOf(plan: MissionPlan, planned: ArrayLike<number>, low: ArrayLike<number> | null): DutyStep[] {
  return plan.steps.map(({ mode, seconds }) => ({
    amps: Math.max(Math.abs(planned[mode] ?? 0), low ? Math.abs(low[mode] ?? 0) : 0),
    seconds,
  }));
}

/** What a mission does to something with a thermal time constant (s). All in A, at the worse charge. */
export interface MissionFigures {
  rmsA: number;
  meanA: number;
  /** Steady current that heats as far as the mission's hottest moment. */
  heatingA: number;
  peakA: number;
  /** The cycle is short against the time constant, so that the r.m.s. may be used (handbook: up to 0.2 of it). */
  rmsHolds: boolean;
}

/** Average, r.m.s. and heating current over the mission, A. */
export function missionFigures(plan: MissionPlan, planned: ArrayLike<number>, low: ArrayLike<number> | null, tauS: number): MissionFigures {
  const steps = dutyOf(plan, planned, low);
  return {
    rmsA: rmsCurrent(steps),
    meanA: meanCurrent(steps),
    heatingA: heatingCurrent(steps, tauS, plan.repeats),
    peakA: steps.reduce((most, step) => Math.max(most, step.amps), 0),
    rmsHolds: plan.cycleS <= RMS_SHARE * tauS,
  };
}

/** Only the heating current: what wires and bridges are judged by, A. */
export function missionHeating(plan: MissionPlan, planned: ArrayLike<number>, low: ArrayLike<number> | null, tauS: number): number {
  return heatingCurrent(dutyOf(plan, planned, low), tauS, plan.repeats);
}
