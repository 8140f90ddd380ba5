import type { FullAnalysis } from "../analysis/analyse";
import { analyseFully } from "../analysis/fully";
import type { Machine } from "../machine/schema";
import { type Sheet, type SheetMeans, sheetOf } from "./sheet";

/** A machine with everything that is printed of it, worked out from the document alone. */
export function wholeSheet(machine: Machine, means: SheetMeans = {}): FullAnalysis & { sheet: Sheet } {
  const { figures, analysis } = analyseFully(machine);
  return { figures, analysis, sheet: sheetOf(figures, analysis, means) };
}
