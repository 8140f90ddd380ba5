import { goesOn } from "../machine/lasting";
import type { BuiltPart, Wire } from "../machine/schema";
import { type Build, perBuildOf } from "./build";

/** Loads whose rail may lose the least. */
export const LOGIC: ReadonlySet<string> = new Set(["board", "sensor", "radio"]);

/** Limit in % of the rail for a part in a mode: logic rails strictest, timed modes get more room. */
export function dropLimit(figures: Build, part: BuiltPart, mode: number): number {
  const { settings, modes } = figures.machine;
  if (part.kind === "load" && LOGIC.has(part.loadKind)) return settings.dropLogicPercent;
  return !modes[mode] || goesOn(modes[mode]) ? settings.dropPowerPercent : settings.dropBriefPercent;
}

/** Conductors from the rail's source to a part and from it back again, as far as the ledger knows one way. */
export const wayThere = perBuildOf((figures, partId): readonly Wire[] => {
  const way: Wire[] = [];
  const { rowOf } = figures.ledger;
  const first = rowOf.get(partId);
  for (let row = first; row?.feed; row = rowOf.get(row.feed.from.part)) {
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
