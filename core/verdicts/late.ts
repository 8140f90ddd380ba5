import type { Figures } from "../analysis/figures";
import type { Machine } from "../machine/schema";
import { packModel } from "../sources/pack";
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

/**
 * What is late of a machine that cannot be run down and has no wish for it: known at once, without solving anything. Null
 * where there is something to work out.
 */
export function nothingLate(machine: Machine): Late | null {
  if (machine.settings.wantedRunS !== undefined) return null;
  const missing: { id: string; name: string; figures: readonly string[] }[] = [];
  for (const part of machine.parts) {
    if (part.kind !== "pack") continue;
    if (part.chemistry !== undefined) return null;
    const read = packModel(part, machine.settings.ambientC);
    if ("missing" in read) missing.push({ id: part.id, name: part.name, figures: read.missing });
  }
  return { times: { missing, mission: null, alone: [] }, verdicts: [] };
}

/** `now`: what the quick rules said of the same figures. */
export function evaluateLate(figures: Figures, now: readonly Verdict[]): Late {
  const times = runTimes(figures.machine, dischargeOf(figures.machine, figures.solved.circuit));
  const run = runTime.evaluate(figures, times);
  return { times, verdicts: [...run, ...agedCold.evaluate(figures, RULES, [...now, ...run])] };
}
