import { suits } from "../connectors/choose";
import { wireFit } from "../connectors/contact";
import { endsOf } from "../connectors/ends";
import { wireMustBear } from "../fuses/rating";
import type { FuseRef, Wire } from "../machine/schema";
import { inSentence, say, withArticle } from "../quantity/format";
import type { Gauge } from "../reference/gauges";
import { mostFuseA } from "../reference/practice";
import { type Ampacity, airAround, ampacityOf, isOutsideTable } from "../wires/ampacity";
import { overloadTime } from "../wires/overload";
import { dropRoom, fuseServes, type Need, type Needs, ohmsWith, PLANNED_SHARE, throughWith, worstFate } from "./needs";
import type { Unit } from "./units";

/** What could be chosen for a unit. A fuse of null: none. */
export interface Choice {
  gauge: Gauge;
  parallel: number;
  fuse: FuseRef | null;
}

/** Why a choice will not do, in the order a builder would notice. */
export interface Refusal {
  kind: "table" | "current" | "brief" | "fuse" | "short" | "drop" | "connector" | "practice";
  text: string;
}

/** A wire as a choice would make it. */
export function chosenWire(wire: Wire, { gauge, parallel, fuse }: Choice): Wire {
  const { fuse: before, board: _replaced, ...rest } = wire;
  return { ...rest, gauge: gauge.id, parallel, ...(fuse && wire.role === "supply" ? { fuse: { ...before, ...fuse } } : {}) };
}

/**
 * What a choice may carry: the least of the unit's conductors, which differ in what runs beside them. Its fuse limit is what is
 * left for the unit's own fuse beside what others send home through its return.
 */
export function choiceAmpacity(needs: Needs, unit: Unit, choice: Choice): Ampacity | null {
  let least: Ampacity | null = null;
  for (const wire of unit.wires) {
    const own = ampacityOf(chosenWire(wire, choice), needs.figures.machine.settings);
    if (!own || isOutsideTable(own, needs.figures.machine.settings)) return null;
    if (!least || own.limitA < least.limitA) least = own;
  }
  const { alongA, againstA } = needs.of(unit).others;
  if (!least || (alongA === 0 && againstA === 0)) return least;
  return { ...least, fuseLimitA: least.fuseLimitA < againstA ? 0 : Math.max(0, least.fuseLimitA - alongA) };
}

/** Every reason against a choice, but for the drop: that is shared along a path. `capA`: what the fuse before it lets through. */
export function localRefusals(needs: Needs, unit: Unit, choice: Choice, capA: number): Refusal[] {
  const need = needs.of(unit);
  const ampacity = choiceAmpacity(needs, unit, choice);
  if (!ampacity) return [{ kind: "table", text: "the school's table does not reach it" }];
  return [
    ...byCurrent(need, ampacity),
    ...byFuse(needs, unit, choice, ampacity, capA),
    ...byShort(needs, unit, choice, ampacity),
    ...byEnds(needs, need, unit, choice),
  ];
}

/** Whether anything but its ends speaks against a choice: the same, and no further than the first reason. */
export function isRefused(needs: Needs, unit: Unit, choice: Choice, capA: number): boolean {
  const ampacity = choiceAmpacity(needs, unit, choice);
  return (
    !ampacity ||
    byCurrent(needs.of(unit), ampacity).length > 0 ||
    byFuse(needs, unit, choice, ampacity, capA).length > 0 ||
    byShort(needs, unit, choice, ampacity).length > 0
  );
}

function byCurrent(need: Need, ampacity: Ampacity): Refusal[] {
  const { limitA, tauS, tauCopperS } = ampacity;
  if (need.continuousA > limitA * PLANNED_SHARE)
    return [
      {
        kind: "current",
        text: `${say(need.continuousA, "current", "up")} continuously, it may carry ${say(limitA, "current", "down")}`,
      },
    ];
  const preload = limitA > 0 ? need.continuousA / limitA : 1;
  const hot = need.brief.find(({ amps, seconds }) => overloadTime(amps / limitA, preload, tauS, tauCopperS) < seconds);
  return hot
    ? [{ kind: "brief", text: `${say(hot.amps, "current", "up")} for ${say(hot.seconds, "time")} is longer than it may carry that` }]
    : [];
}

function byFuse(needs: Needs, unit: Unit, { fuse, gauge, parallel }: Choice, ampacity: Ampacity, capA: number): Refusal[] {
  const { figures } = needs;
  const { fusable } = unit;
  const need = needs.of(unit);
  const { ambientC, coldestC } = figures.machine.settings;
  const bears = fuse ? wireMustBear(fuse, coldestC ?? ambientC) : capA;
  const throughA = throughWith(needs, unit, { gauge: gauge.id, parallel });
  if (fuse && !fuseServes(figures, { ...need, throughA }, fuse))
    return [{ kind: "fuse", text: `${withArticle(`${fuse.ratingA} A fuse`)} does not hold what it carries` }];
  // A lead behind a driver's limit is as practice has it: that limit flows for as long as a jam lasts.
  const lead = needs.leadLimit(unit) === null ? 0 : mostFuseA(gauge.areaMm2);
  if (bears <= Math.max(ampacity.fuseLimitA, lead)) return [];
  const sent = Math.max(need.others.alongA, need.others.againstA);
  const may = `${say(ampacity.fuseLimitA, "current", "down")}${sent > 0 ? ` beside the ${say(sent, "current", "up")} that others may send through its return` : ""}`;
  if (!fuse && fusable && Number.isFinite(capA))
    return [{ kind: "fuse", text: `no fuse both holds what it carries and protects it at ${may}` }];
  const guard = fuse
    ? `its ${fuse.ratingA} A fuse`
    : Number.isFinite(capA)
      ? `what is before it lets ${say(capA, "current")} through`
      : "nothing before it opens";
  return [{ kind: "fuse", text: `${guard}, it may carry ${may}` }];
}

/** What speaks against a size that a short destroys. */
export const BURNS: Refusal = { kind: "short", text: "a short burns it before the fuse opens" };

function byShort(needs: Needs, unit: Unit, choice: Choice, ampacity: Ampacity): Refusal[] {
  return worstFate(needs, unit, chosenWire(unit.lead, choice), ampacity) === "burns" ? [BURNS] : [];
}

function byEnds(needs: Needs, need: Need, unit: Unit, { gauge, parallel }: Choice): Refusal[] {
  for (const { at, row, wire } of endsOf(unit.lead)) {
    const fit = wireFit(row, gauge, parallel, at.perPole ?? 1);
    if (fit !== "fits") return [{ kind: "connector", text: `${fit} for its ${inSentence(row.name)}` }];
    const end = {
      amps: need.continuousA / PLANNED_SHARE,
      brief: need.brief,
      volts: need.volts,
      airC: airAround(wire, needs.figures.machine.settings),
      gauge,
      parallel,
    };
    if (!suits(row, at, end)) return [{ kind: "connector", text: `its ${inSentence(row.name)} does not carry this` }];
  }
  return [];
}

/** Consumers that lose too much with a choice while everything else stays as it is. */
export function dropRefusals(needs: Needs, unit: Unit, choice: Choice): Refusal[] {
  const { figures } = needs;
  const ohms = ohmsWith(figures, unit.wires, {
    gauge: choice.gauge.id,
    parallel: choice.parallel,
    board: undefined,
    ...(choice.fuse ? { fuse: choice.fuse } : { fuse: undefined }),
  });
  for (const consumer of needs.of(unit).behind) {
    const way = unit.wires.filter((wire) => needs.ways.get(wire.id)?.includes(consumer));
    const own = way.map((wire) => ohms[unit.wires.indexOf(wire)] ?? 0);
    for (const { amps, roomV } of dropRoom(figures, consumer, way)) {
      const lost = amps.reduce((sum, each, i) => sum + each * (own[i] ?? 0), 0);
      // Where even a wire without any loss would not do, the trouble is elsewhere on the way.
      if (roomV > 0 && lost > roomV)
        return [{ kind: "drop", text: `${figures.partOf.get(consumer)?.name ?? "a load"} then loses too much on the way` }];
    }
  }
  return [];
}
