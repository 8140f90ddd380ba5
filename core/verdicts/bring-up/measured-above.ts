import { isLoadAbove } from "../../bringup/above";
import { correctionsOf } from "../../bringup/corrections";
import { readWords } from "../../bringup/words";
import type { Figures } from "../../figures/figures";
import { type Readings, rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "measured-above",
  title: "A load draws more than the plan has",
  step: "bring-up",
  needs: "Find out why it draws more than planned, or plan for what was read.",
});

/** A measured current above the plan's band: what was sized by the plan is sized by too little (fix, until the plan has the reading). */
export const measuredAbove = rule({ speak, reads: "log", evaluate });

function evaluate(figures: Figures, { judged }: Readings): Verdict[] {
  const corrections = correctionsOf(figures, judged);
  return judged.stages.flatMap(({ steps }) =>
    steps.flatMap((each): Verdict[] => {
      const { step, state, reading } = each;
      if (!reading || reading.value === null || (state !== "outside" && state !== "look") || !isLoadAbove(figures, each)) return [];
      const part = figures.partOf.get(step.about[0] ?? "");
      if (part?.kind !== "load" || step.expect.kind !== "band") return [];
      const put = corrections.find(
        ({ command }) => ("id" in command && command.id === part.id) || ("loadId" in command && command.loadId === part.id),
      );
      const planned = step.expect.band.value;
      return [
        speak({
          part,
          key: step.id.replace(/[^a-zA-Z0-9]+/g, "-"),
          severity: state === "look" ? "watch" : "fix",
          headline: `${part.name} draws ${readWords("amps", reading.value)}, the plan has ${readWords("amps", planned)}`,
          detail: `${step.title}. Wires, fuses and the run time were sized by the plan's figure. First make sure that nothing rubs and that it is the planned motor; then let the plan have what was read.`,
          compared: { amps: reading.value, limit: planned },
          remedies: put ? [{ label: "Take the reading into the plan", command: put.command }] : [],
        }),
      ];
    }),
  );
}
