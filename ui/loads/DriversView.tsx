"use client";
import type { Analysis } from "@/core/analysis/types";
import { bridgeHeat } from "@/core/drivers/bridge";
import { bridgeOf } from "@/core/drivers/channel";
import { driverLimits } from "@/core/drivers/limits";
import type { Driver, Load } from "@/core/machine/schema";
import { editText, formatQuantity, say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { analysisOf } from "@/state/findings";
import { EditCell } from "../grid/EditCell";
import { FigureTable, figure, None, RowName, type TableColumn } from "../grid/FigureTable";
import { RailTag } from "../kit/RailTag";
import { always, named, Select } from "../kit/Select";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, useDispatch, useLedger, useWorkbench } from "../workbench/context";

export const COOLING_NAMES = { none: "bare board", heatsink: "heatsink", air: "moving air" } as const;
export const LOGIC_NAMES = { "own input": "own 5 V input", onboard: "its own regulator", controller: "the controller" } as const;

/** The channel that carries most in a mode. */
function heaviest(motors: readonly Load[], analysis: Analysis | null, mode: number): { load: Load; amps: number } | null {
  let most: { load: Load; amps: number } | null = null;
  for (const load of motors) {
    const amps = analysis?.parts[load.id]?.amps[mode] ?? 0;
    if (!most || amps > most.amps) most = { load, amps };
  }
  return most;
}

type AmpsKey = "headlineA" | "continuousA" | "peakA" | "limitA";

function AmpsCell({ driver, of, label, cell }: { driver: Driver; of: AmpsKey; label: string; cell: { r: number; c: number } }) {
  const { dispatch } = useDispatch();
  const figure = driver[of];
  const printed = figure ? formatQuantity(figure.value, "current", "down") : null;
  return (
    <EditCell
      cell={cell}
      className="min-w-10 text-right"
      initial={figure ? editText(figure.value, "current") : ""}
      label={`${driver.name}, ${label}`}
      placeholder="20 A"
      parse={(text) => (text.trim() === "" ? { ok: true as const, value: undefined } : parseQuantity(text, "current"))}
      commit={(value) =>
        dispatch({
          type: "updatePart",
          id: driver.id,
          changes: { [of]: value === undefined ? undefined : { value, provenance: figure?.provenance ?? "datasheet" } },
        })
      }
    >
      {printed ? (
        <span className="fig">
          {printed.digits}
          <span className="unit">{printed.unit}</span>
        </span>
      ) : (
        <span className={of === "continuousA" ? "font-bold text-ask" : "text-soft"}>{of === "continuousA" ? "?" : "–"}</span>
      )}
    </EditCell>
  );
}

/** Every driver: what is printed on it, what it really carries, what its motors ask of it, and how its logic is fed. */
export function DriversView() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench(analysisOf);
  const { act } = useDispatch();
  const rows = ledger.rows.flatMap((row) => {
    if (row.part.kind !== "driver") return [];
    const driver = row.part;
    const motors = ledger.rows.flatMap((each) =>
      each.parent === driver.id && each.feed?.role === "phase" && each.part.kind === "load" ? [each.part] : [],
    );
    const at = pickFigure(analysis?.parts[driver.id]?.amps, mode);
    return [{ row, driver, motors, at, most: at ? heaviest(motors, analysis, at.mode) : null }];
  });
  if (rows.length === 0) {
    return (
      <p className="p-6 text-sm text-soft">
        No drivers yet. Select a bar on Feeds and press A to hang one under it, then its motor under the driver.
      </p>
    );
  }
  const columns: TableColumn<(typeof rows)[number]>[] = [
    {
      label: "Driver",
      width: 138,
      cellClass: "!h-[38px]",
      cell: ({ row, driver, motors }, place) => (
        <RowName place={place}>
          <RailTag rail={row.rail} /> <span className="pl-1">{driver.name}</span>
          <span className="block truncate pl-[3.2em] text-xs text-soft">
            {motors.length === 0 ? "no motor yet" : motors.map(({ name }) => name).join(", ")}
          </span>
        </RowName>
      ),
    },
    {
      label: "Printed",
      num: true,
      width: 48,
      cell: ({ driver }, place) => <AmpsCell driver={driver} of="headlineA" label="amps as printed" cell={place} />,
    },
    {
      label: "Continuous",
      num: true,
      width: 52,
      cell: ({ driver }, place) => {
        const { continuous } = driverLimits(driver);
        const layered = continuous && driver.continuousA && continuous.value < driver.continuousA.value;
        return (
          <>
            <AmpsCell driver={driver} of="continuousA" label="amps continuously, bare" cell={place} />
            {layered && <span className="block text-[11px] text-soft">{say(continuous.value, "current", "down")} by a layer</span>}
          </>
        );
      },
    },
    {
      label: "Cooled by",
      width: 84,
      cell: ({ driver }) => (
        <Select
          aria-label={`${driver.name} cooled by`}
          className="field w-full text-xs"
          value={driver.cooling ?? "none"}
          options={named(COOLING_NAMES)}
          onChange={always((cooling) => act({ type: "updatePart", id: driver.id, changes: { cooling } }))}
        />
      ),
    },
    {
      label: "Peak",
      num: true,
      width: 48,
      cell: ({ driver }, place) => <AmpsCell driver={driver} of="peakA" label="peak amps" cell={place} />,
    },
    {
      label: "Limit set",
      num: true,
      width: 52,
      cell: ({ driver }, place) => <AmpsCell driver={driver} of="limitA" label="current limit set" cell={place} />,
    },
    {
      label: "Motor amps",
      num: true,
      width: 66,
      cell: figure(
        ({ most, at }) =>
          most &&
          at && {
            value: most.amps,
            dimension: "current",
            rounding: "up",
            strong: true,
            atLeast: analysis?.parts[most.load.id]?.atLeast[at.mode] === 1,
            label: `${most.load.name}, motor amps`,
            of: { kind: "partAmps", part: most.load.id, mode: at.mode },
          },
        null,
      ),
    },
    {
      label: "Bus amps",
      num: true,
      width: 60,
      cell: figure(
        ({ driver, at }) =>
          at && {
            value: at.value,
            dimension: "current",
            rounding: "up",
            atLeast: analysis?.parts[driver.id]?.atLeast[at.mode] === 1,
            label: `${driver.name}, bus amps`,
            of: { kind: "partAmps", part: driver.id, mode: at.mode },
          },
        null,
      ),
    },
    {
      label: "Motor gets",
      num: true,
      width: 62,
      cell: figure(
        ({ most, at }) =>
          most &&
          at &&
          most.amps > 0 && {
            value: analysis?.parts[most.load.id]?.volts[at.mode],
            dimension: "voltage",
            rounding: "down",
            label: `${most.load.name}, volts`,
            of: { kind: "partVolts", part: most.load.id, mode: at.mode },
          },
        null,
      ),
    },
    {
      label: "Heat",
      num: true,
      width: 58,
      wideOnly: true,
      cell: figure(
        ({ driver, motors, at }) =>
          at && {
            value: motors.reduce((sum, load) => sum + bridgeHeat(bridgeOf(driver), analysis?.parts[load.id]?.amps[at.mode] ?? 0), 0),
            dimension: "power",
            rounding: "up",
            label: "Bridge heat",
          },
        null,
      ),
    },
    {
      label: "Logic from",
      wideOnly: true,
      cellClass: "truncate text-xs",
      cell: ({ driver }) => (driver.logic ? LOGIC_NAMES[driver.logic] : <None>not planned</None>),
    },
    {
      label: "Verdict",
      width: 50,
      cell: ({ driver }) => analysis?.status[driver.id] && <SeverityMark severity={analysis.status[driver.id] ?? "clear"} />,
    },
  ];
  return (
    <div className="pane min-h-0 flex-1 overflow-auto">
      <FigureTable
        sticky
        caption="Drivers with their limits and what their motors draw"
        columns={columns}
        rows={rows}
        keyOf={({ driver }) => driver.id}
        partOf={({ driver }) => driver.id}
        rest={80}
      />
      <p className="px-3 py-2 text-xs text-soft">
        Motor leads carry the motor amps, the feed only the bus amps: while the bridge chops, the rest goes round in the motor&apos;s own
        loop.
      </p>
    </div>
  );
}
