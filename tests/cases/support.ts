import type { Log } from "@/core/bringup/log";
import type { Machine } from "@/core/machine/schema";
import type { Severity } from "@/core/verdicts/types";

/**
 * A rule at one of its limits: a machine just short of it and one just over. `key` picks one of several things a rule says, by
 * what its verdict's id contains.
 */
export interface Case {
  rule: string;
  what: string;
  says: Severity;
  key?: string;
  under: () => Machine;
  over: () => Machine;
  /** What was read of them, for rules that read a log. */
  logs?: { under: Log; over: Log };
}

/** How far from its limit a case stands, share: what a formula is off by 5 % must show. */
const NEAR = 0.015;

/** A rule at a number: it speaks above it (or below it), 1.5 % away from it and no nearer. */
export function edge(
  rule: string,
  what: string,
  says: Severity,
  at: number,
  make: (value: number) => Machine,
  { key, below = false, near = NEAR }: { key?: string; below?: boolean; near?: number } = {},
): Case {
  const [inside, outside] = [at * (1 - near), at * (1 + near)];
  return {
    rule,
    what: `${what}, at ${at}`,
    says,
    ...(key === undefined ? {} : { key }),
    under: () => make(below ? outside : inside),
    over: () => make(below ? inside : outside),
  };
}

/** A rule that turns on a fact and not on a number. */
export function fact(rule: string, what: string, says: Severity, over: () => Machine, under: () => Machine, key?: string): Case {
  return { rule, what, says, over, under, ...(key === undefined ? {} : { key }) };
}

/** A rule that reads a log: one machine, with a log just short of the limit and one just over. */
export function withLog(
  rule: string,
  what: string,
  says: Severity,
  make: () => Machine,
  under: (machine: Machine) => Log,
  over: (machine: Machine) => Log,
): Case {
  return { rule, what, says, under: make, over: make, logs: { under: under(make()), over: over(make()) } };
}
