import type { Figures } from "../../figures/figures";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "part-rating", title: "Switch over its rating", step: "feeds" });

/** Current in each switch contact against what it may carry. Without a rating nothing is claimed. */
export const partRating = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const { solved, machine } = figures;
  solved.circuit.branches.forEach((branch, index) => {
    const part = branch.kind === "switch" ? figures.partOf.get(branch.id) : undefined;
    const limit = part?.kind === "switch" ? part.ratedA?.value : undefined;
    if (!part || limit === undefined) return;
    let amps = 0;
    let worst = 0;
    machine.modes.forEach((_, m) => {
      const now = Math.max(Math.abs(solved.planned[m]?.branchA[index] ?? 0), Math.abs(solved.low[m]?.branchA[index] ?? 0));
      if (now <= amps) return;
      amps = now;
      worst = m;
    });
    const share = amps / limit;
    if (share <= 0.9) return;
    verdicts.push(
      speak({
        part,
        severity: share > 1 ? "fix" : "watch",
        headline: `${part.name}: ${say(amps, "current", "up")} of ${say(limit, "current", "down")} in ${figures.modes[worst]?.name}`,
        detail: `The contact carries all of it${share > 1 ? " and burns or welds. Take a switch rated for this current at DC" : "; a tired contact runs hot"}.`,
        compared: { amps, limit },
      }),
    );
  });
  return verdicts;
}
