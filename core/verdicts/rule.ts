import type { Judged } from "../bringup/judge";
import type { Log } from "../bringup/log";
import type { FaultWalk } from "../faults/walk";
import { type Build, perBuild } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { LooseReturn } from "../returns/loose";
import type { RunTimes } from "../sources/run";
import type { Speaker, Topic } from "./speaker";
import type { Verdict } from "./types";

/** What is worked out when edits pause, for the rules that read it. */
export interface LateReadings {
  /** For every part that talks: its return comes loose. */
  loose: readonly LooseReturn[];
  /** What the quick rules and those of the discharge said of the same figures. */
  now: readonly Verdict[];
  /** What the rules that hang on what a pack can push say of other figures. */
  packBound: (then: Figures) => Verdict[];
}

/** What was read at the machine, against what the plan expects of it. */
export interface Readings {
  readonly log: Log;
  readonly judged: Judged;
}

/**
 * What a rule reads decides when it is asked: one that reads the wiring alone only after an edit of something else than a
 * cell, one that reads figures after each edit, the rest when edits pause.
 */
type Evaluate =
  | { reads: "build"; evaluate: (build: Build) => Verdict[] }
  | { reads: "figures"; evaluate: (figures: Figures) => Verdict[] }
  /** The walk of shorts over every place. */
  | { reads: "shorts"; evaluate: (figures: Figures, walk: FaultWalk) => Verdict[] }
  /** How long full packs last. */
  | { reads: "discharge"; evaluate: (figures: Figures, times: RunTimes) => Verdict[] }
  /** What was read at the machine. */
  | { reads: "log"; evaluate: (figures: Figures, readings: Readings) => Verdict[] }
  | { reads: "late"; evaluate: (figures: Figures, late: LateReadings) => Verdict[] };

interface Facts {
  /** Other sizes of wires, fuses and connectors can settle what it says. */
  sized: boolean;
  /** What it says hangs on what a pack can push: it is asked again with the packs aged and cold. */
  packBound: boolean;
  /** Its verdicts depend on how much motors draw when they start or are held: a limit or another order of starts may settle them. */
  byDraw: boolean;
}

/** A rule and what other code has to know of it. `says`: its topics, its own first. */
export type Rule = Readonly<Topic & Facts & Evaluate & { says: readonly Topic[] }>;

/** Declares a rule: who speaks, what it reads, how it judges, and the facts that are not the usual ones. */
export function rule(declared: { speak: Speaker; others?: readonly Speaker[] } & Partial<Facts> & Evaluate): Rule {
  const { speak, others = [], sized = false, packBound = false, byDraw = false, ...judges } = declared;
  const kept = judges.reads === "build" ? { ...judges, evaluate: perBuild(judges.evaluate) } : judges;
  const says = [speak, ...others].map(({ id, title, step }): Topic => ({ id, title, step }));
  return { id: speak.id, title: speak.title, step: speak.step, says, sized, packBound, byDraw, ...kept };
}
