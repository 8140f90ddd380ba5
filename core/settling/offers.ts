import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { isFeed } from "../machine/terminals";
import { sizedAtOnce } from "../sizing/all";
import { changesOf } from "../sizing/plan";
import { unitsOf } from "../sizing/units";
import type { Cause } from "../verdicts/causes";
import { membersOf } from "../verdicts/causes";
import { effectOf, isGrave, mayBeOffered } from "../verdicts/effect";
import { severityRank } from "../verdicts/order";
import { RULE_OF } from "../verdicts/rules";
import type { Remedy, Severity, Verdict } from "../verdicts/types";
import type { Trials } from "./trial";
import { massG } from "./weight";

/** A verdict as an offer names it. */
export interface Named {
  id: string;
  severity: Severity;
  headline: string;
}

/** A change that was tried: what it settles, what it brings, what it weighs. */
export interface Offer {
  label: string;
  command: Command;
  settles: readonly Named[];
  brings: readonly Named[];
  /** Copper and fuse holders more, g. */
  massG: number;
}

/** What can be done about a cause: tried changes, the one that settles most first; else what is needed that no click can give. */
export interface Offered {
  offers: readonly Offer[];
  needs: string | null;
}

export const named = ({ id, severity, headline }: Verdict): Named => ({ id, severity, headline });

/** Whether a verdict is settled: gone, decided upon, or less grave. */
function settled(verdict: Verdict, after: readonly Verdict[]): boolean {
  const now = after.find(({ id }) => id === verdict.id);
  return !now || now.decided !== undefined || severityRank(now.severity) > severityRank(verdict.severity);
}

/** A remedy tried on a machine: null where it may not be offered, because it does not settle the verdict or makes other things worse. */
export function tryRemedy(trials: Trials, machine: Machine, verdict: Verdict, { label, command }: Remedy): Offer | null {
  const next = trials.after(machine, command);
  if (!next) return null;
  const swift = trials.at(machine).swift;
  // What only late rules see needs them; of what the others see most is refused without.
  const isLate = !swift.some(({ id }) => id === verdict.id);
  if (!isLate && (!settled(verdict, trials.at(next).swift) || !mayBeOffered(swift, trials.at(next).swift))) return null;
  const [before, after] = [trials.whole(machine), trials.whole(next)];
  if (!settled(verdict, after) || !mayBeOffered(before, after)) return null;
  const { settles, brings } = effectOf(before, after);
  return { label, command, settles: settles.map(named), brings: brings.map(named), massG: massG(next) - massG(machine) };
}

/** All that a rule offers, and a size for the conductor at which a verdict lies, where sizes can settle it. */
export function curesOf(trials: Trials, machine: Machine, verdict: Verdict): Remedy[] {
  return [...verdict.remedies, ...sizeIt(trials, machine, verdict)];
}

/** Sizing of the one feed a verdict lies at, as a remedy. */
function sizeIt(trials: Trials, machine: Machine, { rule, cause, subject, also = [] }: Verdict): Remedy[] {
  if (!RULE_OF.get(rule)?.sized) return [];
  const places = [...(cause ? [cause] : []), subject.id, ...also];
  const units = unitsOf(trials.at(machine).figures);
  const unit = places.flatMap(
    (place) => units.find(({ lead, wires }) => wires.some(({ id }) => id === place) || lead.to.part === place) ?? [],
  )[0];
  if (!unit || unit.lead.pinned) return [];
  const sized = sizedAtOnce(machine, { objective: "mass", only: [unit.lead.id], keep: true });
  const [change] = changesOf(trials.at(machine).figures, sized.figures);
  return change ? [{ label: `${isFeed(unit.lead) ? "Size this feed" : "Size this wire"}: ${change.after}`, command: change.command }] : [];
}

/** What can be done about a cause as the machine stands. */
export function offersFor(trials: Trials, machine: Machine, cause: Cause): Offered {
  const { head, remedies } = cause;
  const tried = [...remedies, ...curesOf(trials, machine, head)].flatMap((remedy) => tryRemedy(trials, machine, head, remedy) ?? []);
  const seen = new Set<string>();
  const offers = tried.filter(({ command }) => {
    const key = JSON.stringify(command);
    return !seen.has(key) && seen.add(key) !== undefined;
  });
  const grave = membersOf(cause).find(isGrave);
  return { offers, needs: offers.length > 0 || !grave ? null : (grave.needs ?? null) };
}
