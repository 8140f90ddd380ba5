import { computeFigures, type Figures } from "../figures/figures";
import { partIncomplete, wireIncomplete } from "../figures/incomplete";
import { solveMachine } from "../figures/solved";
import { budgeted } from "../loads/budget";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { withDecisions } from "../verdicts/decided";
import { worseMark } from "../verdicts/order";
import { evaluateAll } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";
import type { Analysis } from "./types";

/** An analysis with the figures it was made from. */
export interface FullAnalysis {
  figures: Figures;
  analysis: Analysis;
}

/**
 * Solves a machine in every mode, reads its figures and evaluates every rule. Pass the same cache while editing one
 * machine: orderings are then made once a topology.
 */
export function analyse(machine: Machine, cache = new TopologyCache()): FullAnalysis {
  const figures = figuresOf(machine, cache);
  return { figures, analysis: judged(figures) };
}

/** The half that computes: every mode solved, every figure read. */
export function figuresOf(machine: Machine, cache: TopologyCache): Figures {
  return computeFigures(solveMachine(budgeted(machine), cache));
}

/** The half that judges. */
export function judged(figures: Figures): Analysis {
  const verdicts = [...withDecisions(figures.machine, evaluateAll(figures))];
  const { modes, wires, parts } = figures;
  return { modes, wires, parts, verdicts, status: statusOf(figures, verdicts) };
}

/** Worst severity by id of part and wire. A row without verdicts is clear only if nothing it depends on is missing. */
function statusOf(figures: Figures, verdicts: readonly Verdict[]): Analysis["status"] {
  const status: Analysis["status"] = {};
  for (const wire of figures.machine.wires) status[wire.id] = wireIncomplete(figures, wire.id) ? "ask" : "clear";
  for (const part of figures.machine.parts) status[part.id] = partIncomplete(figures, part) ? "ask" : "clear";
  for (const verdict of verdicts) raise(status, verdict);
  return status;
}

/** Puts a verdict's mark on the rows it speaks of, where it is worse than what stands there. */
export function raise(status: Analysis["status"], verdict: Verdict): void {
  for (const id of [verdict.subject.id, ...(verdict.also ?? [])]) {
    const now = status[id];
    if (now !== undefined) status[id] = worseMark(now, verdict.decided ? "accepted" : verdict.severity);
  }
}
