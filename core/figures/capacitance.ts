import type { BuiltPart } from "../machine/schema";
import { railOrigin } from "../machine/tree";
import { type Build, perBuild } from "./build";

/** Capacitance known on each rail, F, by what feeds it. */
export const capacitances = perBuild((figures): ReadonlyMap<string, number> => {
  const found = new Map<string, number>();
  for (const part of figures.machine.parts) {
    const origin = railOrigin(figures.ledger, part.id);
    if (origin !== null) found.set(origin, (found.get(origin) ?? 0) + capacitanceOf(part));
  }
  return found;
});

/** Capacitance of a part at the rail it hangs on, or makes, F. */
export function capacitanceOf(part: BuiltPart): number {
  if (part.kind === "bar") return part.bulkF?.value ?? 0;
  // What sits at a converter's input belongs to the rail it hangs on, a supply's own to the rail it makes.
  if (part.kind === "supply" || part.kind === "driver" || part.kind === "converter") return part.inputF?.value ?? 0;
  return part.kind === "load" ? (part.inputF?.value ?? 0) * part.count : 0;
}

/** Capacitance known on a rail: at the inputs of what hangs there and on its bars, F. */
export function railCapacitance(figures: Build, origin: string): number {
  return capacitances(figures).get(origin) ?? 0;
}
