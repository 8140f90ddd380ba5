import type { Analysis } from "../analysis/types";
import type { Machine } from "../machine/schema";
import { isConsumer } from "../machine/terminals";
import type { Ledger } from "../machine/tree";
import { drawIn, estimate } from "./draw";

/** What one consumer takes from a rail in each mode, A. A driver goes by its motors' names. */
export interface Taker {
  id: string;
  name: string;
  amps: number[];
}

export interface RailShares {
  takers: Taker[];
  /** What the rail would give if no reading stood in for an estimate, A by mode; null where none does. */
  estimated: number[] | null;
}

/** Who takes what from one rail in each mode, the largest first. */
export function railShares(machine: Machine, ledger: Ledger, analysis: Analysis, origin: string): RailShares {
  const takers: Taker[] = [];
  const shift = machine.modes.map(() => 0);
  let read = false;
  for (const row of ledger.rows) {
    const { part } = row;
    if (row.rail?.origin !== origin || !isConsumer(part)) continue;
    const figures = analysis.parts[part.id];
    const behindDriver = row.feed?.role === "phase";
    if (part.kind === "load") {
      machine.modes.forEach((mode, m) => {
        const cell = part.cells[mode.id];
        if (!cell || !("measured" in cell) || !cell.measured) return;
        read = true;
        shift[m] = (shift[m] ?? 0) + estimate(part, cell).nominalA - drawIn(part, cell).nominalA;
      });
    }
    if (behindDriver || !figures) continue;
    const motors = part.kind === "driver" ? ledger.rows.filter((each) => each.parent === part.id && each.feed?.role === "phase") : [];
    const name = motors.length > 0 ? motors.map((each) => each.part.name).join(", ") : part.name;
    takers.push({ id: part.id, name, amps: machine.modes.map((_, m) => figures.amps[m] ?? 0) });
  }
  const most = (taker: Taker) => Math.max(0, ...taker.amps);
  takers.sort((a, b) => most(b) - most(a));
  const estimated = read
    ? machine.modes.map((_, m) => takers.reduce((sum, taker) => sum + (taker.amps[m] ?? 0), 0) + (shift[m] ?? 0))
    : null;
  return { takers, estimated };
}
