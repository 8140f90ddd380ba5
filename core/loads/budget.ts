import type { Cell } from "../machine/load-schema";
import { oncePer } from "../machine/once";
import type { BuiltLoad, Load, Machine } from "../machine/schema";
import { drawIn } from "./draw";

/** Kinds that can be held still. */
const TURNING: ReadonlySet<Load["loadKind"]> = new Set(["motor", "servo", "actuator", "pump", "fan"]);

/** Whether a load turns, so that it can be held still. */
export function canStall(load: BuiltLoad): boolean {
  return TURNING.has(load.loadKind);
}

/** The mode that the school "every motor stalled at once" adds. Its name is long enough not to be an id of the builder's. */
export const ALL_STALLED = "every-motor-stalled";
/** How long that mode lasts, s: a stall that a program ends (common practice, no source). */
const LASTS_S = 2;

/** What a load does at its worst: motors stall, the rest does the most of what its modes say. Without any figure: not known. */
function worstCell(load: Load): Cell | undefined {
  if (canStall(load) && load.levels?.stall) return { state: "stall" };
  let worst: { cell: Cell; amps: number } | undefined;
  for (const cell of Object.values(load.cells)) {
    const { nominalA, missing } = drawIn(load, cell);
    if (missing !== null) return undefined;
    if (!worst || nominalA > worst.amps) worst = { cell, amps: nominalA };
  }
  return canStall(load) && worst?.cell.state !== "stall" && worst?.cell.state !== "start" && worst?.amps !== 0 ? undefined : worst?.cell;
}

/** Modes and loads as planned, once for those they were planned from: an edit of one cell leaves all the others the same objects. */
const plannedModes = oncePer((modes: Machine["modes"]): Machine["modes"] => [
  ...modes,
  { id: ALL_STALLED, name: "All stalled", lastsS: LASTS_S },
]);
const plannedLoad = oncePer((load: Load): Load => {
  const cell = worstCell(load);
  return cell ? { ...load, cells: { ...load.cells, [ALL_STALLED]: cell } } : load;
});
const allStalled = oncePer(
  (machine: Machine): Machine => ({
    ...machine,
    modes: plannedModes(machine.modes),
    parts: machine.parts.map((part) => (part.kind === "load" ? plannedLoad(part) : part)),
  }),
);

/** The machine as its peak-budget school plans it: with "all stalled" there is one mode more. The document itself is untouched. */
export function budgeted(machine: Machine): Machine {
  return machine.settings.schools.peakBudget === "all stalled" ? allStalled(machine) : machine;
}
