import type { Figures } from "../../figures/figures";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "node-rating", title: "More than a bar or Y-lead carries", step: "feeds" });

/** The sum that a bar, strip or Y-lead's trunk carries against its rating: every branch may be well and the trunk over. */
export const nodeRating = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  const { machine, solved } = figures;
  return machine.parts.flatMap((part): Verdict[] => {
    const limit = part.kind === "bar" ? part.ratedA?.value : undefined;
    if (part.kind !== "bar" || limit === undefined) return [];
    let amps = 0;
    let worst = 0;
    machine.modes.forEach((_, m) => {
      for (const points of [solved.planned, solved.low]) {
        let arriving = 0;
        machine.wires.forEach((wire, i) => {
          const current = points[m]?.branchA[i] ?? 0;
          if (wire.to.part === part.id) arriving += Math.max(0, current);
          if (wire.from.part === part.id) arriving += Math.max(0, -current);
        });
        if (arriving > amps) [amps, worst] = [arriving, m];
      }
    });
    const share = limit > 0 ? amps / limit : 0;
    if (share <= 0.9) return [];
    const trunk = part.form === "Y-lead" ? "its trunk carries the sum of its branches" : "all of it goes through this metal";
    return [
      speak.at(part.side === "negative" ? "returns" : "feeds")({
        part,
        severity: share > 1 ? "fix" : "watch",
        headline: `${part.name}: ${say(amps, "current", "up")} of ${say(limit, "current", "down")} in ${figures.modes[worst]?.name}`,
        detail: `Each branch may be within its limit, but ${trunk}. ${part.form === "Y-lead" ? "Give the larger load a feed of its own" : "A heavier one, or a second one"}.`,
        compared: { amps, limit },
      }),
    ];
  });
}
