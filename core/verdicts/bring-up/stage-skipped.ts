import type { Figures } from "../../figures/figures";
import { names } from "../../figures/names";
import { type Readings, rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "stage-skipped", title: "Something was left out on purpose", step: "bring-up" });

/** A stage or a step that was left with a reason: what it would have found can still be there. */
export const stageSkipped = rule({ speak, reads: "log", evaluate });

function evaluate(_: Figures, { judged }: Readings): Verdict[] {
  return judged.stages.flatMap(({ stage, steps, waiver, holds, done }): Verdict[] => {
    const left = steps.filter(({ state }) => state === "waived");
    if (waiver && !holds)
      return [
        speak({
          machine: "machine",
          about: stage.id,
          severity: "watch",
          headline: `${stage.title} was left after ${done} of ${steps.length}`,
          detail: `The reason given: ${waiver.reason}. What its other readings would have shown is not known.`,
        }),
      ];
    if (left.length === 0) return [];
    return [
      speak({
        machine: "machine",
        about: stage.id,
        severity: "watch",
        headline: `${stage.title}: ${left.length === 1 ? "one reading was" : `${left.length} readings were`} left with a reason`,
        detail: `${names(left.map(({ step, waiver: own }) => `${step.title} (${own?.reason ?? ""})`))}.`,
      }),
    ];
  });
}
