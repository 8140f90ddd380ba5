import { actingLimit } from "../drivers/channel";
import { capBefore, postLead } from "../figures/before-fuse";
import type { Figures } from "../figures/figures";
import { wireMustBear } from "../fuses/rating";
import type { Command } from "../machine/commands";
import { finish } from "../machine/finish";
import type { FuseRef, Machine, Wire } from "../machine/schema";
import type { TopologyCache } from "../network/topology";
import { gaugeById } from "../reference/gauges";
import { burdenOf, isGrave } from "../verdicts/effect";
import { fuseOverWire } from "../verdicts/feeds/fuse-over-wire";
import { shortCircuit } from "../verdicts/feeds/short-circuit";
import { wireOverload } from "../verdicts/feeds/wire-overload";
import { evaluateLateSized, RULE_OF } from "../verdicts/rules";
import { inputWindow } from "../verdicts/sources/input-window";
import type { Verdict } from "../verdicts/types";
import { BY_DROP } from "./share-drop";
import { type SizeOptions, Sizing } from "./sizing";

/** Most rounds of looking at the whole and mending. */
const ROUNDS = 20;
/** Rounds without a verdict less after which the rest is taken as it is. */
const STUCK = 5;

/** A pass over all units from the sources outward: each gets what it needs, under what is before it. */
function pass(sizing: Sizing): void {
  const chosen = new Map<string, FuseRef | null>();
  const commands: Command[] = [];
  for (const unit of sizing.units) {
    const choice = sizing.best(unit, capNow(sizing, unit.lead, chosen));
    if (!choice) continue;
    commands.push(...sizing.putting(unit, choice));
    if (unit.fusable) chosen.set(unit.lead.id, choice.fuse);
  }
  sizing.takeAll(commands);
}

/** What flows continuously before a wire's own fuse with what has been chosen upstream in this pass. */
function capNow({ machine, figures }: Sizing, wire: Wire, chosen: ReadonlyMap<string, FuseRef | null> = new Map()): number {
  const coldC = machine.settings.coldestC ?? machine.settings.ambientC;
  const seen = new Set<string>();
  let at: Wire | undefined = wire;
  while (at && at.role !== "return" && !seen.has(at.id)) {
    seen.add(at.id);
    const from = machine.parts.find(({ id }) => id === at?.from.part);
    if (at === wire && from?.kind === "driver" && actingLimit(from) !== undefined) break;
    const fuse = chosen.has(at.id) ? chosen.get(at.id) : at.fuse;
    if (at !== wire && fuse) return wireMustBear(fuse, coldC);
    if (from?.kind === "fuse") return wireMustBear(from.fuse, coldC);
    if (from?.kind === "pack") return (at === wire ? postLead(machine, wire) : null) ?? Number.POSITIVE_INFINITY;
    if (from?.kind === "supply" || from?.kind === "converter") return from.limitA?.value ?? Number.POSITIVE_INFINITY;
    const feedId: string | undefined = figures.ledger.rowOf.get(at.from.part)?.feed?.id;
    at = machine.wires.find(({ id }) => id === feedId);
  }
  return capBefore(figures, wire);
}

/** Verdicts that a choice of size could settle, on what is being sized, and those that the choices so far have brought. */
function open(sizing: Sizing, verdicts: readonly Verdict[]): Verdict[] {
  const { only } = sizing.options;
  const pinned = new Set(sizing.machine.wires.filter((wire) => wire.pinned).map(({ id }) => id));
  const sized = verdicts.filter(
    (verdict) =>
      isSized(verdict) &&
      isGrave(verdict) &&
      !isTooMuch(verdict) &&
      !pinned.has(verdict.subject.id) &&
      (!only || verdict.subject.kind !== "wire" || only.includes(verdict.subject.id)),
  );
  return [...sized, ...sizing.brought(verdicts).filter((verdict) => !sized.includes(verdict))];
}

/** Reports whether a part has more volts than it bears: no size takes them away. */
const isTooMuch = ({ rule, value, limit }: Verdict) => rule === inputWindow.id && (value ?? 0) > (limit ?? 0);

const isSized = ({ rule }: Verdict) => RULE_OF.get(rule)?.sized ?? false;

/**
 * Settles what a pass left: by choosing again with what is known by now, by another fuse, by the verdict's own remedy where that
 * is a size a careful builder takes, else by the next thicker conductor. A fuse that opens slowly is never cured by copper.
 */
function mend(sizing: Sizing, verdict: Verdict): boolean {
  const { machine } = sizing;
  if (!isSized(verdict)) return sizing.cure(verdict) || sizing.putBack(verdict);
  const unit = sizing.units.find(({ wires }) => wires.some(({ id }) => id === verdict.subject.id));
  if (unit) {
    const choice = sizing.best(unit, capNow(sizing, unit.lead));
    if (choice) sizing.put(unit, choice);
    if (sizing.machine !== machine) return true;
  }
  if (verdict.rule === shortCircuit.id && sizing.otherFuse(verdict.subject.id)) return true;
  if (sizing.cure(verdict)) return true;
  if (verdict.id.startsWith(`${shortCircuit.id}:slow:`)) return (verdict.also ?? []).filter((part) => sizing.fuseOnWay(part)).length > 0;
  const now = unit && gaugeById(unit.lead.gauge ?? "");
  if (!unit || !now || !THICKER_HELPS.has(verdict.rule)) return false;
  sizing.refuse(unit, now);
  const next = sizing.sizesOf(unit)[0];
  return next !== undefined && sizing.take({ type: "setFeed", id: unit.lead.id, changes: { gauge: next.id } });
}

/** Rules whose verdicts on a conductor more copper settles: its heat, its protection, what a short does to it. */
const THICKER_HELPS: ReadonlySet<string> = new Set([wireOverload.id, fuseOverWire.id, shortCircuit.id]);

/** A sized machine with its figures, and what no size settled. */
export interface SizedMachine {
  machine: Machine;
  /** What no choice settled. */
  left: Verdict[];
  figures: Figures;
}

/**
 * Gives every unpinned wire its size, parallel count, fuse and connectors: at least weight, under every rule and the chosen
 * schools, sharing the drop along each path; then looks at the whole as the rules do and mends what they still find.
 */
export function* sizeEverything(
  machine: Machine,
  options: SizeOptions,
  cache?: TopologyCache,
): Generator<{ done: number; of: number }, SizedMachine> {
  const sizing = new Sizing(machine, options, cache);
  const of = ROUNDS + 3;
  sizing.bringUp();
  for (const done of [1, 2]) {
    sizing.fuseParts();
    pass(sizing);
    sizing.settle();
    // Sized for its amps alone a long run may collapse: then thick once more, and the drop is shared from there.
    sizing.bringUp();
    yield { done, of };
  }
  // The current of a short is known now: with the rough sizes before, it may have been too much for the usual fuse.
  if (!options.keep) {
    sizing.fuseParts();
    sizing.settle();
    pass(sizing);
    sizing.settle();
  }
  sizing.shareDrop(sizing.said);
  sizing.settle();
  sizing.alikeReturns();
  let left = open(sizing, sizing.settle());
  // A step that settles one thing may unsettle another: the best of all that were looked at is what comes out.
  let best = { machine: sizing.machine, left, figures: sizing.figures };
  let fewest = Number.POSITIVE_INFINITY;
  let stuck = 0;
  const seen = new Set<string>();
  for (let round = 0; round < ROUNDS && left.length > 0 && stuck < STUCK; round++) {
    // Mending that comes back to where it was goes round for ever.
    const { state } = sizing;
    if (seen.has(state)) break;
    seen.add(state);
    const found = left.reduce((sum, { also }) => sum + 1 + (also?.length ?? 0), 0);
    stuck = found < fewest ? 0 : stuck + 1;
    fewest = Math.min(fewest, found);
    yield { done: 3 + round, of };
    // One remedy may settle several; each is tried once a round, on the machine as it then is.
    const drops = left.some(({ rule }) => BY_DROP.has(rule));
    const before = sizing.machine;
    if (drops) sizing.shareDrop(left);
    const mended = left.filter(({ rule }) => !BY_DROP.has(rule)).map((verdict) => mend(sizing, verdict));
    if (!mended.includes(true) && sizing.machine === before) break;
    sizing.settle();
    sizing.alikeReturns();
    left = open(sizing, sizing.settle());
    if (burdenOf(left) < burdenOf(best.left)) best = { machine: sizing.machine, left, figures: sizing.figures };
  }
  return nothingBrought(sizing, best);
}

/** Most turns of putting back what brought something. */
const TURNS = 4;

/**
 * A sized machine that makes no Stop and no Fix, also none that only late rules see: what is to blame is put back as it was.
 * Only where that would leave something graver what came stays.
 */
function nothingBrought(sizing: Sizing, best: SizedMachine): SizedMachine {
  sizing.machine = best.machine;
  const whole = () => [...sizing.settle(), ...evaluateLateSized(sizing.figures)];
  let said = whole();
  for (let turn = 0; turn < TURNS; turn++) {
    const [brought] = sizing.brought(said, sizing.lateBefore());
    if (!brought) break;
    const kept = sizing.machine;
    const instead = sizing.putBack(brought) ? whole() : said;
    if (burdenOf(instead) >= burdenOf(said)) {
      sizing.machine = kept;
      break;
    }
    said = instead;
  }
  if (burdenOf(said.filter(isGrave)) > sizing.burdenBefore) sizing.machine = sizing.start;
  // Sizes that differ by one step here and there and settle nothing are no reason to cut wires anew.
  if (sizing.differsLittle() && sizing.burdenBefore <= burdenOf(said.filter(isGrave))) sizing.machine = sizing.start;
  const last = sizing.settle();
  return { machine: sizing.machine, left: open(sizing, last), figures: sizing.figures };
}

/** Sizes everything without stopping for progress. */
export function sizedAtOnce(machine: Machine, options: SizeOptions, cache?: TopologyCache): SizedMachine {
  return finish(sizeEverything(machine, options, cache));
}
