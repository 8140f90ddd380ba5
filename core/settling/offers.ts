import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { capital } from "../quantity/format";
import { sizedAtOnce } from "../sizing/all";
import { changesOf } from "../sizing/plan";
import { unitsOf } from "../sizing/units";
import { type Cause, membersOf } from "../verdicts/causes";
import { burdenOf, effectOf, isGrave, mayBeOffered } from "../verdicts/effect";
import { severityRank } from "../verdicts/order";
import { RULE_OF } from "../verdicts/rules";
import { countWord } from "../verdicts/together";
import type { Remedy, Severity, Verdict } from "../verdicts/types";
import { isBuildable } from "./buildable";
import { compounds } from "./compounds";
import { firstCures } from "./first-cures";
import { lower, placeOf } from "./places";
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
  if (!next || !isBuildable(machine, trials.at(next))) return null;
  // What was read at the machine stands in its log: of that a trial sees only whether anything else gets worse.
  if (RULE_OF.get(verdict.rule)?.reads === "log") {
    const { settles, brings } = effectOf(trials.whole(machine), trials.whole(next));
    if (brings.some(isGrave)) return null;
    return { label, command, settles: [named(verdict), ...settles.map(named)], brings: brings.map(named), massG: 0 };
  }
  const swift = trials.at(machine).swift;
  // What only late rules see needs them; of what the others see most is refused without.
  const isLate = !swift.some(({ id }) => id === verdict.id);
  if (!isLate && (!settled(verdict, trials.at(next).swift) || !mayBeOffered(swift, trials.at(next).swift, verdict))) return null;
  const [before, after] = [trials.whole(machine), trials.whole(next)];
  if (!settled(verdict, after) || !mayBeOffered(before, after, verdict)) return null;
  const { settles, brings } = effectOf(before, after);
  return { label, command, settles: settles.map(named), brings: brings.map(named), massG: massG(next) - massG(machine) };
}

/** Places a verdict names: where the trouble lies, its subject, and what it also speaks of. */
const placesOf = ({ cause, subject, also = [] }: Verdict) => [...(cause ? [cause] : []), subject.id, ...also];

/** Sizing of the feeds at which verdicts lie, as one remedy: gauge, fuse and ends that go together. */
function sizeThem(trials: Trials, machine: Machine, verdicts: readonly Verdict[]): Remedy[] {
  const { figures } = trials.at(machine);
  const units = unitsOf(figures);
  const leads = new Set<string>();
  for (const verdict of verdicts) {
    // A wire without a size is asked about, and can be given one.
    if (!RULE_OF.get(verdict.rule)?.sized && !/^missing-figure:size/.test(verdict.kin ?? "")) continue;
    const unit = placesOf(verdict).flatMap(
      (place) => units.find(({ lead, wires }) => wires.some(({ id }) => id === place) || lead.to.part === place) ?? [],
    )[0];
    if (unit && !unit.lead.pinned) leads.add(unit.lead.id);
  }
  if (leads.size === 0) return [];
  const sized = sizedAtOnce(machine, { objective: "mass", only: [...leads], keep: true });
  const changes = changesOf(figures, sized.figures);
  const [first] = changes;
  if (!first) return [];
  const what = figures.wireOf.get(first.id)?.role === "return" ? "wire" : "feed";
  const label = changes.length === 1 ? `Size this ${what}: ${first.after}` : `Size the ${countWord(changes.length)} ${what}s together`;
  return [{ label, command: { type: "batch", label, commands: changes.map(({ command }) => command) } }];
}

/** How much lighter an offer makes what is open. */
const gainOf = ({ settles, brings }: Offer) => burdenOf(settles) - burdenOf(brings);

/** Most changes that are offered for one cause. */
const MOST_OFFERS = 4;

/**
 * What can be done about a cause as the machine stands: what cures all that is alike, then what cures its worst. Where that
 * only moves the trouble on (a fuse that wants a wire, which wants a plug) the feeds are sized as a whole instead.
 */
export function offersFor(trials: Trials, machine: Machine, cause: Cause): Offered {
  const { head, alike, remedies } = cause;
  const { figures } = trials.at(machine);
  const tried = (list: readonly Remedy[]) => list.flatMap((remedy) => tryRemedy(trials, machine, head, remedy) ?? []);
  const own = tried(
    alike.length === 0
      ? head.remedies
      : head.remedies.map((each) => ({ ...each, label: `${capital(placeOf(figures, head))}: ${lower(each.label)}` })),
  );
  const known = [...tried(firstCures(figures, head)), ...tried(remedies), ...own];
  const moves = ({ brings }: Offer) => brings.some(({ severity }) => severity === "stop" || severity === "fix");
  // Copper that leaves no more in order than a remedy does is no way out of anything.
  const better = (offer: Offer) => known.every((other) => gainOf(offer) > gainOf(other));
  const sized =
    known.every(moves) || (alike.length > 0 && remedies.length === 0)
      ? tried(sizeThem(trials, machine, [head, ...alike])).filter((offer) => !moves(offer) || better(offer))
      : [];
  const all = [...sized, ...known];
  // Where each remedy only moves the trouble on, the two that go together are one.
  if (all.every(moves))
    for (const remedy of compounds(trials, machine, head, head.remedies)) {
      const offer = tryRemedy(trials, machine, head, remedy);
      if (offer && (all.length === 0 || !moves(offer))) all.unshift(offer);
      if (offer && !moves(offer)) break;
    }
  const clean = all.filter((offer) => !moves(offer));
  const seen = new Set<string>();
  const offers = (clean.length > 0 ? clean : all).filter(({ command }) => {
    const key = JSON.stringify(command);
    return !seen.has(key) && seen.add(key) !== undefined;
  });
  const grave = membersOf(cause).find(isGrave);
  return { offers: offers.slice(0, MOST_OFFERS), needs: offers.length > 0 || !grave ? null : (grave.needs ?? null) };
}
