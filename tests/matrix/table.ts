import { COLUMNS, type Row } from "./matrix";
import { reasonFor } from "./reasons";

/** A cell in which nobody speaks and nobody knows why. */
export const GAP = "**nobody**";

/** Why a cell is empty, by the number it has in the list under the table. */
export function numbered(rows: readonly Row[]): ReadonlyMap<string, number> {
  const whys = new Set(
    rows.flatMap((row) => COLUMNS.flatMap((column) => (row.cells[column].length > 0 ? [] : (reasonFor(row, column) ?? [])))),
  );
  return new Map([...whys].sort().map((why, i) => [why, i + 1]));
}

/** A row as it stands in the document; reasons by their text, for those who number them later. */
export function lineOf(row: Row, number: (why: string) => string): string {
  const cells = COLUMNS.map((column) => {
    const rules = row.cells[column];
    if (rules.length > 0) return rules.join(", ");
    const why = reasonFor(row, column);
    return why === null ? GAP : `– ${number(why)}`;
  });
  return `| ${[row.kind, row.figure, ...cells].join(" | ")} |`;
}

/** docs/matrix.md. */
export function document(rows: readonly Row[]): string {
  const numbers = numbered(rows);
  return [
    "# Who speaks when a figure is wrong",
    "",
    "Made by `npm run matrix` by trying: in a sound machine with that kind of part each figure is raised, lowered, taken away; its feed is turned round; somebody else is put on it so that two share it; a mode of five seconds is made to last. The rules named are those that then say something they did not say before. A number is why nobody does, below. A test tries a part of it again in every run, and all of it in `npm run test:long`.",
    "",
    `| part | figure | ${COLUMNS.join(" | ")} |`,
    `|${"---|".repeat(COLUMNS.length + 2)}`,
    ...rows.map((row) => lineOf(row, (why) => String(numbers.get(why)))),
    "",
    ...[...numbers].map(([why, n]) => `${n}. ${why}`),
    "",
  ].join("\n");
}
