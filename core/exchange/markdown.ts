import type { Machine } from "../machine/schema";
import type { Sheet } from "../sheet/sheet";
import type { Table } from "./csv";
import { markdownText } from "./escape";
import { sheetTable } from "./tables";

function text({ head, rows }: Table): string {
  const line = (cells: readonly string[]) => `| ${cells.map(markdownText).join(" | ")} |`;
  return [line(head), `|${" --- |".repeat(head.length)}`, ...rows.map(line)].join("\n");
}

/** A section, or nothing where it has no rows. */
function part(title: string, table: Table): string[] {
  return table.rows.length === 0 ? [] : [`## ${title}`, text(table)];
}

function list(title: string, lines: readonly string[]): string[] {
  return lines.length === 0 ? [] : [`## ${title}`, lines.map((line) => `- ${markdownText(line)}`).join("\n")];
}

/** The feeds, indented by how they hang. */
function feeds(sheet: Sheet): Table {
  const { head, rows } = sheetTable("feeds", sheet);
  const depth = head.indexOf("Depth");
  const node = head.indexOf("Node");
  const without = (cells: readonly string[]) => cells.filter((_, i) => i !== depth);
  return {
    head: without(head),
    rows: rows.map((cells) => without(cells.map((cell, i) => (i === node ? `${"· ".repeat(Number(cells[depth]))}${cell}` : cell)))),
  };
}

/** The sheet as a Markdown file. */
export function sheetMarkdown(machine: Pick<Machine, "description">, sheet: Sheet): string {
  const { numbers, accepted, verdicts } = sheet;
  return [
    `# ${markdownText(sheet.name)}`,
    machine.description.split("\n").map(markdownText).join("\n"),
    text({ head: numbers.map(({ label }) => label), rows: [numbers.map(({ value }) => value)] }),
    ...part("Fuses", sheetTable("fuses", sheet)),
    ...list("Ways back", sheet.waysBack),
    ...list("With the stop pressed", sheet.stopped ?? []),
    ...part("Feeds", feeds(sheet)),
    ...part("Cut list", sheetTable("cut", sheet)),
    ...part("Buy list", sheetTable("buy", sheet)),
    ...part("Connections", sheetTable("connections", sheet)),
    ...part("Links", sheetTable("links", sheet)),
    ...part("Bring-up", sheetTable("bring-up", sheet)),
    "## Open verdicts",
    verdicts.length === 0
      ? "None."
      : text({ head: ["", "What", "Why"], rows: verdicts.map(({ severity, headline, detail }) => [severity, headline, detail]) }),
    ...part("Accepted or put off", {
      head: ["", "What", "Since", "Reason"],
      rows: accepted.map(({ severity, headline, kind, date, reason }) => [severity, headline, `${kind}, ${date}`, reason]),
    }),
    ...list("Cautions", sheet.cautions),
    "",
  ].join("\n\n");
}
