import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, names, wireName } from "../../figures/names";
import type { Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { linksOf, shareOf } from "../../returns/links";
import { type SharedMetal, sharedMetal } from "../../returns/shared";
import { betterLandings } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Severity, Verdict } from "../types";

const speak = speaker({
  id: "shared-return",
  title: "A board's return shares metal with motors",
  step: "returns",
  needs: "A way home of its own for the board, to its own source.",
});

/** Boards whose ground rides on motor current, with how far it is lifted. */
export const sharedReturn = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  return sharedMetal(figures).map((shared) => {
    const { board, movers, liftV, mode, wires } = shared;
    const lift = liftV[mode] ?? 0;
    return speak({
      part: board,
      severity: severityOf(figures, shared),
      also: wires.map((wire) => wire.id),
      headline: `${board.name}'s ground rides on the return of ${names(
        movers.map(({ name }) => name),
        2,
      )}`,
      detail: `It comes home through the ${metal(figures, wires)} with them. Their current lifts it by ${say(lift, "voltage", "up")} in ${figures.modes[mode]?.name}; every reading and every signal of it moves along (common practice: logic and motors come home apart).`,
      compared: { volts: lift },
      cause: longest(wires)?.id,
      remedies: betterLandings(figures, board.id),
    });
  });
}

/** Of shared conductors the longest. */
function longest(wires: readonly Wire[]): Wire | undefined {
  return [...wires].sort((a, b) => (b.lengthM?.value ?? 0) - (a.lengthM?.value ?? 0))[0];
}

/** The longest shared conductor in words. */
function metal(figures: Build, wires: readonly Wire[]): string {
  const wire = longest(wires);
  if (!wire) return "same metal";
  const run = wire.lengthM ? `${say(wire.lengthM.value, "length")} of ${gaugeText(wire)}` : gaugeText(wire);
  return `${wireName(figures, wire)} (${run})`;
}

/** The school of returns joined at one point forbids it; otherwise it is as bad as what the board's links lose by it. */
function severityOf(figures: Figures, { board, liftV, mode }: SharedMetal): Severity {
  if (figures.machine.settings.schools.returns === "joined at one point") return "fix";
  const lift = liftV[mode] ?? 0;
  const own = linksOf(figures).filter((_, i) => {
    const signal = figures.machine.signals?.[i];
    return signal?.from === board.id || signal?.to === board.id;
  });
  return own.some(({ allowed }) => Math.max(shareOf(allowed, lift), shareOf(allowed, -lift)) > 1) ? "fix" : "watch";
}
