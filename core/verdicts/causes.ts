import type { Command } from "../machine/commands";
import type { BuiltMachine } from "../machine/schema";
import { severityRank, worstFirst } from "./order";
import { togetherWords, wayWords } from "./together";
import type { Remedy, Severity, Verdict } from "./types";

/** Verdicts of one cause: what is said of it, of how many places, and what follows from it. */
export interface Cause {
  /** Stable: of its kin, or of the place where the trouble lies. */
  id: string;
  severity: Severity;
  /** One sentence for all of them. */
  headline: string;
  /** Its worst verdict, which speaks for it. */
  head: Verdict;
  /** What is said of other places in the same words. */
  alike: readonly Verdict[];
  /** What would not be there without it. */
  follows: readonly Verdict[];
  /** One action for all that are alike. */
  remedies: readonly Remedy[];
}

/** All verdicts of a cause, its head first. */
export function membersOf({ head, alike, follows }: Cause): Verdict[] {
  return [head, ...alike, ...follows];
}

/**
 * Verdicts by their causes, what matters most first: by consequence, then by how much hangs on it. Those that lie at one
 * conductor (a feed counts with its return) or at one part that a rule blames are of one cause; those of one kin are one
 * thing said of several places, and take along what else lies at these places.
 */
export function causesOf(machine: Pick<BuiltMachine, "wires">, verdicts: readonly Verdict[]): Cause[] {
  const leadOf = new Map(machine.wires.map(({ id, pair }) => [id, pair ?? id]));
  const placeOf = ({ cause, subject }: Verdict) => {
    if (cause === null) return undefined;
    if (cause !== undefined) return leadOf.get(cause) ?? cause;
    return subject.kind === "wire" ? leadOf.get(subject.id) : undefined;
  };
  // Where verdicts of a kin lie, the kin owns the place; of several kins the worst, which comes first.
  const kinAt = new Map<string, string>();
  for (const verdict of verdicts) {
    const place = placeOf(verdict);
    if (verdict.kin !== undefined && place !== undefined && !kinAt.has(place)) kinAt.set(place, verdict.kin);
  }
  const groups = new Map<string, Verdict[]>();
  for (const verdict of verdicts) {
    const place = placeOf(verdict);
    const key = verdict.kin ?? (place === undefined ? verdict.id : (kinAt.get(place) ?? place));
    const group = groups.get(key);
    if (group) group.push(verdict);
    else groups.set(key, [verdict]);
  }
  return [...groups]
    .map(([id, group]) => causeOf(id, group))
    .sort((a, b) => severityRank(a.severity) - severityRank(b.severity) || weightOf(b) - weightOf(a));
}

/** How much hangs on a cause. */
function weightOf({ alike, follows }: Cause): number {
  return alike.length + follows.length;
}

function causeOf(id: string, group: readonly Verdict[]): Cause {
  const sorted = worstFirst(group);
  const [worst] = sorted as [Verdict, ...Verdict[]];
  // A kin speaks for itself also where something that follows from it is as bad or worse.
  const head = sorted.find(({ kin }) => kin === id) ?? worst;
  const alike = sorted.filter((each) => each !== head && each.kin !== undefined && each.kin === head.kin);
  const follows = sorted.filter((each) => each !== head && !alike.includes(each));
  const alikes = [head, ...alike];
  return {
    id,
    severity: worst.severity,
    headline: alike.length === 0 ? head.headline : (togetherWords(head, alikes.length) ?? `${head.headline} (and ${alike.length} more)`),
    head,
    alike,
    follows,
    remedies: alike.length === 0 ? [] : remediesForAll(alikes),
  };
}

/** What can be done for each of several verdicts in the same way, as one action. */
function remediesForAll(alikes: readonly Verdict[]): Remedy[] {
  return (["fuse", "wire", "fact"] as const).flatMap((way): Remedy[] => {
    const each = alikes.map(({ remedies }) => remedies.find((remedy) => remedy.way === way));
    const commands = each.flatMap((remedy): Command[] => (remedy ? [remedy.command] : []));
    if (commands.length < alikes.length) return [];
    const label = wayWords(
      way,
      each.flatMap((remedy) => remedy?.label ?? []),
    );
    return [{ label, way, command: { type: "batch", label, commands } }];
  });
}
