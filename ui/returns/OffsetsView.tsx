"use client";
import { clsx } from "clsx";
import type { Machine } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { listens, moves } from "@/core/returns/shared";
import type { ReturnsFigures } from "@/core/returns/summary";
import { Figure } from "../figure/Figure";
import { type CellPlace, FigureTable, RowName, type TableColumn } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { useWorkbench } from "../workbench/context";
import { Dock } from "../workbench/Dock";
import { useReturns } from "./useReturns";

/** The least steady budget of any link of a part, V; null where none is known. */
function budgetOf(machine: Machine, returns: ReturnsFigures, partId: string): { volts: number; with: string } | null {
  let best: { volts: number; with: string } | null = null;
  returns.links.forEach((link) => {
    const signal = machine.signals?.find(({ id }) => id === link.id);
    if (!signal || link.allowed.kind !== "held" || (signal.from !== partId && signal.to !== partId)) return;
    const volts = Math.min(link.allowed.steadyAboveV, link.allowed.steadyBelowV);
    if (volts < (best?.volts ?? Number.POSITIVE_INFINITY)) best = { volts, with: signal.from === partId ? signal.to : signal.from };
  });
  return best;
}

/** Each part's ground against the reference of its metal in every mode, as bars against its tightest link. */
export function OffsetsView() {
  const { found, failed, start } = useReturns();
  const mode = useWorkbench((state) => state.mode);
  if (failed)
    return (
      <div className="flex-1 px-3">
        <BrokeOff what="The offsets" again={start} />
      </div>
    );
  if (!found) return <div className="flex-1" />;
  const { machine, returns } = found;
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const order = (id: string) => {
    const part = machine.parts.find((each) => each.id === id);
    return listens(part) ? 0 : moves(part) ? 1 : 2;
  };
  const rows = Object.entries(returns.offsets)
    .filter(([id]) => machine.parts.some((part) => part.id === id))
    .sort(([a, x], [b, y]) => order(a) - order(b) || Math.abs(y.worst.volts) - Math.abs(x.worst.volts));
  const references = [...new Set(rows.map(([, { reference }]) => reference))];
  const most = Math.max(1e-6, ...rows.map(([, { worst }]) => Math.abs(worst.volts)));
  const lifted = rows.filter(([id, { worst }]) => {
    const budget = budgetOf(machine, returns, id);
    return budget !== null && Math.abs(worst.volts) > budget.volts;
  }).length;
  return (
    <>
      <div className="pane min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        <p className="px-3 py-2 text-sm">
          <span className={clsx("fig text-lg font-bold", lifted > 0 && "text-fix")}>{lifted}</span> of {rows.length} grounds move further
          than the tightest link of their part bears.{" "}
          <span className="text-soft">
            Against {references.map(name).join(" or ")}; both ends of a link may move together, so the link decides.
          </span>
        </p>
        <FigureTable
          caption="Ground offsets by part and mode"
          rows={rows}
          keyOf={([id]) => id}
          partOf={([id]) => id}
          rowClass={([id], i) => i > 0 && order(rows[i - 1]?.[0] ?? "") !== order(id) && "border-t border-ink"}
          columns={[
            {
              label: "Ground of",
              cellClass: "max-w-[170px] truncate",
              cell: ([id], place) => <RowName place={place}>{name(id)}</RowName>,
            },
            {
              label: "Budget",
              num: true,
              cell: ([id]) => {
                const budget = budgetOf(machine, returns, id);
                return budget ? (
                  <span className="fig text-soft" title={`Link with ${name(budget.with)}`}>
                    {say(budget.volts, "voltage", "down")}
                  </span>
                ) : (
                  <span className="text-xs text-soft">no link</span>
                );
              },
            },
            ...machine.modes.map(
              ({ name: modeName }, m): TableColumn<(typeof rows)[number]> => ({
                label: modeName,
                num: true,
                headClass: mode === m ? "text-ink underline" : "",
                cell: ([id, offset], place) => (
                  <Cell
                    volts={offset.volts[m] ?? 0}
                    most={most}
                    budgetV={budgetOf(machine, returns, id)?.volts ?? null}
                    unsure={offset.unsure}
                    label={`Ground of ${name(id)} in ${modeName}`}
                    part={id}
                    mode={m}
                    place={place}
                  />
                ),
              }),
            ),
            {
              label: "Worst",
              num: true,
              cellClass: "fig font-bold",
              cell: ([, { worst }]) => (
                <>
                  {say(worst.volts, "voltage")}
                  {worst.low && <span className="pl-1 text-xs font-normal text-soft">pack low</span>}
                </>
              ),
            },
          ]}
        />
      </div>
      <Dock />
    </>
  );
}

interface CellProps {
  volts: number;
  most: number;
  budgetV: number | null;
  unsure: boolean;
  label: string;
  part: string;
  mode: number;
  place: CellPlace;
}

/** A figure that a missing one would move either way. */
export function Unsure() {
  return (
    <span
      className="pl-0.5 text-xs font-bold text-ask"
      title="Not known for sure: a size or length on the way is missing, or a load has no figure yet"
    >
      ?
    </span>
  );
}

/** A figure over its bar; the budget is a line in ink, the excess hatched. */
function Cell({ volts, most, budgetV, unsure, label, part, mode, place }: CellProps) {
  const share = Math.abs(volts) / most;
  const limit = budgetV === null ? null : budgetV / most;
  const over = limit !== null && share > limit;
  return (
    <span className="block">
      <Figure
        cell={place}
        value={volts}
        dimension="voltage"
        label={label}
        of={{ kind: "groundOffset", of: part, mode }}
        className={clsx(over && "font-bold text-fix")}
      />
      {unsure && <Unsure />}
      <span aria-hidden className="relative mt-px block h-1.5 bg-hair/50">
        <span
          className={clsx("absolute inset-y-0 left-0", over ? "bg-hatch" : "bg-accent/70")}
          style={{ width: `${Math.min(100, share * 100)}%` }}
        />
        {limit !== null && limit <= 1 && <span className="absolute -top-0.5 -bottom-0.5 w-px bg-ink" style={{ left: `${limit * 100}%` }} />}
      </span>
    </span>
  );
}
