import { actingLimit } from "../drivers/channel";
import type { FaultWalk } from "../faults/walk";
import { type Fate, wireFate } from "../faults/withstand";
import { dropLimit, dropWish, wayThere } from "../figures/drop";
import { briefThrough } from "../figures/excess";
import type { Figures } from "../figures/figures";
import { ownNeed, sourceGives } from "../figures/own-need";
import { railIn, railMaxV, railVolts, sharesRail } from "../figures/rails";
import { fuseOpening, holdsBriefly, ridesThrough } from "../fuses/opening";
import { leastRating, wireMustBear } from "../fuses/rating";
import type { FuseRef, Wire } from "../machine/schema";
import { wireOhm } from "../network/circuit";
import { breakingAt, FUSE_FAMILIES, type FuseFamilyId, fuseRow, ratingsOf, USUAL_FUSES } from "../reference/fuses";
import { airAround } from "../wires/ampacity";
import type { Unit } from "./units";

/** Share of its limit up to which a wire is planned: above that a rule would say that little is left. */
export const PLANNED_SHARE = 0.9;

/** Thicker wire lets more current through: room for that in shorts. */
const MORE = 1.1;

/** What a unit has to do, whatever its size: worst currents, timed modes, volts, shorts. */
export interface Need {
  /** Something behind it has no figure: its currents are the least it can be. */
  atLeast: boolean;
  continuousA: number;
  peakA: number;
  /** Timed modes with their largest current, A and s. */
  brief: readonly { amps: number; seconds: number }[];
  volts: number;
  /** Air at it, °C. */
  airC: number;
  /** Strongest short through a fuse in it, A; 0 where no walk is at hand. */
  throughA: number;
  /** Shorts behind it: current and the time until it is over; `bolted`: with nothing between. */
  shorts: readonly { amps: number; seconds: number; cold: boolean; bolted: boolean }[];
  /** What others may send home through its return continuously, along with its own feed's current and against it, A. */
  others: { alongA: number; againstA: number };
  /** Consumers whose way leads through it, with what they may still lose by mode, V. */
  behind: readonly string[];
}

/** Everything the choices of one machine are judged against, read off its figures once. */
export interface Needs {
  figures: Figures;
  of: (unit: Unit) => Need;
  /** Consumers by the wires their current takes. */
  ways: ReadonlyMap<string, readonly string[]>;
  /** Strongest short through a fuse part, A. */
  through: (partId: string) => number;
  /** Current limit of the driver before a motor's lead, A; null: it has none that acts. */
  leadLimit: (unit: Unit) => number | null;
}

/** Reads off figures what every unit has to do. */
export function needsOf(figures: Figures, walk: FaultWalk | null): Needs {
  const ways = new Map<string, string[]>();
  for (const part of figures.machine.parts) {
    if (figures.parts[part.id]?.wiring !== "ok") continue;
    for (const wire of wayThere(figures, part.id)) {
      const list = ways.get(wire.id);
      if (list) list.push(part.id);
      else ways.set(wire.id, [part.id]);
    }
  }
  const known = new Map<string, Need>();
  const indexOf = new Map(figures.machine.wires.map((wire, i) => [wire.id, i]));
  const of = (unit: Unit): Need => {
    const found = known.get(unit.lead.id);
    if (found) return found;
    const made = needOf(figures, walk, unit, ways, indexOf);
    known.set(unit.lead.id, made);
    return made;
  };
  const leadLimit = ({ lead }: Unit) => {
    const driver = figures.partOf.get(lead.from.part);
    return driver?.kind === "driver" ? (actingLimit(driver) ?? null) : null;
  };
  return { figures, of, ways, through: (partId) => walk?.through[`part ${partId}`] ?? 0, leadLimit };
}

function needOf(
  figures: Figures,
  walk: FaultWalk | null,
  unit: Unit,
  ways: ReadonlyMap<string, readonly string[]>,
  indexOf: ReadonlyMap<string, number>,
): Need {
  const { machine } = figures;
  const most = (pick: "worst" | "worstContinuous") => Math.max(0, ...unit.wires.map((wire) => figures.wires[wire.id]?.[pick].amps ?? 0));
  // Of the unit's conductors the one that carries most, mode by mode.
  const [first = [], ...rest] = unit.wires.map((wire) => briefThrough(figures, wire.id, indexOf.get(wire.id) ?? -1));
  const brief = first.map(({ amps, seconds }, k) => ({ amps: Math.max(amps, ...rest.map((own) => own[k]?.amps ?? 0)), seconds }));
  const gives = sourceGives(figures, unit.lead);
  const behind = [...new Set(unit.wires.flatMap((wire) => ways.get(wire.id) ?? []))];
  // A trunk bears each of what hangs on it alone, at all it draws; what they draw together the modes tell.
  const alone = [...new Set([...behind, unit.lead.role === "return" ? "" : unit.lead.to.part])].map((id) => ownNeed(figures, id));
  const own = { lastingA: Math.max(0, ...alone.map(({ lastingA }) => lastingA)), starts: alone.flatMap(({ starts }) => starts) };
  const places = new Set(behind);
  const end = unit.lead.role === "return" ? unit.lead.from.part : unit.lead.to.part;
  places.add(end);
  const shorts = (walk?.results ?? [])
    .filter(({ place, opens }) => opens && Number.isFinite(opens.slowestS) && places.has(place.split(".")[0] ?? ""))
    .flatMap(({ mostA, leastA, opens, bolted }) => [
      {
        amps: mostA,
        seconds: opens?.fastestS === undefined ? 0 : Math.min(opens.slowestS, slowestAt(figures, opens.fuse, mostA)),
        cold: true,
        bolted,
      },
      { amps: leastA, seconds: opens?.slowestS ?? 0, cold: false, bolted },
    ]);
  const part = figures.partOf.get(end);
  const others = (way: "alongA" | "againstA") =>
    Math.max(0, ...unit.wires.map((wire) => (wire === unit.lead ? 0 : (figures.wires[wire.id]?.exposure?.others?.[way] ?? 0))));
  return {
    others: { alongA: others("alongA"), againstA: others("againstA") },
    atLeast: unit.wires.some((wire) => figures.wires[wire.id]?.worstAtLeast),
    continuousA: Math.min(gives.lastingA, Math.max(most("worstContinuous"), own.lastingA)),
    peakA: Math.min(gives.brieflyA, most("worst")),
    // No wire carries more than its source gives.
    brief: [...brief, ...own.starts].map(({ amps, seconds }) => ({ amps: Math.min(gives.brieflyA, amps), seconds })),
    volts: railMaxV(figures, part),
    airC: airAround(unit.lead, machine.settings),
    throughA:
      MORE *
      Math.max(
        walk?.through[`wire ${unit.lead.id}`] ?? 0,
        ...(walk?.results ?? []).filter(({ place }) => place.split(".")[0] === end).map(({ mostA }) => mostA),
      ),
    shorts,
    behind,
  };
}

function slowestAt(figures: Figures, fuse: FuseRef, amps: number): number {
  const { ambientC, coldestC } = figures.machine.settings;
  return fuseOpening(fuse, amps, ambientC, Math.min(coldestC ?? ambientC, ambientC), true).maxS;
}

/**
 * A short's current were a unit's conductors like this, A: thin wire keeps it low. As in a loop of them and all the rest of the
 * way; `cold` as for the most that can flow, else hot.
 */
export function shortWith(needs: Needs, unit: Unit, amps: number, changes: Partial<Wire>, cold: boolean): number {
  return shortBy(needs.of(unit).volts, amps, moreOhm(needs, unit, changes, cold));
}

/** What a unit's conductors would resist more, were they like this, Ω. */
function moreOhm({ figures }: Needs, unit: Unit, changes: Partial<Wire>, cold: boolean): number {
  const ohms = (wires: readonly Wire[]) => wires.reduce((sum, { fuse: _own, ...wire }) => sum + wireOhm(figures.machine, wire, cold), 0);
  return ohms(unit.wires.map(({ board: _was, ...wire }) => ({ ...wire, ...changes }))) - ohms(unit.wires);
}

function shortBy(volts: number, amps: number, ohm: number): number {
  if (!(amps > 0) || !(volts > 0)) return amps;
  const whole = volts / amps + ohm;
  return whole > 0 ? volts / whole : amps;
}

/** Strongest short through a fuse at the start of a unit, were its conductors like this, A. */
export function throughWith(needs: Needs, unit: Unit, changes: Partial<Wire>): number {
  return shortWith(needs, unit, needs.of(unit).throughA, changes, true);
}

/** What a fuse has to do. */
export type FuseNeed = Pick<Need, "continuousA" | "brief" | "volts" | "airC" | "throughA">;

/** Whether a fuse carries a need continuously, holds its timed modes, and may sit on this bus. */
export function fuseServes(figures: Figures, need: FuseNeed, fuse: FuseRef): boolean {
  const { settings } = figures.machine;
  const row = fuseRow(fuse.family, fuse.ratingA);
  if (!row || row.maxV === null || row.maxV < need.volts) return false;
  if ((breakingAt(row, need.volts) ?? 0) < need.throughA) return false;
  if (leastRating(need.continuousA, fuse.family, settings.schools.fuseLoadFactor, need.airC) > fuse.ratingA) return false;
  return ridesThrough(fuse, need.brief, need.airC);
}

/** Families by how usual they are: few of them serve a whole machine (common practice, no source). */
const BY_USE: readonly FuseFamilyId[] = [
  "blade_regular_32v",
  "blade_regular_58v",
  "strip_m5_32v",
  "strip_m5_58v",
  "blade_maxi_32v",
  "blade_maxi_58v",
  "cube_single_bolt",
  "strip_m8_32v",
  "strip_m8_70v",
];

/** Families that may be taken, the present one first, then the usual ones. */
export function familiesFrom(present: FuseFamilyId | null, onPost: boolean): FuseFamilyId[] {
  const usual = [...BY_USE, ...USUAL_FUSES.filter((family) => !BY_USE.includes(family))].filter(
    (family) => family !== present && (onPost || family !== "cube_single_bolt"),
  );
  return present && FUSE_FAMILIES[present].sort !== "electronic" ? [present, ...usual] : usual;
}

/** Ratings above the smallest that serves up to which a fuse that is there is kept (common practice, no source). */
export const KEPT_UP_TO = 1.35;

/** Ratings above the least that serves up to which one is taken that even the quickest of its lot rides a start through (common practice). */
const UP_ONE = 1.34;

/**
 * The smallest fuse that serves, at least `leastA` and within what a wire bears (`bearsA`); null when none does. One size more
 * is taken where only that is sure to hold the start. Where what it carries is not all known, the largest of that family: it
 * protects the wire, and leaves what nobody knows the most room.
 */
export function servingFuse(
  figures: Figures,
  need: FuseNeed & Pick<Need, "atLeast">,
  bearsA: number,
  present: FuseFamilyId | null,
  onPost: boolean,
  allowed: (fuse: FuseRef) => boolean,
  leastA = 0,
): FuseRef | null {
  const coldC = figures.machine.settings.coldestC ?? figures.machine.settings.ambientC;
  const serves = (fuse: FuseRef) =>
    fuse.ratingA >= leastA && wireMustBear(fuse, coldC) <= bearsA && allowed(fuse) && fuseServes(figures, need, fuse);
  // The more usual family, unless another one serves with a much smaller rating.
  let best: FuseRef | null = null;
  for (const family of familiesFrom(present, onPost)) {
    const made = ratingsOf(family).map((ratingA): FuseRef => ({ family, ratingA }));
    const fuse = need.atLeast ? made.findLast(serves) : made.find(serves);
    if (fuse && need.atLeast) return fuse;
    if (fuse && (!best || fuse.ratingA < best.ratingA * SMALLER)) best = fuse;
    if (best && family === present) break;
  }
  if (!best || holdsBriefly(best, need.brief, need.airC)) return best;
  const { family, ratingA } = best;
  const sure = ratingsOf(family)
    .map((rating): FuseRef => ({ family, ratingA: rating }))
    .find((fuse) => fuse.ratingA > ratingA && serves(fuse) && holdsBriefly(fuse, need.brief, need.airC));
  return sure && sure.ratingA <= ratingA * UP_ONE ? sure : best;
}

/** A less usual family is taken where it needs so much less (common practice, no source). */
const SMALLER = 0.8;

/** Volts a consumer may still lose by mode, with the wires' present share taken out: at most, or of what is wished. */
export function dropRoom(figures: Figures, consumer: string, wires: readonly Wire[], wished = false): { amps: number[]; roomV: number }[] {
  const part = figures.partOf.get(consumer);
  const figure = figures.parts[consumer];
  const rail = railVolts(figures, consumer);
  const shared = sharesRail(figures, consumer);
  if (!part || !figure || rail === 0) return [];
  // A part with a window of volts keeps it in the briefest dip too; a motor's own start has no limit.
  const leastV = "inputMinV" in part ? part.inputMinV?.value : undefined;
  if (part.kind === "driver" && leastV === undefined) return [];
  return Array.from(figure.dropV, (drop, mode) => {
    const point = shared ? figures.solved.planned[mode] : undefined;
    const percent = wished ? dropWish(figures, part, mode) : dropLimit(figures, part, mode);
    const limit = percent === null ? Number.POSITIVE_INFINITY : (percent / 100) * (point ? railIn(figures, consumer, point).volts : rail);
    const amps = wires.map((wire) => Math.abs(figures.wires[wire.id]?.amps[mode] ?? 0));
    const own = wires.reduce((sum, wire, i) => {
      const { runOhm = 0, fuseOhm = 0 } = figures.wires[wire.id] ?? {};
      return sum + (amps[i] as number) * (runOhm + fuseOhm);
    }, 0);
    const byShare = part.kind === "driver" ? Number.POSITIVE_INFINITY : limit - (drop - own);
    const left = (figure.volts[mode] as number) - (leastV ?? 0) * WINDOW_ROOM;
    const byWindow = leastV === undefined || !figure.live[mode] ? Number.POSITIVE_INFINITY : left + own;
    return { amps, roomV: Math.min(byShare, byWindow) };
  });
}

/** Volts kept above the least a part runs with, as a factor: the pack at its lowest gives a little less than planned. */
const WINDOW_ROOM = 1.02;

/** Resistances of a unit's wires if they were like this, Ω. */
export function ohmsWith(figures: Figures, wires: readonly Wire[], changes: Partial<Wire>): number[] {
  return wires.map((wire) => wireOhm(figures.machine, { ...wire, ...changes, ...(wire.role === "supply" ? {} : { fuse: wire.fuse }) }));
}

/**
 * The worst that the shorts behind a unit do to a wire of it, were it like this. They were walked with the fuse it has; with
 * another in its place they last as long as that one takes, and where there was none no longer than before.
 */
export function worstFate(needs: Needs, unit: Unit, wire: Wire, ampacity: Parameters<typeof wireFate>[1]): Fate {
  const { figures } = needs;
  const need = needs.of(unit);
  const before = unit.lead;
  const preload = ampacity && ampacity.limitA > 0 ? need.continuousA / ampacity.limitA : 1;
  const { fuse } = wire;
  const lasts = (amps: number, seconds: number) => {
    if (!fuse || (before.fuse?.family === fuse.family && before.fuse.ratingA === fuse.ratingA)) return seconds;
    const own = slowestAt(figures, fuse, amps);
    return before.fuse ? own : Math.min(own, seconds);
  };
  if (need.shorts.length === 0) return "bears";
  const changes = { ...(wire.gauge ? { gauge: wire.gauge } : {}), parallel: wire.parallel };
  const [hotOhm, coldOhm] = [moreOhm(needs, unit, changes, false), moreOhm(needs, unit, changes, true)];
  let worst: Fate = "bears";
  for (const { amps, seconds, cold } of need.shorts) {
    const flows = shortBy(need.volts, amps, cold ? coldOhm : hotOhm);
    const { fate } = wireFate(wire, ampacity, flows, lasts(flows, seconds), preload);
    if (fate === "burns") return fate;
    if (fate === "unknown") worst = fate;
  }
  return worst;
}
