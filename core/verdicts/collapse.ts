import type { Figures } from "../analysis/figures";
import type { Verdict } from "./types";

export const id = "collapse";
export const title = "Voltage collapse";

/** Modes without an operating point: the sources cannot deliver the power asked for through this resistance. */
export function evaluate(figures: Figures): Verdict[] {
  return figures.modes
    .filter((mode) => mode.collapsed || mode.collapsedLow)
    .map((mode) => ({
      id: `${id}:${mode.id}`,
      rule: id,
      severity: "stop" as const,
      step: "sources" as const,
      subject: { kind: "mode" as const, id: mode.id },
      headline: mode.collapsed ? `${mode.name}: the voltage collapses` : `${mode.name}: the voltage collapses when the pack is low`,
      detail:
        "There is no voltage at which the wiring and sources deliver what the constant-power parts (converters, boards) ask for: the lower it sags, the more they draw. Check for a part wired backwards, then shorten or thicken the feed, lower its load, or take a stronger source. No figures are shown for this mode.",
      remedies: [],
    }));
}
