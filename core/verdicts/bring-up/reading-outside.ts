import { isLoadAbove } from "../../bringup/above";
import { alarmsOf } from "../../bringup/alarm";
import type { JudgedStep } from "../../bringup/judge";
import type { Reading } from "../../bringup/log";
import { expectWords, readWords } from "../../bringup/words";
import type { Figures } from "../../figures/figures";
import { capital } from "../../quantity/format";
import { type Readings, rule } from "../rule";
import { type Compared, speaker } from "../speaker";
import type { Severity, Subject, Verdict } from "../types";

const speak = speaker({
  id: "reading-outside",
  title: "A reading outside its band",
  step: "bring-up",
  needs: "Find at the machine why it reads so, then read it again.",
});

/**
 * A reading that the plan and the instrument's doubt do not allow: the machine is not built as planned (ISO 13528: E_n over 1 is
 * looked at, past the sum of both doubts it is outside). Stop where power would burn, destroy or move something.
 */
export const readingOutside = rule({ speak, reads: "log", evaluate });

function evaluate(figures: Figures, { judged, log }: Readings): Verdict[] {
  const alarms = alarmsOf(log.readings).map(alarmOf);
  const outside = judged.stages.flatMap(({ stage, steps }) => steps.flatMap((step) => verdictOf(figures, stage.title, step)));
  return [...alarms, ...outside];
}

/** Somebody stopped for smoke, heat or a smell: nothing goes on before it is found. */
function alarmOf({ queueId, note, place, takenAt }: Reading): Verdict {
  return speak({
    machine: "machine",
    key: "alarm",
    about: queueId,
    severity: "stop",
    headline: `Stopped: ${note}`,
    detail: `Said at ${takenAt.slice(0, 16).replace("T", " ")} (UTC), at: ${place}. Find what it was with the power off. When it is found and mended, strike the entry out of the log.`,
  });
}

function verdictOf(figures: Figures, stage: string, judged: JudgedStep): Verdict[] {
  const { step, state, reading } = judged;
  // A load that draws more than planned has a verdict of its own.
  if (!reading || (state !== "outside" && state !== "look") || isLoadAbove(figures, judged)) return [];
  const read = readWords(step.quantity, reading.value);
  const { value, bounds } = expectWords(step.quantity, step.expect);
  const was =
    step.quantity === "yes" ? "It was not so." : `Read ${read}, expected ${value}${bounds && bounds !== value ? ` (${bounds})` : ""}.`;
  return [
    speak({
      subject: subjectOf(figures, step.about[0]),
      key: step.id.replace(/[^a-zA-Z0-9]+/g, "-"),
      severity: severityOf(judged),
      headline: step.quantity === "yes" ? `Not so: ${lower(step.title)}` : `${step.title}: ${read}`,
      detail: `${stage}. ${was} ${state === "look" ? "Within the sum of both doubts: read it again, with a better instrument if you can. " : ""}${capital(step.outside)}`,
      compared: comparedOf(judged),
    }),
  ];
}

function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}

function severityOf({ step, state, reading }: JudgedStep): Severity {
  if (state === "look") return "watch";
  const past = step.expect.kind === "band" && step.expect.band.ceiling !== undefined && (reading?.value ?? 0) > step.expect.band.ceiling;
  return step.grave || past ? "stop" : "fix";
}

function subjectOf(figures: Figures, id: string | undefined): Subject {
  if (id !== undefined && figures.partOf.has(id)) return { kind: "part", id };
  return id !== undefined && figures.wireOf.has(id) ? { kind: "wire", id } : { kind: "machine", id: "machine" };
}

function comparedOf({ step: { quantity, expect }, reading }: JudgedStep): Compared | undefined {
  const value = reading?.value;
  if (value === null || value === undefined) return undefined;
  const limit = expect.kind === "most" || expect.kind === "least" ? expect.limit : undefined;
  if (quantity === "volts") return { volts: value, limit };
  if (quantity === "amps" || quantity === "rating") return { amps: value, limit };
  if (quantity === "celsius") return { celsius: value, limit };
  return quantity === "seconds" ? { seconds: value, limit } : undefined;
}
