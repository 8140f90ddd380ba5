import type { Machine } from "../machine/schema";
import { effectOf, isGrave } from "../verdicts/effect";
import type { Remedy, Verdict } from "../verdicts/types";
import { lower, placeOf } from "./places";
import type { Trials } from "./trial";

/** Most Stops and Fixes a remedy may bring that another one cures. */
const MOST_BROUGHT = 2;

/**
 * Remedies that settle a verdict and bring something, each with one that may cure that in turn: a return and its size, a
 * larger fuse and the wire behind it. One action then, in place of a chain of them; whoever offers it tries it first.
 */
export function* compounds(trials: Trials, machine: Machine, verdict: Verdict, remedies: readonly Remedy[]): Generator<Remedy> {
  const before = trials.at(machine).quick;
  for (const { label, command } of remedies) {
    const first = trials.after(machine, command);
    if (!first) continue;
    const { settles, brings } = effectOf(before, trials.at(first).quick);
    const grave = brings.filter(isGrave);
    if (grave.length === 0 || grave.length > MOST_BROUGHT || !settles.some(({ id }) => id === verdict.id)) continue;
    for (const { second, at } of grave.flatMap((each) => each.remedies.map((remedy) => ({ second: remedy, at: each }))))
      yield {
        label: `${label}; ${secondly(trials, first, at, second.label)}`,
        command: { type: "batch", label, commands: [command, second.command] },
      };
  }
}

/** The second of two changes in words, with its place. */
function secondly(trials: Trials, machine: Machine, verdict: Verdict, label: string): string {
  return `${placeOf(trials.at(machine).figures, verdict)}: ${lower(label)}`;
}
