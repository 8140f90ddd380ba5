import { withLate } from "@/core/analysis/fully";
import type { Analysis } from "@/core/analysis/types";
import type { Unasked } from "@/core/analysis/unasked";
import type { ShownFigures } from "@/core/figures/types";
import type { Machine } from "@/core/machine/schema";
import type { Late } from "@/core/verdicts/late";
import type { Verdict } from "@/core/verdicts/types";

/** Run times and the verdicts that hang on them, and the version of the machine they are of. */
interface RunThrough {
  of: Machine;
  late: Late;
}

/** What need not be asked, and the version of the machine for which that was found. */
interface Weighed {
  of: Machine;
  unasked: Unasked | null;
}

/**
 * What is known of the open machine, and of which version: nothing yet, an analysis (which trails the machine by one answer)
 * with what comes late (which trails by another), or that the last analysis broke off.
 */
export type Findings =
  | { kind: "none" }
  | ({ kind: "judged"; of: Machine; quick: Analysis; shown: Analysis } & Beside)
  | { kind: "broken"; of: Machine };

/** What is known beside the quick analysis, each of a version of its own. */
interface Beside {
  ran: RunThrough | null;
  weighed: Weighed | null;
  logged: readonly Verdict[];
}

const NOTHING_YET: Beside = { ran: null, weighed: null, logged: [] };

/** A quick analysis with everything else that is known. */
function shownOf(quick: Analysis, { ran, weighed, logged }: Beside, of: Machine): Analysis {
  return withLate(quick, [...(ran?.late.verdicts ?? []), ...logged], of, weighed?.unasked, weighed?.of === of);
}

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
  const { ran, weighed, logged } = findings.kind === "judged" ? findings : NOTHING_YET;
  const beside = { ran, weighed, logged };
  return { kind: "judged", of, quick, shown: shownOf(quick, beside, of), ...beside };
}

/**
 * What came late of a version; what belongs to an older one than was analysed is dropped. Null when it broke off: without the
 * late rules nothing may look clear, so that is a broken analysis.
 */
export function withLateOf(findings: Findings, late: Late | null, of: Machine): Findings {
  if (findings.kind !== "judged" || findings.of !== of) return findings;
  if (!late) return { kind: "broken", of };
  return beside(findings, { ran: { of, late } });
}

/** What need not be asked of a version, with its late verdicts; of an older version than was analysed it is dropped. */
export function withUnasked(findings: Findings, unasked: Unasked | null, of: Machine): Findings {
  if (findings.kind !== "judged" || findings.of !== of) return findings;
  return beside(findings, { weighed: { of, unasked } });
}

/** What the rules say of what was read at the machine; of an older version than was analysed it is dropped. */
export function withLogged(findings: Findings, logged: readonly Verdict[], of: Machine): Findings {
  if (findings.kind !== "judged" || findings.of !== of) return findings;
  return beside(findings, { logged });
}

function beside(findings: Extract<Findings, { kind: "judged" }>, more: Partial<Beside>): Findings {
  const now = { ...findings, ...more };
  return { ...now, shown: shownOf(now.quick, now, now.of) };
}

/** What of the shown machine need not be asked; null: nothing, or it is not known yet. */
export function unaskedIn({ findings }: Holds): Unasked | null {
  return findings.kind === "judged" && findings.weighed?.of === findings.of ? findings.weighed.unasked : null;
}
