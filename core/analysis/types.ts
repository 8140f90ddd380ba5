import type { ShownFigures } from "../figures/types";
import type { Mark, Verdict } from "../verdicts/types";

/** A machine's figures and what the rules say of them. */
export interface Analysis extends ShownFigures {
  verdicts: Verdict[];
  /** Worst severity by row: parts (with the wires that feed them) and wires. "clear" only when nothing needed is missing. */
  status: Record<string, Mark>;
}
