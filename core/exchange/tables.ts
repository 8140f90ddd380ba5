import type { ShownFigures } from "../figures/types";
import { cellWords } from "../loads/words";
import type { Machine } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import { ratedAs } from "../sheet/ratings";
import type { Sheet } from "../sheet/sheet";
import type { Table } from "./csv";

/** Tables of a machine that can be had as CSV. */
export const TABLE_NAMES = [
  "parts",
  "loads",
  "feeds",
  "fuses",
  "cut",
  "buy",
  "labels",
  "connections",
  "links",
  "bring-up",
  "verdicts",
  "modes",
] as const;
/** One of them. */
export type TableName = (typeof TABLE_NAMES)[number];

const plain = (value: number | undefined) => (value === undefined ? "" : `${value}`);

/** A table of a machine, ready to be written. Figures in SI units where a heading names the unit. */
export function tableOf(name: TableName, machine: Machine, analysis: Pick<ShownFigures, "modes" | "parts">, sheet: Sheet): Table {
  switch (name) {
    case "parts": {
      const ledger = ledgerOf(machine);
      return {
        head: ["Part", "Kind", "What it is", "Ratings", "Rail", "Pieces", "Mass kg", "Cost each", "Note", "Id"],
        rows: machine.parts.map((part) => {
          const { what, ratings } = ratedAs(part);
          return [
            part.name,
            part.kind,
            what,
            ratings.join("; "),
            ledger.rowOf.get(part.id)?.rail?.tag ?? "",
            part.kind === "load" ? `${part.count}` : "1",
            plain(part.massKg?.value),
            plain(part.cost),
            part.note ?? "",
            part.id,
          ];
        }),
      };
    }
    case "loads": {
      const loads = machine.parts.filter((part) => part.kind === "load");
      return {
        head: [
          "Name",
          "Kind",
          "Pieces",
          "Volts",
          "Idle A",
          "Run A",
          "Start A",
          "Stall A",
          "Known by",
          ...machine.modes.map((mode) => mode.name),
          ...machine.modes.map((mode) => `${mode.name} A`),
        ],
        rows: loads.map((load) => {
          const { levels = {} } = load;
          const known = levels.run ?? levels.stall ?? levels.start ?? levels.idle;
          return [
            load.name,
            load.loadKind,
            `${load.count}`,
            plain(load.nominalV.value),
            plain(levels.idle?.value),
            plain(levels.run?.value),
            plain(levels.start?.value),
            plain(levels.stall?.value),
            known?.provenance ?? "",
            ...machine.modes.map(({ id }) => {
              const cell = load.cells[id];
              return cell ? cellWords(load, cell) : "not known";
            }),
            ...machine.modes.map((_, m) => {
              const amps = analysis.parts[load.id]?.amps[m];
              return amps === undefined ? "" : `${analysis.parts[load.id]?.atLeast[m] ? ">= " : ""}${Number(amps.toPrecision(6))}`;
            }),
          ];
        }),
      };
    }
    case "modes":
      return {
        head: ["Mode", "Lasts s", "From all sources A", "At least", "Collapses"],
        rows: machine.modes.map(({ name, lastsS }, m) => [
          name,
          lastsS === null ? "" : `${lastsS}`,
          plain(analysis.modes[m] && Number(analysis.modes[m].sourceA.toPrecision(6))),
          analysis.modes[m]?.atLeast ? "yes" : "",
          analysis.modes[m]?.collapsed ? "yes" : "",
        ]),
      };
    default:
      return sheetTable(name, sheet);
  }
}

/** A list of the sheet as a table. */
export function sheetTable(name: Exclude<TableName, "parts" | "loads" | "modes">, sheet: Sheet): Table {
  switch (name) {
    case "feeds":
      return {
        head: ["Rail", "Node", "Depth", "Tag", "Run", "Conductor", "Fuse", "Worst", "May carry"],
        rows: sheet.feeds.map((row) => [
          row.rail,
          row.name,
          `${row.depth}`,
          row.tag,
          row.run,
          row.conductor,
          row.fuse,
          row.worst,
          row.limit,
        ]),
      };
    case "fuses":
      return {
        head: ["Tag", "Rating", "Family", "Dead without it", "Place"],
        rows: sheet.fuses.map((row) => [row.tag, row.rating, row.family, row.guards, row.place]),
      };
    case "cut":
      return {
        head: ["Tag", "Gauge", "Colour", "Insulation", "Pieces", "Length", "From", "End there", "To", "End there too", "Fuse", "Twisted"],
        rows: sheet.cut.flatMap(({ gauge, colour, insulation, lines }) =>
          lines.map((row) => [
            row.tag,
            gauge,
            colour,
            insulation,
            `${row.pieces}`,
            row.length,
            row.from,
            row.fromEnd,
            row.to,
            row.toEnd,
            row.fuse,
            row.twisted ? "yes" : "",
          ]),
        ),
      };
    case "buy":
      return {
        head: ["Group", "Need", "Spare", "Unit", "What", "Detail", "Why the spare", "On the shelf", "Still to buy", "Cost each"],
        rows: sheet.buy.lines.map((row) => [
          row.group,
          plain(Number(row.need.toFixed(2))),
          `${row.spare}`,
          row.unit,
          row.what,
          row.detail,
          row.spareWhy,
          row.have === "some" ? "some, not counted" : plain(Number(row.have.toFixed(2))),
          plain(Number(row.buy.toFixed(2))),
          row.costEach === null ? "" : `${row.costEach}`,
        ]),
      };
    case "labels":
      return { head: ["Tag", "Where", "What"], rows: sheet.labels.map((row) => [row.tag, row.where, row.what]) };
    case "connections":
      return {
        head: ["Part", "Terminal or pin", "Wire or signal", "To", "Colour"],
        rows: sheet.connections.flatMap(({ part, terminals, pins }) => [
          ...terminals.map(({ terminal, tag, to }) => [part, terminal, tag, to, ""]),
          ...pins.map(({ pin, signal, to, colour }) => [part, pin, signal, to, colour]),
        ]),
      };
    case "links":
      return {
        head: ["Link", "Kind", "Levels", "Own ground", "Shield"],
        rows: sheet.links.map((row) => [row.name, row.kind, row.levels, row.ground, row.shield]),
      };
    case "bring-up":
      return {
        head: ["Stage", "Reading", "Where", "Expected", "Read"],
        rows: sheet.bringUp.flatMap(({ title, groups }) =>
          groups.flatMap(({ lead, steps }) => steps.map(({ name, expect, read }) => [title, lead, name, expect, read ?? ""])),
        ),
      };
    case "verdicts":
      return {
        head: ["Severity", "What", "Why", "Since", "Reason it stays"],
        rows: [
          ...sheet.verdicts.map((row) => [row.severity, row.headline, row.detail, "", ""]),
          ...sheet.accepted.map((row) => [row.severity, row.headline, "", `${row.kind} ${row.date}`, row.reason]),
        ],
      };
  }
}
