"use client";
import type { Analysis } from "@/core/analysis/types";
import type { Part, Settings } from "@/core/machine/schema";
import { isConsumer, isSource } from "@/core/machine/terminals";
import { railOrigin } from "@/core/machine/tree";
import { say } from "@/core/quantity/format";
import { type Giver, ratingOf } from "@/core/sources/ratings";
import { inputWindow } from "@/core/verdicts/sources/input-window";
import { analysisOf } from "@/state/findings";
import type { ModeChoice } from "@/state/workbench";
import { FigureTable, figure, None, RowName, type TableColumn } from "../grid/FigureTable";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, pickLowest, useLedger, useWorkbench } from "../workbench/context";
import { ForGood } from "./ForGood";

function isGiver(part: Part): part is Giver {
  return isSource(part) || part.kind === "converter";
}

function Unknown() {
  return <span className="text-ask">?</span>;
}

function Amps({ value }: { value: number | undefined }) {
  return value === undefined ? <Unknown /> : <span className="fig">{say(value, "current", "down")}</span>;
}

/** A source or converter with what the chosen mode asks of it. */
function giverRow(part: Giver, analysis: Analysis | null, mode: ModeChoice, settings: Settings) {
  const figure = analysis?.parts[part.id];
  const given = pickFigure(figure?.outA ?? figure?.amps, mode);
  const m = given?.mode ?? 0;
  const live = figure?.live[m] === 1;
  return {
    part,
    figure,
    given: live ? given : null,
    m,
    live,
    inV: part.kind === "converter" && live ? pickLowest(figure?.volts, figure?.live, given ? m : mode) : null,
    rating: ratingOf(part, settings, figure?.highestV ?? null),
    status: analysis?.status[part.id],
  };
}

/** Sources and converters: what each gives against what it may give. */
function GiversTable() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench(analysisOf);
  const modes = useWorkbench((state) => state.machine.modes);
  const settings = useWorkbench((state) => state.machine.settings);
  const rows = ledger.rows.flatMap(({ part }) => (isGiver(part) ? [giverRow(part, analysis, mode, settings)] : []));
  const columns: TableColumn<(typeof rows)[number]>[] = [
    {
      label: "Source or converter",
      cell: ({ part }, place) => (
        <RowName place={place}>
          <RailTag rail={ledger.rails.find((rail) => rail.origin === part.id) ?? null} /> <span className="pl-1">{part.name}</span>
          {part.note && <span className="pl-2 text-xs text-soft">{part.note}</span>}
        </RowName>
      ),
    },
    {
      label: `Gives, ${mode === "worst" ? "worst" : modes[mode]?.name}`,
      num: true,
      width: 88,
      cell: figure(
        ({ part, figure: figures, given, m }) =>
          given && {
            value: given.value,
            dimension: "current",
            rounding: "up",
            strong: true,
            atLeast: figures?.atLeast[m] === 1,
            label: `Given by ${part.name}`,
            of: { kind: "outputAmps", part: part.id, mode: m },
          },
        <span className="text-xs text-soft">off</span>,
      ),
    },
    {
      label: "Continuous",
      num: true,
      width: 66,
      cell: ({ part, rating }, place) => <ForGood part={part} rating={rating} place={place} />,
    },
    { label: "Briefly", num: true, width: 66, cell: ({ rating }) => (rating.briefA === null ? <None /> : <Amps value={rating.briefA} />) },
    {
      label: "Volts out",
      num: true,
      width: 64,
      cell: figure(
        ({ part, figure: figures, live, m }) =>
          live && {
            value: figures?.outV?.[m],
            dimension: "voltage",
            label: `Volts out of ${part.name}`,
            of: { kind: "outputVolts", part: part.id, mode: m },
          },
        null,
      ),
    },
    {
      label: "Volts in",
      num: true,
      width: 60,
      cell: figure(
        ({ part, inV, m }) =>
          inV && {
            value: inV.value,
            dimension: "voltage",
            label: `Volts into ${part.name}`,
            of: { kind: "partVolts", part: part.id, mode: m },
          },
      ),
    },
    {
      label: "Amps in",
      num: true,
      width: 62,
      cell: figure(
        ({ part, figure: figures, live, m }) =>
          part.kind === "converter" &&
          live && {
            value: figures?.amps[m],
            dimension: "current",
            label: `Amps into ${part.name}`,
            of: { kind: "converterInput", part: part.id, mode: m },
          },
      ),
    },
    {
      label: "Lost inside",
      num: true,
      width: 72,
      cell: figure(
        ({ part, figure: figures, live, m }) =>
          live && {
            value: figures?.lossW?.[m],
            dimension: "power",
            label: `Lost inside ${part.name}`,
            of: { kind: "lossInside", part: part.id, mode: m },
          },
        null,
      ),
    },
    { label: "Verdict", width: 54, cell: ({ status }) => status && <SeverityMark severity={status} /> },
  ];
  return (
    <FigureTable
      caption="Sources and converters"
      columns={columns}
      rows={rows}
      keyOf={({ part }) => part.id}
      partOf={({ part }) => part.id}
      rest={180}
    />
  );
}

/** What reaches each part that has an input window, between a full and an almost empty pack. */
function WindowsTable() {
  const ledger = useLedger();
  const analysis = useWorkbench(analysisOf);
  const parts = useWorkbench((state) => state.machine.parts);
  const modes = useWorkbench((state) => state.machine.modes);
  const rows = ledger.rows.flatMap(({ part, rail }) => {
    if (!isConsumer(part) || (part.inputMinV === undefined && part.inputMaxV === undefined)) return [];
    const figure = analysis?.parts[part.id];
    const origin = parts.find(({ id }) => id === railOrigin(ledger, part.id));
    const lowKnown = origin?.kind !== "pack" || origin.lowV !== undefined;
    const unsure = !lowKnown || figure?.highestV == null || figure.voltsUnsure || !part.inputMinV || !part.inputMaxV;
    const said = analysis?.verdicts.find((each) => each.rule === inputWindow.id && each.subject.id === part.id)?.severity;
    return [{ part, rail, figure, severity: said ?? (unsure ? ("ask" as const) : ("clear" as const)) }];
  });
  const columns: TableColumn<(typeof rows)[number]>[] = [
    {
      label: "Part",
      cell: ({ part, rail }, place) => (
        <RowName place={place}>
          <RailTag rail={rail} /> <span className="pl-1">{part.name}</span>
        </RowName>
      ),
    },
    {
      label: "Accepts from",
      num: true,
      width: 84,
      cellClass: "fig",
      cell: ({ part }) => (part.inputMinV ? say(part.inputMinV.value, "voltage") : <Unknown />),
    },
    {
      label: "Lowest here",
      num: true,
      width: 78,
      cell: figure(({ part, figure: figures }) => ({
        value: figures?.lowestV?.volts,
        dimension: "voltage",
        rounding: "down",
        strong: true,
        label: `Lowest volts at ${part.name}`,
        of: { kind: "partLowest", part: part.id },
      })),
    },
    {
      label: "in",
      width: 116,
      cellClass: "text-xs text-soft",
      cell: ({ figure: figures }) => (figures?.lowestV ? modes[figures.lowestV.mode]?.name : "not connected"),
    },
    {
      label: "Highest here",
      num: true,
      width: 84,
      cellClass: "fig",
      cell: ({ figure: figures }) => (figures?.highestV == null ? <Unknown /> : say(figures.highestV, "voltage", "up")),
    },
    {
      label: "Accepts to",
      num: true,
      width: 74,
      cellClass: "fig",
      cell: ({ part }) => (part.inputMaxV ? say(part.inputMaxV.value, "voltage") : <Unknown />),
    },
    { label: "Verdict", width: 54, cell: ({ severity }) => <SeverityMark severity={severity} /> },
  ];
  return (
    <FigureTable
      caption={
        <caption className="px-3 pt-4 pb-1 text-left text-sm font-bold">
          What reaches each part{" "}
          <span className="font-normal text-soft">lowest in the worst mode with the pack low, highest with the pack full</span>
        </caption>
      }
      columns={columns}
      rows={rows}
      keyOf={({ part }) => part.id}
      partOf={({ part }) => part.id}
      rest={160}
      empty={
        <p className="p-3 text-sm text-soft">
          No part has an input window yet. Enter "Input at least" and "Input at most" on converters, drivers and boards.
        </p>
      }
    />
  );
}

/** Sources and converters with what they give and may give, and the voltage every part ends up with. */
export function RailsView() {
  return (
    <div className="min-h-0 flex-1 overflow-auto pane">
      <GiversTable />
      <WindowsTable />
    </div>
  );
}
