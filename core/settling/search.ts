import { wayThere } from "../figures/drop";
import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { railOrigin } from "../machine/tree";
import { sizeEverything } from "../sizing/all";
import { changesOf } from "../sizing/plan";
import { isSizing } from "../sizing/touches";
import { OBJECTIVES, type Objective } from "../sizing/weigh";
import { causesOf, membersOf } from "../verdicts/causes";
import { burdenOf, effectOf, isGrave, mayBeOffered } from "../verdicts/effect";
import { RULE_OF } from "../verdicts/rules";
import type { Remedy, Verdict } from "../verdicts/types";
import { isBuildable } from "./buildable";
import { compounds } from "./compounds";
import { firstCures } from "./first-cures";
import { tryRemedy } from "./offers";
import { placeOf } from "./places";
import { rowsIn } from "./rows";
import { type Standing, Trials } from "./trial";
import { massG, priceOf } from "./weight";

/** What settling makes as small as it can: how many decisions, or what the wires and fuses weigh or cost. */
export const AIMS = ["fewest", ...OBJECTIVES] as const;
/** One of them. */
export type Aim = (typeof AIMS)[number];

/** One change of many: what it is called, where it is made, and the command that makes it. */
export interface Step {
  label: string;
  place: string;
  /** The rule it was taken for; empty where sizing chose it. */
  rule: string;
  /** The same words in several places are one decision. */
  alike: boolean;
  command: Command;
  /** How much less was open after it, as a burden. */
  gain: number;
  /** What sizing chose: of which wire or fuse, behind which source. */
  sizes?: { id: string; name: string; behind: string; before: string; after: string };
}

/** Turns of leaving out sizes that bring something. */
const TURNS = 6;

/** Rounds of looking at what is left. */
const ROUNDS = 4;

/** A search for the fewest, lightest or cheapest changes that settle a plan. */
export class Search {
  readonly trials = new Trials();
  steps: Step[] = [];
  now: Machine;
  /** Commands that turned out to bring something that only the whole shows. */
  private readonly banned = new Set<string>();

  constructor(
    readonly start: Machine,
    readonly aim: Aim,
  ) {
    this.now = start;
  }

  /** Open Stops and Fixes as the machine stands, the gravest causes first. */
  open(whole: boolean): Verdict[] {
    const said = whole ? this.trials.whole(this.now) : this.trials.at(this.now).swift;
    return causesOf(this.now, said).flatMap(membersOf).filter(isGrave);
  }

  private cost(machine: Machine): number {
    return this.aim === "cost" ? priceOf(machine) : this.aim === "mass" ? massG(machine) : 0;
  }

  /**
   * The whole search: first what is built wrong and no size can settle, then sizes, then what is left of both, and last what
   * only late rules see. What turns out to bring something is taken back, and another way is looked for.
   */
  *through<T>(tell: (done: number, doing: string) => T): Generator<T> {
    let before = Number.POSITIVE_INFINITY;
    for (let round = 0; round < ROUNDS; round++) {
      const burden = burdenOf(this.open(false));
      if ((burden === 0 && (round > 0 || unsizedIn(this.now).length === 0)) || burden >= before) break;
      before = burden;
      if (round === 0) for (const verdict of this.cureFirst()) yield tell(1, verdict.headline);
      const built = (verdict: Verdict) => (canBeSized(verdict) ? [] : verdict.remedies);
      for (const verdict of this.cure(round === 0 ? built : ({ remedies }) => remedies)) yield tell(1 + round, verdict.headline);
      for (const { done, of } of this.size(round > 0)) yield tell(2 + round, `sizes, ${done} of ${of}`);
    }
    for (const verdict of this.cureLate()) yield tell(6, verdict.headline);
    for (let turn = 0; turn < ROUNDS; turn++) {
      yield tell(7, "looking at the whole");
      const [brought] = this.brought();
      if (!brought || !this.takeBack(brought)) return;
      for (const verdict of this.cure(({ remedies }) => remedies)) yield tell(7, verdict.headline);
    }
  }

  /** What a change would do; null where it may not be taken: it makes a Stop or a Fix, or nothing better. */
  private tried(command: Command, before: Standing, mustSettle: Verdict | null): { machine: Machine; burden: number } | null {
    const machine = this.trials.after(before.machine, command);
    if (!machine || this.banned.has(JSON.stringify(command))) return null;
    const after = this.trials.at(machine);
    if (!isBuildable(before.machine, after)) return null;
    // Most that will not do is seen without walking its shorts.
    const quickly = effectOf(before.quick, after.quick);
    const isQuick = mustSettle !== null && before.quick.some(({ id }) => id === mustSettle.id);
    if (quickly.brings.some(isGrave) || (isQuick && !quickly.settles.some(({ id }) => id === mustSettle.id))) return null;
    const { settles, brings } = effectOf(before.swift, after.swift);
    if (brings.some(isGrave) || (mustSettle && !settles.some(({ id }) => id === mustSettle.id))) return null;
    return mayBeOffered(before.swift, after.swift, mustSettle ?? { severity: "fix" }) ? { machine, burden: burdenOf(after.swift) } : null;
  }

  /**
   * Of the remedies of a verdict the best that settles it and brings neither Stop nor Fix: the one that leaves least open, or
   * the lightest or cheapest of them.
   */
  private bestOf(verdict: Verdict, remedies: readonly Remedy[]): { step: Step; machine: Machine } | null {
    const [first, last] = [remedies.filter(({ last }) => !last), remedies.filter(({ last }) => last)];
    return this.bestAmong(verdict, first) ?? this.bestAmong(verdict, last);
  }

  private bestAmong(verdict: Verdict, remedies: readonly Remedy[]): { step: Step; machine: Machine } | null {
    const before = this.trials.at(this.now);
    let best: { step: Step; machine: Machine; burden: number; cost: number } | null = null;
    // To say that something is so already changes nothing that is built: it is an answer, and stands apart.
    for (const { label, command, way } of remedies) {
      const found = way === "fact" ? null : this.tried(command, before, verdict);
      if (!found) continue;
      const step = {
        label,
        command,
        place: placeOf(before.figures, verdict),
        rule: verdict.rule,
        alike: true,
        gain: burdenOf(before.swift) - found.burden,
      };
      const cost = this.cost(found.machine);
      const lighter = best !== null && (cost < best.cost || (cost === best.cost && found.burden < best.burden));
      if (!best || (this.aim === "fewest" ? found.burden < best.burden : lighter)) best = { ...found, step, cost };
    }
    return best ?? this.together(verdict, remedies);
  }

  /** Settles by what costs least before metal is cut: of each verdict's first cures the first that settles it and brings nothing. */
  *cureFirst(): Generator<Verdict> {
    const seen = new Set<string>();
    const useless = new Set<string>();
    for (;;) {
      const verdict = this.open(false).find(({ id }) => !seen.has(id));
      if (!verdict) return;
      seen.add(verdict.id);
      const before = this.trials.at(this.now);
      for (const { label, command } of firstCures(before.figures, verdict)) {
        const key = `${verdict.rule} ${JSON.stringify(command)}`;
        if (useless.has(key)) continue;
        yield verdict;
        const found = this.tried(command, before, verdict);
        if (!found) {
          useless.add(key);
          continue;
        }
        const gain = burdenOf(before.swift) - found.burden;
        // Its words name the part where it is made.
        this.take({ label, command, place: "", rule: verdict.rule, alike: false, gain }, found.machine);
        break;
      }
    }
  }

  /** A remedy with what cures in turn what it brings, as one step. */
  private together(verdict: Verdict, remedies: readonly Remedy[]): { step: Step; machine: Machine } | null {
    const before = this.trials.at(this.now);
    for (const { label, command } of compounds(
      this.trials,
      this.now,
      verdict,
      remedies.filter(({ way }) => way !== "fact"),
    )) {
      const found = this.tried(command, before, verdict);
      if (!found) continue;
      const gain = burdenOf(before.swift) - found.burden;
      return {
        step: { label, command, place: placeOf(before.figures, verdict), rule: verdict.rule, alike: false, gain },
        machine: found.machine,
      };
    }
    return null;
  }

  take(step: Step, machine: Machine): void {
    this.steps.push(step);
    this.now = machine;
  }

  /** Cures what rules offer a change of the plan for, one after the other. */
  *cure(remedies: (verdict: Verdict) => readonly Remedy[]): Generator<Verdict> {
    const seen = new Set<string>();
    for (;;) {
      const verdict = this.open(false).find(({ id }) => !seen.has(id));
      if (!verdict) return;
      seen.add(verdict.id);
      const offered = remedies(verdict);
      if (offered.length === 0) continue;
      yield verdict;
      const found = this.bestOf(verdict, offered);
      if (found) this.take(found.step, found.machine);
    }
  }

  /**
   * Sizes what sizes can settle, and takes what makes things better and brings no Stop and no Fix: all of it, or of the wires
   * behind one source. For the fewest changes only what a verdict blames is touched, unless that was not enough.
   */
  *size(all: boolean): Generator<{ done: number; of: number }> {
    const before = this.trials.at(this.now);
    const blamed = this.aim === "fewest" && !all ? [...blamedWires(before, this.open(false)), ...unsizedIn(this.now)] : null;
    if (blamed?.length === 0) return;
    const objective: Objective = this.aim === "cost" ? "cost" : "mass";
    const options = { objective, ...(this.aim === "fewest" ? { keep: true } : {}), ...(blamed ? { only: blamed } : {}) };
    const sized = yield* sizeEverything(this.now, options);
    const steps = changesOf(before.figures, sized.figures).map(({ command, id, name, before: was, after: is }): Step => {
      const sizes = { id, name, behind: behind(before, id), before: was, after: is };
      return { label: is, place: name, rule: "", alike: false, command, gain: 0, sizes };
    });
    if (this.takeSizes(steps)) return;
    for (const row of rowsIn(steps)) this.takeSizes(row);
  }

  /**
   * Takes sizes together, as many as bring no Stop and no Fix: what the quick rules refuse of them is found by halves, and what
   * the walk of shorts refuses then is left out by what its verdicts blame.
   */
  private takeSizes(all: readonly Step[]): boolean {
    const start = this.now;
    const before = this.trials.at(start);
    let steps = this.quietOf(start, all).taken;
    for (let turn = 0; turn < TURNS && steps.length > 0; turn++) {
      const machine = played(this.trials, start, steps);
      if (!machine) return false;
      const brought = effectOf(before.swift, this.trials.at(machine).swift).brings.filter(isGrave);
      if (brought.length === 0) return this.keepSizes(steps, machine);
      const blamed = blamedSteps(before, steps, brought);
      if (blamed.size === 0) return false;
      steps = steps.filter((step) => !blamed.has(step));
    }
    return false;
  }

  /** Of sizes those that, one after the other, bring nothing the quick rules see; halves are tried before single ones. */
  private quietOf(machine: Machine, steps: readonly Step[]): { machine: Machine; taken: Step[] } {
    const next = played(this.trials, machine, steps);
    const quiet = next && !effectOf(this.trials.at(machine).quick, this.trials.at(next).quick).brings.some(isGrave);
    if (quiet) return { machine: next, taken: [...steps] };
    if (steps.length <= 1) return { machine, taken: [] };
    const middle = Math.ceil(steps.length / 2);
    const first = this.quietOf(machine, steps.slice(0, middle));
    const second = this.quietOf(first.machine, steps.slice(middle));
    return { machine: second.machine, taken: [...first.taken, ...second.taken] };
  }

  private keepSizes(steps: readonly Step[], machine: Machine): boolean {
    const [before, after] = [this.trials.at(this.now).swift, this.trials.at(machine).swift];
    const sized = unsizedIn(machine).length < unsizedIn(this.now).length;
    const less = burdenOf(after) < burdenOf(before) || (sized && burdenOf(after.filter(isGrave)) <= burdenOf(before.filter(isGrave)));
    const lighter = this.aim !== "fewest" && burdenOf(after) <= burdenOf(before) && this.cost(machine) < this.cost(this.now);
    if (!(less || lighter)) return false;
    const gain = (burdenOf(before) - burdenOf(after)) / steps.length;
    this.steps.push(...steps.map((step) => ({ ...step, gain })));
    this.now = machine;
    return true;
  }

  /** Late rules see more: what they find is cured like the rest, each trial judged in full. */
  *cureLate(): Generator<Verdict> {
    const { swift } = this.trials.at(this.now);
    for (const verdict of this.open(true).filter(({ id }) => !swift.some((each) => each.id === id))) {
      yield verdict;
      const before = this.trials.at(this.now);
      const changes = verdict.remedies.filter(({ way }) => way !== "fact");
      const offers = changes.flatMap((remedy) => tryRemedy(this.trials, this.now, verdict, remedy) ?? []);
      const offer = offers.find(({ brings }) => !brings.some(({ severity }) => severity === "stop" || severity === "fix"));
      const machine = offer && this.trials.after(this.now, offer.command);
      if (!offer || !machine) continue;
      const gain = burdenOf(before.whole) - burdenOf(this.trials.whole(machine));
      const { label, command } = offer;
      this.take({ label, command, place: placeOf(before.figures, verdict), rule: verdict.rule, alike: true, gain }, machine);
    }
  }

  /** Stops and Fixes of the whole that were not there at the start. */
  brought(): readonly Verdict[] {
    return effectOf(this.trials.whole(this.start), this.trials.whole(this.now)).brings.filter(isGrave);
  }

  /** Takes a decision back that brought something only the whole shows, and never takes it again; false where none is to blame. */
  takeBack({ id }: Verdict): boolean {
    // Mostly it is a size, and one of few.
    const rows = rowsIn(this.steps).sort(
      (a, b) => Number(b[0].sizes !== undefined) - Number(a[0].sizes !== undefined) || a.length - b.length,
    );
    // One is to blame, or several together: then they go one after the other until it is gone.
    for (const blamed of [...rows.map((row) => [row]), ...rows.map((_, i) => rows.slice(0, i + 1))]) {
      const gone = blamed.flat();
      const rest = this.steps.filter((step) => !gone.includes(step));
      const machine = played(this.trials, this.start, rest);
      if (!machine || this.trials.whole(machine).some((verdict) => verdict.id === id && isGrave(verdict))) continue;
      for (const { command } of gone) this.banned.add(JSON.stringify(command));
      this.steps = rest;
      this.now = machine;
      return true;
    }
    return false;
  }
}

/** All steps on a machine; null where one of them no longer goes. */
export function played(trials: Trials, machine: Machine, steps: readonly Pick<Step, "command">[]): Machine | null {
  const commands = steps.map(({ command }) => command);
  return commands.length === 0 ? machine : trials.after(machine, { type: "batch", label: "", commands });
}

/** Sizes that verdicts lie at: of the conductor or part they name, else of those on the way there. */
function blamedSteps({ figures }: Standing, steps: readonly Step[], brought: readonly Verdict[]): ReadonlySet<Step> {
  const blamed = new Set<Step>();
  for (const { subject, cause, also = [] } of brought) {
    const places = new Set([...(cause ? [cause] : []), subject.id, ...also]);
    const ends = ({ sizes }: Step) => {
      const wire = figures.wireOf.get(sizes?.id ?? "");
      const back = figures.returnsOf.get(sizes?.id ?? "")?.map(({ id }) => id) ?? [];
      return [sizes?.id ?? "", ...back, ...(wire ? [wire.to.part] : [])];
    };
    const there = steps.filter((step) => ends(step).some((id) => places.has(id)));
    const way = new Set([...places].flatMap((id) => (figures.partOf.has(id) ? wayThere(figures, id).map((wire) => wire.id) : [])));
    const found = there.length > 0 ? there : steps.filter((step) => ends(step).some((id) => way.has(id)));
    for (const step of found) blamed.add(step);
  }
  return blamed;
}

/** Wires that nobody has given a size yet. */
function unsizedIn({ wires }: Machine): string[] {
  return wires.flatMap(({ id, role, gauge, board }) =>
    gauge === undefined && board === undefined && role !== "signal" && role !== "bond" ? [id] : [],
  );
}

/** Conductors that open verdicts blame, and those on the way to the parts they speak of, where a size can settle them. */
function blamedWires({ figures }: Standing, open: readonly Verdict[]): string[] {
  const blamed = new Set<string>();
  for (const { rule, subject, cause, also = [] } of open) {
    const isSized = RULE_OF.get(rule)?.sized;
    for (const id of [...(cause ? [cause] : []), ...(isSized ? [subject.id, ...also] : [])]) {
      const wire = figures.wireOf.get(id);
      if (wire) blamed.add(wire.id);
      else if (isSized && figures.partOf.has(id)) for (const each of wayThere(figures, id)) blamed.add(each.id);
      const feed = figures.ledger.rowOf.get(id)?.feed;
      if (feed && figures.partOf.get(id)?.kind === "fuse") blamed.add(feed.id);
    }
  }
  return [...blamed];
}

/** Whether a size can settle a verdict: by its rule, or by one of its remedies. */
function canBeSized({ rule, remedies }: Verdict): boolean {
  return (RULE_OF.get(rule)?.sized ?? false) || remedies.some(({ command }) => isSizing(command));
}

/** The source behind which a wire or fuse part lies, by name. */
function behind({ figures }: Standing, id: string): string {
  const wire = figures.wireOf.get(id);
  const end = wire ? (wire.role === "return" ? wire.from.part : wire.to.part) : id;
  return figures.partOf.get(railOrigin(figures.ledger, end) ?? "")?.name ?? "the source";
}
