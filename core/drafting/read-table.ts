import { guessMapping, type Mapping, RowReader } from "../exchange/columns";
import { NAME_MAX } from "../machine/schema";
import { isStrengthKnown } from "./chips";
import { LOAD_COLUMNS, type LoadColumn } from "./load-columns";
import { LINE_MOST, readLine } from "./read-line";
import type { Chip, ChipKey, ReadLine, Span, Trouble } from "./reading";

/** A line of a table cut at its separator, each cell with its place. */
interface Cells {
  readonly texts: readonly string[];
  readonly spans: readonly Span[];
}

const SEPARATORS = ["\t", ";", "|", ","] as const;
type Separator = (typeof SEPARATORS)[number];

/** Cuts a line at a separator, outside double quotes. */
function cut(line: string, separator: Separator): Cells {
  const texts: string[] = [];
  const spans: Span[] = [];
  let start = 0;
  let quoted = false;
  const close = (end: number) => {
    texts.push(
      line
        .slice(start, end)
        .trim()
        .replace(/^"(.*)"$/, "$1")
        .replaceAll('""', '"'),
    );
    spans.push({ start, end });
    start = end + 1;
  };
  for (let i = 0; i < line.length; i++) {
    if (line[i] === '"') quoted = !quoted;
    else if (line[i] === separator && !quoted) close(i);
  }
  close(line.length);
  return { texts, spans };
}

/** Columns whose headings are short words of their own, so that a line of prose is not taken for a heading. */
const HEADING = /^(?:.{1,24})$/;
/** A line that only draws a table. */
const RULE = /^[\s|+:-]*-{2,}[\s|+:-]*$/;
const TELLING: readonly LoadColumn[] = ["volts", "amps", "watts", "count", "stall"];

/** A heading line: cells that name columns, and no figure among them. */
function headingAt(line: string): { separator: Separator; cells: Cells; mapping: Mapping<LoadColumn> } | null {
  if (line.length > LINE_MOST) return null;
  for (const separator of SEPARATORS) {
    const cells = cut(line, separator);
    if (cells.texts.length < 2) continue;
    if (cells.texts.some((cell) => !HEADING.test(cell) && cell !== "") || cells.texts.some((cell) => /\d/.test(cell.replace(/mm2/i, ""))))
      return null;
    const mapping = guessMapping(cells.texts, LOAD_COLUMNS);
    const telling = TELLING.filter((key) => mapping[key] !== undefined).length;
    if (mapping.name !== undefined && telling >= 1 && Object.keys(mapping).length >= 2) return { separator, cells, mapping };
  }
  return null;
}

/** A row of bare numbers behind a name, as spreadsheets without a heading have it: volts, amps, how many, stall, by their order. */
function bareRow(line: string): Heading | null {
  if (line.length > LINE_MOST) return null;
  for (const separator of SEPARATORS) {
    const { texts } = cut(line, separator);
    if (texts.length < 3 || !/[\p{L}]/u.test(texts[0] ?? "") || /\d\s*(?:v|a|w|ma|ah)\b/i.test(texts[0] ?? "")) continue;
    const rest = texts.slice(1);
    if (rest.every((cell) => cell === "" || /^\d+(?:[.,]\d+)?$/.test(cell)) && rest.filter((cell) => cell !== "").length >= 2)
      return { separator, cells: { texts: [], spans: [] }, mapping: BY_PLACE };
  }
  return null;
}

const BY_PLACE: Mapping<LoadColumn> = Object.fromEntries(
  LOAD_COLUMNS.flatMap(({ key, place }) => (place === undefined ? [] : [[key, place]])),
);

/** Rows of tables within a list, by line, with what their headings name. */
export function readTable(lines: readonly string[]): { lines: Map<number, ReadLine> } | null {
  const read = new Map<number, ReadLine>();
  for (let i = 0; i < lines.length; i++) {
    const bare = bareRow(lines[i] ?? "");
    if (bare) {
      read.set(i, rowLine(lines[i] ?? "", i + 1, bare));
      continue;
    }
    const heading = headingAt(lines[i] ?? "");
    // A rule below the heading is part of how the table is drawn.
    const ruled = RULE.test(lines[i + 1] ?? "");
    const next = lines[i + (ruled ? 2 : 1)] ?? "";
    if (!heading || cut(next, heading.separator).texts.length < 2 || !/\d/.test(next)) continue;
    read.set(i, headingLine(lines[i] ?? "", i + 1, heading));
    for (i++; i < lines.length; i++) {
      const line = lines[i] ?? "";
      if (line.trim() === "") break;
      if (RULE.test(line)) {
        read.set(i, { text: line, number: i + 1, reading: { is: "nothing" }, chips: [], troubles: [], nearest: [] });
        continue;
      }
      // A sentence among rows is read as one.
      if (cut(line, heading.separator).texts.length < 2 || /^\s*#/.test(line)) continue;
      read.set(i, rowLine(line, i + 1, heading));
    }
  }
  return read.size > 0 ? { lines: read } : null;
}

type Heading = NonNullable<ReturnType<typeof headingAt>>;

function headingLine(text: string, number: number, { cells, mapping }: Heading): ReadLine {
  const chips = cells.texts.flatMap((cell, i): Chip[] => {
    if (cell === "") return [];
    const column = LOAD_COLUMNS.find(({ key }) => mapping[key] === i);
    return [
      {
        key: "column",
        text: column
          ? column.label.toLowerCase() === cell.toLowerCase()
            ? cell
            : `${cell}: ${column.label.toLowerCase()}`
          : `${cell}: not read`,
        at: cells.spans[i] ?? null,
        how: column ? "said" : "asked",
      },
    ];
  });
  return { text, number, reading: { is: "heading" }, chips, troubles: [], nearest: [] };
}

const COLUMN_OF: Readonly<Partial<Record<ChipKey, LoadColumn>>> = {
  count: "count",
  name: "name",
  volts: "volts",
  run: "amps",
  idle: "idle",
  start: "start",
  stall: "stall",
  watts: "watts",
  kind: "kind",
  length: "length",
  wire: "gauge",
};

/** A row as the sentence it amounts to, read as any line is; its chips point back into the row's cells. */
function rowLine(text: string, number: number, { separator, cells: heads, mapping }: Heading): ReadLine {
  const cells = cut(text, separator);
  const reader = new RowReader(cells.texts, { headings: heads.texts.length > 0 ? heads.texts : null, mapping }, LOAD_COLUMNS);
  const name = reader.words("name", NAME_MAX);
  if (name === "" && cells.texts.every((cell) => cell === ""))
    return { text, number, reading: { is: "nothing" }, chips: [], troubles: [], nearest: [] };
  const kind = reader.text("kind");
  const count = reader.whole("count", 1, 1, 200);
  const part = (key: LoadColumn, dimension: Parameters<typeof reader.figure>[1], unit: string, lead = "") => {
    // "12V" in a cell that says so itself, "24" under a heading that does.
    const value = reader.figure(key, dimension);
    return value === undefined ? "" : ` ${lead}${value} ${unit}`;
  };
  const sentence = [
    kind === "" ? "" : `${kind}: `,
    reader.text("count") === "" ? "" : `${count} x `,
    name.replaceAll(/[,;|:]/g, " "),
    part("volts", "voltage", "V"),
    part("watts", "power", "W"),
    part("amps", "current", "A", "running "),
    part("stall", "current", "A", "stall "),
    part("start", "current", "A", "start "),
    part("idle", "current", "A", "idle "),
    part("length", "length", "m", "cable "),
    reader.text("gauge") === "" ? "" : ` ${reader.text("gauge")}`,
    reader.text("note") === "" ? "" : ` ${reader.text("note").replaceAll(/[,;|:]/g, " ")}`,
  ]
    .join("")
    .trim();
  const read = readLine(sentence, number);
  const spanOf = (key: ChipKey): Span | null => {
    const column = COLUMN_OF[key];
    const at = column === undefined ? undefined : mapping[column];
    return at === undefined ? null : (cells.spans[at] ?? null);
  };
  const troubles: Trouble[] = [
    ...reader.troubles.map(({ column, text: cell, why }) => ({ why: `${column} "${cell}": ${why}`, at: null })),
    ...read.troubles.map(({ why }) => ({ why, at: null })),
  ];
  const stuck = read.reading?.is === "load" && !isStrengthKnown(read.reading) && troubles.length > 0;
  return {
    ...read,
    text,
    number,
    reading: reader.troubles.length > 0 && stuck ? null : read.reading,
    chips: read.chips.map((chip) => ({ ...chip, at: spanOf(chip.key) })),
    troubles,
    // Taken as a sentence of its own, without the table's separator.
    nearest: read.nearest.map((each) => ({
      ...each,
      line: each.label === "leave it out" ? `# ${text}` : each.line.replaceAll(separator, " "),
    })),
    sentence,
  };
}
