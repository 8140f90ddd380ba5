import type { Wire } from "../machine/schema";
import type { Remedy, Severity, Step, Subject, Verdict } from "./types";

/** The machine is grouped by step; a return's troubles are settled on the Returns step. */
export function stepOf(wire: Pick<Wire, "role">): Step {
  return wire.role === "supply" || wire.role === "phase" ? "feeds" : "returns";
}

/** Units that verdicts compare in, by the quantity. */
const UNITS = {
  amps: "A",
  volts: "V",
  watts: "W",
  joules: "J",
  percent: "%",
  celsius: "°C",
  amps2s: "A²s",
  seconds: "s",
  metres: "m",
  mm2: "mm²",
  farads: "F",
  /** How often: a number alone. */
  count: null,
} as const;

type Quantity = keyof typeof UNITS;
const QUANTITIES = Object.keys(UNITS) as Quantity[];

/** What was found, in one quantity, and what it is held against where that is one number. */
export type Compared = { [Q in Quantity]: { [K in Q]: number } & { limit?: number | undefined } }[Quantity];

/** Whose row a verdict stands at. A wire on its own tells which step it belongs to. */
type About =
  | { part: { id: string } }
  | { wire: Pick<Wire, "id" | "role"> }
  | { mode: { id: string } }
  | { machine: string }
  | { subject: Subject };

/** What a rule says. */
export type Said = About & {
  severity: Severity;
  /** Tells several verdicts of one rule about one subject apart. */
  key?: string;
  /** In the verdict's id in place of the subject's id, where the verdict is about something smaller, or about all. */
  about?: string;
  /** Other parts and wires it speaks of: their rows are not clear either. */
  also?: readonly string[];
  /** What is wrong where. */
  headline: string;
  /** Why it matters, with numbers. */
  detail: string;
  compared?: Compared | undefined;
  /** Wire or part where the trouble lies, where that is not its subject; null: at no one place. */
  cause?: string | null | undefined;
  /** What several verdicts of this topic have in common, so that they are one thing said of several places. */
  kin?: string | undefined;
  remedies?: readonly Remedy[];
};

/** What a rule is called in ids, what in words, and on which step its verdicts stand ("by role": where the wire belongs). */
export interface Topic {
  id: string;
  title: string;
  step: Step | "by role";
  /** What settles it that no click can give, for a Stop or a Fix. */
  needs?: string;
}

/** Makes the verdicts of one topic. */
export interface Speaker extends Readonly<Topic> {
  (said: Said): Verdict;
  /** The same topic on another step. */
  at: (step: Step) => (said: Said) => Verdict;
}

function subjectOf(said: Said): Subject {
  if ("subject" in said) return said.subject;
  if ("part" in said) return { kind: "part", id: said.part.id };
  if ("wire" in said) return { kind: "wire", id: said.wire.id };
  return "mode" in said ? { kind: "mode", id: said.mode.id } : { kind: "machine", id: said.machine };
}

function numbersOf(compared: Compared): Pick<Verdict, "value" | "limit" | "unit"> {
  const found: Partial<Record<Quantity, number>> = compared;
  const quantity = QUANTITIES.find((each) => found[each] !== undefined);
  if (quantity === undefined) return {};
  const [value, unit, { limit }] = [found[quantity], UNITS[quantity], compared];
  return { value, ...(limit === undefined ? {} : { limit }), ...(unit === null ? {} : { unit }) };
}

/** The one way a rule builds a verdict: it says what it found of which part or wire, and nothing that is the same each time. */
export function speaker(topic: Topic): Speaker {
  const speak = (step: Topic["step"], said: Said): Verdict => {
    const subject = subjectOf(said);
    const { severity, key, about = subject.id, also, headline, detail, compared, cause, kin, remedies = [] } = said;
    const verdict: Verdict = {
      id: `${topic.id}${key ? `:${key}` : ""}${about ? `:${about}` : ""}`,
      rule: topic.id,
      severity,
      step: step === "by role" ? ("wire" in said ? stepOf(said.wire) : "feeds") : step,
      subject,
      headline,
      detail,
      remedies,
    };
    if (also) verdict.also = also;
    if (cause !== undefined) verdict.cause = cause;
    if (kin !== undefined) verdict.kin = `${topic.id}:${kin}`;
    if (topic.needs !== undefined && (severity === "stop" || severity === "fix")) verdict.needs = topic.needs;
    return compared ? Object.assign(verdict, numbersOf(compared)) : verdict;
  };
  return Object.assign((said: Said) => speak(topic.step, said), {
    ...topic,
    at: (step: Step) => (said: Said) => speak(step, said),
  });
}
