import Papa from "papaparse";

/** A table ready for other programs: headings, and rows of texts under them. */
export interface Table {
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** What a spreadsheet would take for a formula: it gets an apostrophe before it, which reading takes off again. */
const FORMULA = /^[=+\-@\t\r'＝＋－＠]/u;
/** A plain number is none, though it may begin with a sign. */
const NUMBER = /^[+-]?\d+([.,]\d+)?(e[+-]?\d+)?$/i;

/** A text that no spreadsheet computes. */
export function safeCell(text: string): string {
  return FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
}

/** The text that was made safe. */
export function unsafeCell(text: string): string {
  return text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text;
}

/** A table as CSV (RFC 4180): comma between cells, CR LF between rows, no cell that a spreadsheet would compute. */
export function csvText({ head, rows }: Table): string {
  const safe = (cells: readonly string[]) => cells.map(safeCell);
  return `${Papa.unparse({ fields: safe(head), data: rows.map(safe) }, { newline: "\r\n" })}\r\n`;
}

/** Most letters of a file that is read as a table. */
export const CSV_MOST = 8 * 1024 * 1024;

/**
 * Cells of a text as people have them: comma, semicolon or tab between cells, quotes, either line end, a byte order mark, empty
 * lines left out. Cells are trimmed and what was made safe for spreadsheets is as it was.
 */
export function readCells(text: string): string[][] {
  const plain = text.startsWith("\ufeff") ? text.slice(1) : text;
  const parsed = Papa.parse<string[]>(plain, { skipEmptyLines: "greedy", delimitersToGuess: ["\t", ";", ",", "|"] });
  return parsed.data.map((cells) => cells.map((cell) => unsafeCell(cell.trim())));
}

/** The same with its first line as headings, in small letters. */
export function readHeaded(text: string): { headings: string[]; rows: Record<string, string>[] } {
  const [head = [], ...rows] = readCells(text);
  const headings = head.map((heading) => heading.toLowerCase());
  return { headings, rows: rows.map((cells) => Object.fromEntries(headings.map((heading, i) => [heading, cells[i] ?? ""]))) };
}
