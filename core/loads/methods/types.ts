import type { Provenance } from "../../machine/figure";
import type { Basis, LevelName } from "../../machine/load-schema";
import type { Load } from "../../machine/schema";
import type { Dimension } from "../../quantity/units";
import type { LoadKind } from "../../reference/load-kinds";

/** One thing a builder may know, as an input of a method. */
export interface KnownField {
  key: string;
  label: string;
  dimension: Dimension;
  hint?: string;
  /** Several readings of the same thing, written with spaces or commas. */
  readings?: boolean;
  options?: readonly { value: string; label: string }[];
  initial?: number | string | ((load: Load) => number | undefined);
  /** May be left empty; then 0. */
  optional?: boolean;
  min?: number;
  max?: number;
  /** Relative uncertainty of what is typed here, either way. */
  spread?: number;
  /** The measurement that would settle this input, as a request. */
  measure?: string;
  /** Only asked for while another field has one of these values. */
  when?: { key: string; is: readonly string[] };
}

/** What the builder told a method. */
export type Inputs = Basis["inputs"];

/** A current of one piece that a method arrives at, with its own range where the method states one. */
export interface Outcome {
  level: LevelName;
  value: number;
  low?: number;
  high?: number;
  formula: string;
  numbers: string;
}

/** A way from what is known to currents. */
export interface Method {
  id: string;
  title: string;
  kinds: readonly LoadKind[];
  fields: readonly KnownField[];
  provenance: Provenance;
  /** Relative error of the method itself, below and above. */
  error: { low: number; high: number };
  /** The single measurement that beats this method when its own error is the widest part. */
  better: string;
  source: string;
  /** Shown while it is used where it can hurt. */
  caution?: string;
  outcomes: (inputs: Inputs, load: Load) => Outcome[];
  notes?: (inputs: Inputs, load: Load) => string[];
}

/** A number that was told; 0 where it was not. */
export function num(inputs: Inputs, key: string): number {
  const value = inputs[key];
  return typeof value === "number" ? value : 0;
}

/** A text that was told; empty where it was not. */
export function text(inputs: Inputs, key: string): string {
  const value = inputs[key];
  return typeof value === "string" ? value : "";
}

/** Numbers that were told, one or several; empty where they were not. */
export function list(inputs: Inputs, key: string): readonly number[] {
  const value = inputs[key];
  return Array.isArray(value) ? value : typeof value === "number" ? [value] : [];
}
