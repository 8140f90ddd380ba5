import { analyse } from "../analysis/analyse";
import { faultWalk } from "../faults/walk";
import { capBefore } from "../figures/before-fuse";
import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import type { Command, FeedChanges } from "../machine/commands";
import type { Figure } from "../machine/figure";
import { ASSUMED_M } from "../machine/length";
import type { FuseRef, Machine, Wire } from "../machine/schema";
import { isFeed } from "../machine/terminals";
import { capital, say } from "../quantity/format";
import { connectorById } from "../reference/connectors";
import { FUSE_FAMILIES } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import type { Verdict } from "../verdicts/types";
import { type SizedMachine, sizeEverything } from "./all";
import { type Needs, needsOf } from "./needs";
import { ratings } from "./ratings";
import { sizeReason } from "./reason";
import type { SizeOptions } from "./sizing";
import { copperKg, fuseParts, sameFuse, type Unit, unitsOf } from "./units";

/** One line of a before/after list, taken or left by itself. */
export interface SizeChange {
  /** Wire or fuse part it is about, and the row to show. */
  id: string;
  name: string;
  before: string;
  after: string;
  why: string;
  copperG: number;
  command: Command;
}

/** What sizing would change, line by line, with the copper before and after. */
export interface SizePlan {
  changes: SizeChange[];
  /** Copper of all wires, kg. */
  beforeKg: number;
  afterKg: number;
  /** What no choice of size settled. */
  left: Pick<Verdict, "id" | "headline" | "severity">[];
  /** Feeds whose draw is not known: left alone, or at least not made lighter than they are. */
  unknown: { id: string; name: string; said: string }[];
}

/** The plan of a sizing: what to change, line by line, and why. Yields progress; nothing is changed until lines are taken. */
export function* sizePlan(machine: Machine, options: SizeOptions): Generator<{ done: number; of: number }, SizePlan> {
  const sized: SizedMachine = yield* sizeEverything(machine, options);
  const before = analyse(machine).figures;
  const after = sized.figures;
  const changes = changesOf(before, after, needsOf(after, faultWalk(after)));
  return {
    changes,
    beforeKg: copperAll(before),
    afterKg: copperAll(after),
    unknown: unknownDraws(before, needsOf(before, null)),
    left: sized.left.map(({ id, headline, severity }) => ({ id, headline, severity })),
  };
}

/** What turns one machine's sizes into another's, line by line; with what is needed of them each says why. */
export function changesOf(before: Figures, after: Figures, needs: Needs | null = null): SizeChange[] {
  const now = new Map(unitsOf(before).map((unit) => [unit.lead.id, unit]));
  const changes: SizeChange[] = [];
  for (const unit of unitsOf(after)) {
    const old = now.get(unit.lead.id);
    const command = old && commandFor(old.lead, unit.lead);
    if (!old || !command) continue;
    const gauge = gaugeById(unit.lead.gauge ?? "");
    const size =
      needs && gauge
        ? sizeReason(needs, unit, { gauge, parallel: unit.lead.parallel, fuse: unit.lead.fuse ?? null }, capBefore(after, unit.lead), true)
        : "";
    changes.push({
      id: unit.lead.id,
      name: capital(wireName(before, unit.lead)),
      before: sizeText(old.lead),
      after: sizeText(unit.lead),
      why: needs ? whyOf(old.lead, unit.lead, size) : "",
      copperG: 1000 * (copperOf(unit) - copperOf(old)),
      command,
    });
  }
  for (const part of fuseParts(after)) {
    const old = before.partOf.get(part.id);
    if (old?.kind !== "fuse" || sameFuse(old.fuse, part.fuse)) continue;
    changes.push({
      id: part.id,
      name: part.name,
      before: fuseText(old.fuse),
      after: fuseText(part.fuse),
      why: "Holds what goes through it, and can break the short there.",
      copperG: 0,
      command: { type: "updatePart", id: part.id, changes: { fuse: part.fuse } },
    });
  }
  return [...changes, ...(needs ? ratingChanges(after) : [])];
}

/** Bars and contacts whose rating nobody told, where the machine as it is sized asks for a larger one. */
function ratingChanges(after: Figures): SizeChange[] {
  return after.machine.parts.flatMap((part): SizeChange[] => {
    const changes = ratings(after, part);
    if (!changes || (part.kind !== "bar" && part.kind !== "switch") || !("ratedA" in changes)) return [];
    const rated = (figure: Figure | undefined) => (figure ? say(figure.value, "current") : "?");
    return [
      {
        id: part.id,
        name: part.name,
        before: rated(part.ratedA),
        after: rated(changes.ratedA),
        why: `${say(after.parts[part.id]?.worstContinuous.amps ?? 0, "current", "up")} lasting, ${say(after.parts[part.id]?.worst.amps ?? 0, "current", "up")} at most; its rating is a guess.`,
        copperG: 0,
        command: { type: "updatePart", id: part.id, changes },
      },
    ];
  });
}

/** Feeds of what nobody knows the draw of; those behind which only some load is unknown are not among them. */
function unknownDraws(figures: Figures, needs: Needs): SizePlan["unknown"] {
  return unitsOf(figures).flatMap((unit) => {
    const { lead } = unit;
    const { atLeast, continuousA, peakA } = needs.of(unit);
    if (!atLeast || !isFeed(lead) || figures.partOf.get(lead.to.part)?.kind !== "load") return [];
    const nothing = !(continuousA > 0) && !(peakA > 0);
    return [
      {
        id: lead.id,
        name: capital(wireName(figures, lead)),
        said: nothing ? "draw not known: left as it is" : "draw not known in every mode: not made lighter",
      },
    ];
  });
}

function copperOf(unit: Unit): number {
  return copperKg(unit, gaugeById(unit.lead.gauge ?? "")?.copperGPerM ?? 0, unit.lead.parallel);
}

function copperAll(figures: Figures): number {
  return unitsOf(figures).reduce((sum, unit) => sum + copperOf(unit), 0);
}

/** What turns one conductor into the other, as one undoable step. */
function commandFor(old: Wire, next: Wire): Command | null {
  const changes: FeedChanges = {};
  if (old.gauge !== next.gauge) changes.gauge = next.gauge;
  if (old.parallel !== next.parallel) changes.parallel = next.parallel;
  if (old.fromEnd?.family !== next.fromEnd?.family) changes.fromEnd = next.fromEnd;
  if (old.toEnd?.family !== next.toEnd?.family) changes.toEnd = next.toEnd;
  const commands: Command[] = Object.keys(changes).length > 0 ? [{ type: "setFeed", id: old.id, changes }] : [];
  if (!sameFuse(old.fuse, next.fuse)) commands.push({ type: "setFuse", wireId: old.id, fuse: next.fuse ?? null });
  const [only] = commands;
  return commands.length > 1 ? { type: "batch", label: "Size a feed", commands } : (only ?? null);
}

function fuseText(fuse: FuseRef): string {
  return `${fuse.ratingA} A ${FUSE_FAMILIES[fuse.family].name}`;
}

function sizeText(wire: Wire): string {
  const ends = [wire.fromEnd, wire.toEnd].flatMap((end) => (end ? [connectorById(end.family)?.name ?? ""] : []));
  return [
    `${wire.parallel > 1 ? `${wire.parallel} × ` : ""}${wire.gauge ?? "?"}`,
    ...(wire.fuse ? [fuseText(wire.fuse)] : []),
    ...ends,
  ].join(", ");
}

function whyOf(old: Wire, next: Wire, size: string): string {
  const said: string[] = size === "" ? [] : [size];
  if (!old.fuse && next.fuse) said.push("It had no fuse of its own.");
  else if (!sameFuse(old.fuse, next.fuse)) said.push("The fuse carries what lasts and rides its start through.");
  if (old.fromEnd?.family !== next.fromEnd?.family || old.toEnd?.family !== next.toEnd?.family)
    said.push("The connector takes this wire and its current.");
  if (!next.lengthM && said.length > 0) said.push(`For ${say(ASSUMED_M, "length")}: its length is not known.`);
  return said.join(" ");
}
