import type { Provenance } from "../machine/figure";
import type { LinkKind } from "../machine/signal-schema";
import type { ChemistryId } from "../reference/chemistries";
import type { LoadKind } from "../reference/load-kinds";
import type { SupplyMake } from "../reference/supplies";

/** A place in a line, by letters. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** A figure as a line says it, in SI, where it says so, and how it is known: as on a label unless hedged or measured. */
export interface Said extends Span {
  readonly value: number;
  /** The lower end where a span was written; `value` is the upper one. */
  readonly low?: number;
  readonly provenance: Provenance;
}

/** What of a line a chip shows. */
export type ChipKey =
  | "count"
  | "kind"
  | "name"
  | "volts"
  | "run"
  | "idle"
  | "start"
  | "stall"
  | "most"
  | "watts"
  | "phase"
  | "ohms"
  | "driver"
  | "cells"
  | "chemistry"
  | "capacity"
  | "length"
  | "wire"
  | "switches"
  | "channels"
  | "input"
  | "column"
  | "more";

/** One thing that was read from a line: where it stands there (null: it is not in the text), and whether it was said or has to be asked. */
export interface Chip {
  readonly key: ChipKey;
  readonly text: string;
  readonly at: Span | null;
  readonly how: "said" | "supposed" | "asked";
}

/** A way a line could be meant: what the button says, and the line as it would then read. */
export interface Nearest {
  readonly label: string;
  readonly line: string;
}

/** Something of a line that is not read, in the builder's words. */
export interface Trouble {
  readonly why: string;
  readonly at: Span | null;
}

/** Which currents of a load a line may name. */
export type AmpsRole = "run" | "idle" | "start" | "stall" | "most";

/** Whom something talks to, and how where that is said. */
export interface Talk {
  readonly to: string;
  readonly kind: LinkKind | null;
}

/** A load, or several alike. */
export interface LoadReading {
  readonly is: "load";
  readonly kind: LoadKind;
  readonly name: string;
  readonly count: number;
  readonly volts: Said | null;
  /** Currents of one piece. */
  readonly amps: Readonly<Partial<Record<AmpsRole, Said>>>;
  /** Of one piece. */
  readonly watts: Said | null;
  /** Of a stepper's phase, or a heater's or motor's winding. */
  readonly ohms: Said | null;
  readonly phaseA: Said | null;
  /** How many share a driver; null: nothing said. 0: none wanted. */
  readonly perDriver: number | null;
  readonly lengthM: Said | null;
  readonly gauge: string | null;
  /** A fuse that the line names for it, A. It is sized with the rest. */
  readonly fuseA: number | null;
  readonly talks: Talk | null;
  /** A driver that the line names for it, A. It is planned where it has a line of its own. */
  readonly driverA: number | null;
  readonly endSwitches: boolean;
  readonly motorClass: string | null;
  readonly logicClass: string | null;
}

/** A battery. */
export interface PackReading {
  readonly is: "pack";
  readonly name: string;
  readonly chemistry: ChemistryId | null;
  /** Cells in series, all blocks together, where the line tells. */
  readonly series: number | null;
  readonly blocks: number | null;
  /** Several blocks of which the line does not say how they are joined: how many. They are counted in neither. */
  readonly unjoined: number | null;
  readonly parallel: number;
  /** Volts of the whole, nominal. */
  readonly volts: Said | null;
  /** Capacity of the whole, Ah. */
  readonly capacityAh: Said | null;
  readonly continuousA: Said | null;
  readonly lengthM: Said | null;
  /** What it is for, where it says so. */
  readonly forLogic: boolean;
}

/** A supply with one or several outputs. */
export interface SupplyReading {
  readonly is: "supply";
  readonly name: string;
  readonly make: SupplyMake | null;
  readonly outputs: readonly { readonly volts: Said; readonly amps: Said | null }[];
  readonly watts: Said | null;
  readonly lengthM: Said | null;
}

/** A converter between two rails. */
export interface ConverterReading {
  readonly is: "converter";
  readonly name: string;
  readonly topology: "buck" | "boost" | "linear" | "buck-boost" | null;
  readonly isolated: boolean;
  readonly count: number;
  readonly outputV: Said | null;
  readonly inputV: Said | null;
  readonly amps: Said | null;
}

/** A motor driver, or several. */
export interface DriverReading {
  readonly is: "driver";
  readonly name: string;
  readonly count: number;
  readonly channels: number | null;
  readonly volts: Said | null;
  /** Printed amps of a channel, and what it gives at most. */
  readonly amps: Said | null;
  readonly peakA: Said | null;
  readonly forSteppers: boolean;
  /** A speed controller: of a brushless motor where the list has one, else a driver as any. */
  readonly forBrushless: boolean;
  /** What it is told to drive: "for the paddles". */
  readonly forWhat: string | null;
}

/** Something else that belongs into the plan: a stop button, a main switch, a fuse, a bar, a charging port, a diode. */
export interface PartReading {
  readonly is: "stop" | "switch" | "fuse" | "bar" | "port" | "diode";
  readonly name: string;
  readonly count: number;
  readonly amps: Said | null;
  /** What it is for, where that is not the whole machine. */
  readonly of: string | null;
}

/** Lengths of conductors by what they lead to; null: all others. */
export interface LengthsReading {
  readonly is: "lengths";
  readonly to: readonly {
    readonly what: "driver" | "motor" | "load" | "source" | null;
    readonly kind: LoadKind | null;
    readonly lengthM: Said;
    readonly gauge: string | null;
  }[];
}

/** Who talks to whom. */
export interface LinkReading {
  readonly is: "link";
  readonly from: string;
  readonly to: string;
  readonly kind: LinkKind | null;
}

/** Surroundings and wishes. */
export interface AboutReading {
  readonly is: "about";
  readonly name: string | null;
  readonly ambientC: Said | null;
  readonly runS: Said | null;
}

/** A line that is none of the builder's parts: empty, a remark, a heading for what follows. */
export interface QuietReading {
  readonly is: "nothing" | "remark" | "heading";
}

/** What a line says. */
export type Reading =
  | LoadReading
  | PackReading
  | SupplyReading
  | ConverterReading
  | DriverReading
  | PartReading
  | LengthsReading
  | LinkReading
  | AboutReading
  | QuietReading;

/** A line as it was typed, and what was made of it. */
export interface ReadLine {
  /** As it was typed. */
  readonly text: string;
  /** From 1. */
  readonly number: number;
  /** Null: not understood; it stays, marked. */
  readonly reading: Reading | null;
  readonly chips: readonly Chip[];
  /** What it still needs to be planned, or why it was not understood. */
  readonly troubles: readonly Trouble[];
  readonly nearest: readonly Nearest[];
  /** Of a row of a table: the sentence it amounts to. */
  readonly sentence?: string;
}
