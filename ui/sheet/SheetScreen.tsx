"use client";
import { useMemo } from "react";
import { toJson } from "@/core/exchange/json";
import { buildSheet, CAUTIONS, sheetMarkdown } from "@/core/exchange/sheet";
import { toSpice } from "@/core/exchange/spice";
import { analysedOf, analysisOf, isBroken } from "@/state/findings";
import { FigureTable, type TableColumn } from "../grid/FigureTable";
import { Button } from "../kit/Button";
import { download } from "../kit/download";
import { useWorkbench } from "../workbench/context";
import { EmptyMachine } from "../workbench/EmptyMachine";

function Table({
  caption,
  head,
  rows,
  numeric = [],
}: {
  caption: string;
  head: readonly string[];
  rows: readonly (readonly string[])[];
  numeric?: readonly number[];
}) {
  const keyed = rows.map((row, index) => ({ key: `${index}`, row }));
  return (
    <section className="mt-6">
      <h2 className="text-base font-bold">{caption}</h2>
      <FigureTable
        className="mt-1"
        caption={caption}
        rows={keyed}
        keyOf={({ key }) => key}
        columns={head.map(
          (label, c): TableColumn<(typeof keyed)[number]> => ({
            label,
            num: numeric.includes(c),
            cellClass: numeric.includes(c) ? "fig" : "!whitespace-normal",
            cell: ({ row }) => row[c],
          }),
        )}
      />
    </section>
  );
}

/** Everything to print, buy and take along. */
export function SheetScreen() {
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench(analysisOf);
  const analysed = useWorkbench(analysedOf);
  const broken = useWorkbench(isBroken);
  const mode = useWorkbench((state) => state.mode);
  const sheet = useMemo(() => (analysis && analysed ? buildSheet(analysed, analysis) : null), [analysis, analysed]);
  if (machine.parts.length === 0) return <EmptyMachine />;
  if (!sheet || !analysis || !analysed)
    return <p className="p-6 text-sm text-soft">{broken ? "There are no figures to print: see the verdicts." : "Working it out…"}</p>;
  const spiceMode = machine.modes[mode === "worst" ? 0 : mode] ?? machine.modes[0];
  return (
    <div className="print-flow min-h-0 flex-1 overflow-auto px-6 py-4">
      <div className="no-print flex flex-wrap items-center gap-2 border-b border-hair pb-3">
        <Button kind="main" onClick={() => window.print()}>
          Print
        </Button>
        <Button onClick={() => download(sheetMarkdown(analysed, analysis), machine.name, "md")}>Save as Markdown</Button>
        <Button onClick={() => download(toJson(machine), machine.name, "json")}>Export the machine, JSON</Button>
        {spiceMode && (
          <Button onClick={() => download(toSpice(machine, spiceMode.id).text, `${machine.name} ${spiceMode.name}`, "cir")}>
            Export {spiceMode.name}, SPICE netlist
          </Button>
        )}
      </div>
      <h2 className="mt-4 text-xl font-bold">{machine.name}</h2>
      {machine.description && <p className="text-sm text-soft">{machine.description}</p>}
      <section className="mt-5">
        <h2 className="text-base font-bold">Open verdicts</h2>
        {sheet.verdicts.length === 0 ? (
          <p className="text-sm">None: no rule found anything, and no figure it needs is missing.</p>
        ) : (
          <ul className="mt-1 text-sm">
            {sheet.verdicts.map((verdict) => (
              <li key={verdict.headline} className="border-b border-hair py-1">
                <b>
                  {verdict.severity}: {verdict.headline}.
                </b>{" "}
                {verdict.detail}
              </li>
            ))}
          </ul>
        )}
      </section>
      {sheet.accepted.length > 0 && (
        <Table
          caption="Accepted or put off"
          head={["", "What", "Since", "Reason"]}
          rows={sheet.accepted.map((row) => [row.severity, row.headline, `${row.kind}, ${row.date}`, row.reason])}
        />
      )}
      <Table
        caption="Feeds"
        head={["Rail", "Node", "Run", "Conductor", "Fuse", "Worst", "May carry"]}
        numeric={[2, 4, 5, 6]}
        rows={sheet.feeds.map((row) => [
          row.rail,
          `${"\u2003".repeat(row.depth)}${row.name}`,
          row.run,
          row.conductor,
          row.fuse,
          row.worst,
          row.limit,
        ])}
      />
      <Table caption="Buy list" head={["How many", "What", "Detail"]} rows={sheet.buy.map((row) => [row.count, row.what, row.detail])} />
      <Table
        caption="Cut list"
        head={["Label", "Conductor", "Colour", "Length", "From", "To"]}
        numeric={[3]}
        rows={sheet.cut.map((row) => [row.label, row.conductor, row.colour, row.length, row.from, row.to])}
      />
      {sheet.links.length > 0 && (
        <Table
          caption="Links"
          head={["Link", "Kind", "Levels", "Own ground", "Shield"]}
          rows={sheet.links.map((row) => [row.name, row.kind, row.levels, row.ground, row.shield])}
        />
      )}
      <section className="mt-6 pb-6">
        <h2 className="text-base font-bold">Cautions</h2>
        <ul className="list-disc pl-5 text-sm">
          {CAUTIONS.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </section>
    </div>
  );
}
