"use client";
import { useState } from "react";
import { composed, compositionName } from "@/core/choosing/compose";
import type { Pack } from "@/core/machine/schema";
import { cellOhm, faultAmps, ohmFromReadings, packOhm, packVolts } from "@/core/packs/chemistry";
import { say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { Dimension } from "@/core/quantity/units";
import { CHEMISTRIES, type ChemistryId, chemistryOf } from "@/core/reference/chemistries";
import { FigureTable } from "../grid/FigureTable";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { PaneBoundary } from "../kit/PaneBoundary";
import { SelectField } from "../kit/Select";
import { PartPane } from "../parts/PartPane";
import { PackFields } from "../parts/SourceFields";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";
import { JoinPane } from "./JoinPane";

/** Under the rails, for a pack: what it is made of, what two readings tell, and its figures. */
export function PackDock() {
  const pack = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected));
  if (pack?.kind !== "pack") return null;
  return (
    <div
      data-dock
      className="no-print pane grid h-[284px] shrink-0 grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1.15fr)] border-t-2 border-ink bg-sheet"
    >
      <PaneBoundary what="What it is made of" on={pack.id}>
        <ComposePane key={`${pack.chemistry} ${pack.blocks} ${pack.series} ${pack.parallel} ${pack.capacityAh?.value}`} pack={pack} />
      </PaneBoundary>
      <div className="min-h-0 overflow-y-auto border-r border-hair px-3.5 py-2">
        <PaneBoundary what="Readings, marks and joints" on={pack.id}>
          <TwoReadings pack={pack} />
          <div className="mt-3 border-t border-hair pt-1">
            <PackFields pack={pack} />
          </div>
          <Marks pack={pack} />
          <JoinPane source={pack} />
        </PaneBoundary>
      </div>
      <PaneBoundary what="The figures" on={pack.id}>
        <PartPane part={pack} />
      </PaneBoundary>
    </div>
  );
}

/** Twelve volts on a label are six cells of lead and four of iron phosphate: what is counted has to be said. */
const SERIES_OF = [
  { value: "cells", label: "cells" },
  { value: "blocks", label: "blocks, as bought (12 V, 6 V)" },
] as const;

const whole = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : Number.NaN);

/** From cells to a pack: its figures are written all at once, and marked typical. */
function ComposePane({ pack }: { pack: Pack }) {
  const { act } = useDispatch();
  const coldestC = useWorkbench((state) => state.machine.settings.coldestC);
  const [chemistry, setChemistry] = useState<ChemistryId | "">(pack.chemistry ?? "");
  const perBlock = pack.blocks && pack.series && pack.series % pack.blocks === 0 ? pack.series / pack.blocks : null;
  const [inBlocks, setInBlocks] = useState(perBlock !== null && pack.blocks !== undefined && pack.blocks > 1);
  const [blockCells, setBlockCells] = useState(perBlock === null ? "" : `${perBlock}`);
  const [series, setSeries] = useState(
    pack.blocks !== undefined && pack.blocks > 1 ? `${pack.blocks}` : pack.series ? `${pack.series}` : "",
  );
  const [parallel, setParallel] = useState(`${pack.parallel ?? 1}`);
  const [cell, setCell] = useState(pack.capacityAh ? `${Number((pack.capacityAh.value / (pack.parallel ?? 1)).toPrecision(4))} Ah` : "");
  const [tried, setTried] = useState(false);
  const each = inBlocks ? whole(blockCells) : 1;
  const blocks = inBlocks ? { blocks: whole(series) } : { blocks: undefined };
  const cells = { series: whole(series) * each, parallel: whole(parallel) };
  const capacity = parseQuantity(cell, "capacity");
  const errors = {
    chemistry: chemistry === "" ? "Choose what the cells are." : null,
    series:
      whole(series) >= 1 && cells.series <= 60
        ? null
        : inBlocks
          ? "A whole number, 60 cells in all at most."
          : "A whole number from 1 to 60.",
    blockCells: each >= 1 && each <= 60 ? null : "A whole number: a 12 V lead block has 6 cells.",
    parallel: cells.parallel >= 1 && cells.parallel <= 200 ? null : "A whole number from 1 to 200.",
    cell: capacity.ok ? null : capacity.message,
  };
  const composition =
    chemistry !== "" && capacity.ok && !errors.series && !errors.blockCells && !errors.parallel
      ? { chemistry, series: cells.series, parallel: cells.parallel, cellAh: capacity.value }
      : null;
  const made = composition ? composed(composition, coldestC ?? 25, pack.plannedCharge?.value ?? 0.5) : null;
  const write = () => {
    setTried(true);
    if (made) act({ type: "updatePart", id: pack.id, changes: { ...made, ...blocks } });
  };
  const input = (label: string, value: string, set: (text: string) => void, error: string | null, placeholder: string) => (
    <Field slim label={label} error={tried ? error : null}>
      {(props) => (
        <input
          {...props}
          className="field fig w-full"
          value={value}
          placeholder={placeholder}
          onChange={(event) => set(event.target.value)}
        />
      )}
    </Field>
  );
  return (
    <form
      noValidate
      aria-label={`${pack.name}, what it is made of`}
      className="min-h-0 overflow-y-auto border-r border-hair px-3.5 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        write();
      }}
    >
      <h2 className="text-sm font-bold">
        <Explained>What is it made of?</Explained>
      </h2>
      <SelectField
        label="Cells"
        error={tried ? errors.chemistry : null}
        value={chemistry}
        options={CHEMISTRIES.map(({ id, name }) => ({ value: id, label: name }))}
        none="not known"
        onChange={(chosen) => setChemistry(chosen ?? "")}
      />
      <SelectField
        label="Counted in"
        value={inBlocks ? "blocks" : "cells"}
        options={SERIES_OF}
        onChange={(chosen) => {
          setInBlocks(chosen === "blocks");
          if (chosen === "blocks" && blockCells === "")
            setBlockCells(chemistry !== "" && chemistryOf(chemistry).family === "lead" ? "6" : "4");
        }}
      />
      {inBlocks && input("Blocks in series", series, setSeries, errors.series, "2")}
      {inBlocks
        ? input("Cells in each block", blockCells, setBlockCells, errors.blockCells, "6")
        : input("In series", series, setSeries, errors.series, "8")}
      {input("Strings in parallel", parallel, setParallel, errors.parallel, "1")}
      {input("One cell or string holds", cell, setCell, errors.cell, "60 Ah")}
      {composition && made && (
        <p className="mt-1 text-xs">
          {compositionName(composition)}: <span className="fig">{say(made.internalOhm?.value ?? 0, "resistance", "up")}</span>,{" "}
          <span className="fig">{say(made.continuousA?.value ?? 0, "current", "down")}</span> continuously,{" "}
          <span className="fig">{say(made.peakA?.value ?? 0, "current", "down")}</span> for ten seconds, about{" "}
          <span className="fig">{say(made.massKg?.value ?? 0, "mass")}</span>. {range(composition)}
        </p>
      )}
      <p className="mt-1.5 flex flex-wrap items-baseline gap-x-3">
        <Button type="submit">Write all its figures</Button>
        {composition && (
          <button
            type="button"
            className="link text-xs"
            onClick={() =>
              act({
                type: "updatePart",
                id: pack.id,
                changes: {
                  chemistry: composition.chemistry,
                  series: composition.series,
                  ...blocks,
                  parallel: composition.parallel,
                  capacityAh: pack.capacityAh ?? made?.capacityAh,
                },
              })
            }
          >
            only what cells they are
          </button>
        )}
      </p>
      {chemistry !== "" && <p className="mt-1 border-l-2 border-fix pl-2 text-xs">{CAUTION[chemistryOf(chemistry).family]}</p>}
    </form>
  );
}

const CAUTION = {
  lithium:
    "Lithium: a board or an alarm that watches every cell, its own charger, a fuse at the plus. Swollen, wet, hot or dented: outdoors and away.",
  lead: "Lead-acid: hydrogen on charge, so ventilate and no sparks; acid burns; a dropped tool welds. Fuse at the terminal.",
  nimh: "NiMH: a charger that notices when it is full; stop at 1.0 V a cell, or weak cells reverse.",
  alkaline: "Alkaline: never charge, never parallel; motors that brake must not feed them.",
} as const;

/** How far the typical resistance may be off, from the handbook's ranges. */
function range({
  chemistry: id,
  series,
  parallel,
  cellAh,
}: {
  chemistry: ChemistryId;
  series: number;
  parallel: number;
  cellAh: number;
}): string {
  const chemistry = chemistryOf(id);
  if (chemistry.kDcLow === null || chemistry.kDcHigh === null || chemistry.kDc === null)
    return "Typical, from memory; two readings are better.";
  const at = (k: number) => packOhm(cellOhm({ ...chemistry, kDc: k }, cellAh), series, parallel, 0);
  return `Its resistance could be ${say(at(chemistry.kDcLow), "resistance", "down")} to ${say(at(chemistry.kDcHigh), "resistance", "up")} without links (typical, from memory): two readings settle it.`;
}

/** Internal resistance from volts without load, volts under load, and the amps. */
function TwoReadings({ pack }: { pack: Pack }) {
  const { act } = useDispatch();
  const [texts, setTexts] = useState({ unloaded: "", loaded: "", amps: "" });
  const [tried, setTried] = useState(false);
  const read = (text: string, dimension: Dimension) => parseQuantity(text, dimension);
  const [u0, u1, i] = [read(texts.unloaded, "voltage"), read(texts.loaded, "voltage"), read(texts.amps, "current")];
  const ohm = u0.ok && u1.ok && i.ok ? ohmFromReadings(u0.value, u1.value, i.value) : null;
  const complete = u0.ok && u1.ok && i.ok;
  const problem = complete && ohm === null ? "Under load the volts must be lower, and some amps must flow." : null;
  const fields = [
    { key: "unloaded", label: "Without load", parsed: u0, placeholder: "26.6 V", problem: null },
    { key: "loaded", label: "Under load", parsed: u1, placeholder: "26.1 V", problem },
    { key: "amps", label: "at", parsed: i, placeholder: "35 A", problem: null },
  ] as const;
  return (
    <form
      noValidate
      aria-label="Resistance from two readings"
      onSubmit={(event) => {
        event.preventDefault();
        setTried(true);
        if (ohm !== null)
          act({ type: "updatePart", id: pack.id, changes: { internalOhm: { value: Number(ohm.toPrecision(4)), provenance: "measured" } } });
      }}
    >
      <h2 className="text-sm font-bold">
        <Explained>Resistance from two readings</Explained>
      </h2>
      {fields.map(({ key, label, parsed, placeholder, problem: wrong }) => (
        <Field
          key={key}
          slim
          label={label}
          error={wrong ?? (texts[key].trim() === "" ? (tried ? "Needed." : null) : parsed.ok ? null : parsed.message)}
        >
          {(props) => (
            <input
              {...props}
              className="field fig w-full"
              placeholder={placeholder}
              value={texts[key]}
              onChange={(event) => setTexts({ ...texts, [key]: event.target.value })}
            />
          )}
        </Field>
      ))}
      <p className="mt-1 flex items-baseline gap-3 text-sm">
        <Button type="submit" disabled={complete && ohm === null}>
          Take it
        </Button>
        {ohm !== null && <span className="fig font-bold">{say(ohm, "resistance", "up")}</span>}
        <span className="text-xs text-soft">R = (U₀ − U₁) / I, after ten seconds</span>
      </p>
    </form>
  );
}

/** Volts of the pack at the marks that matter, from its chemistry. */
function Marks({ pack }: { pack: Pack }) {
  const coldestC = useWorkbench((state) => state.machine.settings.coldestC);
  if (pack.chemistry === undefined || !pack.series) {
    return (
      <p className="mt-3 text-xs text-soft">Say what it is made of, and its volts when full, at rest, and where to stop appear here.</p>
    );
  }
  const chemistry = chemistryOf(pack.chemistry);
  const volts = packVolts(chemistry, pack.series, coldestC ?? 25);
  const cellAh = (pack.capacityAh?.value ?? 0) / (pack.parallel ?? 1);
  const faultA = cellAh > 0 ? faultAmps(chemistry, pack.series, pack.parallel ?? 1, cellAh) : null;
  const mark = (value: number | null) => (value === null ? "never" : say(value, "voltage"));
  const rows: readonly (readonly [string, string])[] = [
    ["Highest, on the charger", mark(volts.chargeMaxV)],
    ["Charger, usual", mark(volts.chargeStdV)],
    ["Full, rested", mark(volts.restV)],
    ["Nominal, for Wh only", mark(volts.nominalV)],
    ["Stop, planned", mark(volts.cutV)],
    ["Stop, absolute", mark(volts.cutAbsV)],
    ...(faultA === null ? [] : [["Into a dead short, at most", say(faultA, "current", "up")] as const]),
  ];
  return (
    <FigureTable
      headless
      className="mt-3 [&_td]:py-0.5"
      caption={
        <caption className="text-left text-sm font-bold">
          Its marks <span className="font-normal text-soft">typical, from memory</span>
        </caption>
      }
      rows={rows}
      keyOf={([label]) => label}
      columns={[
        { label: "Mark", cell: ([label]) => label },
        { label: "Value", num: true, cellClass: "fig", cell: ([, value]) => value },
      ]}
    />
  );
}
