"use client";
import { memo } from "react";
import { endsOf } from "@/core/connectors/ends";
import type { PartFigures, WireFigures } from "@/core/figures/types";
import type { FeedChanges } from "@/core/machine/commands";
import type { Wire } from "@/core/machine/schema";
import type { LedgerRow } from "@/core/machine/tree";
import { parseFuse, parseSize } from "@/core/machine/typed";
import { worseMark } from "@/core/verdicts/order";
import type { Mark } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import type { ModeChoice } from "@/state/workbench";
import { Figure } from "../figure/Figure";
import { cut } from "../grid/cut";
import { EditCell } from "../grid/EditCell";
import { columns, NARROW_HIDDEN, rowGrid, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { useShowChosen } from "../grid/useShowChosen";
import { useVirtualRows } from "../grid/useVirtualRows";
import { LengthCell } from "../kit/LengthField";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { usePhoneWidth } from "../kit/usePhoneWidth";
import { pickFigure, pickLowest, sameRowProps, useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { FeedDock } from "./FeedDock";
import { LedgerList } from "./LedgerList";

const ROW_HEIGHT = 27;
const COLUMNS = 9;

function worse(a: Mark | undefined, b: Mark | undefined): Mark | undefined {
  return a && b ? worseMark(a, b) : (a ?? b);
}

/** What a feed ends in, short for the column and in full for the tip. */
function endShort(wire: Wire | null): string {
  return [...new Set(wire ? endsOf(wire).map(({ row }) => row.short) : [])].join(", ");
}

function endNames(wire: Wire | null): string {
  return wire
    ? endsOf(wire)
        .map(({ row, end }) => `${end === "from" ? "source" : "far"} end: ${row.name}`)
        .join("; ")
    : "";
}

interface RowProps {
  row: LedgerRow;
  index: number;
  mode: ModeChoice;
  selected: boolean;
  part: PartFigures | undefined;
  wire: WireFigures | undefined;
  status: Mark | undefined;
  collapsed: boolean;
}

const FeedRow = memo(function FeedRow({ row, index, mode, selected, part, wire, status, collapsed }: RowProps) {
  const { dispatch } = useDispatch();
  const select = useWorkbench((state) => state.select);
  const conductor = row.feed ?? row.back;
  const name = row.part.name;
  const amps = wire ? pickFigure(wire.amps, mode) : pickFigure(part?.amps, mode);
  const volts = pickLowest(part?.volts, part?.live, mode);
  const drop = pickFigure(wire?.dropV, mode);
  const least = wire?.atLeast ?? part?.atLeast;
  const at = (c: number) => ({ r: index, c });
  const setFeed = (changes: FeedChanges) => dispatch({ type: "setFeed", id: conductor?.id ?? "", changes });
  const fuse = row.part.kind === "fuse" ? row.part.fuse : conductor?.fuse;
  return (
    <tr data-row={row.part.id} aria-selected={selected} onFocus={() => select(row.part.id)} onClick={() => select(row.part.id)}>
      <td>
        <button
          type="button"
          data-r={index}
          data-c={0}
          className={`block w-full text-left ${cut(`${name} ${row.part.note ?? ""}`, 24 - 2 * Math.min(row.depth, 9))}`}
          style={{ paddingLeft: Math.min(row.depth, 9) * 13 }}
          onClick={() => select(row.part.id)}
        >
          <RailTag rail={row.rail} /> <span className="pl-1">{name}</span>
          {row.part.note && <span className="pl-2 text-xs text-soft">{row.part.note}</span>}
        </button>
      </td>
      <td className="num">
        {conductor && (
          <LengthCell cell={at(1)} label={`Length of the feed of ${name}`} wire={conductor} onCommit={(lengthM) => setFeed({ lengthM })} />
        )}
      </td>
      <td>
        {conductor && (
          <EditCell
            cell={at(2)}
            initial={conductor.gauge ?? ""}
            label={`Size of the feed of ${name}`}
            parse={parseSize}
            commit={(gauge) => setFeed({ gauge })}
          >
            {conductor.gauge ? (
              <span className="fig">{conductor.parallel > 1 ? `${conductor.parallel} × ${conductor.gauge}` : conductor.gauge}</span>
            ) : (
              <span className="text-ask">?</span>
            )}
          </EditCell>
        )}
      </td>
      <td className="num">
        {row.part.kind === "fuse" ? (
          <EditCell
            cell={at(3)}
            initial={`${row.part.fuse.ratingA} A`}
            label={`Rating of ${name}`}
            parse={(text) => parseFuse(text === "" ? "none" : text, fuse)}
            commit={(next) =>
              next
                ? dispatch({ type: "updatePart", id: row.part.id, changes: { fuse: next } })
                : { ok: false, message: "A fuse part needs a rating. Remove the part if it goes." }
            }
          >
            <span className="fig">{row.part.fuse.ratingA} A</span>
          </EditCell>
        ) : (
          row.feed?.role === "supply" && (
            <EditCell
              cell={at(3)}
              initial={fuse ? `${fuse.ratingA} A` : ""}
              label={`Fuse in the feed of ${name}`}
              parse={(text) => parseFuse(text, fuse)}
              commit={(next) => dispatch({ type: "setFuse", wireId: row.feed?.id ?? "", fuse: next })}
              placeholder="none"
            >
              {fuse ? <span className="fig">{fuse.ratingA} A</span> : <span className="text-soft">–</span>}
            </EditCell>
          )
        )}
      </td>
      <td className={`truncate text-xs text-soft ${NARROW_HIDDEN}`} title={endNames(conductor)}>
        {endShort(conductor)}
      </td>
      <td className="num">
        {!collapsed && amps && (
          <Figure
            cell={at(4)}
            value={Math.abs(amps.value)}
            dimension="current"
            strong
            atLeast={least?.[amps.mode] === 1}
            label={`Amps to ${name}`}
            of={
              conductor
                ? { kind: "wireAmps", wire: conductor.id, mode: amps.mode }
                : { kind: "partAmps", part: row.part.id, mode: amps.mode }
            }
          />
        )}
      </td>
      <td className="num">
        {wire && conductor ? (
          <Figure
            cell={at(5)}
            value={wire.worst.amps}
            dimension="current"
            rounding="up"
            atLeast={wire.worstAtLeast}
            label={`Worst amps to ${name}`}
            of={{ kind: "wireWorst", wire: conductor.id }}
          />
        ) : (
          part && (
            <Figure
              cell={at(5)}
              value={part.worst.amps}
              dimension="current"
              rounding="up"
              atLeast={part.worstAtLeast}
              label={`Worst amps of ${name}`}
              of={{ kind: "partWorst", part: row.part.id }}
            />
          )
        )}
      </td>
      <td className="num">
        {collapsed ? null : volts ? (
          <Figure
            cell={at(6)}
            value={volts.value}
            dimension="voltage"
            label={`Volts at ${name}`}
            of={{ kind: "partVolts", part: row.part.id, mode: volts.mode }}
          />
        ) : (
          <span className="text-xs text-soft">off</span>
        )}
      </td>
      <td className="num">
        {!collapsed && drop && conductor && (
          <Figure
            cell={at(7)}
            value={drop.value}
            dimension="voltage"
            label={`Drop in the supply wire of ${name}`}
            of={{ kind: "wireDrop", wire: conductor.id, mode: drop.mode }}
          />
        )}
      </td>
      <td>{status && <SeverityMark severity={status} />}</td>
    </tr>
  );
}, sameRowProps);

/** The ledger proper: an indented account of nodes from source to load; on a phone as a list. */
export function LedgerView({ onSize }: { onSize: (wireId: string) => void }) {
  const phone = usePhoneWidth();
  return (
    <>
      {phone ? <LedgerList /> : <LedgerTable />}
      <FeedDock onSize={onSize} />
    </>
  );
}

function LedgerTable() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const analysis = useWorkbench(analysisOf);
  const modes = useWorkbench((state) => state.machine.modes);
  const { openDialog } = useWorkbenchContext();
  const { rows } = ledger;
  const { scroller, indexes, top, bottom, reveal } = useVirtualRows(rows.length, ROW_HEIGHT);
  const onKeyDown = useGridKeys(rows.length, COLUMNS, reveal);
  useShowChosen(
    selected,
    rows.map(({ part }) => part.id),
    scroller,
    reveal,
  );
  const modeName = mode === "worst" ? "worst" : (modes[mode]?.name ?? "");
  const collapsed = mode === "worst" ? false : (analysis?.modes[mode]?.collapsed ?? false);
  const head = columns(
    "Node",
    ["Run#", 54],
    ["Conductor", 66],
    ["Fuse#", 46],
    { label: "Ends", width: 78, wideOnly: true },
    [`Amps, ${modeName}#`, 78],
    ["Worst#", 66],
    ["Volts#", 56],
    ["Drop#", 52],
    ["Verdict", 54],
  );
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto pane">
      <table className="ledger rows" style={rowGrid(head, 180)} onKeyDown={onKeyDown}>
        <caption className="sr-only">Ledger of feeds, {modeName}</caption>
        <TableHead sticky columns={head} />
        <tbody>
          {top > 0 && <tr aria-hidden style={{ height: top }} />}
          {indexes.map((index) => {
            const row = rows[index];
            if (!row) return null;
            const conductor = row.feed ?? row.back;
            const status = analysis?.status;
            return (
              <FeedRow
                key={row.part.id}
                row={row}
                index={index}
                mode={mode}
                selected={row.part.id === selected}
                part={analysis?.parts[row.part.id]}
                wire={conductor ? analysis?.wires[conductor.id] : undefined}
                status={worse(
                  worse(status?.[row.part.id], conductor ? status?.[conductor.id] : undefined),
                  row.back ? status?.[row.back.id] : undefined,
                )}
                collapsed={collapsed}
              />
            );
          })}
          {bottom > 0 && <tr aria-hidden style={{ height: bottom }} />}
        </tbody>
      </table>
      <p className="px-3 py-2 text-xs">
        <button type="button" className="link" onClick={() => openDialog({ kind: "add", under: selected })}>
          Add a part {selected ? `under ${ledger.rowOf.get(selected)?.part.name ?? ""}` : ""}
        </button>
        <span className="pl-2 text-soft">or press A</span>
        <button type="button" className="link pl-6" onClick={() => openDialog({ kind: "several" })}>
          Edit several feeds
        </button>
      </p>
    </div>
  );
}
