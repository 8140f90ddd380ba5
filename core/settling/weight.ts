import { groupBy } from "../machine/group";
import { oncePer } from "../machine/once";
import type { Machine } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import { gaugeById } from "../reference/gauges";
import { unitsOf } from "../sizing/units";
import { type Objective, weigh } from "../sizing/weigh";

/** What wires and inline fuses of a machine come to under an objective: grams, or a price that only ranks. */
function sumOf(machine: Machine, objective: Objective): number {
  const returnsOf = groupBy(machine.wires, ({ pair }) => pair);
  return unitsOf({ machine, ledger: ledgerOf(machine), returnsOf }).reduce((sum, unit) => {
    const gauge = unit.lead.gauge === undefined ? undefined : gaugeById(unit.lead.gauge);
    return gauge ? sum + weigh(unit, { gauge, parallel: unit.lead.parallel, fuse: unit.lead.fuse ?? null }, objective) : sum;
  }, 0);
}

/** Copper of all sized wires with their fuse holders, g. */
export const massG = oncePer((machine: Machine): number => sumOf(machine, "mass"));
/** A price of the same that only ranks. */
export const priceOf = oncePer((machine: Machine): number => sumOf(machine, "cost"));
