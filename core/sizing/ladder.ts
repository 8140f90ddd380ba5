import { familiesThatSuit, plainEnd, suits } from "../connectors/choose";
import { END_KEYS, endsOf } from "../connectors/ends";
import type { FaultWalk } from "../faults/walk";
import { capBefore } from "../figures/before-fuse";
import type { Figures } from "../figures/figures";
import { railVolts } from "../figures/rails";
import { wireMustBear } from "../fuses/rating";
import type { Command, FeedChanges } from "../machine/commands";
import type { FuseRef, PartKind } from "../machine/schema";
import { type FuseFamilyId, familyMaxV, ratingsOf } from "../reference/fuses";
import { type Gauge, gaugeById, usualSizes } from "../reference/gauges";
import { airAround, settledTemperature } from "../wires/ampacity";
import { overloadTime } from "../wires/overload";
import { practiceRefusals } from "./bounds";
import { BURNS, type Choice, choiceAmpacity, chosenWire, dropRefusals, localRefusals, type Refusal } from "./judge";
import { familiesFrom, KEPT_UP_TO, type Needs, needsOf, ohmsWith, PLANNED_SHARE, servingFuse, throughWith } from "./needs";
import { sizeReason } from "./reason";
import { copperKg, sameFuse, stockOf, type Unit, unitsOf } from "./units";

/** One size a feed could have, with what it would mean. */
export interface Rung {
  gauge: string;
  now: boolean;
  /** The thinnest that nothing speaks against. */
  proposed: boolean;
  limitA: number | null;
  /** Conductor at the worst lasting current, °C, and the temperature it may have. */
  temperatureC: number | null;
  maxC: number | null;
  /** Until it is as hot as it may be at the worst current, s; infinite: never. */
  reachesS: number | null;
  /** Lost in the feed at the worst current, share of the rail in percent, and as heat, W. */
  dropPercent: number | null;
  lossW: number;
  massG: number;
  /** Largest fuse it may have, of whichever usual family makes one for these volts, A; null: none. */
  largestFuseA: number | null;
  /** Families that are made in that rating, the present one first. */
  largestFamilies: readonly FuseFamilyId[];
  /** Fuse that would go with it. */
  fuse: FuseRef | null;
  /** Ends that have to change with it, as commands name them, and what they become. */
  ends: FeedChanges;
  plugs: readonly string[];
  refusals: readonly Refusal[];
}

/** All sizes of one unit, and why the proposed one is proposed. */
export interface Ladder {
  unit: string;
  rungs: Rung[];
  /** Why the proposed size is the one: what speaks against the next thinner. */
  reason: string;
}

/** Sizes shown on both sides of what is there and what is proposed. */
const AROUND = 2;

/** Fuses below this are not proposed before these parts, A (handbook practice sections 6 and 9). */
const LEAST_FUSE_A = { converter: 2, driver: 2, load: 1, switch: 1, bar: 1, pack: 1, supply: 1, fuse: 1 } as const satisfies Record<
  PartKind,
  number
>;
/** A fuse that several boards share, or a computer's own (handbook practice section 6). */
const LEAST_ELECTRONICS_A = 2;

/** A converter's fuse over what it takes in: it soft-starts with more (handbook practice section 6: 1.5 to 2). */
const CONVERTER_ROOM = 1.5;
/** Least fuse of servos, A: several start at once (handbook practice section 9). */
const LEAST_SERVO_A = 3;

/** Smallest fuse proposed before a unit, A. */
function leastFuseA(needs: Needs, unit: Unit): number {
  const { figures } = needs;
  const { lead } = unit;
  const to = figures.partOf.get(lead.to.part);
  if (!to) return 1;
  if (to.kind === "converter") return Math.max(LEAST_FUSE_A.converter, needs.of(unit).continuousA * CONVERTER_ROOM);
  if (to.kind === "load" && to.loadKind === "servo") return LEAST_SERVO_A;
  return to.kind === "load" && to.loadKind !== "coil" ? LEAST_ELECTRONICS_A : LEAST_FUSE_A[to.kind];
}

/**
 * The fuse that goes with a size: the present one while it serves and is no more than a size too large (`keep`: while it serves),
 * else the smallest that does; null: the one before guards it.
 */
export function fuseFor(needs: Needs, unit: Unit, gauge: Gauge, parallel: number, capA: number, keep = true): FuseRef | null {
  const present = unit.lead.fuse ?? null;
  if (!unit.fusable) return null;
  const bears = choiceAmpacity(needs, unit, { gauge, parallel, fuse: null })?.fuseLimitA ?? 0;
  if (!present && capA <= bears && !mustBeFused(needs.figures, unit)) return null;
  const need = { ...needs.of(unit), throughA: throughWith(needs, unit, { gauge: gauge.id, parallel }) };
  const onPost = needs.figures.partOf.get(unit.lead.from.part)?.kind === "pack";
  const stock = stockOf(needs.figures.machine);
  const keeps = present && localRefusals(needs, unit, { gauge, parallel, fuse: present }, capA).every(({ kind }) => kind !== "fuse");
  if (keeps && keep) return present;
  const family = present && keep ? present.family : null;
  const own = servingFuse(needs.figures, need, bears, family, onPost, stock.fuse, leastFuseA(needs, unit));
  return keeps && own && present.ratingA >= own.ratingA && present.ratingA <= own.ratingA * KEPT_UP_TO ? present : own;
}

/** The school gives every driver feed a fuse of its own. */
export function mustBeFused(figures: Figures, unit: Unit): boolean {
  return figures.machine.settings.schools.driverFeeds === "each fused" && figures.partOf.get(unit.lead.to.part)?.kind === "driver";
}

/** Sizes further away than this factor of area from what is there or proposed are not walked. */
const WALKED = 8;

/**
 * The ladder of a wire's feed: every usual size with temperature, drop, loss, mass, largest fuse, and what speaks against it.
 * What a short does to a size follows from the walk of the machine as it is; with `walked` from a walk of the machine with
 * that size in its place, as the rules judge it.
 */
export function gaugeLadder(
  figures: Figures,
  walk: FaultWalk | null,
  wireId: string,
  walked?: (command: Command) => FaultWalk | null,
): Ladder | null {
  const wire = figures.wireOf.get(wireId);
  const unit = unitsOf(figures).find(({ wires }) => wires.some((each) => each.id === wireId));
  if (!wire || !unit) return null;
  const needs = needsOf(figures, walk);
  const capA = capBefore(figures, unit.lead);
  const now = unit.lead.gauge === undefined ? undefined : gaugeById(unit.lead.gauge);
  const sizes = [...usualSizes(now?.system ?? "awg")];
  if (now && !sizes.includes(now)) sizes.push(now);
  sizes.sort((a, b) => a.areaMm2 - b.areaMm2);
  const guessed = sizes.map((gauge) => rung(needs, unit, gauge, capA));
  const all = walked ? guessed.map((each, i) => ({ ...each, refusals: byWalk(unit, each, sizes[i] as Gauge, now, walked) })) : guessed;
  const proposed = all.findIndex(({ refusals }) => refusals.length === 0);
  const at = all.findIndex((each) => each.now);
  const marks = [proposed, at].filter((index) => index >= 0);
  const [from, to] = marks.length > 0 ? [Math.min(...marks) - AROUND, Math.max(...marks) + AROUND] : [0, 2 * AROUND];
  const rungs = all.map((each, i) => ({ ...each, proposed: i === proposed })).slice(Math.max(0, from), to + 1);
  const thinner = proposed > 0 ? all[proposed - 1] : undefined;
  const why = (index: number) => {
    const choice = { gauge: sizes[index] as Gauge, parallel: unit.lead.parallel, fuse: all[index]?.fuse ?? null };
    return sizeReason(needs, unit, choice, capA, index === at);
  };
  const reason =
    proposed < 0
      ? "No size does everything this feed has to: change the plan around it."
      : thinner
        ? `${why(proposed)} ${thinner.gauge} will not do: ${thinner.refusals.map(({ text }) => text).join("; ")}.`
        : why(proposed);
  return { unit: unit.lead.id, rungs, reason };
}

/** Reasons against a rung with what a short does to it as the walk has it. */
function byWalk(
  unit: Unit,
  { gauge, fuse, ends, refusals }: Rung,
  size: Gauge,
  now: Gauge | undefined,
  walked: (command: Command) => FaultWalk | null,
): readonly Refusal[] {
  // What is refused already needs no walk, unless a short is all that speaks against it.
  const others = refusals.filter(({ kind }) => kind !== "short");
  const far = now !== undefined && (size.areaMm2 > now.areaMm2 * WALKED || size.areaMm2 * WALKED < now.areaMm2);
  if (others.length > 0 || far) return refusals;
  const walk = walked({ type: "batch", label: "Try a size", commands: sizeCommands(unit, gauge, ends, fuse) });
  if (!walk) return refusals;
  const burns = walk.results.some(({ wire }) => wire !== null && unit.wires.some(({ id }) => id === wire.id) && wire.fate.fate === "burns");
  return burns ? [BURNS] : [];
}

/** What gives a feed a size, as commands. */
export function sizeCommands({ lead, fusable }: Unit, gauge: string, ends: FeedChanges, fuse: FuseRef | null): Command[] {
  const size: Command = { type: "setFeed", id: lead.id, changes: { gauge, ...ends } };
  return fusable && !sameFuse(lead.fuse, fuse) ? [size, { type: "setFuse", wireId: lead.id, fuse }] : [size];
}

function rung(needs: Needs, unit: Unit, gauge: Gauge, capA: number): Rung {
  const { figures } = needs;
  const { parallel } = unit.lead;
  const need = needs.of(unit);
  const fuse = fuseFor(needs, unit, gauge, parallel, capA);
  const choice: Choice = { gauge, parallel, fuse };
  const ampacity = choiceAmpacity(needs, unit, choice);
  const lead = chosenWire(unit.lead, choice);
  const ohms = ohmsWith(figures, unit.wires, { gauge: gauge.id, parallel, fuse: fuse ?? undefined, board: undefined });
  const ohm = ohms.reduce((sum, each) => sum + each, 0);
  const rail = railVolts(figures, unit.lead.role === "return" ? unit.lead.from.part : unit.lead.to.part);
  const preload = ampacity && ampacity.limitA > 0 ? Math.min(1, need.continuousA / ampacity.limitA) : 0;
  const coldC = figures.machine.settings.coldestC ?? figures.machine.settings.ambientC;
  const onPost = figures.partOf.get(unit.lead.from.part)?.kind === "pack";
  const families = familiesFrom(fuse?.family ?? unit.lead.fuse?.family ?? null, onPost).filter(
    (family) => familyMaxV(family) >= need.volts,
  );
  const bears = unit.fusable ? (ampacity?.fuseLimitA ?? 0) : 0;
  const ratings = families.flatMap((family) => ratingsOf(family).filter((ratingA) => wireMustBear({ family, ratingA }, coldC) <= bears));
  const most = ratings.length === 0 ? null : Math.max(...ratings);
  const plugs = plugsFor(needs, unit, choice);
  const local = localRefusals(needs, unit, choice, capA);
  return {
    gauge: gauge.id,
    now: gauge.id === unit.lead.gauge,
    proposed: false,
    limitA: ampacity?.limitA ?? null,
    temperatureC: ampacity ? settledTemperature(lead, ampacity, need.continuousA) : null,
    maxC: ampacity?.maxC ?? null,
    reachesS:
      ampacity && ampacity.limitA > 0 ? overloadTime(need.peakA / ampacity.limitA, preload, ampacity.tauS, ampacity.tauCopperS) : null,
    dropPercent: rail > 0 ? (need.peakA * ohm * 100) / rail : null,
    lossW: need.continuousA ** 2 * ohm,
    massG: copperKg(unit, gauge.copperGPerM, parallel) * 1000,
    largestFuseA: most,
    largestFamilies: most === null ? [] : families.filter((family) => ratingsOf(family).includes(most)),
    fuse,
    ends: plugs?.ends ?? {},
    plugs: plugs?.plugs ?? [],
    // A plug that has to change with the size is no reason against the size.
    refusals: [
      ...local.filter(({ kind }) => kind !== "connector" || !plugs),
      ...dropRefusals(needs, unit, choice),
      // A size that is there is not refused for what is only usual.
      ...(gauge.id === unit.lead.gauge
        ? []
        : practiceRefusals(
            needs,
            unit,
            choice,
            capA,
            local.some(({ kind }) => kind === "fuse"),
          )),
    ],
  };
}

/** Connectors that go with a choice: the present ones where they serve, else the smallest alike; null where none does. */
export function plugsFor(needs: Needs, unit: Unit, { gauge, parallel }: Choice): { ends: FeedChanges; plugs: string[] } | null {
  const { machine } = needs.figures;
  const need = needs.of(unit);
  const stock = stockOf(machine);
  const ends: FeedChanges = {};
  const plugs: string[] = [];
  for (const { at, row, end, wire } of endsOf(unit.lead)) {
    const airC = airAround(wire, machine.settings);
    const wants = { amps: need.continuousA / PLANNED_SHARE, brief: need.brief, volts: need.volts, airC, gauge, parallel };
    if (suits(row, at, wants)) continue;
    const other = familiesThatSuit(row, at, wants).find(({ id }) => stock.connector(id));
    if (!other) return null;
    ends[END_KEYS[end]] = plainEnd(other.id, at);
    plugs.push(other.name);
  }
  return { ends, plugs };
}
