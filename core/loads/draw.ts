import type { Figure } from "../machine/figure";
import type { Cell, Level, LevelName } from "../machine/load-schema";
import { oncePer } from "../machine/once";
import type { Load, PeakBudget } from "../machine/schema";
import { pluggingCurrent } from "./motor";

/**
 * What a load draws at V volts: `amps` + `siemens`·V + `watts`/V. Running motors are current, stalled ones resistance,
 * boards power. `nominalA` is the sum at the nominal voltage.
 */
export interface Draw {
  amps: number;
  siemens: number;
  watts: number;
  nominalA: number;
  /** Level without a figure that this state needs, or "cell" where the mode itself has none. */
  missing: LevelName | "cell" | null;
}

/** How far above what a meter read a plan by readings goes (handbook: measured × 1.25-1.5; common practice, no source). */
export const MEASURED_MARGIN = 1.25;

const NOTHING: Draw = { amps: 0, siemens: 0, watts: 0, nominalA: 0, missing: null };

function missing(what: LevelName | "cell"): Draw {
  return { ...NOTHING, missing: what };
}

/** Current of one piece at a level, A. A start that is not known is as much as a stall; a run share is never below idle. */
export function levelOf(load: Load, name: LevelName): Level | undefined {
  const { levels } = load;
  if (name === "start") return levels?.start ?? levels?.stall;
  if (name === "stall" && load.behaviour !== "current") return levels?.stall ?? levels?.start;
  return levels?.[name];
}

/** How many pieces of the group are in the state; the rest run. */
export function piecesOf(load: Load, cell: Cell): number {
  return "pieces" in cell && cell.pieces !== undefined ? Math.min(cell.pieces, load.count) : load.count;
}

function spread(load: Load, amps: number, behaviour: Load["behaviour"]): Omit<Draw, "missing"> {
  const volts = load.nominalV.value;
  return {
    amps: behaviour === "current" ? amps : 0,
    siemens: behaviour === "resistance" ? amps / volts : 0,
    watts: behaviour === "power" ? amps * volts : 0,
    nominalA: amps,
  };
}

function together(a: Omit<Draw, "missing">, b: Omit<Draw, "missing">): Draw {
  return {
    amps: a.amps + b.amps,
    siemens: a.siemens + b.siemens,
    watts: a.watts + b.watts,
    nominalA: a.nominalA + b.nominalA,
    missing: null,
  };
}

/** A motor held still is its winding's resistance; what has no rotor keeps its behaviour. */
function heldBehaviour(load: Load): Load["behaviour"] {
  return load.behaviour === "current" ? "resistance" : load.behaviour;
}

/** The estimate of a cell, whatever a meter has read. */
export function estimate(load: Load, cell: Cell | undefined): Draw {
  if (cell === undefined) return missing("cell");
  const { count } = load;
  switch (cell.state) {
    case "off":
      return NOTHING;
    case "amps":
      return { ...spread(load, cell.amps.value, load.behaviour), missing: null };
    case "idle": {
      const idle = levelOf(load, "idle");
      return idle ? { ...spread(load, idle.value * count, load.behaviour), missing: null } : missing("idle");
    }
    case "run": {
      const run = levelOf(load, "run");
      if (!run) return missing("run");
      const each = Math.max((run.value * cell.percent) / 100, load.levels?.idle?.value ?? 0);
      return { ...spread(load, each * count, load.behaviour), missing: null };
    }
    default: {
      const k = piecesOf(load, cell);
      const run = levelOf(load, "run");
      if (k < count && !run) return missing("run");
      const level = levelOf(load, cell.state === "start" ? "start" : "stall");
      if (!level) return missing(cell.state === "start" ? "start" : "stall");
      // Full speed is free running: of all speeds it has the most back-EMF, so the most current when it is reversed.
      const each = cell.state === "reverse" ? pluggingCurrent(level.value, load.levels?.idle?.value ?? 0) : level.value;
      const held = spread(load, each * k, heldBehaviour(load));
      return together(held, spread(load, (run?.value ?? 0) * (count - k), load.behaviour));
    }
  }
}

/** Draws of a load by cell, as far as they were asked for. */
const drawsOf = oncePer((_: Load) => new Map<Cell | undefined, Draw>());

/**
 * What is planned for a cell under a peak-budget school. A reading stands in for the estimate; the school that plans by
 * readings adds its margin to it.
 */
export function drawIn(load: Load, cell: Cell | undefined, school: PeakBudget = "named modes"): Draw {
  if (school === "measured") return planned(load, cell, MEASURED_MARGIN);
  const draws = drawsOf(load);
  const before = draws.get(cell);
  if (before) return before;
  const made = planned(load, cell, 1);
  draws.set(cell, made);
  return made;
}

function planned(load: Load, cell: Cell | undefined, margin: number): Draw {
  const reading = cell === undefined ? undefined : readingOf(cell);
  if (!reading) return estimate(load, cell);
  const held = cell !== undefined && (cell.state === "start" || cell.state === "stall" || cell.state === "reverse");
  return { ...spread(load, reading.value * margin, held ? heldBehaviour(load) : load.behaviour), missing: null };
}

/** What a meter read in a mode: beside an estimate, or typed as such. */
export function readingOf(cell: Cell): Figure | undefined {
  if ("measured" in cell && cell.measured) return cell.measured;
  return cell.state === "amps" && cell.amps.provenance === "measured" ? cell.amps : undefined;
}

/** Whether the load stands still in this state: its winding alone decides the current. */
export function atRest(cell: Cell | undefined): boolean {
  return cell?.state === "start" || cell?.state === "stall";
}
