import type { Command } from "../machine/commands";

/** Stop: do not power. Fix: will trip, brown out, overheat or age. Watch: little left. Ask: a figure is missing and matters. */
export const SEVERITIES = ["stop", "fix", "watch", "ask"] as const;
/** How bad it is for the builder if nothing is changed. */
export type Severity = (typeof SEVERITIES)[number];
/** Severities as they are shown. */
export const SEVERITY_WORDS: Readonly<Record<Severity | "clear", string>> = {
  stop: "Stop",
  fix: "Fix",
  watch: "Watch",
  ask: "Ask",
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
  remedies: readonly Remedy[];
}
