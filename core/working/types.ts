import type { Provenance } from "../machine/figure";
import type { LevelName } from "../machine/load-schema";
import type { Rounding } from "../quantity/format";
import type { Dimension } from "../quantity/units";

/** Names a figure on a screen; its working is made when somebody opens it. */
export type FigureRef =
  | { kind: "wireAmps" | "wireDrop" | "wireHeat"; wire: string; mode: number }
  | { kind: "wireOhm" | "wireLimit" | "wireTemperature" | "wireWorst" | "fuseLeast"; wire: string }
  | {
      kind: "partAmps" | "partVolts" | "partDrop" | "partOffset" | "converterInput" | "outputAmps" | "outputVolts" | "lossInside";
      part: string;
      mode: number;
    }
  | { kind: "partLowest" | "partWorst" | "rating" | "worstInput"; part: string }
  | { kind: "chip" | "efficiency"; part: string; mode: number }
  | { kind: "groundOffset"; of: string; mode: number }
  | { kind: "linkOffset" | "linkBudget"; signal: string; mode: number }
  /** Through the mission (null), or in one mode alone. */
  | { kind: "run"; mode: number | null }
  | { kind: "level"; part: string; level: LevelName }
  | { kind: "sourceAmps"; mode: number };

/** An input of a derivation: entered figures carry how they are known, computed ones can be opened in turn. */
export interface WorkingInput {
  label: string;
  text: string;
  known: Provenance | "computed" | "table" | "setting";
  source?: string;
}

/** The derivation of one figure. */
export interface Working {
  title: string;
  value: number;
  dimension: Dimension;
  /** Limits are printed down and demands up, as everywhere they are shown. */
  rounding?: Rounding;
  /** "R = ρ′ · L · k_T + 2 R_end", and the same with the numbers in. */
  formula: string;
  numbers: string;
  inputs: WorkingInput[];
  source: string;
  school?: string;
  notes: string[];
}
