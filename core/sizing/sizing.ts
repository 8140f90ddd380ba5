import { analyse } from "../analysis/analyse";
import { faultWalk, SLOW_S } from "../faults/walk";
import { capBefore } from "../figures/before-fuse";
import type { Figures } from "../figures/figures";
import { fuseOpening } from "../fuses/opening";
import { applyCommand } from "../machine/apply";
import type { Command, FeedChanges } from "../machine/commands";
import { goesOn } from "../machine/lasting";
import type { FuseRef, Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { ratingsOf } from "../reference/fuses";
import { type Gauge, gaugeById, usualSizes } from "../reference/gauges";
import { ladderSteps, thickerBy, usualAreaMm2 } from "../reference/practice";
import { burdenOf, effectOf, isGrave } from "../verdicts/effect";
import { lightReturn } from "../verdicts/returns/light-return";
import { evaluateLateSized, evaluateShorts } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";
import { boundsOf, lastingFuseA, overLadder } from "./bounds";
import { type Choice, isRefused, localRefusals } from "./judge";
import { fuseFor, plugsFor } from "./ladder";
import { type Needs, needsOf } from "./needs";
import { fusesBehind, partFuse } from "./part-fuse";
import { lacking, sharedDrop } from "./share-drop";
import { isSizing } from "./touches";
import { fuseParts, sameChoice, sameFuse, stockOf, type Unit, unitsOf } from "./units";
import { CHANGED_PLUG, CHANGED_WIRE, type Objective, weigh } from "./weigh";

/** What sizing aims at, and what it may touch. */
export interface SizeOptions {
  objective: Objective;
  /** Wires to size, by id; absent: all. */
  only?: readonly string[];
  /** What nothing speaks against stays as it is, also where something lighter would do. */
  keep?: boolean;
}

/** Tried one after the other until no mode collapses. */
const BRING_UP = ["12 AWG", "6 AWG", "1/0 AWG"];
/** Lasting current from which two conductors are landed in place of one that is too stiff, A: what 2/0 AWG carries behind its usual fuse. */
const STIFF_A = 190;
/** A machine as it was looked at: its figures, what its conductors need, and what the rules say, shorts included. */
interface Looked {
  readonly figures: Figures;
  readonly needs: Needs;
  readonly said: readonly Verdict[];
}

function look(machine: Machine, cache: TopologyCache): Looked {
  const { figures, analysis } = analyse(machine, cache);
  const faults = faultWalk(figures);
  return { figures, needs: needsOf(figures, faults), said: [...analysis.verdicts, ...evaluateShorts(figures, faults)] };
}

/** What is being sized, with what was chosen so far, and the steps that change it. */
export class Sizing {
  figures: Figures;
  needs: Needs;
  /** Sizes that a verdict refused, by unit: never gone back to. */
  private readonly least = new Map<string, number>();
  private readonly cache: TopologyCache;
  /** What the rules said before anything was changed. */
  private readonly before: readonly Verdict[];
  /** Units as they were, by lead: what a verdict that came with a change is put back to. */
  private readonly was: ReadonlyMap<string, Unit>;
  private readonly frozen = new Set<string>();
  private readonly refusedFuses = new Set<string>();
  private readonly looked = new WeakMap<Machine, Looked>();
  /** What the rules say of it as it stands. */
  said: readonly Verdict[];

  private readonly first: Figures;
  private late: readonly Verdict[] | null = null;
  machine: Machine;

  constructor(
    readonly start: Machine,
    readonly options: SizeOptions,
    cache = new TopologyCache(),
  ) {
    this.machine = start;
    this.cache = cache;
    const looked = look(start, cache);
    this.looked.set(start, looked);
    this.figures = looked.figures;
    this.first = looked.figures;
    this.needs = looked.needs;
    this.before = looked.said;
    this.said = looked.said;
    this.was = new Map(unitsOf(looked.figures).map((unit) => [unit.lead.id, unit]));
  }

  /** Verdicts that the changes so far have brought, whatever rule they are of. */
  brought(verdicts: readonly Verdict[], late: readonly Verdict[] = []): Verdict[] {
    return effectOf([...this.before, ...late], verdicts).brings.filter(isGrave);
  }

  get burdenBefore(): number {
    return burdenOf([...this.before, ...this.lateBefore()].filter(isGrave));
  }

  /** What late rules that sizes can settle said before anything was changed. */
  lateBefore(): readonly Verdict[] {
    this.late ??= evaluateLateSized(this.first);
    return this.late;
  }

  /** Puts back what is to blame for a verdict that came with a change, and leaves it so; all of it where nobody knows what is. */
  putBack({ subject, cause, also = [] }: Verdict): boolean {
    const places = new Set([subject.id, ...(cause ? [cause] : []), ...also]);
    const changed = this.units.filter((unit) => {
      const old = this.was.get(unit.lead.id);
      return old && !sameChoice(old.lead, unit.lead);
    });
    const there = changed.filter(({ lead, wires }) => wires.some(({ id }) => places.has(id)) || places.has(lead.to.part));
    const onWay = changed.filter(({ lead }) => (this.needs.ways.get(lead.id) ?? []).some((id) => places.has(id)));
    const blamed = there.length > 0 ? there : onWay.length > 0 ? onWay : changed;
    this.takeAll(
      blamed.flatMap(({ lead }): Command[] => {
        const old = this.was.get(lead.id)?.lead;
        if (!old) return [];
        this.frozen.add(lead.id);
        const { gauge, parallel, fromEnd, toEnd } = old;
        return [
          { type: "setFeed", id: lead.id, changes: { gauge, parallel, fromEnd, toEnd } },
          ...(sameFuse(lead.fuse, old.fuse) ? [] : [{ type: "setFuse", wireId: lead.id, fuse: old.fuse ?? null } as const]),
        ];
      }),
    );
    return blamed.length > 0;
  }

  /**
   * A mode that collapses has no currents to size for: conductors thick enough that it does not come first. What a source cannot
   * give at all no conductor mends: then they stay as they were, for the modes that hold.
   */
  bringUp(): void {
    const before = this.machine;
    for (const id of BRING_UP) {
      if (!this.collapses) return;
      const thick = gaugeById(id);
      this.takeAll(
        this.units.flatMap((unit): Command[] => {
          const { id: leadId, gauge } = unit.lead;
          const sizes = this.sizesOf(unit);
          const size = sizes.find(({ areaMm2 }) => areaMm2 >= (thick?.areaMm2 ?? 0) * 0.999) ?? sizes.at(-1);
          return size && (gaugeById(gauge ?? "")?.areaMm2 ?? 0) < size.areaMm2
            ? [{ type: "setFeed", id: leadId, changes: { gauge: size.id } }]
            : [];
        }),
      );
      this.settle();
    }
    if (!this.collapses || this.machine === before) return;
    this.machine = before;
    this.settle();
  }

  private get collapses(): boolean {
    // A start that collapses is no matter of copper: the driver, the source or the order of starts ends it.
    return this.figures.modes.some(
      ({ collapsed, collapsedLow }, m) => (collapsed || collapsedLow) && goesOn(this.machine.modes[m] ?? { lastsS: null }),
    );
  }

  take(command: Command): boolean {
    const result = applyCommand(this.machine, command);
    if (result.ok) this.machine = result.machine;
    return result.ok;
  }

  /** Takes a verdict's own remedy where that is a size of what may be sized; what it thickens is not made thinner again. */
  cure({ remedies }: Verdict): boolean {
    const { sized } = this;
    const before = new Map(this.machine.wires.map((wire) => [wire.id, wire]));
    const remedy = remedies.find(({ command }) => isSizing(command, sized));
    const kept = this.machine;
    if (!remedy || !this.take(remedy.command)) return false;
    const beyond = this.units.some((unit) => {
      const now = this.machine.wires.find(({ id }) => id === unit.lead.id)?.gauge;
      return now !== unit.lead.gauge && !this.sizesOf(unit).some(({ id }) => id === now);
    });
    if (beyond) {
      this.machine = kept;
      return false;
    }
    for (const unit of this.units) {
      const now = gaugeById(this.machine.wires.find(({ id }) => id === unit.lead.id)?.gauge ?? "");
      const was = gaugeById(before.get(unit.lead.id)?.gauge ?? "");
      if (now && was && now.areaMm2 > was.areaMm2) this.keep(unit, now);
    }
    return true;
  }

  /** Takes several as one edit, which is checked once; one by one where one of them is refused. */
  takeAll(commands: readonly Command[]): void {
    if (commands.length === 0 || this.take({ type: "batch", label: "Size", commands: [...commands] })) return;
    for (const command of commands) this.take(command);
  }

  /** Solves again as it stands, shorts included, unless it was before; what the rules of sizing say. */
  settle(): readonly Verdict[] {
    const looked = this.looked.get(this.machine) ?? look(this.machine, this.cache);
    this.looked.set(this.machine, looked);
    this.figures = looked.figures;
    this.needs = looked.needs;
    this.said = looked.said;
    return this.said;
  }

  /** What has been chosen and ruled out so far, as a text: where it comes again, everything after it would. */
  get state(): string {
    const sizes = this.machine.wires.map(({ id, gauge, parallel, fuse, fromEnd, toEnd }) => [id, gauge, parallel, fuse, fromEnd, toEnd]);
    const fuses = fuseParts(this.figures).map(({ id, fuse }) => [id, fuse]);
    return JSON.stringify([sizes, fuses, [...this.least], [...this.refusedFuses], [...this.frozen]]);
  }

  get units(): Unit[] {
    const { only } = this.options;
    return unitsOf(this.figures).filter(
      ({ lead, wires }) => !lead.pinned && !lead.board && !this.frozen.has(lead.id) && (!only || wires.some(({ id }) => only.includes(id))),
    );
  }

  /** Ids of what may change: conductors, and fuse parts whose feed is among them. */
  get sized(): ReadonlySet<string> {
    const ids = new Set(this.units.flatMap(({ wires }) => wires.map(({ id }) => id)));
    for (const part of fuseParts(this.figures)) if (ids.has(this.figures.ledger.rowOf.get(part.id)?.feed?.id ?? "")) ids.add(part.id);
    return ids;
  }

  /** Sizes a careful builder would take for a unit: none that a hand cannot crimp, none that its terminals do not take. */
  sizesOf(unit: Unit, capA = capBefore(this.figures, unit.lead)): readonly Gauge[] {
    const now = unit.lead.gauge === undefined ? undefined : gaugeById(unit.lead.gauge);
    const stock = stockOf(this.machine);
    const { leastMm2, mostMm2 } = boundsOf(this.needs, unit, capA);
    const old = this.was.get(unit.lead.id)?.lead;
    // Copper that is there is not made thinner to cure something: that would only move the trouble.
    const kept = this.options.keep && old?.gauge ? (gaugeById(old.gauge)?.areaMm2 ?? 0) * 0.999 : 0;
    const least = Math.max(this.least.get(unit.lead.id) ?? 0, leastMm2 * 0.999, kept);
    return usualSizes(now?.system ?? "awg").filter(
      (gauge) => stock.gauge(gauge.id) && gauge.areaMm2 >= least && (gauge.areaMm2 <= mostMm2 || gauge.id === old?.gauge),
    );
  }

  /** Nothing thinner than this for a unit from now on. */
  keep(unit: Unit, gauge: Gauge): void {
    this.least.set(unit.lead.id, Math.max(this.least.get(unit.lead.id) ?? 0, gauge.areaMm2));
  }

  /** Sizes up to and including this one are out for a unit. */
  refuse(unit: Unit, gauge: Gauge): void {
    this.least.set(unit.lead.id, Math.max(this.least.get(unit.lead.id) ?? 0, gauge.areaMm2 * 1.001));
  }

  /** The choice of least weight that nothing local speaks against; null where there is none. */
  best(unit: Unit, capA: number): Choice | null {
    const present = this.present(unit);
    const { atLeast, continuousA, peakA } = this.needs.of(unit);
    // Whose draw nobody knows is left alone, and never made lighter than it is: only what is unsafe at any draw is mended.
    if (atLeast && !(continuousA > 0) && !(peakA > 0) && !present) return null;
    const least = atLeast ? (present?.gauge.areaMm2 ?? 0) : 0;
    const asItWas = this.options.keep && sameChoice(this.was.get(unit.lead.id)?.lead ?? unit.lead, unit.lead);
    if ((asItWas || (atLeast && !(continuousA > 0))) && present && localRefusals(this.needs, unit, present, capA).length === 0)
      return present;
    // Sizes by the ladder first; where no terminal takes such a size, by what a short open run bears; else by the rules alone.
    const found =
      this.lightest(unit, capA, least, (choice) => overLadder(this.needs, unit, choice, capA, false)) ??
      this.lightest(unit, capA, least, (choice) => overLadder(this.needs, unit, choice, capA, true)) ??
      this.lightest(unit, capA, least, () => false);
    return found && present && this.isNear(unit, present, found, capA) ? present : found;
  }

  /** Reports whether a size that is there is one more than is needed and in order: nobody cuts a new wire for that. */
  private isNear(unit: Unit, present: Choice, found: Choice, capA: number): boolean {
    const steps = ladderSteps(found.gauge.areaMm2, present.gauge.areaMm2);
    return (
      steps === 1 &&
      present.parallel === found.parallel &&
      sameFuse(present.fuse, found.fuse) &&
      this.sizesOf(unit, capA).includes(present.gauge) &&
      localRefusals(this.needs, unit, present, capA).length === 0
    );
  }

  /** The choice of least weight that nothing local and nothing further speaks against. */
  private lightest(unit: Unit, capA: number, least: number, against: (choice: Choice) => boolean): Choice | null {
    const present = this.present(unit);
    let best: { choice: Choice; weight: number } | null = null;
    for (const parallel of this.runs(unit)) {
      if (best) break;
      for (const gauge of this.sizesOf(unit, capA)) {
        if (gauge.areaMm2 < least * 0.999) continue;
        for (const fuse of this.fusesFor(unit, gauge, parallel, capA)) {
          const choice = { gauge, parallel, fuse };
          const { objective, keep } = this.options;
          const bare = weigh(unit, choice, objective);
          // What is heavier as it is need not be judged: plugs and changes only add to it.
          if ((best && bare >= best.weight) || against(choice) || isRefused(this.needs, unit, choice, capA)) continue;
          const plugs = plugsFor(this.needs, unit, choice);
          if (!plugs) continue;
          const otherWire = keep && present && unit.lead.fuse && (present.gauge !== gauge || present.parallel !== parallel);
          const weight = bare + plugs.plugs.length * CHANGED_PLUG[objective] + (otherWire ? CHANGED_WIRE[objective] : 0);
          if (!best || weight < best.weight) best = { choice, weight };
        }
      }
    }
    return best?.choice ?? null;
  }

  /** Numbers of equal conductors that may be proposed: one, or two where one is too stiff to land (handbook practice section 5). */
  private runs(unit: Unit): readonly number[] {
    const stiff = this.needs.of(unit).continuousA > STIFF_A;
    const now = this.options.keep ? unit.lead.parallel : 1;
    return [...new Set([1, now, ...(stiff ? [2] : [])])].sort((a, b) => a - b);
  }

  /** A unit as it is; null where its size is not known. */
  private present({ lead }: Unit): Choice | null {
    const gauge = lead.gauge === undefined ? undefined : gaugeById(lead.gauge);
    const least = this.least.get(lead.id) ?? 0;
    return gauge && gauge.areaMm2 >= least * 0.999 ? { gauge, parallel: lead.parallel, fuse: lead.fuse ?? null } : null;
  }

  private fusesFor(unit: Unit, gauge: Gauge, parallel: number, capA: number): (FuseRef | null)[] {
    const with_ = fuseFor(this.needs, unit, gauge, parallel, capA, this.options.keep === true);
    return with_ || unit.lead.fuse ? (with_ ? [with_] : []) : unit.fusable ? [null, ...this.newFuse(unit, gauge, parallel)] : [null];
  }

  /** A fuse where there is none, as one way to let a wire be thin. */
  private newFuse(unit: Unit, gauge: Gauge, parallel: number): FuseRef[] {
    const found = fuseFor(this.needs, unit, gauge, parallel, Number.POSITIVE_INFINITY, this.options.keep === true);
    return found ? [found] : [];
  }

  /** A fuse of its own for the nearest feed on the way to a part that has none and may get one, where that ends every bolted short there in time. */
  fuseOnWay(partId: string): boolean {
    const near = this.units
      .map((unit) => ({ ...unit, fusable: unit.lead.role === "supply" }))
      .filter(({ fusable, lead }) => fusable && !lead.fuse && (lead.to.part === partId || this.needs.ways.get(lead.id)?.includes(partId)))
      .reverse();
    for (const unit of near) {
      // Another place on the same way may have brought it one already.
      if (this.machine.wires.some(({ id, fuse }) => id === unit.lead.id && fuse)) return true;
      const gauge = gaugeById(unit.lead.gauge ?? "");
      const [fuse] = gauge ? this.newFuse(unit, gauge, unit.lead.parallel) : [];
      if (fuse && this.ends(unit, fuse) && this.take({ type: "setFuse", wireId: unit.lead.id, fuse })) return true;
    }
    return false;
  }

  /** Whether a fuse in a unit is sure to end the weakest bolted short behind it in time. */
  private ends(unit: Unit, fuse: FuseRef): boolean {
    const { shorts, airC } = this.needs.of(unit);
    const coldC = this.machine.settings.coldestC ?? this.machine.settings.ambientC;
    const weakest = Math.min(...shorts.filter(({ cold, bolted }) => bolted && !cold).map(({ amps }) => amps));
    return !Number.isFinite(weakest) || fuseOpening(fuse, weakest, airC, Math.min(coldC, airC), true).maxS <= SLOW_S;
  }

  /** Reports whether what was chosen is what was there, but for single steps of the ladder in wires that are buildable as they are. */
  differsLittle(): boolean {
    if (this.options.keep || this.machine === this.start) return false;
    const fuses = new Map(fuseParts(this.figures).map(({ id, fuse }) => [id, fuse]));
    const sameParts = fuseParts(this.first).every(({ id, fuse }) => sameFuse(fuse, fuses.get(id)));
    const needs = needsOf(this.first, null);
    return (
      sameParts &&
      this.units.every((unit) => {
        const was = this.was.get(unit.lead.id);
        const [then, now] = [gaugeById(was?.lead.gauge ?? ""), gaugeById(unit.lead.gauge ?? "")];
        if (!was || !then || !now || was.lead.parallel !== unit.lead.parallel || !sameFuse(was.lead.fuse, unit.lead.fuse)) return false;
        if (then === now) return sameChoice(was.lead, unit.lead);
        const { leastMm2, mostMm2 } = boundsOf(needs, was, capBefore(this.first, was.lead));
        return Math.abs(ladderSteps(then.areaMm2, now.areaMm2)) <= 1 && then.areaMm2 >= leastMm2 * 0.999 && then.areaMm2 <= mostMm2;
      })
    );
  }

  /** A return is no thinner than the trunk whose current it brings home. */
  alikeReturns(): void {
    if (this.options.keep) return;
    for (const verdict of this.said) if (verdict.rule === lightReturn.id) this.cure(verdict);
  }

  put(unit: Unit, choice: Choice): void {
    this.takeAll(this.putting(unit, choice));
  }

  /** The edits that give a unit a choice. */
  putting(unit: Unit, choice: Choice): Command[] {
    const { lead } = unit;
    const changes: FeedChanges = {
      ...(lead.gauge === choice.gauge.id && lead.parallel === choice.parallel ? {} : { gauge: choice.gauge.id, parallel: choice.parallel }),
      ...plugsFor(this.needs, unit, choice)?.ends,
    };
    return [
      ...(Object.keys(changes).length > 0 ? [{ type: "setFeed", id: lead.id, changes } as const] : []),
      ...(unit.fusable && !sameFuse(lead.fuse, choice.fuse) ? [{ type: "setFuse", wireId: lead.id, fuse: choice.fuse } as const] : []),
    ];
  }

  /** Fuses that are parts of their own, each as `partFuse` chooses it. */
  fuseParts(): void {
    const units = unitsOf(this.figures);
    for (const part of fuseParts(this.figures)) {
      const feed = this.figures.ledger.rowOf.get(part.id)?.feed;
      const unit = feed && units.find(({ lead }) => lead.id === feed.id);
      if (!unit || unit.lead.pinned || (this.options.only && !this.options.only.includes(unit.lead.id))) continue;
      const allowed = (fuse: FuseRef) => !this.refusedFuses.has(fuseKey(part.id, fuse));
      const fit = partFuse(this.needs, unit, part, fusesBehind(this.machine, part.id), allowed, this.options.keep === true);
      if (fit) this.take({ type: "updatePart", id: part.id, changes: { fuse: { ...part.fuse, ...fit } } });
    }
  }

  /** A fuse part's fuse opens too late: another one that serves, the nearest first; false where there is none. */
  otherFuse(partId: string): boolean {
    const part = this.machine.parts.find(({ id }) => id === partId);
    if (part?.kind !== "fuse" || !this.sized.has(partId)) return false;
    // A larger one of its family only takes longer.
    const { family, ratingA } = part.fuse;
    for (const rating of ratingsOf(family)) if (rating >= ratingA) this.refusedFuses.add(fuseKey(partId, { family, ratingA: rating }));
    const before = this.machine;
    this.fuseParts();
    return this.machine !== before;
  }

  /** Current that a unit's size follows from: its fuse, or the guard before it, or the lasting current, A. */
  private guard(unit: Unit): number {
    const capA = capBefore(this.figures, unit.lead);
    return unit.lead.fuse?.ratingA ?? (Number.isFinite(capA) ? capA : lastingFuseA(this.needs, unit));
  }

  /** The next size up, or one conductor more where there is none. */
  private larger(unit: Unit, gauge: Gauge, parallel: number, wished: boolean): { gauge: Gauge; parallel: number } | null {
    const next = this.sizesOf(unit).find(({ areaMm2 }) => areaMm2 > gauge.areaMm2 * 1.001);
    // For what is only wished one size over what heat asks for is enough.
    if (next && wished && next.areaMm2 > thickerBy(usualAreaMm2(this.guard(unit)), WISHED_STEPS) * 1.01) return null;
    if (next) return { gauge: next, parallel };
    if (wished) return null;
    return this.runs(unit).includes(parallel + 1) ? { gauge, parallel: parallel + 1 } : null;
  }

  /**
   * Thickens what costs most volts for least weight until every consumer is inside its drop limit; where what does is kept,
   * only for those that a rule says are not. First for what each loses at most, then, as far as little copper does, for what is wished.
   */
  shareDrop(verdicts: readonly Verdict[]): void {
    this.shareOut(verdicts, false);
    if (!this.options.keep) this.shareOut(verdicts, true);
  }

  private shareOut(verdicts: readonly Verdict[], wished: boolean): void {
    const sizes = sharedDrop({
      needs: this.needs,
      units: this.units,
      objective: this.options.objective,
      // In a plan that is kept, only parts that a rule names are cured.
      short: this.options.keep ? lacking(verdicts) : null,
      larger: (unit, gauge, parallel) => this.larger(unit, gauge, parallel, wished),
      wished,
    });
    this.takeAll(
      [...sizes].flatMap(([unit, { gauge, parallel }]) => {
        if (!gauge || (gauge.id === unit.lead.gauge && parallel === unit.lead.parallel)) return [];
        this.keep(unit, gauge);
        const fuse = fuseFor(this.needs, unit, gauge, parallel, capBefore(this.figures, unit.lead)) ?? unit.lead.fuse ?? null;
        return this.putting(unit, { gauge, parallel, fuse });
      }),
    );
  }
}

const fuseKey = (partId: string, { family, ratingA }: FuseRef) => `${partId} ${family} ${ratingA}`;

/** Sizes over what heat asks for that are taken for a wished drop. */
const WISHED_STEPS = 1;
