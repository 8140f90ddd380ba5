import { goesOn } from "../machine/lasting";
import type { BuiltPart, Wire } from "../machine/schema";
import type { OperatingPoint } from "../network/point";
import { WINDOWED } from "../reference/load-kinds";
import { type Build, branchOf, perBuildOf } from "./build";

/** Loads whose rail may lose the least. */
export const LOGIC: ReadonlySet<string> = new Set(["board", "sensor", "radio"]);

/** Modes that end sooner are judged by what the dip does to boards, drivers and converters, not by a percentage, s (handbook practice section 1). */
const BRIEF_S = 60;

/** Reports whether nothing but a percentage tells when a part suffers from a dip: electronics whose least volts nobody told. */
function isJudgedByShare(part: BuiltPart): boolean {
  return part.kind === "load" && WINDOWED.has(part.loadKind) && part.inputMinV === undefined;
}

/**
 * Most a part may lose in a mode, % of its rail: boards as much as is wished for them, all else what its own figure says. Null: the
 * mode is so brief that the part's window counts in place of a percentage, or, for what has none to keep, nothing does.
 */
export function dropLimit(figures: Build, part: BuiltPart, mode: number): number | null {
  const { settings, modes } = figures.machine;
  const { lastsS } = modes[mode] ?? { lastsS: null };
  if (lastsS !== null && lastsS < BRIEF_S && !isJudgedByShare(part)) return null;
  return part.kind === "load" && LOGIC.has(part.loadKind) ? settings.dropLogicPercent : settings.dropBriefPercent;
}

/** Loss that is wished not to be passed in modes that go on, % of the rail; beyond it a motor is a little slower, and nothing trips. */
export function dropWish(figures: Build, part: BuiltPart, mode: number): number | null {
  const { settings, modes } = figures.machine;
  const most = dropLimit(figures, part, mode);
  if (most === null || (part.kind === "load" && LOGIC.has(part.loadKind))) return most;
  return !modes[mode] || goesOn(modes[mode]) ? Math.min(most, settings.dropPowerPercent) : most;
}

/** Conductors from the rail's source to a part and from it back again, as far as the ledger knows one way. */
export const wayThere = perBuildOf((figures, partId): readonly Wire[] => {
  const way: Wire[] = [];
  const { rowOf } = figures.ledger;
  const first = rowOf.get(partId);
  // Feeds that lead in a circle come from nowhere: the way ends where it meets itself.
  for (let row = first; row?.feed && !way.includes(row.feed); row = rowOf.get(row.feed.from.part)) {
    way.push(row.feed);
    if (row.part.kind === "converter" && row.part.id !== partId) break;
    if (figures.partOf.get(row.feed.from.part)?.kind === "converter") break;
  }
  for (let row = first; row?.back && !way.includes(row.back); row = rowOf.get(row.back.to.part)) {
    way.push(row.back);
    if (figures.partOf.get(row.back.to.part)?.kind === "converter") break;
  }
  return way;
});

/** Current in a wire at an operating point, A. */
export function ampsIn(build: Build, wire: Wire, point: OperatingPoint): number {
  return Math.abs(point.branchA[branchOf(build).get(wire.id) ?? -1] ?? 0);
}

/** The conductor on the way to a part that costs the most volts. */
export function largestLoss(build: Build, partId: string, point: OperatingPoint): { wire: Wire; drop: number } | null {
  let best: { wire: Wire; drop: number } | null = null;
  for (const wire of wayThere(build, partId)) {
    const drop = ampsIn(build, wire, point) * (build.solved.circuit.branches[branchOf(build).get(wire.id) ?? -1]?.ohm ?? 0);
    if (drop > (best?.drop ?? 0)) best = { wire, drop };
  }
  return best;
}
