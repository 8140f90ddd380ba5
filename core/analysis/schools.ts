import { computeFigures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import type { Worst } from "../figures/types";
import { budgeted } from "../loads/budget";
import { drawIn, readingOf } from "../loads/draw";
import { SIMULTANEITY } from "../loads/stepper";
import { type Machine, PEAK_BUDGETS, type PeakBudget } from "../machine/schema";

/** What one peak-budget school asks of one rail. */
export interface SchoolDemand {
  peakA: number;
  /** Mode the peak is from. */
  mode: string;
  /** A figure is missing: the peak is the least it can be. */
  atLeast: boolean;
}

/** What each school of peak budgets asks of each rail. */
export interface SchoolComparison {
  schools: readonly PeakBudget[];
  rails: { tag: string; order: number; origin: string; name: string; demand: SchoolDemand[] }[];
  /** Loads without a reading in some mode: by these the school "measured" is still an estimate. */
  unread: string[];
  /** Rails with several steppers: their sum and what the simultaneity school takes, at the mode with the largest sum. */
  steppers: { name: string; count: number; sumA: number; factorA: number; mode: string }[];
}

/** The same machine under each school of what its sources must give, side by side. */
export function compareSchools(machine: Machine): SchoolComparison {
  const made = PEAK_BUDGETS.map((peakBudget) => {
    const variant = budgeted({ ...machine, settings: { ...machine.settings, schools: { ...machine.settings.schools, peakBudget } } });
    return computeFigures(solveMachine(variant));
  });
  const first = made[0];
  if (!first) return { schools: PEAK_BUDGETS, rails: [], unread: [], steppers: [] };
  const rails = first.ledger.rails.map((rail) => ({
    tag: rail.tag,
    order: rail.order,
    origin: rail.origin,
    name: first.partOf.get(rail.origin)?.name ?? "",
    demand: made.map((figures): SchoolDemand => {
      const part = figures.parts[rail.origin];
      const worst: Worst = part?.worstOut ?? { amps: 0, mode: 0, low: false };
      return { peakA: worst.amps, mode: figures.modes[worst.mode]?.name ?? "", atLeast: part?.worstAtLeast ?? true };
    }),
  }));
  const unread = machine.parts.flatMap((part) =>
    part.kind === "load" &&
    machine.modes.some((mode) => {
      const cell = part.cells[mode.id];
      return !cell || (cell.state !== "off" && !readingOf(cell));
    })
      ? [part.name]
      : [],
  );
  const steppers = first.ledger.rails.flatMap((rail) => {
    const loads = first.ledger.rows.flatMap((row) =>
      row.rail?.origin === rail.origin && row.part.kind === "load" && row.part.loadKind === "stepper" ? [row.part] : [],
    );
    if (loads.length < 2) return [];
    const sums = machine.modes.map((mode) => loads.reduce((sum, load) => sum + drawIn(load, load.cells[mode.id]).nominalA, 0));
    const most = sums.indexOf(Math.max(...sums));
    const sumA = sums[most] ?? 0;
    return [
      {
        name: first.partOf.get(rail.origin)?.name ?? "",
        count: loads.length,
        sumA,
        factorA: sumA * SIMULTANEITY,
        mode: machine.modes[most]?.name ?? "",
      },
    ];
  });
  return { schools: PEAK_BUDGETS, rails, unread, steppers };
}
