import { EXAMPLES } from "@/demo/index";
import { sluice, winder } from "./machines";
import { organ } from "./organ";
import { rainCurtain } from "./rain-curtain";
import { stage } from "./stage";

/** Machines that are in order, for mistakes to be made in. */
export const MACHINES = [
  ...EXAMPLES.filter(({ key }) => key.endsWith("corrected")).map(({ key, make }) => [key, make] as const),
  ["sluice", sluice] as const,
  ["winder", winder] as const,
  ["stage", stage] as const,
  ["organ", organ] as const,
  ["rain curtain", rainCurtain] as const,
];
