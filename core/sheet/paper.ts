import type { Shape } from "../returns/pen";

/** A size of paper, lying on its long side, mm. */
export const PAPERS = {
  a4: { name: "A4", width: 297, height: 210 },
  letter: { name: "Letter", width: 279.4, height: 215.9 },
} as const;
/** A size of paper. */
export type PaperId = keyof typeof PAPERS;

/** Which pages are made. */
export interface PaperOptions {
  readonly paper: PaperId;
  readonly lists: boolean;
  readonly bringUp: boolean;
  readonly labels: boolean;
  /** Of the plan as it is saved; absent: none was ever saved. */
  readonly revision?: number | undefined;
  /** The day it is printed, as it is written on each page. */
  readonly date: string;
}

/** A cell of a row, already in lines. */
export interface PaperCell {
  readonly lines: readonly string[];
  readonly face: "regular" | "bold" | "mono";
  readonly right: boolean;
}

/** What stands in a column, a line or more high. */
export type PaperRow =
  | { readonly kind: "cells"; readonly cells: readonly PaperCell[] }
  | { readonly kind: "group"; readonly lines: readonly string[] }
  /** Running text; `lead` is the bold beginning of its first line. */
  | { readonly kind: "text"; readonly lead: string; readonly lines: readonly string[] }
  /** Readings side by side, each with its blank or what was read. */
  | { readonly kind: "steps"; readonly steps: readonly PaperItem[] };

/** A reading in a line of them, or the words that lead several; widths in mm. */
export interface PaperItem {
  readonly kind: "lead" | "step";
  readonly text: string;
  readonly width: number;
  readonly read: string | null;
  readonly off: boolean;
}

/** A run of rows of one section in one column. */
export interface PaperChunk {
  readonly title: string;
  /** It began in an earlier column. */
  readonly continued: boolean;
  readonly note: readonly string[];
  /** Drawn as a card to cut out. */
  readonly card: boolean;
  readonly head: readonly { readonly text: string; readonly right: boolean }[];
  /** Widths of its columns, mm. */
  readonly widths: readonly number[];
  readonly rows: readonly PaperRow[];
}

/** A picture across the page. */
export interface PaperPicture {
  readonly kind: "picture";
  readonly title: string;
  readonly note: string;
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
  /** As tall as it is printed, mm. */
  readonly heightMm: number;
}

/** Columns beside each other. */
export interface PaperColumns {
  readonly kind: "columns";
  readonly columns: readonly (readonly PaperChunk[])[];
  /** Columns the strip has room for: the last ones may be empty. */
  readonly of: number;
}

/** A label, its route in lines. */
export interface PaperLabel {
  readonly tag: string;
  readonly where: readonly string[];
  readonly what: string;
}

/** A page: strips one under the other, or labels. */
export interface PaperPage {
  readonly number: number;
  readonly strips: readonly (PaperPicture | PaperColumns)[];
  readonly labels: readonly PaperLabel[];
}

/** What every page says above. */
export interface PaperHeader {
  readonly name: string;
  readonly numbers: string;
  readonly standing: string;
  /** "revision 38, 27 Nov 2026". */
  readonly dated: string;
}

/** The sheet laid out on pages. */
export interface Paper {
  readonly size: (typeof PAPERS)[PaperId];
  readonly header: PaperHeader;
  readonly pages: readonly PaperPage[];
  readonly labelPages: number;
}

/** Measures of a page, mm. Type of 2.33 mm is 6.6 pt of a face made to be told apart when small. */
export const MEASURES = {
  margin: 7,
  header: 7.2,
  gap: 4,
  columns: 3,
  type: 2.33,
  line: 2.68,
  rowPad: 0.32,
  cellGap: 1,
  title: 5.2,
  head: 3,
  group: 3.6,
  cardEdge: 0.6,
  /** Left free on each page: browsers round lines to whole dots. */
  spare: 0.6,
  pictureTitle: 4.4,
  stripGap: 1.4,
  label: { width: 45, height: 13, gap: 1.2, type: 2.3 },
  stepGap: 1.7,
  blank: 7.6,
} as const;
