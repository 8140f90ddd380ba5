import type { Figures } from "../figures/figures";
import type { Part, Wire } from "../machine/schema";
import type { Signal } from "../machine/signal-schema";
import { type Standing, standingOf, together, uncertaintyOf } from "./compare";
import type { Log, Reading, Waiver } from "./log";
import type { BringUp, Expect, Stage, Step } from "./types";

/** Where a step is: not read, as expected, to be looked at, outside, kept without an expectation, of a plan that has changed since, or left with a reason. */
export type StepState = "open" | Standing | "noted" | "stale" | "waived";

/** A step with what was read at it. */
export interface JudgedStep {
  readonly step: Step;
  readonly state: StepState;
  /** The last reading that was not struck out. */
  readonly reading: Reading | null;
  /** How far beyond the pass band, in the step's unit; negative below. 0 within, or where there is no band. */
  readonly beyond: number;
  readonly waiver: Waiver | null;
  /** What of the plan it reads, as a sum: kept with a reading, so that a change is seen. */
  readonly basis: string;
}

/** A stage with its steps. It holds when each of its steps does, was kept or was left with a reason. */
export interface JudgedStage {
  readonly stage: Stage;
  readonly steps: readonly JudgedStep[];
  readonly done: number;
  readonly holds: boolean;
  readonly waiver: Waiver | null;
  /** The stages before it hold or were left with a reason. */
  readonly opens: boolean;
}

/** A bring-up against its log. */
export interface Judged {
  readonly bringUp: BringUp;
  readonly stages: readonly JudgedStage[];
  /** Readings of steps that the plan no longer has, and those taken beside it. */
  readonly others: readonly Reading[];
}

/** Fields that say nothing about how a thing is built: a change of them makes no reading stale. What a load draws is judged by its number. */
const NOT_BUILT = new Set(["name", "note", "cost", "massKg", "colour", "label", "pinned", "cells", "levels", "shelf", "stud", "pins"]);

/** A thing as text, whatever order its fields were written in: what is stored and read again is the same thing. */
function builtAs(thing: Part | Wire | Signal | undefined): string {
  if (!thing) return "-";
  return JSON.stringify(thing, (key, value: unknown) => {
    if (NOT_BUILT.has(key)) return undefined;
    if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
    return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
  });
}

/** A short sum of what a step reads, as it is built in the plan (FNV-1a, 32 bits, from memory). */
export function basisOf(figures: Figures, step: Step): string {
  const { partOf, wireOf, machine } = figures;
  let hash = 0x811c9dc5;
  for (const id of step.about) {
    const text = builtAs(partOf.get(id) ?? wireOf.get(id) ?? machine.signals?.find((signal) => signal.id === id));
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  }
  return hash.toString(36);
}

/** The number a step expects, to be kept with its reading. */
export function expectedOf(expect: Expect): number | null {
  if (expect.kind === "band") return expect.band.value;
  if (expect.kind === "exact") return expect.value;
  if (expect.kind === "most" || expect.kind === "least") return expect.limit;
  return null;
}

/** How a reading stands to what is expected now. `uncertainty`: its own, in place of that of the step's instrument. */
export function compare(expect: Expect, value: number | null, uncertainty: number | null): { state: Standing | "noted"; beyond: number } {
  switch (expect.kind) {
    case "ask":
      return { state: "noted", beyond: 0 };
    case "yes":
      return { state: value === 1 ? "holds" : "outside", beyond: 0 };
    case "exact":
      return value === expect.value ? { state: "holds", beyond: 0 } : { state: "outside", beyond: (value ?? 0) - expect.value };
    case "least":
      // Over range is the right answer of an ohmmeter between two rails.
      if (value === null) return { state: expect.open ? "holds" : "outside", beyond: 0 };
      return value >= expect.limit ? { state: "holds", beyond: 0 } : { state: "outside", beyond: value - expect.limit };
    case "most": {
      if (value === null) return { state: "outside", beyond: 0 };
      const over = Math.abs(value) - expect.limit;
      return over <= 0 ? { state: "holds", beyond: 0 } : { state: "outside", beyond: over };
    }
    case "band": {
      if (value === null) return { state: "outside", beyond: 0 };
      const band = uncertainty === null ? expect.band : { ...expect.band, meterU: uncertainty };
      const state = standingOf(band, value);
      const low = band.value - together(band.value - band.planLow, band.meterU);
      const high = band.value + together(band.planHigh - band.value, band.meterU);
      return {
        state,
        beyond:
          state === "holds"
            ? 0
            : value > band.value
              ? value - Math.min(high, band.ceiling ?? high)
              : value - Math.max(low, band.floor ?? low),
      };
    }
  }
}

/** Share of a band's half-width by which an expectation must have moved to be another one. */
const MOVED_SHARE = 0.25;

function halfOf(expect: Expect): number {
  return expect.kind === "band" ? together((expect.band.planHigh - expect.band.planLow) / 2, expect.band.meterU) : 0;
}

function isStale(basis: string, step: Step, reading: Reading, state: Standing | "noted"): boolean {
  if (reading.basis !== null && reading.basis !== basis) return true;
  const now = expectedOf(step.expect);
  if (state === "holds" || state === "noted" || reading.expected === null || now === null) return false;
  return Math.abs(now - reading.expected) > MOVED_SHARE * halfOf(step.expect) + 1e-9 * Math.abs(now);
}

/** What a reading is in doubt by where that is not what the step's instrument has: its taker knew better, or took another. */
export function ownUncertainty(step: Step, reading: Reading): number | null {
  return reading.uncertainty !== null || reading.instrument !== step.instrument ? uncertaintyOf(reading) : null;
}

function judgeStep(figures: Figures, step: Step, readings: ReadonlyMap<string, Reading>, waivers: readonly Waiver[]): JudgedStep {
  const reading = readings.get(step.id) ?? null;
  const waiver = waivers.find((each) => each.step === step.id) ?? null;
  const basis = basisOf(figures, step);
  if (!reading) return { step, state: waiver ? "waived" : "open", reading, beyond: 0, waiver, basis };
  const { state, beyond } = compare(step.expect, reading.value, ownUncertainty(step, reading));
  const stale = isStale(basis, step, reading, state);
  if (waiver && (stale || state === "outside" || state === "look") && waiver.at >= reading.takenAt)
    return { step, state: "waived", reading, beyond, waiver, basis };
  return { step, state: stale ? "stale" : state, reading, beyond, waiver, basis };
}

/** Whether a step needs nothing more. */
export function isDone({ state }: Pick<JudgedStep, "state">): boolean {
  return state === "holds" || state === "noted" || state === "waived";
}

/** Holds a log against the stages of a plan. */
export function judge(figures: Figures, bringUp: BringUp, log: Log): Judged {
  const last = new Map<string, Reading>();
  for (const reading of log.readings) {
    if (reading.struck || reading.step === null) continue;
    const before = last.get(reading.step);
    if (!before || reading.takenAt >= before.takenAt) last.set(reading.step, reading);
  }
  const waivers = log.waivers.filter(({ ended }) => !ended);
  const known = new Set<string>();
  let opens = true;
  const stages = bringUp.stages.map((stage): JudgedStage => {
    const own = waivers.filter((each) => each.stage === stage.id);
    const steps = stage.steps.map((step) => {
      known.add(step.id);
      return judgeStep(figures, step, last, own);
    });
    const done = steps.filter(isDone).length;
    const holds = done === steps.length;
    const waiver = own.find(({ step }) => step === null) ?? null;
    const judged = { stage, steps, done, holds, waiver, opens };
    opens &&= holds || waiver !== null;
    return judged;
  });
  return { bringUp, stages, others: log.readings.filter(({ step }) => step === null || !known.has(step)) };
}
