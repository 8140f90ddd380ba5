import { withLate } from "@/core/analysis/analyse";
import type { Analysis } from "@/core/analysis/types";
import type { ShownFigures } from "@/core/figures/types";
import type { Machine } from "@/core/machine/schema";
import type { Late } from "@/core/verdicts/late";
import type { Verdict } from "@/core/verdicts/types";

/** Run times and the verdicts that hang on them, and the version of the machine they are of. */
interface RunThrough {
  of: Machine;
  late: Late;
}

/**
 * What is known of the open machine, and of which version: nothing yet, an analysis (which trails the machine by one answer)
 * with what comes late (which trails by another), or that the last analysis broke off.
 */
export type Findings =
  | { kind: "none" }
  | { kind: "judged"; of: Machine; quick: Analysis; shown: Analysis; ran: RunThrough | null; logged: readonly Verdict[] }
  | { kind: "broken"; of: Machine };

const NOTHING_YET: { ran: RunThrough | null; logged: readonly Verdict[] } = { ran: null, logged: [] };

type Holds = Readonly<{ findings: Findings }>;

/** Figures and verdicts as they are shown; null before the first, and after an analysis that broke off. */
export function analysisOf({ findings }: Holds): Analysis | null {
  return findings.kind === "judged" ? findings.shown : null;
}

/** The version last analysed, or tried to be. */
export function analysedOf({ findings }: Holds): Machine | null {
  return findings.kind === "none" ? null : findings.of;
}

/** What came late, of whichever version it is. */
export function lateOf({ findings }: Holds): Late | null {
  return findings.kind === "judged" ? (findings.ran?.late ?? null) : null;
}

/** The version that was run through last. */
export function ranThroughOf({ findings }: Holds): Machine | null {
  return findings.kind === "judged" ? (findings.ran?.of ?? null) : null;
}

/** The last analysis broke off: there are no figures until the next edit. */
export function isBroken({ findings }: Holds): boolean {
  return findings.kind === "broken";
}

/** The version whose late verdicts are not there yet. */
export function dueOf({ findings }: Holds): Machine | null {
  return findings.kind === "judged" && findings.ran?.of !== findings.of ? findings.of : null;
}

/** New figures of the same rows, a moment before they are judged: the verdicts of the version before stand till then. */
export function withFigures(findings: Findings, { modes, wires, parts }: ShownFigures): Findings {
  return findings.kind === "judged" ? { ...findings, shown: { ...findings.shown, modes, wires, parts } } : findings;
}

/** A new analysis; null when it broke off. What was said late of the version before stands until the new one has been run through. */
export function withAnalysis(findings: Findings, quick: Analysis | null, of: Machine): Findings {
  if (!quick) return { kind: "broken", of };
  const { ran, logged } = findings.kind === "judged" ? findings : NOTHING_YET;
  return { kind: "judged", of, quick, shown: withLate(quick, [...(ran?.late.verdicts ?? []), ...logged], of), ran, logged };
}

/**
 * What came late of a version; what belongs to an older one than was analysed is dropped. Null when it broke off: without the
 * late rules nothing may look clear, so that is a broken analysis.
 */
export function withLateOf(findings: Findings, late: Late | null, of: Machine): Findings {
  if (findings.kind !== "judged" || findings.of !== of) return findings;
  if (!late) return { kind: "broken", of };
  return { ...findings, shown: withLate(findings.quick, [...late.verdicts, ...findings.logged], of), ran: { of, late } };
}

/** What the rules say of what was read at the machine; of an older version than was analysed it is dropped. */
export function withLogged(findings: Findings, logged: readonly Verdict[], of: Machine): Findings {
  if (findings.kind !== "judged" || findings.of !== of) return findings;
  return { ...findings, logged, shown: withLate(findings.quick, [...(findings.ran?.late.verdicts ?? []), ...logged], of) };
}
