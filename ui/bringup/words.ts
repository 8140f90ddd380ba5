import { ALARM_STEP } from "@/core/bringup/alarm";
import type { JudgedStep, StepState } from "@/core/bringup/judge";
import { expectedOf } from "@/core/bringup/judge";
import type { Reading, Waiver } from "@/core/bringup/log";
import type { StageId, Step } from "@/core/bringup/types";
import { freshKey } from "@/state/keys";

/** What a step's state is called, and the mark it has in a list. */
export const STATE_WORDS: Readonly<Record<StepState, { mark: string; word: string; className: string }>> = {
  open: { mark: "", word: "to read", className: "text-soft" },
  holds: { mark: "✓", word: "holds", className: "text-ink" },
  noted: { mark: "+", word: "kept", className: "text-ink" },
  look: { mark: "≈", word: "read again", className: "font-bold text-watch" },
  outside: { mark: "!", word: "outside", className: "font-bold text-stop dark:text-fix" },
  stale: { mark: "?", word: "older plan", className: "font-bold text-ask" },
  waived: { mark: "–", word: "left out", className: "text-soft" },
};

/** A reading of a step, taken now. */
export function readingOf(
  { step, basis }: Pick<JudgedStep, "step" | "basis">,
  value: number | null,
  way: Reading["way"],
  note = "",
): Reading {
  return {
    queueId: freshKey(),
    step: step.id,
    stage: step.stage,
    place: placeOf(step),
    quantity: step.quantity,
    value,
    instrument: step.instrument,
    uncertainty: null,
    takenAt: new Date().toISOString(),
    note,
    way,
    expected: expectedOf(step.expect),
    basis,
    struck: false,
  };
}

/** Smoke, heat or a smell at a step: everything stops until it is found. */
export function alarmAt(at: Pick<JudgedStep, "step" | "basis">, what: string, way: Reading["way"] = "typed"): Reading {
  return { ...readingOf(at, 0, way, what), step: ALARM_STEP, quantity: "yes", instrument: "eyes", expected: null, basis: null };
}

/** Where a step is read, on one line. */
export function placeOf({ title, places }: Pick<Step, "title" | "places">): string {
  const at = places.map((place) => place.at).join(" to ");
  return `${title} (${at})`.slice(0, 300);
}

/** A stage, or a step of it, left with a reason, now. */
export function waiverOf(stage: StageId, step: string | null, reason: string): Waiver {
  return { queueId: freshKey(), stage, step, reason, at: new Date().toISOString(), ended: false };
}
