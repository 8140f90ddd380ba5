import type { Figure } from "../machine/figure";
import type { WorkingInput } from "./types";

/** What is said of a figure that a load without one adds to. */
export const LEAST = "A load here has no figure yet: this is the least it can be.";
/** Where a figure comes from that the network gave. */
export const SOLVED = "Read off the solved network (Kirchhoff's laws, supply and return side together).";

/** A figure the builder entered, as an input of a working. */
export function entered(label: string, figure: Figure, text: string): WorkingInput {
  const tolerance = figure.tolerance ? ` ± ${Math.round(figure.tolerance * 100)} %` : "";
  return { label, text: `${text}${tolerance}`, known: figure.provenance };
}
