import type { BuiltPart, Part } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { type Build, perBuildOf } from "./build";

/** Highest voltage a wire's rail can show, V: the pack full, or the output that feeds it; falls back on the rail's own figure. */
export function railMaxV(figures: Build, part: BuiltPart | undefined): number {
  if (!part) return 0;
  const highest = figures.parts[part.id]?.highestV;
  if (highest != null) return highest;
  const origin = railOrigin(figures.ledger, part.id);
  const source = origin === null ? undefined : figures.partOf.get(origin);
  if (source?.kind === "pack") return source.openCircuitV.value;
  return source?.kind === "supply" || source?.kind === "converter" ? source.outputV.value : 0;
}

/** Volts of the rail a part hangs on, the base of its drop in percent. */
export function railVolts(figures: Build, partId: string): number {
  const origin = railOrigin(figures.ledger, partId);
  const source = origin === null ? undefined : figures.partOf.get(origin);
  if (source?.kind === "pack") return source.openCircuitV.value;
  return source?.kind === "supply" || source?.kind === "converter" ? source.outputV.value : 0;
}

/** The source at the head of a part's rails. */
export const primarySource = perBuildOf((figures, partId): Part | null => {
  let at = partId;
  for (let step = 0; step < figures.machine.parts.length; step++) {
    const originId = railOrigin(figures.ledger, at);
    const origin = originId === null ? undefined : figures.partOf.get(originId);
    if (!origin) return null;
    if (isSource(origin)) return origin;
    const above = figures.ledger.rowOf.get(origin.id);
    if (!above?.parent || above.parent === at) return null;
    at = above.rail?.origin === origin.id ? above.parent : origin.id;
    if (at === origin.id && railOrigin(figures.ledger, at) === origin.id) return null;
  }
  return null;
});
