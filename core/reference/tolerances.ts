import rows from "./data/tolerances.json";

/** How far figures are off where nobody said, by how they are known (handbook uncertainty section 2; 95 %). */
export const TOLERANCE_FIGURES = [
  "stall current",
  "no-load current",
  "running current",
  "board current",
  "battery resistance",
  "rest voltage",
  "converter loss",
  "regulator output",
  "output resistance",
  "driver path",
  "wire length",
  "wire resistance",
  "contact",
  "fuse resistance",
  "switch contact",
  "resistor",
] as const;
/** One kind of figure. */
export type ToleranceFigure = (typeof TOLERANCE_FIGURES)[number];

/** How a figure is known, best first. */
type Known = "measured" | "datasheet" | "typical" | "guess";

/** A row: x/÷ the number ("factor"), ± a share in 95 % ("normal"), or never further than ± a share ("uniform"). */
interface ToleranceRow extends Readonly<Record<Known, number>> {
  readonly figure: string;
  readonly shape: string;
  /** Correlation of figures of one group: what is made by one hand or comes in one lot is off together. */
  readonly together: number;
  readonly source: string;
}

const ROW_OF = new Map((rows as readonly ToleranceRow[]).map((row) => [row.figure, row]));

function rowOf(figure: ToleranceFigure): ToleranceRow {
  const row = ROW_OF.get(figure);
  if (!row) throw new Error(`no tolerance of ${figure}`);
  return row;
}

/** 95 % of a normal distribution lie within this many standard deviations. */
const TWO_SIDED_95 = 1.959964;

/** Standard uncertainty of the logarithm of a factor x/÷ `factor` that holds in 95 % (handbook UN05). */
export function factorU(factor: number): number {
  return Math.log(factor) / TWO_SIDED_95;
}

/** Standard uncertainty of limits ± `half` between which anything is as likely: half over root three (JCGM 100, 4.3.7). */
export function uniformU(half: number): number {
  return half / Math.sqrt(3);
}

/**
 * Relative standard uncertainty of a figure, by what it is a figure of and how it is known; its own tolerance where one was
 * typed in (± a share, 95 %).
 */
export function standardU(figure: ToleranceFigure, known: { provenance: Known; tolerance?: number | undefined } | undefined): number {
  if (known?.tolerance !== undefined) return factorU(1 + known.tolerance);
  const row = rowOf(figure);
  const off = row[known?.provenance ?? "typical"];
  if (row.shape === "factor") return factorU(off);
  return row.shape === "uniform" ? uniformU(off) : off / TWO_SIDED_95;
}

/** Correlation between two figures of one kind and group, 0 to 1. */
export function togetherness(figure: ToleranceFigure): number {
  return rowOf(figure).together;
}
