"use client";
import { memo } from "react";
import type { LedgerRow } from "@/core/machine/tree";
import { formatQuantity, say } from "@/core/quantity/format";
import { worseMark } from "@/core/verdicts/order";
import type { Mark } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, pickLowest, sameRowProps, useLedger, useWorkbench } from "../workbench/context";

interface RowProps {
  row: LedgerRow;
  selected: boolean;
  amps: number | null;
  atLeast: boolean;
  volts: number | null;
  mark: Mark | undefined;
  onOpen: (id: string) => void;
}

const Row = memo(function Row({ row, selected, amps, atLeast, volts, mark, onOpen }: RowProps) {
  const { part, depth, rail, feed, back } = row;
  const conductor = feed ?? back;
  const fuse = part.kind === "fuse" ? part.fuse : feed?.fuse;
  const printed = amps === null ? null : formatQuantity(amps, "current");
  const about = [
    ...(conductor?.lengthM ? [say(conductor.lengthM.value, "length")] : []),
    ...(conductor?.gauge ? [conductor.parallel > 1 ? `${conductor.parallel} × ${conductor.gauge}` : conductor.gauge] : []),
    ...(fuse ? [`${fuse.ratingA} A`] : []),
  ].join(" · ");
  return (
    <li data-row={part.id} className="border-b border-hair">
      <button
        type="button"
        aria-pressed={selected}
        onClick={() => onOpen(part.id)}
        className={`grid min-h-[52px] w-full grid-cols-[minmax(0,1fr)_auto_64px] items-center gap-x-3 px-3 py-1.5 text-left ${selected ? "bg-tint" : ""}`}
      >
        <span className="min-w-0" style={{ paddingLeft: Math.min(depth, 6) * 10 }}>
          <span className="block truncate font-semibold">
            {part.name} {depth === 0 && <RailTag rail={rail} />}
          </span>
          <span className="fig block truncate text-xs text-soft">{about || part.note || " "}</span>
        </span>
        <span className="fig text-right">
          <span className="block font-bold">
            {printed ? (
              <>
                {atLeast && "≥ "}
                {printed.digits}
                <span className="unit">{printed.unit}</span>
              </>
            ) : (
              "–"
            )}
          </span>
          <span className="block text-xs text-soft">{volts === null ? "off" : say(volts, "voltage")}</span>
        </span>
        <span className="text-right">{mark && <SeverityMark severity={mark} />}</span>
      </button>
    </li>
  );
}, sameRowProps);

const worse = (a: Mark | undefined, b: Mark | undefined) => (a && b ? worseMark(a, b) : (a ?? b));

/** The ledger on a phone: a line a node with its amps and what stands there; a tap opens its account. */
export function LedgerList() {
  const { rows } = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const analysis = useWorkbench(analysisOf);
  const select = useWorkbench((state) => state.select);
  const showPane = useWorkbench((state) => state.showPane);
  const open = (id: string) => {
    select(id);
    showPane("account");
  };
  return (
    <ul aria-label="Ledger of feeds" className="min-h-0 flex-1 overflow-y-auto">
      {rows.map((row) => {
        const conductor = row.feed ?? row.back;
        const part = analysis?.parts[row.part.id];
        const wire = conductor ? analysis?.wires[conductor.id] : undefined;
        const amps = wire ? pickFigure(wire.amps, mode) : pickFigure(part?.amps, mode);
        const status = analysis?.status;
        return (
          <Row
            key={row.part.id}
            row={row}
            selected={row.part.id === selected}
            amps={amps && Math.abs(amps.value)}
            atLeast={amps !== null && (wire?.atLeast ?? part?.atLeast)?.[amps.mode] === 1}
            volts={pickLowest(part?.volts, part?.live, mode)?.value ?? null}
            mark={worse(
              worse(status?.[row.part.id], conductor ? status?.[conductor.id] : undefined),
              row.back ? status?.[row.back.id] : undefined,
            )}
            onOpen={open}
          />
        );
      })}
    </ul>
  );
}
