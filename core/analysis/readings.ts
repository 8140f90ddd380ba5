import { judge } from "../bringup/judge";
import type { Log } from "../bringup/log";
import { bringUpOf } from "../bringup/plan";
import type { Kit } from "../bringup/types";
import type { Figures } from "../figures/figures";
import { withDecisions } from "../verdicts/decided";
import { evaluateLog } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";

/** What the rules say of what was read of a machine; nothing where nothing was. */
export function readVerdicts(figures: Figures, log: Log, kit: Kit): Verdict[] {
  if (log.readings.length + log.waivers.length === 0) return [];
  return [...withDecisions(figures.machine, evaluateLog(figures, { log, judged: judge(figures, bringUpOf(figures, kit), log) }))];
}
