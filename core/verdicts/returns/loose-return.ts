import type { Figures } from "../../figures/figures";
import { gaugeText, partName, wireName } from "../../figures/names";
import { say } from "../../quantity/format";
import type { LooseReturn } from "../../returns/loose";
import type { Verdict } from "../types";
import { loopCures } from "./ground-loop";

export const id = "loose-return";
export const title = "A signal ground that takes everything when a return comes loose";

/** Signal grounds that would carry more than they can once the heavy return beside them is off. */
export function evaluate(figures: Figures, loose: readonly LooseReturn[]): Verdict[] {
  return loose.flatMap((each): Verdict[] => {
    const wire = figures.wireOf.get(each.into?.wire ?? "");
    const off = figures.wireOf.get(each.wire);
    if (!each.into || !wire || !off) return [];
    const { amps, limitA, mode } = each.into;
    if (limitA !== null && amps <= limitA) return [];
    const name = wireName(figures, wire);
    return [
      {
        id: `${id}:${off.id}`,
        rule: id,
        severity: limitA === null ? "ask" : "fix",
        step: "returns",
        subject: { kind: "wire", id: wire.id },
        also: [off.id],
        value: amps,
        ...(limitA === null ? {} : { limit: limitA }),
        unit: "A",
        headline: `If the ${wireName(figures, off)} comes loose, ${say(amps, "current", "up")} go through the ${name}`,
        detail:
          limitA === null
            ? `What ${gaugeText(wire)} there may carry is not known: give its size.`
            : `${partName(figures, each.part)} keeps running ${`in ${figures.modes[mode]?.name}`}, so nobody notices until ${gaugeText(wire)}, good for ${say(limitA, "current", "down")}, burns. No fuse sees it: it is the current the machine always draws.`,
        remedies: loopCures(figures, wire, true),
      },
    ];
  });
}
