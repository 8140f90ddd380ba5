import { type Mark, SEVERITIES, type Severity, type Verdict } from "./types";

/** 0 for the worst. */
export function severityRank(severity: Severity): number {
  return SEVERITIES.indexOf(severity);
}

const MARKS: readonly Mark[] = [...SEVERITIES, "accepted", "clear"];

/** The worse of two marks. */
export function worseMark(a: Mark, b: Mark): Mark {
  return MARKS.indexOf(a) <= MARKS.indexOf(b) ? a : b;
}

/** Worst first, in working order within a severity. */
export function worstFirst(...lists: readonly (readonly Verdict[])[]): Verdict[] {
  const by: Record<Severity, Verdict[]> = { stop: [], fix: [], watch: [], ask: [] };
  for (const list of lists) for (const verdict of list) by[verdict.severity].push(verdict);
  return by.stop.concat(by.fix, by.watch, by.ask);
}
