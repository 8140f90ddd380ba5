import { lengthOf } from "../machine/length";
import type { FuseRef } from "../machine/schema";
import { FUSE_FAMILIES } from "../reference/fuses";
import type { Choice } from "./judge";
import { copperKg, type Unit } from "./units";

/** What sizing makes as small as it can. */
export const OBJECTIVES = ["mass", "cost"] as const;
/** One of them. */
export type Objective = (typeof OBJECTIVES)[number];

/** What it takes to change a plug that is there, in the unit of each objective: it is bought twice, for both halves. */
export const CHANGED_PLUG: Readonly<Record<Objective, number>> = { mass: 60, cost: 12 };

/** What it takes to lay another wire where the present one would do with another fuse. */
export const CHANGED_WIRE: Readonly<Record<Objective, number>> = { mass: 60, cost: 12 };

/** Fuse with its holder by family, g, and against a metre of 1 mm² wire in price. Typical, from memory: they only rank choices. */
const HOLDERS: readonly { starts: string; grams: number; price: number }[] = [
  { starts: "blade_maxi", grams: 45, price: 12 },
  { starts: "blade", grams: 18, price: 5 },
  { starts: "strip", grams: 70, price: 20 },
  { starts: "cube", grams: 90, price: 35 },
  { starts: "class_t", grams: 220, price: 80 },
];

function holder(fuse: FuseRef): { grams: number; price: number } {
  return (
    HOLDERS.find(({ starts }) => fuse.family.startsWith(starts)) ?? {
      grams: FUSE_FAMILIES[fuse.family].sort === "breaker" ? 150 : 15,
      price: 15,
    }
  );
}

/** Price of a metre of one conductor in metres of 1 mm²: half for making it, half for its copper (typical, from memory). */
function metrePrice(areaMm2: number): number {
  return 0.5 + 0.5 * areaMm2;
}

/** What a choice costs under an objective: grams, or a price that only ranks. */
export function weigh(unit: Unit, { gauge, parallel, fuse }: Choice, objective: Objective): number {
  const own = fuse ? holder(fuse) : { grams: 0, price: 0 };
  if (objective === "mass") return copperKg(unit, gauge.copperGPerM, parallel) * 1000 + own.grams;
  const metres = unit.wires.reduce((sum, wire) => sum + lengthOf(wire), 0);
  return metres * parallel * metrePrice(gauge.areaMm2) + own.price;
}
