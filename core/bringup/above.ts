import type { Figures } from "../figures/figures";
import type { JudgedStep } from "./judge";

/** Whether a reading says that a load draws more than planned. */
export function isLoadAbove(figures: Figures, { step, beyond }: JudgedStep): boolean {
  return step.quantity === "amps" && beyond > 0 && figures.partOf.get(step.about[0] ?? "")?.kind === "load";
}
