import type { LevelName } from "../machine/load-schema";
import type { TerminalRef } from "../machine/schema";
import type { InstrumentId, ReadQuantity } from "../reference/instruments";
import type { Band } from "./compare";
import type { Probe } from "./probe";
import type { Situation } from "./situation";

/** Stages of a first power-up, in the usual order. */
export const STAGE_IDS = ["inspect", "tree", "logic", "drivers", "signals", "single", "free", "loaded", "soak", "stop", "source"] as const;
/** One of them. */
export type StageId = (typeof STAGE_IDS)[number];

/** Where a probe, a clamp or an eye goes. */
export interface Place {
  readonly what: "red" | "black" | "clamp" | "look" | "touch";
  /** Part and terminal, or wire, in words. */
  readonly at: string;
  /** What is written on it. */
  readonly label?: string | undefined;
  readonly note?: string | undefined;
}

/** What a reading is of: a place in the powered network, metal between two places (some wires lifted), the figure printed on a fuse, the way a motor turns. */
export type Observable =
  | { readonly kind: "network"; readonly situation: Situation; readonly probe: Probe }
  | {
      readonly kind: "ohms";
      readonly red: TerminalRef;
      readonly black: TerminalRef;
      readonly contactsOpen: boolean;
      readonly lifted?: readonly string[];
    }
  | { readonly kind: "fuse"; readonly subject: string }
  | { readonly kind: "turns"; readonly part: string };

/** What a reading should be. */
export type Expect =
  | { readonly kind: "band"; readonly band: Band }
  /** Up to a limit, the instrument's doubt already taken off. */
  | { readonly kind: "most"; readonly limit: number; readonly usual: number | null }
  /** From a limit on, the instrument's doubt already added; `open`: a meter that shows no reading at all is right. */
  | { readonly kind: "least"; readonly limit: number; readonly open: boolean }
  | { readonly kind: "exact"; readonly value: number }
  | { readonly kind: "yes" }
  /** Nothing can be said before this is known; the reading is kept all the same. */
  | { readonly kind: "ask"; readonly missing: string };

/** A figure of the plan that a reading tells: a load's level, a load's current in a mode, a converter's output. */
export type Tells =
  | { readonly kind: "level"; readonly load: string; readonly level: LevelName }
  | { readonly kind: "cell"; readonly load: string; readonly mode: string }
  | { readonly kind: "output"; readonly converter: string };

/** One thing to read or look at. */
export interface Step {
  /** Stable over plans and sessions: stage, what, and where. */
  readonly id: string;
  readonly stage: StageId;
  readonly title: string;
  readonly quantity: ReadQuantity;
  readonly instrument: InstrumentId;
  readonly places: readonly Place[];
  /** What of the machine it is, for what can be computed; null where nothing can. */
  readonly at: Observable | null;
  readonly expect: Expect;
  /** What to do when it is outside. */
  readonly outside: string;
  /** Parts and wires it reads: a change of one of them makes the reading stale. */
  readonly about: readonly string[];
  /** Outside of what is expected, nothing may get power: something can burn, be destroyed or move unasked. */
  readonly grave: boolean;
  /** Figure of the plan that the reading puts right; null where it puts none. */
  readonly tells: Tells | null;
  /** The instrument is too coarse to tell, in a sentence. */
  readonly coarse: string | null;
}

/** What a bench supply is set to in place of a source. */
export interface SupplySetting {
  readonly source: string;
  readonly name: string;
  readonly volts: number;
  /** Current limit, A, and whether something it does not know of is plugged in. */
  readonly limitA: number;
  readonly atLeast: boolean;
}

/** A stage: how the machine has to stand, what to beware of, and what to read. */
export interface Stage {
  readonly id: StageId;
  readonly title: string;
  /** How to get there, in a sentence or two. */
  readonly setUp: string;
  readonly supply: readonly SupplySetting[];
  readonly cautions: readonly string[];
  /** Stop at once when this shows. */
  readonly stopWhen: string;
  readonly steps: readonly Step[];
}

/** What the builder has to read with. */
export interface Kit {
  readonly volts: "pocket" | "hand" | "bench";
  readonly clamp: "clamp" | "fine-clamp" | "none";
  /** What the bench supply gives at most. */
  readonly supplyV: number;
  readonly supplyA: number;
}

/** What most hobbyists have (common practice, no source). */
export const USUAL_KIT: Kit = { volts: "hand", clamp: "clamp", supplyV: 30, supplyA: 10 };

/** A first power-up of a machine, in its order. */
export interface BringUp {
  readonly stages: readonly Stage[];
  readonly kit: Kit;
}
