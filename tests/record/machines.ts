import type { Machine } from "@/core/machine/schema";
import { EXAMPLES } from "@/demo/index";
import { sluice, winder } from "../mistakes/machines";
import { generateMachine } from "../support/generate";
import { talking } from "../support/talking";

const drawn = (key: string) => (EXAMPLES.find((each) => each.key === key) as (typeof EXAMPLES)[number]).make();

/** Machines whose figures are on record: demos as drawn, machines of other kinds, and one that was thrown together. */
export const RECORDED: Readonly<Record<string, () => Machine>> = {
  reedcutter: () => drawn("reedcutter"),
  carillon: () => drawn("carillon"),
  "marble-lift": () => drawn("marble-lift"),
  sluice,
  winder,
  generated: () => talking(generateMachine({ parts: 30, seed: 9, modes: 3, driven: true, meshed: true }), 9),
};
