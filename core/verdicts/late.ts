import type { Figures } from "../analysis/figures";
import { type RunTimes, runTimes } from "../sources/run";
import { dischargeOf } from "../sources/sag";
import * as agedCold from "./aged-cold";
import { RULES } from "./index";
import * as runTime from "./run-time";
import type { Verdict } from "./types";

/** Verdicts that take longer than a keystroke: they integrate a discharge or solve the machine again as it will be. */
export interface Late {
  readonly times: RunTimes;
  readonly verdicts: Verdict[];
}

export const LATE_RULES = [runTime, agedCold].map(({ id, title }) => ({ id, title }));

/** `now`: what the quick rules said of the same figures. */
export function evaluateLate(figures: Figures, now: readonly Verdict[]): Late {
  const times = runTimes(figures.machine, dischargeOf(figures.machine, figures.solved.circuit));
  const run = runTime.evaluate(figures, times);
  return { times, verdicts: [...run, ...agedCold.evaluate(figures, RULES, [...now, ...run])] };
}
