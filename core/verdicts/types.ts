import type { Command } from "../machine/commands";
import type { Decision } from "../machine/schema";

/** Stop: do not power. Fix: will trip, brown out, overheat or age. Watch: little left. Ask: a figure is missing and matters. */
export const SEVERITIES = ["stop", "fix", "watch", "ask"] as const;
/** How bad it is for the builder if nothing is changed. */
export type Severity = (typeof SEVERITIES)[number];
/** What stands at a row: the worst that is open, else that something was accepted there, else nothing. */
export type Mark = Severity | "accepted" | "clear";
/** Marks as they are shown. */
export const SEVERITY_WORDS: Readonly<Record<Mark, string>> = {
  stop: "Stop",
  fix: "Fix",
  watch: "Watch",
  ask: "Ask",
  accepted: "Accepted",
  clear: "Clear",
};

/** Steps that verdicts stand on, in working order. */
export const STEPS = ["loads", "sources", "feeds", "returns", "bring-up"] as const;
/** One of them. */
export type Step = (typeof STEPS)[number];

/** Whose row a verdict stands at. */
export interface Subject {
  kind: "part" | "wire" | "mode" | "machine";
  id: string;
}

/** A change that settles the verdict, applied in one action through the command machinery, so it can be undone. */
export interface Remedy {
  label: string;
  command: Command;
  /** Kind of cure: the same one can be given to every verdict of one kin; `fact` changes nothing that is built, it answers. */
  way?: "fuse" | "wire" | "fact";
  /** Taken only where nothing else settles it. */
  last?: boolean;
}

/** What a check concluded. `value` against `limit` in `unit`, where the rule compares numbers. */
export interface Verdict {
  /** Stable: rule and subject (and mode where it matters). */
  id: string;
  rule: string;
  severity: Severity;
  step: Step;
  subject: Subject;
  /** Other parts and wires it speaks of: their rows are not clear either. */
  also?: readonly string[];
  headline: string;
  detail: string;
  value?: number;
  limit?: number;
  unit?: string;
  /** Wire or part where the trouble lies, where that is not its subject: what else lies there has the same cause. Null: at no one place. */
  cause?: string | null;
  /** Verdicts of one kin are one thing said of several places. */
  kin?: string;
  /** What settles it that no click can give. */
  needs?: string;
  /** The builder accepted it or put it off, and it is no worse than it was then. */
  decided?: Decision;
  remedies: readonly Remedy[];
}
