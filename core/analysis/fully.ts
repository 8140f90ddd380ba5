import type { Machine } from "../machine/schema";
import { withDecisions } from "../verdicts/decided";
import { evaluateLate, type Late } from "../verdicts/late";
import { worstFirst } from "../verdicts/order";
import type { Verdict } from "../verdicts/types";
import { analyse, type FullAnalysis, raise } from "./analyse";
import type { Analysis } from "./types";
import { type Unasked, unaskedOf } from "./unasked";

/** What takes longer than a keystroke: late verdicts, and what of all that is asked need not be. */
export interface Lately extends Late {
  readonly unasked: Unasked | null;
}

/** With the verdicts that take longer than a keystroke: for lists, exports and the command line. */
export function analyseFully(machine: Machine): FullAnalysis & { late: Lately } {
  const { figures, analysis } = analyse(machine);
  const late = evaluateLate(figures, analysis.verdicts);
  const unasked = unaskedOf(machine, analysis.verdicts, late.verdicts);
  return { figures, analysis: withLate(analysis, late.verdicts, machine, unasked), late: { ...late, unasked } };
}

/**
 * An analysis with late verdicts put in their place and without what need not be asked. `fresh`: the latter was found for this
 * very machine, so that rows which lack nothing that matters are clear; else only its questions are left out.
 */
export function withLate(
  analysis: Analysis,
  late: readonly Verdict[],
  machine: Pick<Machine, "decisions">,
  unasked: Unasked | null = null,
  fresh = true,
): Analysis {
  if (late.length === 0 && !unasked) return analysis;
  const hidden = new Set(unasked?.verdicts);
  const isAsked = ({ id }: Verdict) => !hidden.has(id);
  const quick = unasked ? analysis.verdicts.filter(isAsked) : analysis.verdicts;
  const judgedLate = withDecisions(machine, late).filter(isAsked);
  const status = unasked && fresh ? withoutDoubt(analysis.status, quick, new Set(unasked.lacking)) : { ...analysis.status };
  for (const verdict of judgedLate) raise(status, verdict);
  return { ...analysis, verdicts: worstFirst(quick, judgedLate), status };
}

/** Marks of rows as they are with the figures that do not matter given. */
function withoutDoubt(status: Analysis["status"], verdicts: readonly Verdict[], lacking: ReadonlySet<string>): Analysis["status"] {
  const marks: Analysis["status"] = {};
  for (const id of Object.keys(status)) marks[id] = lacking.has(id) ? "ask" : "clear";
  for (const verdict of verdicts) raise(marks, verdict);
  return marks;
}
