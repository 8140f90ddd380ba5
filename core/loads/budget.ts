import type { Cell } from "../machine/load-schema";
import type { Load, Machine } from "../machine/schema";
import { drawIn } from "./draw";

/** Kinds that can be held still. */
const TURNING: ReadonlySet<Load["loadKind"]> = new Set(["motor", "servo", "actuator", "pump", "fan"]);

export function canStall(load: Load): boolean {
  return TURNING.has(load.loadKind);
}

/** The mode that the school "every motor stalled at once" adds. Its name is long enough not to be an id of the builder's. */
export const ALL_STALLED = "every-motor-stalled";
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

const planned = new WeakMap<Machine, Machine>();

/** The machine as its peak-budget school plans it: with "all stalled" there is one mode more. The document itself is untouched. */
export function budgeted(machine: Machine): Machine {
  if (machine.settings.schools.peakBudget !== "all stalled") return machine;
  const known = planned.get(machine);
  if (known) return known;
  const made: Machine = {
    ...machine,
    modes: [...machine.modes, { id: ALL_STALLED, name: "All stalled", lastsS: LASTS_S }],
    parts: machine.parts.map((part) => {
      if (part.kind !== "load") return part;
      const cell = worstCell(part);
      return cell ? { ...part, cells: { ...part.cells, [ALL_STALLED]: cell } } : part;
    }),
  };
  planned.set(machine, made);
  return made;
}
