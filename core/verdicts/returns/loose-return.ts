import type { Figures } from "../../figures/figures";
import { gaugeText, partName, wireName } from "../../figures/names";
import type { Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { settledTemperature } from "../../wires/ampacity";
import { loopCures } from "../link-remedies";
import { type LateReadings, rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";
import { heatWords } from "../wire-heat";

const speak = speaker({
  id: "loose-return",
  title: "A signal ground that takes everything when a return comes loose",
  step: "returns",
  needs: "No second way home beside the return, or one as strong as the return.",
});

/** Signal grounds that would carry more than they can once the heavy return beside them is off. */
export const looseReturn = rule({ speak, reads: "late", evaluate });

function evaluate(figures: Figures, { loose }: Pick<LateReadings, "loose">): Verdict[] {
  return loose.flatMap((each): Verdict[] => {
    const wire = figures.wireOf.get(each.into?.wire ?? "");
    const off = figures.wireOf.get(each.wire);
    if (!each.into || !wire || !off) return [];
    const { amps, limitA, mode } = each.into;
    if (limitA !== null && amps <= limitA) return [];
    const name = wireName(figures, wire);
    return [
      speak({
        wire,
        about: off.id,
        severity: limitA === null ? "ask" : "fix",
        also: [off.id],
        headline: `If the ${wireName(figures, off)} comes loose, ${say(amps, "current", "up")} go through the ${name}`,
        detail:
          limitA === null
            ? `What ${gaugeText(wire)} there may carry is not known: its size, printed on its jacket, settles it.`
            : `${partName(figures, each.part)} keeps running ${`in ${figures.modes[mode]?.name}`}, and nobody notices: ${gaugeText(wire)} is good for ${say(limitA, "current", "down")}${heat(figures, wire, amps)}. No fuse sees it: it is the current the machine always draws.`,
        compared: { amps, limit: limitA ?? undefined },
        remedies: loopCures(figures, wire, true),
      }),
    ];
  });
}

/** What that current makes of the wire it then goes through. */
function heat(figures: Figures, wire: Wire, amps: number): string {
  const ampacity = figures.wires[wire.id]?.ampacity;
  return ampacity ? `, and ${heatWords(wire, settledTemperature(wire, ampacity, amps))}` : "";
}
