"use client";
import { format } from "date-fns";
import { useEffect, useMemo, useState } from "react";
import { csvText } from "@/core/exchange/csv";
import { drawingSvg } from "@/core/exchange/drawing-svg";
import { pictureSvg } from "@/core/exchange/flow-svg";
import { toJson } from "@/core/exchange/json";
import { sheetMarkdown } from "@/core/exchange/markdown";
import { toSpice } from "@/core/exchange/spice";
import { TABLE_NAMES, tableOf } from "@/core/exchange/tables";
import type { ShelfItem } from "@/core/machine/shelf";
import { capital } from "@/core/quantity/format";
import { paperOf } from "@/core/sheet/pages";
import { PAPERS, type PaperId } from "@/core/sheet/paper";
import type { Sheet } from "@/core/sheet/sheet";
import { fetchShelf } from "@/state/api";
import { analysedOf, analysisOf, isBroken } from "@/state/findings";
import { useBringUpAnswer } from "../bringup/useExplanation";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { download } from "../kit/download";
import { Menu, type MenuItem } from "../kit/Menu";
import { always, Select } from "../kit/Select";
import { PaperPages } from "../paper/Pages";
import { useLog, useWorkbench } from "../workbench/context";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { usePaperChoice } from "./usePaperChoice";

/** The shelf for the buy list; null until it is known, empty where the server does not answer. */
function useShelf(): readonly ShelfItem[] | null {
  const [shelf, setShelf] = useState<readonly ShelfItem[] | null>(null);
  useEffect(() => {
    let gone = false;
    void fetchShelf().then((items) => {
      if (!gone) setShelf(items ?? []);
    });
    return () => {
      gone = true;
    };
  }, []);
  return shelf;
}

/** The sheet of the plan last analysed with what was read, worked out off the screen's thread. */
function useSheet() {
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const log = useLog((state) => state.log);
  const kit = useLog((state) => state.kit);
  const shelf = useShelf();
  const more = useMemo(() => (verdicts && shelf ? { verdicts, shelf } : null), [verdicts, shelf]);
  return useBringUpAnswer<Sheet | null>(
    more ? "sheet" : null,
    (service, machine) => (more ? service.sheet(machine, log, kit, more.verdicts, more.shelf) : Promise.resolve(null)),
    more,
  );
}

/** Everything to print, to buy and to take along: the pages as they will lie on the bench. */
export function SheetScreen() {
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  const broken = useWorkbench(isBroken);
  const { value: sheet, failed, start } = useSheet();
  if (empty) return <EmptyMachine />;
  if (broken) return <p className="p-6 text-sm text-soft">There are no figures to print: see the verdicts.</p>;
  if (failed) return <BrokeOff what="The sheet" again={start} />;
  if (!sheet) return <p className="p-6 text-sm text-soft">Laying it out…</p>;
  return <Shown sheet={sheet} />;
}

function Shown({ sheet }: { sheet: Sheet }) {
  const revision = useWorkbench((state) => state.revision);
  const { choice, choose } = usePaperChoice();
  const [zoom, setZoom] = useState<"page" | "read">("page");
  const paper = useMemo(() => paperOf(sheet, { ...choice, revision, date: format(new Date(), "d MMM yyyy") }), [sheet, choice, revision]);
  const items = useDownloads(sheet);
  const own = paper.pages.length - paper.labelPages;
  const tick = (key: "lists" | "bringUp" | "labels", label: string) => (
    <label className="flex items-center gap-1.5 text-sm">
      <input type="checkbox" checked={choice[key]} onChange={(event) => choose({ [key]: event.target.checked })} />
      {label}
    </label>
  );
  return (
    <div className="print-flow flex min-h-0 flex-1 flex-col">
      {/* The printer's page is the sheet's page: whatever size is chosen here is the one it asks for. */}
      <style>{`@page { size: ${paper.size.width}mm ${paper.size.height}mm; margin: 0 }`}</style>
      <div className="no-print flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-4 py-2">
        <Button kind="main" onClick={() => window.print()}>
          Print, or save as PDF
        </Button>
        <Menu label="Save as" items={items} />
        <Select
          aria-label="Paper"
          value={choice.paper}
          options={(Object.keys(PAPERS) as PaperId[]).map((id) => ({ value: id, label: PAPERS[id].name }))}
          onChange={always((id) => choose({ paper: id }))}
        />
        {tick("lists", "Lists")}
        {tick("bringUp", "Bring-up")}
        {tick("labels", "Labels")}
        <span className="ml-auto text-sm text-soft">
          <span className="fig text-ink">{own}</span> page{own === 1 ? "" : "s"}
          {paper.labelPages > 0 && (
            <>
              {" "}
              and <span className="fig text-ink">{paper.labelPages}</span> of labels
            </>
          )}
        </span>
        <button
          type="button"
          className="link text-sm"
          aria-pressed={zoom === "read"}
          onClick={() => setZoom(zoom === "page" ? "read" : "page")}
        >
          {zoom === "page" ? "Enlarge to read" : "Show whole pages"}
        </button>
      </div>
      <section
        aria-label="Pages"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: pages scroll both ways, and keys have to reach them
        tabIndex={0}
        className={`print-flow paper-desk min-h-0 flex-1 overflow-auto ${zoom === "read" ? "paper-large" : ""}`}
      >
        <PaperPages paper={paper} />
      </section>
    </div>
  );
}

/** Everything that can be saved as a file. */
function useDownloads(sheet: Sheet): MenuItem[] {
  const machine = useWorkbench((state) => state.machine);
  const analysed = useWorkbench(analysedOf);
  const analysis = useWorkbench(analysisOf);
  const mode = useWorkbench((state) => state.mode);
  const spiceMode = machine.modes[mode === "worst" ? 0 : mode] ?? machine.modes[0];
  const { name } = machine;
  return [
    { heading: "Pictures" },
    {
      label: "Distribution",
      note: "SVG",
      act: () => download(drawingSvg(sheet.drawing, `${name}, distribution`), `${name} distribution`, "svg"),
    },
    ...(sheet.returns
      ? [
          {
            label: `Ways out and back, ${sheet.returns.mode}`,
            note: "SVG",
            act: () =>
              sheet.returns && download(pictureSvg(sheet.returns.picture, `${name}, ${sheet.returns.mode}`), `${name} returns`, "svg"),
          },
        ]
      : []),
    { heading: "The machine" },
    { label: "Whole machine", note: "JSON", act: () => download(toJson(machine), name, "json") },
    { label: "Sheet as text", note: "Markdown", act: () => download(sheetMarkdown(machine, sheet), name, "md") },
    ...(spiceMode
      ? [
          {
            label: `Netlist of ${spiceMode.name}`,
            note: "SPICE",
            act: () => download(toSpice(machine, spiceMode.id).text, `${name} ${spiceMode.name}`, "cir"),
          },
        ]
      : []),
    { heading: "Tables" },
    ...(analysis && analysed
      ? TABLE_NAMES.map((table) => ({
          label: capital(table),
          note: "CSV",
          act: () => download(csvText(tableOf(table, analysed, analysis, sheet)), `${name} ${table}`, "csv"),
        }))
      : []),
  ];
}
