import type { Decision, DecisionKind, Machine } from "../machine/schema";
import { severityRank } from "./order";
import type { Verdict } from "./types";

/** A figure that moved by less than this is the same, as a share: it is printed to three digits. */
const SAME = 0.005;

/** How far a figure is beyond its limit, as a factor of it, whichever side is the wrong one; null where nothing is compared. */
function beyond(value: number | undefined, limit: number | undefined): number | null {
  if (value === undefined) return null;
  if (limit === undefined || limit === 0) return Math.abs(value);
  const ratio = Math.abs(value / limit);
  return ratio >= 1 ? ratio : 1 / Math.max(ratio, 1e-9);
}

/** Whether a verdict is worse than it was when it was decided upon: graver, further from its limit, or at more places. */
export function worseThan(decision: Decision, verdict: Verdict): boolean {
  if (severityRank(verdict.severity) < severityRank(decision.severity)) return true;
  if ((verdict.also?.length ?? 0) > decision.places) return true;
  const [was, is] = [beyond(decision.value, decision.limit), beyond(verdict.value, verdict.limit)];
  if (was === null || is === null) return was !== is;
  // Without a limit nobody knows which way is worse.
  if (verdict.limit === undefined) return Math.abs(is - was) > SAME * Math.max(was, 1e-9);
  return is > was * (1 + SAME) || crossed(decision, verdict);
}

/** The figure stands on the other side of its limit now. */
function crossed({ value, limit }: Decision, verdict: Verdict): boolean {
  if (value === undefined || limit === undefined || verdict.value === undefined || verdict.limit === undefined) return false;
  return (
    Math.sign(value - limit) !== Math.sign(verdict.value - verdict.limit) &&
    Math.abs(verdict.value - verdict.limit) > SAME * Math.abs(limit)
  );
}

/** Verdicts with what was decided of them; a decision on one that got worse no longer counts. */
export function withDecisions(machine: Pick<Machine, "decisions">, verdicts: readonly Verdict[]): readonly Verdict[] {
  if (!machine.decisions) return verdicts;
  const by = new Map(machine.decisions.map((decision) => [decision.id, decision]));
  return verdicts.map((verdict) => {
    const decision = by.get(verdict.id);
    return decision && !worseThan(decision, verdict) ? { ...verdict, decided: decision } : verdict;
  });
}

/** Verdicts that nobody has decided upon, and the others. */
export function openAndDecided(verdicts: readonly Verdict[]): { open: Verdict[]; decided: Verdict[] } {
  return { open: verdicts.filter(({ decided }) => !decided), decided: verdicts.filter(({ decided }) => decided) };
}

/** The decision to leave a verdict as it is, with what it says today. */
export function decisionOn(verdict: Verdict, kind: DecisionKind, reason: string, at: Date): Decision {
  const { id, severity, headline, value, limit, unit, also } = verdict;
  return {
    id,
    kind,
    reason: reason.trim(),
    at: at.toISOString(),
    severity,
    headline: headline.slice(0, 400),
    ...(value === undefined || !Number.isFinite(value) ? {} : { value }),
    ...(limit === undefined || !Number.isFinite(limit) ? {} : { limit }),
    ...(unit === undefined ? {} : { unit }),
    places: also?.length ?? 0,
  };
}
