import { plain } from "../machine/plain-text";
import { parseQuantity } from "../quantity/parse";
import type { Dimension } from "../quantity/units";
import { readCells } from "./csv";

/** A column somebody's table may have: what it is called here, and the words it goes by. */
export interface Column<K extends string = string> {
  readonly key: K;
  readonly label: string;
  readonly words: RegExp;
  /** Without it a row says nothing. */
  readonly needed?: boolean;
  /** Where it stands in a table without headings; absent: as it is listed. */
  readonly place?: number;
}

/** Which column of a table is what, by place. */
export type Mapping<K extends string = string> = Partial<Readonly<Record<K, number>>>;

/** Cells of a table with what its columns seem to be. */
export interface Sheeted<K extends string> {
  readonly headings: readonly string[] | null;
  /** Rows under the headings, or all of them. */
  readonly rows: readonly (readonly string[])[];
  /** Number of the first of them in the text, from 1. */
  readonly firstRow: number;
  readonly mapping: Mapping<K>;
}

/** What is wrong with a row, at which column, and what stands there. */
export interface RowTrouble {
  readonly column: string;
  readonly text: string;
  readonly why: string;
}

/** A row that was read: what came of it, or what is wrong with it. */
export interface ReadRow<T> {
  /** As it is counted in the text, from 1. */
  readonly row: number;
  readonly value: T | null;
  readonly troubles: readonly RowTrouble[];
}

/** Most rows that are taken in at once. */
export const ROWS_MOST = 5000;

/** Which columns a heading line names; each heading is one column, each column one heading. */
export function guessMapping<K extends string>(headings: readonly string[], columns: readonly Column<K>[]): Mapping<K> {
  const mapping: Partial<Record<K, number>> = {};
  const free = new Set(headings.keys());
  for (const { key, words } of columns) {
    const at = [...free].find((i) => words.test((headings[i] ?? "").toLowerCase()));
    if (at === undefined) continue;
    mapping[key] = at;
    free.delete(at);
  }
  return mapping;
}

/** A pasted or read text as a table: a first line that names a column is its headings, else columns count by their order. */
export function asTable<K extends string>(text: string, columns: readonly Column<K>[]): Sheeted<K> {
  const cells = readCells(text);
  const [first = [], ...rest] = cells;
  const mapping = guessMapping(first, columns);
  const numbers = first.filter((cell) => /^[-+]?[\d.,]+\s*\w{0,3}$/.test(cell)).length;
  const headed = Object.keys(mapping).length > 0 && numbers === 0;
  if (headed) return { headings: first, rows: rest, firstRow: 2, mapping };
  const ordered = columns.some(({ place }) => place !== undefined)
    ? columns.filter(({ place }) => place !== undefined).sort((a, b) => (a.place ?? 0) - (b.place ?? 0))
    : columns;
  const byPlace = Object.fromEntries(ordered.slice(0, first.length).map(({ key }, i) => [key, i])) as Mapping<K>;
  return { headings: null, rows: cells, firstRow: 1, mapping: byPlace };
}

/** Reads cells of one row under a mapping, keeping what is wrong with each. */
export class RowReader<K extends string> {
  readonly troubles: RowTrouble[] = [];

  constructor(
    private readonly cells: readonly string[],
    private readonly table: Pick<Sheeted<K>, "headings" | "mapping">,
    private readonly columns: readonly Column<K>[],
  ) {}

  text(key: K): string {
    const at = this.table.mapping[key];
    return at === undefined ? "" : (this.cells[at] ?? "").trim();
  }

  wrong(key: K, why: string): void {
    const label = this.columns.find((column) => column.key === key)?.label ?? key;
    this.troubles.push({ column: label, text: this.text(key), why });
  }

  /** A text of at most so many letters, as `clean` makes it; a longer one is told, not cut. */
  words(key: K, most: number, clean: (text: string) => string = plain): string {
    const text = clean(this.text(key));
    if (text.length > most) this.wrong(key, `At most ${most} letters are kept here; this has ${text.length}.`);
    return text;
  }

  /** A figure in SI, undefined where the cell is empty; a bare number takes the unit its heading names. */
  figure(key: K, dimension: Dimension, bounds: { min?: number; max?: number } = {}): number | undefined {
    const text = this.text(key);
    if (text === "" || text === "-" || text === "–" || text === "?") return undefined;
    const at = this.table.mapping[key];
    const heading = (at === undefined ? "" : this.table.headings?.[at]) ?? "";
    const unit = /\b(mA|mV|mΩ|mOhm|mm|cm|ft|in|g|kW|mW)\b/.exec(heading)?.[1];
    const bare = /^[-+−]?[\d.,]+$/.test(text);
    const parsed = parseQuantity(bare && unit ? `${text} ${unit}` : text, dimension, bounds);
    if (parsed.ok) return parsed.value;
    this.wrong(key, parsed.message);
    return undefined;
  }

  /** A whole number from `least`, or `usual` where the cell is empty. */
  whole(key: K, usual: number, least: number, most: number): number {
    const text = this.text(key);
    if (text === "") return usual;
    const value = Number(text.replace(/\s*(x|×|pcs?\.?|pieces?)$/i, ""));
    if (Number.isInteger(value) && value >= least && value <= most) return value;
    this.wrong(key, `Write a whole number from ${least} to ${most}.`);
    return usual;
  }
}
