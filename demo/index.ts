import type { Machine } from "@/core/machine/schema";
import { carillon } from "./carillon";
import { marbleLift } from "./marble-lift";
import { reedcutter } from "./reedcutter";

/** The machines that ship: each as first drawn, and its corrected twin. All invented. */
export const EXAMPLES: readonly { key: string; make: () => Machine }[] = [
  { key: "reedcutter", make: () => reedcutter(false) },
  { key: "reedcutter-corrected", make: () => reedcutter(true) },
  { key: "carillon", make: () => carillon(false) },
  { key: "carillon-corrected", make: () => carillon(true) },
  { key: "marble-lift", make: () => marbleLift(false) },
  { key: "marble-lift-corrected", make: () => marbleLift(true) },
];
