"use client";
import { memo } from "react";
import type { PartFigures } from "@/core/analysis/types";
import type { Cell, Load, Mode } from "@/core/machine/schema";
import type { LedgerRow } from "@/core/machine/tree";
import { parseCell } from "@/core/machine/typed";
import { editText, formatQuantity } from "@/core/quantity/format";
import type { Severity } from "@/core/verdicts/types";
import type { ModeChoice } from "@/state/workbench";
import { EditCell } from "../grid/EditCell";
import { columns, fixedLayout, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { useVirtualRows } from "../grid/useVirtualRows";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { LOAD_KIND_NAMES } from "../parts/KindFields";
import { sameRowProps, useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { Dock } from "../workbench/Dock";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { RailStrip } from "./RailStrip";

const ROW_HEIGHT = 38;

function CellText({ cell }: { cell: Cell | undefined }) {
  if (!cell) return <span className="font-bold text-ask">?</span>;
  if (cell.state === "off") return <span className="text-xs text-soft">off</span>;
  const { digits, unit } = formatQuantity(cell.amps.value, "current");
  const { provenance } = cell.amps;
  return (
    <>
      <span className="fig block leading-tight font-bold">
        {digits}
        <span className="unit">{unit}</span>
      </span>
      <span
        className={`block text-[11px] leading-tight ${provenance === "guess" ? "font-bold text-ask" : "text-soft"} ${provenance === "typical" ? "italic" : ""}`}
      >
        {provenance === "guess" ? "? guess" : provenance}
      </span>
    </>
  );
}

interface RowProps {
  row: LedgerRow;
  load: Load;
  driver: string | null;
  index: number;
  modes: readonly Mode[];
  mode: ModeChoice;
  selected: boolean;
  /** Length of each cell's bar, % of the load's worst, joined: rows whose bars stay render nothing. */
  bars: string;
  status: Severity | "clear" | undefined;
}

const LoadRow = memo(function LoadRow({ row, load, driver, index, modes, mode, selected, bars, status }: RowProps) {
  const { dispatch } = useDispatch();
  const select = useWorkbench((state) => state.select);
  const widths = bars.split(" ");
  return (
    <tr data-row={load.id} aria-selected={selected} onFocus={() => select(load.id)} onClick={() => select(load.id)}>
      <td className="!h-[38px]">
        <button type="button" data-r={index} data-c={0} className="block w-full truncate text-left">
          <RailTag rail={row.rail} /> <span className="pl-1">{load.name}</span>
          <span className="block truncate pl-[3.2em] text-xs text-soft">
            {load.count > 1 && `${load.count} × `}
            {load.note ?? LOAD_KIND_NAMES[load.loadKind]}
          </span>
        </button>
      </td>
      <td className="truncate text-sm" title={driver ?? undefined}>
        {driver ?? <span className="text-soft">–</span>}
      </td>
      {modes.map((each, m) => {
        const cell = load.cells[each.id];
        const initial = !cell ? "" : cell.state === "off" ? "off" : editText(cell.amps.value, "current");
        return (
          <td key={each.id} className={`num relative border-l border-hair ${mode === m ? "bg-strip" : ""}`}>
            <EditCell
              cell={{ r: index, c: m + 1 }}
              className="min-w-16 text-right"
              initial={initial}
              label={`${load.name} in ${each.name}`}
              parse={(text) => parseCell(text, load.nominalV.value)}
              commit={(value) => {
                const kept =
                  cell?.state === "amps" && value?.state === "amps"
                    ? { state: "amps" as const, amps: { ...value.amps, provenance: cell.amps.provenance } }
                    : value;
                return dispatch({ type: "setCell", loadId: load.id, modeId: each.id, cell: kept });
              }}
              placeholder="2.3 A, off"
            >
              <CellText cell={cell} />
            </EditCell>
            <span aria-hidden className="absolute bottom-0 left-0 h-[3px] bg-accent/50" style={{ width: `${widths[m] ?? 0}%` }} />
          </td>
        );
      })}
      <td>{status && <SeverityMark severity={status} />}</td>
    </tr>
  );
}, sameRowProps);

function barsOf(figures: PartFigures | undefined): string {
  if (!figures) return "";
  const worst = Math.max(0.001, ...figures.amps);
  return Array.from(figures.amps, (amps) => Math.round(Math.max(0, (amps / worst) * 100))).join(" ");
}

/** How the figures of the chosen load are known can be changed for all its modes at once. */
function KnownBy({ load }: { load: Load }) {
  const { act } = useDispatch();
  const cells = Object.entries(load.cells).filter(([, cell]) => cell.state === "amps");
  const now = new Set(cells.map(([, cell]) => (cell.state === "amps" ? cell.amps.provenance : "")));
  if (cells.length === 0) return null;
  return (
    <label className="text-xs">
      Amps of {load.name} are{" "}
      <select
        className="field"
        value={now.size === 1 ? [...now][0] : ""}
        onChange={(event) => {
          const provenance = event.target.value as "measured" | "datasheet" | "typical" | "guess";
          act({
            type: "batch",
            label: `${load.name}: ${provenance}`,
            commands: cells.map(([modeId, cell]) => ({
              type: "setCell",
              loadId: load.id,
              modeId,
              cell: cell.state === "amps" ? { state: "amps", amps: { ...cell.amps, provenance } } : cell,
            })),
          });
        }}
      >
        {now.size !== 1 && <option value="">of several kinds</option>}
        <option value="measured">measured</option>
        <option value="datasheet">datasheet</option>
        <option value="typical">typical</option>
        <option value="guess">? guess</option>
      </select>
    </label>
  );
}

/** What every load draws in every mode. */
export function LoadsScreen() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const analysis = useWorkbench((state) => state.analysis);
  const modes = useWorkbench((state) => state.machine.modes);
  const { openDialog } = useWorkbenchContext();
  const rows = ledger.rows.filter((row) => row.part.kind === "load");
  const { scroller, indexes, top, bottom, reveal } = useVirtualRows(rows.length, ROW_HEIGHT);
  const onKeyDown = useGridKeys(rows.length, modes.length + 1, reveal);
  if (ledger.rows.length === 0) return <EmptyMachine />;
  const chosen = rows.find((row) => row.part.id === selected)?.part;
  const head = [
    ...columns(["Load", 176], ["Driven by", 100]),
    ...modes.map((each, m) => ({ label: each.name, num: true, className: mode === m ? "!bg-ink !text-paper" : "" })),
    ...columns(["Verdict", 54]),
  ];
  return (
    <>
      <RailStrip />
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto pane">
        {rows.length === 0 ? (
          <p className="p-6 text-sm text-soft">
            No loads yet. Select a bar, converter or driver on Feeds and press A to hang one under it.
          </p>
        ) : (
          <table className="ledger" style={fixedLayout(head, 60)} onKeyDown={onKeyDown}>
            <caption className="sr-only">Current of each load in each mode</caption>
            <TableHead sticky columns={head} />
            <tbody>
              {top > 0 && <tr aria-hidden style={{ height: top }} />}
              {indexes.map((index) => {
                const row = rows[index];
                if (row?.part.kind !== "load") return null;
                const parent = row.parent ? ledger.rowOf.get(row.parent)?.part : undefined;
                return (
                  <LoadRow
                    key={row.part.id}
                    row={row}
                    load={row.part}
                    driver={parent?.kind === "driver" ? parent.name : null}
                    index={index}
                    modes={modes}
                    mode={mode}
                    selected={row.part.id === selected}
                    bars={barsOf(analysis?.parts[row.part.id])}
                    status={analysis?.status[row.part.id]}
                  />
                );
              })}
              {bottom > 0 && <tr aria-hidden style={{ height: bottom }} />}
            </tbody>
          </table>
        )}
        <p className="flex items-baseline gap-6 px-3 py-2 text-xs">
          <button type="button" className="link" onClick={() => openDialog({ kind: "add", under: selected })}>
            Add a part
          </button>
          {chosen?.kind === "load" && <KnownBy load={chosen} />}
          <span className="text-soft">Type 2.3A, 800 mA, 250W @ 24V or off; leave empty what is not known.</span>
        </p>
      </div>
      <Dock />
    </>
  );
}
