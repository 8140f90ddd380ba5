import { drawIn, estimate } from "../loads/draw";
import type { Machine, TerminalRef } from "../machine/schema";
import { givesLogic, isConsumer, regulates } from "../machine/terminals";
import { type Ledger, railOrigin } from "../machine/tree";
import type { Analysis } from "./types";

/** What one consumer takes from a rail in each mode, A. A driver goes by its motors' names. */
export interface Taker {
  id: string;
  name: string;
  amps: number[];
}

/** Who takes what from a rail. */
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
  // A driver's logic side may hang on another rail than its motors.
  for (const wire of machine.wires) {
    const driver = wire.to.terminal === "5v" ? ledger.rowOf.get(wire.to.part)?.part : undefined;
    const figures = analysis.wires[wire.id];
    if (driver?.kind !== "driver" || !figures) continue;
    if (givenBy(ledger, wire.from) === origin)
      takers.push({ id: wire.id, name: `${driver.name}, its logic`, amps: Array.from(figures.amps) });
  }
  const most = (taker: Taker) => Math.max(0, ...taker.amps);
  takers.sort((a, b) => most(b) - most(a));
  const estimated = read
    ? machine.modes.map((_, m) => takers.reduce((sum, taker) => sum + (taker.amps[m] ?? 0), 0) + (shift[m] ?? 0))
    : null;
  return { takers, estimated };
}

/** Whose rail a terminal gives: a converter's output and a board's regulator are rails of their own. */
function givenBy(ledger: Ledger, { part: id, terminal }: TerminalRef): string | null {
  const part = ledger.rowOf.get(id)?.part;
  if (part?.kind === "converter" && terminal === "out+") return id;
  return part && givesLogic(terminal) && regulates(part) ? id : railOrigin(ledger, id);
}
