import { type Excess, excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import type { Switch } from "../../machine/schema";
import { say } from "../../quantity/format";
import { bearsFor, CONTACT_PEAK } from "../../wires/brief";
import { contactSeverity } from "../contact-heat";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "part-rating",
  title: "Switch over its rating",
  step: "feeds",
  needs: "One that carries this current at DC for as long: a part only you can choose.",
});

/** Current in each switch contact against what it carries continuously and for a while; one without a rating is asked for it. */
export const partRating = rule({ speak, reads: "figures", byDraw: true, evaluate });

/** A contact of any kind carries this, A: below it nobody need ask. */
const ANY_CONTACT_A = 1;
/** Share of a rating from which little is left. */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  return figures.solved.circuit.branches.flatMap((branch, index): Verdict[] => {
    const part = branch.kind === "switch" ? figures.partOf.get(branch.id) : undefined;
    return part?.kind === "switch" ? ofSwitch(figures, part, index) : [];
  });
}

function ofSwitch(figures: Figures, part: Switch, index: number): Verdict[] {
  const rated = part.ratedA?.value;
  const peak = part.peakA?.value ?? (rated === undefined ? undefined : CONTACT_PEAK * rated);
  const { lasting, brief } = excessOf(
    figures,
    (point) => Math.abs(point.branchA[index] as number),
    (seconds) => (rated === undefined || peak === undefined ? ANY_CONTACT_A : bearsFor(seconds, rated, peak, part.peakS?.value)),
  );
  if (rated === undefined) {
    const most = Math.max(lasting?.amps ?? 0, brief?.amps ?? 0);
    return most > ANY_CONTACT_A
      ? [
          speak({
            part,
            key: "ask",
            severity: "ask",
            headline: `${part.name}: how many amps may it carry?`,
            detail: `Up to ${say(most, "current", "up")} go through it. A contact over its rating runs hot, burns or welds shut; the figure stands on it or in its sheet, for DC.`,
          }),
        ]
      : [];
  }
  return [...(lasting ? over(figures, part, lasting, null) : []), ...(brief ? over(figures, part, brief, brief.mode) : [])];
}

function over(figures: Figures, part: Switch, { share, amps, limitA, mode }: Excess, timed: number | null): Verdict[] {
  if (share <= WATCH_FROM) return [];
  const seconds = timed === null ? null : (figures.machine.modes[timed]?.lastsS ?? 0);
  const { severity, riseK } = contactSeverity(share);
  return [
    speak({
      part,
      ...(seconds === null ? {} : { key: "brief" }),
      severity,
      headline: `${part.name}: ${say(amps, "current", "up")} of ${say(limitA, "current", "down")} in ${figures.modes[mode]?.name}`,
      detail: `The contact carries all of it ${seconds === null ? "continuously" : `for ${say(seconds, "time")}`}${
        share > 1
          ? ` and rises by about ${Math.ceil(riseK)} K: it ${severity === "stop" ? "burns or welds" : "ages and may weld"}. Take a switch rated for this current at DC`
          : "; a tired contact runs hot"
      }.`,
      compared: { amps, limit: limitA },
    }),
  ];
}
