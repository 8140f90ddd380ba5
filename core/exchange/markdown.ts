import type { Machine } from "../machine/schema";
import type { Sheet } from "../sheet/sheet";
import { markdownText } from "./escape";

function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const line = (cells: readonly string[]) => `| ${cells.map(markdownText).join(" | ")} |`;
  return [line(head), `|${" --- |".repeat(head.length)}`, ...rows.map(line)].join("\n");
}

/** A section, or nothing where it has no rows. */
function part(title: string, head: readonly string[], rows: readonly (readonly string[])[]): string[] {
  return rows.length === 0 ? [] : [`## ${title}`, table(head, rows)];
}

/** The sheet as a Markdown file. */
export function sheetMarkdown(machine: Pick<Machine, "description">, sheet: Sheet): string {
  const list = (title: string, lines: readonly string[]) =>
    lines.length === 0 ? [] : [`## ${title}`, lines.map((line) => `- ${markdownText(line)}`).join("\n")];
  return [
    `# ${markdownText(sheet.name)}`,
    machine.description.split("\n").map(markdownText).join("\n"),
    table(
      sheet.numbers.map(({ label }) => label),
      [sheet.numbers.map(({ value }) => value)],
    ),
    ...part(
      "Fuses",
      ["", "Amps", "Family", "Dead without it", "Place"],
      sheet.fuses.map((row) => [row.tag, row.rating, row.family, row.guards, row.place]),
    ),
    ...list("Ways back", sheet.waysBack),
    ...list("With the stop pressed", sheet.stopped ?? []),
    ...part(
      "Feeds",
      ["Rail", "Node", "Tag", "Run", "Conductor", "Fuse", "Worst", "May carry"],
      sheet.feeds.map((row) => [
        row.rail,
        `${"· ".repeat(row.depth)}${row.name}`,
        row.tag,
        row.run,
        row.conductor,
        row.fuse,
        row.worst,
        row.limit,
      ]),
    ),
    ...part(
      "Cut list",
      ["Tag", "Conductor", "Colour", "Length", "From", "End", "To", "End", "Fuse"],
      sheet.cut.flatMap(({ gauge, colour, lines }) =>
        lines.map((row) => [
          row.tag,
          row.pieces > 1 ? `${row.pieces} × ${gauge}` : gauge,
          colour,
          row.length,
          row.from,
          row.fromEnd,
          row.to,
          row.toEnd,
          row.fuse,
        ]),
      ),
    ),
    ...part(
      "Buy list",
      ["How many", "What", "Detail", "On the shelf", "Each"],
      sheet.buy.lines.map(({ need, spare, unit, what, detail, have, costEach }) => [
        `${unit === "m" ? `${(Math.ceil(need * 10 - 1e-6) / 10).toFixed(1)} m` : need}${spare > 0 ? ` + ${spare} spare` : ""}`,
        what,
        detail,
        have === "some" ? "some" : have === 0 ? "" : `${Number(have.toFixed(1))}`,
        costEach === null ? "" : `${costEach}`,
      ]),
    ),
    ...part(
      "Connections",
      ["Part", "Terminal", "Wire", "To"],
      sheet.connections.flatMap(({ part: name, terminals, pins }) => [
        ...terminals.map(({ terminal, tag, to }) => [name, terminal, tag, to]),
        ...pins.map(({ pin, signal, to, colour }) => [name, pin ? `pin ${pin}` : "", [signal, colour].filter(Boolean).join(", "), to]),
      ]),
    ),
    ...part(
      "Links",
      ["Link", "Kind", "Levels", "Own ground", "Shield"],
      sheet.links.map((row) => [row.name, row.kind, row.levels, row.ground, row.shield]),
    ),
    ...part(
      "Bring-up",
      ["Stage", "Reading", "Where", "Expected", "Read"],
      sheet.bringUp.flatMap(({ title, groups }) =>
        groups.flatMap(({ lead, steps }) => steps.map(({ name, expect, read }) => [title, lead, name, expect, read ?? ""])),
      ),
    ),
    "## Open verdicts",
    sheet.verdicts.length === 0
      ? "None."
      : table(
          ["", "What", "Why"],
          sheet.verdicts.map((v) => [v.severity, v.headline, v.detail]),
        ),
    ...part(
      "Accepted or put off",
      ["", "What", "Since", "Reason"],
      sheet.accepted.map((v) => [v.severity, v.headline, `${v.kind}, ${v.date}`, v.reason]),
    ),
    ...list("Cautions", sheet.cautions),
    "",
  ].join("\n\n");
}
