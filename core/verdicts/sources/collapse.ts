import type { Figures } from "../../figures/figures";
import { partName } from "../../figures/names";
import { type Crossing, crossedWords, crossingsOf } from "../../figures/polarity";
import { capital } from "../../quantity/format";
import { harm } from "../reversed";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "collapse",
  title: "Voltage collapse",
  step: "sources",
  needs: "A stronger source or less drawn at once: see what draws most in this mode.",
});

/** Modes without an operating point: the sources cannot deliver the power asked for through this resistance. */
export const collapse = rule({ speak, reads: "figures", byDraw: true, sized: true, packBound: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  return figures.modes
    .filter((mode) => mode.collapsed || mode.collapsedLow)
    .map((mode) => {
      const index = figures.modes.indexOf(mode);
      const point = mode.collapsed ? figures.solved.planned[index] : figures.solved.low[index];
      const where = point?.starved ? ` at ${partName(figures, point.starved)}` : "";
      const crossed = crossingsOf(figures).filter(({ modes }) => modes.includes(index));
      if (crossed.length > 0) return wiredWrong(figures, mode, crossed);
      return speak({
        mode,
        cause: point?.starved ?? undefined,
        kin: point?.starved ?? "all",
        severity: "stop",
        headline: mode.collapsed
          ? `${mode.name}: the voltage collapses${where}`
          : `${mode.name}: the voltage collapses${where} when the pack is low`,
        detail:
          "There is no voltage at which wiring and sources deliver what is asked for: converters and boards draw more the lower it sags, and motors need some voltage left. Shorten or thicken the feed, lower its load, or take a stronger source. No figures are shown for this mode.",
      });
    });
}

/** With plus and minus crossed there is nothing to compute: what is crossed is named, not where the sums give up. */
function wiredWrong(figures: Figures, mode: { id: string; name: string }, crossed: readonly Crossing[]): Verdict {
  const shorts = crossed.filter(({ found }) => found === "short");
  const [first] = shorts.length > 0 ? shorts : crossed;
  const words = first ? crossedWords(figures, first) : "";
  const who = first?.parts.map((id) => partName(figures, id))[0] ?? "a part";
  // Turned round it is as bad as what that does to the part, and no less than a mode that cannot be computed.
  const harmless =
    first !== undefined && first.found !== "short" && first.parts.every((id) => harm(figures.partOf.get(id)).severity !== "stop");
  return speak({
    mode,
    cause: first?.parts[0],
    severity: harmless ? "fix" : "stop",
    headline: first?.found === "short" ? `${mode.name}: ${who} is shorted` : `${mode.name}: ${who} is wired the wrong way round`,
    detail: `${words ? `${capital(words)} ${first && first.meets.length > 1 ? "are" : "is"} likely crossed. ` : ""}No figures are shown for this mode until that is put right.`,
  });
}
