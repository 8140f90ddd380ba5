"use client";
import dynamic from "next/dynamic";
import type { Arrangement } from "@/core/choosing/central";
import type { Converter } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { readConverter } from "@/core/sources/converter";
import { analysisOf } from "@/state/findings";
import { FigureTable, figure, RowName, type TableColumn } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, useLedger, useWorkbench } from "../workbench/context";
import { useSourcesAnswer } from "../workbench/useQuestion";
import { ForGood } from "./ForGood";

/** The chart library is only fetched by those who look at charts. */
const LossPane = dynamic(() => import("./LossPane").then((module) => module.LossPane), { ssr: false });

const UNKNOWN = <span className="text-ask">?</span>;

/** The lower end of a span: its unit stands behind the upper one. */
function bare(volts: string): string {
  return volts.replace(/\u00a0V$/, "");
}

/** Every converter with its window, its heat and what is left of its current, and the one regulator against many. */
export function ConvertersView() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.machine.modes);
  const settings = useWorkbench((state) => state.machine.settings);
  const analysis = useWorkbench(analysisOf);
  const selected = useWorkbench((state) => state.selected);
  const rows = ledger.rows.flatMap(({ part }) => {
    if (part.kind !== "converter") return [];
    const figures = analysis?.parts[part.id];
    const given = pickFigure(figures?.outA ?? undefined, mode);
    const m = given?.mode ?? 0;
    return [{ part, figures, given, m, read: figures ? readConverter(part, figures, m, settings) : null }];
  });
  if (rows.length === 0) {
    return <p className="p-6 text-sm text-soft">No converter yet. Select what should feed one, press A, and choose Converter.</p>;
  }
  const columns: TableColumn<(typeof rows)[number]>[] = [
    {
      label: "Converter",
      cell: ({ part }, place) => (
        <RowName place={place}>
          <RailTag rail={ledger.rails.find((rail) => rail.origin === part.id) ?? null} /> <span className="pl-1">{part.name}</span>
          <span className="pl-2 text-xs text-soft">
            {part.topology}
            {part.isolated && ", isolated"}
          </span>
        </RowName>
      ),
    },
    {
      label: "Takes",
      width: 118,
      cellClass: "fig",
      cell: ({ part, read }) => (
        <>
          {read?.leastInV == null ? UNKNOWN : bare(say(read.leastInV, "voltage", "up"))} –{" "}
          {part.inputMaxV ? say(part.inputMaxV.value, "voltage", "down") : UNKNOWN}
        </>
      ),
    },
    {
      label: "Sees",
      width: 118,
      cellClass: "fig",
      cell: ({ figures }) => (
        <>
          {figures?.lowestV ? bare(say(figures.lowestV.volts, "voltage", "down")) : "?"} –{" "}
          {figures?.highestV == null ? UNKNOWN : say(figures.highestV, "voltage", "up")}
        </>
      ),
    },
    {
      label: "Gives",
      num: true,
      width: 54,
      cell: figure(
        ({ part, figures, given, m }) =>
          given &&
          figures?.live[m] === 1 && {
            value: given.value,
            dimension: "current",
            rounding: "up",
            strong: true,
            atLeast: figures.atLeast[m] === 1,
            label: `Given by ${part.name}`,
            of: { kind: "outputAmps", part: part.id, mode: m },
          },
      ),
    },
    {
      label: "Continuous",
      num: true,
      width: 64,
      cell: ({ part, read }, place) => <ForGood part={part} rating={read?.rating} place={place} />,
    },
    {
      label: "Yields",
      num: true,
      width: 44,
      cell: figure(({ part, read, m }) => ({
        value: read?.efficiency == null ? null : read.efficiency * 100,
        dimension: "percent",
        rounding: "down",
        label: `What ${part.name} yields`,
        of: { kind: "efficiency", part: part.id, mode: m },
      })),
    },
    {
      label: "Heat",
      num: true,
      width: 54,
      cell: figure(({ part, read, m }) => ({
        value: read?.heatW,
        dimension: "power",
        rounding: "up",
        label: `Lost inside ${part.name}`,
        of: { kind: "lossInside", part: part.id, mode: m },
      })),
    },
    {
      label: "Chip",
      num: true,
      width: 44,
      cell: figure(({ part, read, m }) => ({
        value: read?.chipC,
        dimension: "temperature",
        rounding: "up",
        label: `Chip of ${part.name}`,
        of: { kind: "chip", part: part.id, mode: m },
      })),
    },
    {
      label: "Most in",
      num: true,
      width: 54,
      cell: figure(({ part, read }) => ({
        value: read?.worstInA,
        dimension: "current",
        rounding: "up",
        label: `Most amps into ${part.name}`,
        of: { kind: "worstInput", part: part.id },
      })),
    },
    {
      label: "Verdict",
      width: 50,
      cell: ({ part }) => analysis?.status[part.id] && <SeverityMark severity={analysis.status[part.id] ?? "clear"} />,
    },
  ];
  const chosen = (rows.find(({ part }) => part.id === selected) ?? rows[0])?.part;
  return (
    <div className="min-h-0 flex-1 overflow-auto pane">
      <FigureTable
        caption="Converters"
        columns={columns}
        rows={rows}
        keyOf={({ part }) => part.id}
        partOf={({ part }) => part.id}
        rest={140}
      />
      <p className="px-3 pt-1 text-xs text-soft">
        Takes: the window it works in, dropout included. Sees: lowest in the worst mode with the pack low, highest with it full. Gives and
        heat are of {mode === "worst" ? "its worst mode" : modes[mode]?.name}; continuously at {Math.round(settings.ambientC)} °C. Most in:
        what its input wire and fuse carry when it gives its most at that lowest input.
      </p>
      {chosen && <Arrangements converter={chosen} />}
      {chosen && <LossPane key={chosen.id} converter={chosen} />}
    </div>
  );
}

/** One regulator for all its loads against one beside each. */
function Arrangements({ converter }: { converter: Converter }) {
  const { value, failed, start } = useSourcesAnswer(`arrangements ${converter.id}`, async (service, machine) => ({
    found: await service.arrangements(machine, converter.id),
  }));
  if (failed)
    return (
      <div className="px-3">
        <BrokeOff what="One regulator or many" again={start} />
      </div>
    );
  if (!value) return null;
  const { found } = value;
  return (
    <section aria-label="One regulator or many" className="px-3 pt-4 pb-3">
      <h2 className="text-sm font-bold">
        {converter.name}: one for all, or one beside each load? {found && <span className="font-normal text-soft">in {found.mode}</span>}
      </h2>
      {!found ? (
        <p className="text-xs text-soft">Fewer than two loads hang straight on it, so there is nothing to spread.</p>
      ) : (
        <FigureTable
          className="mt-1 max-w-[760px]"
          caption="The two arrangements side by side"
          rows={ARRANGEMENT_ROWS}
          keyOf={({ label }) => label}
          columns={[
            { label: "Figure", hidden: true, cell: ({ label }) => label },
            { label: "One for all, as planned", num: true, cellClass: "fig", cell: ({ of }) => of(found.central) },
            { label: "One beside each", num: true, cellClass: "fig", cell: ({ of }) => of(found.pointOfUse) },
          ]}
        />
      )}
      {found && (
        <p className="mt-1 text-xs text-soft">
          The same make beside each load, fed over the load&apos;s own wires at the higher voltage. One for all is cheaper and loses less
          when idle; one beside each holds its volts whatever the others draw, and one that fails takes only its own load with it.
        </p>
      )}
    </section>
  );
}

const ARRANGEMENT_ROWS: readonly { label: string; of: (each: Arrangement) => string }[] = [
  { label: "Regulators", of: (each) => `${each.converters}` },
  { label: "Drawn at their inputs", of: (each) => say(each.inputW, "power", "up") },
  { label: "Heat in the regulators", of: (each) => say(each.convertersW, "power", "up") },
  { label: "Heat in the wires to the loads", of: (each) => say(each.wiresW, "power", "up") },
  {
    label: "Lowest volts at a load, against its minimum",
    of: (each) => {
      const worst = each.lowest
        .filter(({ leastV }) => leastV !== null)
        .sort((a, b) => a.volts / (a.leastV ?? 1) - b.volts / (b.leastV ?? 1))[0];
      return worst ? `${say(worst.volts, "voltage", "down")} at ${worst.name}` : "–";
    },
  },
  {
    label: "Largest swing at a load between modes",
    of: (each) => (each.swingAt === null ? "–" : `${say(each.swingV, "voltage", "up")} at ${each.swingAt}`),
  },
];
