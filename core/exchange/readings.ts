import { type Reading, readingSchema } from "../bringup/log";
import { QUANTITY_UNITS } from "../reference/instruments";

/** Columns of a log as a table for other programs; figures in SI units, over range as "OL". */
export const READING_COLUMNS = [
  "time",
  "stage",
  "step",
  "place",
  "quantity",
  "value",
  "unit",
  "instrument",
  "uncertainty",
  "expected",
  "note",
  "way",
  "struck",
  "basis",
  "id",
] as const;

/** A log as rows of texts under `READING_COLUMNS`; what a spreadsheet would compute is made safe where they are written. */
export function readingRows(readings: readonly Reading[]): string[][] {
  return readings.map((reading) => [
    reading.takenAt,
    reading.stage ?? "",
    reading.step ?? "",
    reading.place,
    reading.quantity,
    reading.value === null ? "OL" : String(reading.value),
    QUANTITY_UNITS[reading.quantity],
    reading.instrument,
    reading.uncertainty === null ? "" : String(reading.uncertainty),
    reading.expected === null ? "" : String(reading.expected),
    reading.note,
    reading.way,
    reading.struck ? "yes" : "",
    reading.basis ?? "",
    reading.queueId,
  ]);
}

/** What came of a table of readings: those that can be read, and rows that cannot, by their number, with why. */
export interface ReadRows {
  readonly readings: readonly Reading[];
  readonly wrong: readonly { readonly row: number; readonly why: string }[];
}

const number = (text: string): number | null | "wrong" => {
  if (text === "") return null;
  const value = Number(text);
  return Number.isFinite(value) ? value : "wrong";
};

/**
 * Reads rows by their headings, in any order; headings that are not known are left out. What has no id gets one of `freshId`.
 * @param rows by heading
 */
export function readReadings(rows: readonly Readonly<Record<string, string>>[], freshId: () => string): ReadRows {
  const readings: Reading[] = [];
  const wrong: { row: number; why: string }[] = [];
  rows.forEach((row, i) => {
    const cell = (name: (typeof READING_COLUMNS)[number]) => (row[name] ?? "").trim();
    const [value, uncertainty, expected] = [
      cell("value") === "OL" ? null : number(cell("value")),
      number(cell("uncertainty")),
      number(cell("expected")),
    ];
    if (value === "wrong" || (value === null && cell("value") !== "OL")) {
      wrong.push({ row: i + 1, why: `"${cell("value")}" is not a number` });
      return;
    }
    const at = new Date(cell("time"));
    const read = readingSchema.safeParse({
      queueId: cell("id") || freshId(),
      step: cell("step") || null,
      stage: cell("stage") || null,
      place: cell("place"),
      quantity: cell("quantity"),
      value,
      instrument: cell("instrument") || "hand",
      uncertainty: uncertainty === "wrong" ? Number.NaN : uncertainty,
      takenAt: Number.isNaN(at.getTime()) ? "" : at.toISOString(),
      note: cell("note"),
      way: cell("way") || "imported",
      expected: expected === "wrong" ? Number.NaN : expected,
      basis: cell("basis") || null,
      struck: cell("struck") === "yes",
    });
    if (read.success) readings.push(read.data);
    else {
      const [first] = read.error.issues;
      wrong.push({ row: i + 1, why: `${NAMES[String(first?.path[0])] ?? String(first?.path[0])} cannot be read` });
    }
  });
  return { readings, wrong };
}

const NAMES: Readonly<Record<string, string>> = { takenAt: "the time", queueId: "the id" };
