import type { Figures } from "../../figures/figures";
import { partName } from "../../figures/names";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "collapse", title: "Voltage collapse", step: "sources" });

/** Modes without an operating point: the sources cannot deliver the power asked for through this resistance. */
export const collapse = rule({ speak, reads: "figures", sized: true, packBound: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  return figures.modes
    .filter((mode) => mode.collapsed || mode.collapsedLow)
    .map((mode) => {
      const index = figures.modes.indexOf(mode);
      const point = mode.collapsed ? figures.solved.planned[index] : figures.solved.low[index];
      const where = point?.starved ? ` at ${partName(figures, point.starved)}` : "";
      return speak({
        mode,
        severity: "stop",
        headline: mode.collapsed
          ? `${mode.name}: the voltage collapses${where}`
          : `${mode.name}: the voltage collapses${where} when the pack is low`,
        detail:
          "There is no voltage at which wiring and sources deliver what is asked for: converters and boards draw more the lower it sags, and motors need some voltage left. Check for a part wired backwards, then shorten or thicken the feed, lower its load, or take a stronger source. No figures are shown for this mode.",
      });
    });
}
