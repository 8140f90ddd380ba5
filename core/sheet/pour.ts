import { textWidth, wrapText } from "./measure";
import { MEASURES, type PaperCell, type PaperChunk, type PaperItem, type PaperRow } from "./paper";

/** A reading, or words that lead several. */
export interface RawItem {
  readonly lead?: boolean;
  readonly text: string;
  readonly read: string | null;
  readonly off: boolean;
}

/** A row before it is set in a column. */
export type RawRow =
  | { readonly kind: "cells"; readonly cells: readonly { readonly text: string; readonly face?: PaperCell["face"] }[] }
  | { readonly kind: "group"; readonly text: string }
  | { readonly kind: "text"; readonly lead?: string; readonly text: string }
  | { readonly kind: "steps"; readonly steps: readonly RawItem[] };

/** A section of the paper before it is set. */
export interface Section {
  readonly title: string;
  readonly note?: string;
  readonly card?: boolean;
  readonly head: readonly { readonly text: string; readonly right?: boolean; readonly share: number }[];
  readonly rows: readonly RawRow[];
}

/** Sections that are poured into the same columns. */
export interface Flow {
  readonly columns: number;
  readonly sections: readonly Section[];
}

/** A section in lines for a column of one width, with how far it has been poured. */
export interface SetSection extends Omit<PaperChunk, "continued"> {
  readonly continued: boolean;
}

/** What stands in columns, how tall it is, and what is left. */
export interface Filled {
  readonly columns: PaperChunk[][];
  readonly rest: SetSection[];
  readonly height: number;
}

const M = MEASURES;

/** Height of a row, mm. */
export function rowHeight(row: PaperRow): number {
  switch (row.kind) {
    case "cells":
      return Math.max(...row.cells.map(({ lines }) => lines.length)) * M.line + M.rowPad;
    case "group":
      return (row.lines.length - 1) * M.line + M.group;
    case "text":
      return row.lines.length * M.line + M.rowPad;
    case "steps":
      return M.line + M.rowPad + 0.15;
  }
}

function topHeight({ note, head, card }: SetSection): number {
  return (card ? M.cardEdge : 0) + M.title + note.length * M.line + (head.some(({ text }) => text !== "") ? M.head : 0);
}

/** A section in lines for a column of that width. */
export function setSection({ title, note, card = false, head, rows }: Section, width: number): SetSection {
  const inner = card ? width - 3 : width;
  const total = head.reduce((sum, { share }) => sum + share, 0);
  const widths = head.map(({ share }) => (share / total) * inner);
  return {
    title,
    continued: false,
    note: note ? wrapText(note, inner, M.type) : [],
    card,
    head: head.map(({ text, right = false }) => ({ text, right })),
    widths,
    rows: rows.flatMap((row) => setRow(row, inner, widths, head)),
  };
}

function setRow(row: RawRow, width: number, widths: readonly number[], head: Section["head"]): PaperRow[] {
  switch (row.kind) {
    case "group":
      return [{ kind: "group", lines: wrapText(row.text, width, M.type, "bold") }];
    case "text":
      return inParts(setText(row, width));
    case "steps":
      return stepLines(row.steps, width);
    case "cells": {
      const cells = row.cells.map(({ text, face = "regular" }, c): PaperCell => {
        const room = (widths[c] ?? width) - (c < row.cells.length - 1 ? M.cellGap : 0);
        return { lines: wrapText(text, room, M.type, face), face, right: head[c]?.right ?? false };
      });
      return [{ kind: "cells", cells }];
    }
  }
}

/** Lines of a text that stay together at the foot of a column. */
const TOGETHER = 2;

/** A long text may be broken between columns. */
function inParts(text: PaperText): PaperText[] {
  if (text.lines.length <= 2 * TOGETHER) return [text];
  const first = { ...text, lines: text.lines.slice(0, TOGETHER) };
  return [first, ...inParts({ kind: "text", lead: "", lines: text.lines.slice(TOGETHER) })];
}

type PaperText = Extract<PaperRow, { kind: "text" }>;

/** Text whose beginning is bold; a beginning too long for a line is set like the rest. */
function setText({ lead = "", text }: { lead?: string; text: string }, width: number): PaperText {
  const bold = lead === "" ? 0 : textWidth(`${lead} `, M.type, "bold");
  if (bold > width * 0.8) return { kind: "text", lead: "", lines: wrapText(`${lead} ${text}`, width, M.type) };
  return { kind: "text", lead, lines: wrapText(text, width, M.type, "regular", bold) };
}

/** Readings in as few lines as they need; one that is wider than the column is broken over lines of its own. */
function stepLines(steps: readonly RawItem[], width: number): PaperRow[] {
  const rows: PaperRow[] = [];
  let line: PaperItem[] = [];
  let used = 0;
  const flush = () => {
    if (line.length > 0) rows.push({ kind: "steps", steps: line });
    line = [];
    used = 0;
  };
  const put = (item: PaperItem, withNext: number) => {
    if (line.length > 0 && used + M.stepGap + item.width + withNext > width) flush();
    used += (line.length > 0 ? M.stepGap : 0) + item.width;
    line.push(item);
  };
  steps.forEach(({ lead = false, text, read, off }, i) => {
    const face = lead ? "bold" : "regular";
    const after = lead ? 0 : read === null ? M.blank : 3.4 + textWidth(read, M.type, "bold");
    const lines = wrapText(text, width - after - 1, M.type, face);
    if (lines.length > 1) {
      flush();
      rows.push({ kind: "text", lead: "", lines: lines.slice(0, -1) });
    }
    const last = lines.at(-1) ?? "";
    // Words that lead stand before what they lead, not at the end of a line.
    const next = lead ? Math.min(width * 0.3, textWidth(steps[i + 1]?.text ?? "", M.type) + M.blank) : 0;
    put({ kind: lead ? "lead" : "step", text: last, width: textWidth(last, M.type, face) + after + 0.6, read, off }, next);
  });
  flush();
  return rows;
}

function wholeHeight(section: SetSection): number {
  return topHeight(section) + section.rows.reduce((sum, row) => sum + rowHeight(row), 0);
}

/** Where columns are filled: how many, how tall here and on an empty page; `fresh`: this one is empty. */
export interface Room {
  readonly count: number;
  readonly height: number;
  readonly most: number;
  readonly fresh: boolean;
}

/** Fills columns of one height. What fits nowhere is put on an empty page all the same. */
export function fillColumns(sections: readonly SetSection[], { count, height, most, fresh }: Room): Filled {
  const queue = [...sections];
  const columns: PaperChunk[][] = [];
  let tallest = 0;
  while (columns.length < count && queue.length > 0) {
    const column: PaperChunk[] = [];
    let used = 0;
    while (queue.length > 0) {
      const section = queue[0] as SetSection;
      const top = topHeight(section);
      let taken = 0;
      let own = top;
      while (taken < section.rows.length) {
        const row = section.rows[taken] as PaperRow;
        const following = row.kind === "group" ? section.rows[taken + 1] : undefined;
        const needs = rowHeight(row) + (following ? rowHeight(following) : 0);
        // On an empty page a row goes in, however tall: it has to be somewhere.
        const must = fresh && used === 0 && taken === 0;
        if (used + own + needs > height && !must) break;
        own += rowHeight(row);
        taken++;
      }
      // A card is cut out: it is not torn in two where a column of a page could hold all of it.
      if (taken === 0 || (section.card && taken < section.rows.length && wholeHeight(section) <= most)) break;
      const { rows, ...about } = section;
      column.push({ ...about, rows: rows.slice(0, taken) });
      used += own;
      queue.shift();
      if (taken < rows.length) {
        queue.unshift({ ...section, continued: true, note: [], rows: rows.slice(taken) });
        break;
      }
    }
    tallest = Math.max(tallest, used);
    if (column.length === 0) break;
    columns.push(column);
  }
  return { columns, rest: queue, height: tallest };
}

/** Sections evenly over columns, as short as may be; null where they do not fit into that height. */
export function spread(sections: readonly SetSection[], room: Room): Filled | null {
  let best = fillColumns(sections, { ...room, fresh: false });
  if (best.rest.length > 0) return null;
  let [low, high] = [0, room.height];
  for (let i = 0; i < 12; i++) {
    const mid = (low + high) / 2;
    const tried = fillColumns(sections, { ...room, height: mid, fresh: false });
    if (tried.rest.length > 0) low = mid;
    else {
      best = tried;
      high = mid;
    }
  }
  return best;
}
