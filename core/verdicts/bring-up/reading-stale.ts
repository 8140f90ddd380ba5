import type { Figures } from "../../figures/figures";
import { names } from "../../figures/names";
import { type Readings, rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "reading-stale", title: "Readings of an older plan", step: "bring-up" });

/** What was read before the plan changed there says nothing of the machine as it is planned now. */
export const readingStale = rule({ speak, reads: "log", evaluate });

function evaluate(_: Figures, { judged }: Readings): Verdict[] {
  return judged.stages.flatMap(({ stage, steps }): Verdict[] => {
    const stale = steps.filter(({ state }) => state === "stale");
    if (stale.length === 0) return [];
    const several = stale.length > 1;
    return [
      speak({
        machine: "machine",
        about: stage.id,
        severity: "ask",
        headline: `${stage.title}: ${several ? `${stale.length} readings are` : "one reading is"} of an older plan`,
        detail: `What ${several ? "they read" : "it read"} was changed in the plan since: ${names(stale.map(({ step }) => step.title))}. Read ${several ? "them" : "it"} again, a minute each.`,
        compared: { count: stale.length },
      }),
    ];
  });
}
