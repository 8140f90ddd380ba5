import { severityRank } from "./order";
import type { Severity, Verdict } from "./types";

/** What has to be settled before a plan is calm: a Stop or a Fix that nobody has decided upon. */
export function isGrave({ severity, decided }: Verdict): boolean {
  return !decided && (severity === "stop" || severity === "fix");
}

/** A graver verdict outweighs any number of lighter ones; what is asked weighs least. */
const WEIGHTS: Readonly<Record<Severity, number>> = { stop: 1e12, fix: 1e8, watch: 1e4, ask: 1 };

/**
 * How heavy open verdicts weigh together. Every change that is offered makes it less, whoever offers it: so no two of them
 * undo each other, and taking one after the other ends.
 */
export function burdenOf(verdicts: readonly Pick<Verdict, "severity" | "decided">[]): number {
  return verdicts.reduce((sum, { severity, decided }) => sum + (decided ? 0 : WEIGHTS[severity]), 0);
}

/** What a change does to what is said. */
export interface Effect {
  /** Verdicts that are gone or less grave. */
  settles: readonly Verdict[];
  /** Verdicts that are new or graver, as they are then. */
  brings: readonly Verdict[];
}

/** What became of verdicts. */
export function effectOf(before: readonly Verdict[], after: readonly Verdict[]): Effect {
  const was = new Map(before.map((verdict) => [verdict.id, verdict]));
  const is = new Map(after.map((verdict) => [verdict.id, verdict]));
  const graver = (a: Verdict | undefined, b: Verdict) => a === undefined || severityRank(b.severity) < severityRank(a.severity);
  return {
    settles: before.filter((verdict) => {
      const now = is.get(verdict.id);
      return now === undefined || severityRank(now.severity) > severityRank(verdict.severity);
    }),
    brings: after.filter((verdict) => graver(was.get(verdict.id), verdict)),
  };
}

/**
 * Whether a change may be offered for a verdict: it makes things better and brings no Stop. An answer to what is asked is no
 * change of the plan: what it brings is only seen by it, and it can be given once.
 */
export function mayBeOffered(before: readonly Verdict[], after: readonly Verdict[], { severity }: Pick<Verdict, "severity">): boolean {
  const stops = effectOf(before, after).brings.some((verdict) => verdict.severity === "stop" && !verdict.decided);
  return !stops && (severity === "ask" || burdenOf(after) < burdenOf(before));
}
