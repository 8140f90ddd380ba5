"use client";
import { Trash2 } from "lucide-react";
import { useMemo, useState } from "react";
import { returnPlaces } from "@/core/machine/placing";
import type { Wire } from "@/core/machine/schema";
import { endName, isChassis, sameTerminal } from "@/core/machine/terminals";
import { parseSize } from "@/core/machine/typed";
import { analysisOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { cut } from "../grid/cut";
import { EditCell } from "../grid/EditCell";
import { columns, NARROW_HIDDEN, rowGrid, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { useShowChosen } from "../grid/useShowChosen";
import { useVirtualRows } from "../grid/useVirtualRows";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { LengthCell } from "../kit/LengthField";
import { SeverityMark } from "../kit/Severity";
import { useConductorFields } from "../parts/ConductorFields";
import { PlaceField } from "../parts/PlaceField";
import { TerminalSelect } from "../parts/TerminalSelect";
import { pickFigure, useDispatch, useLedger, useWorkbench } from "../workbench/context";
import { Dock } from "../workbench/Dock";
import { useReturns } from "./useReturns";

const ROW_HEIGHT = 27;

/** A tie or a second return between any two places of the return side; the solver takes meshed grounds. */
function AddReturnDialog({ onClose }: { onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { dispatch } = useDispatch();
  const places = returnPlaces(machine);
  const [from, setFrom] = useState(0);
  const [to, setTo] = useState(Math.min(1, places.length - 1));
  const conductor = useConductorFields();
  const [error, setError] = useState<string | null>(null);
  const add = () => {
    const run = conductor.read();
    const [a, b] = [places[from], places[to]];
    if (!run || !a || !b) return;
    if (sameTerminal(a.at, b.at)) return setError("A wire cannot end where it begins. Choose another place.");
    const chassis = [a, b].some(({ at }) => isChassis(machine.parts.find(({ id }) => id === at.part)));
    const role = chassis ? ({ role: "bond", bondBy: "wire" } as const) : ({ role: "return" } as const);
    const result = dispatch({ type: "addWire", wire: { ...role, from: a.at, to: b.at, parallel: 1, insulation: "pvc80", ...run } });
    if (!result.ok) return setError(result.message);
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Add a return or a tie"
      description="A conductor between two places of the return side. Loops are solved, not forbidden."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <PlaceField label="From" places={places} value={from} onChange={setFrom} />
        <PlaceField label="Lands on" places={places} value={to} onChange={setTo} />
        {conductor.fields}
        {error && (
          <p role="alert" className="mt-2 text-sm font-semibold text-stop dark:text-fix">
            {error}
          </p>
        )}
        <Button type="submit" kind="main" className="mt-3">
          Add the wire
        </Button>
      </form>
    </Dialog>
  );
}

interface RowProps {
  wire: Wire;
  index: number;
  /** Of the part it comes from, V by mode; undefined until they are known, and where nothing ties its ground. */
  offsets: Float64Array | undefined;
  largestOffset: number;
}

function ReturnRow({ wire, index, offsets, largestOffset }: RowProps) {
  const machine = useWorkbench((state) => state.machine);
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const figure = useWorkbench((state) => analysisOf(state)?.wires[wire.id]);
  const status = useWorkbench((state) => analysisOf(state)?.status[wire.id]);
  const { dispatch, act } = useDispatch();
  const from = machine.parts.find(({ id }) => id === wire.from.part);
  const name = from?.name ?? "?";
  const word =
    wire.role === "signal"
      ? wire.shield
        ? "shield"
        : "signal"
      : wire.role === "bond"
        ? "bond"
        : wire.pair === undefined
          ? from?.kind === "bar"
            ? "bar"
            : "tie"
          : null;
  const amps = pickFigure(figure?.amps, mode);
  const drop = pickFigure(figure?.dropV, mode);
  const heat = pickFigure(figure?.heatW, mode);
  const offset = from?.kind === "bar" ? null : pickFigure(offsets, mode);
  const at = (c: number) => ({ r: index, c });
  return (
    <tr
      data-row={wire.from.part}
      aria-selected={selected === wire.from.part}
      onFocus={() => select(wire.from.part)}
      onClick={() => select(wire.from.part)}
    >
      <td>
        <button type="button" data-r={index} data-c={0} className={`block w-full text-left ${cut(name, 18)}`}>
          {name}
          {word && <span className="pl-2 text-xs text-soft">{word}</span>}
        </button>
      </td>
      <td>
        {wire.role === "signal" ? (
          <span data-r={index} data-c={1} className="px-1 text-sm">
            {endName(machine, wire.to)}
          </span>
        ) : (
          <TerminalSelect
            aria-label={`${name} lands on`}
            data-r={index}
            data-c={1}
            className="field w-full text-sm"
            at={wire.to}
            name={endName(machine, wire.to)}
            places={() => returnPlaces(machine).filter((place) => place.at.part !== wire.from.part)}
            onPick={(place) => act({ type: "reland", wireId: wire.id, end: "to", at: place })}
          />
        )}
      </td>
      <td className={`num ${NARROW_HIDDEN}`}>
        <LengthCell
          cell={at(2)}
          label={`Length of the return of ${name}`}
          wire={wire}
          onCommit={(lengthM) => dispatch({ type: "updateWire", id: wire.id, changes: { lengthM } })}
        />
      </td>
      <td>
        <EditCell
          cell={at(3)}
          initial={wire.gauge ?? ""}
          label={`Size of the return of ${name}`}
          parse={parseSize}
          commit={(gauge) => dispatch({ type: "updateWire", id: wire.id, changes: { gauge } })}
        >
          {wire.gauge ? <span className="fig">{wire.gauge}</span> : <span className="text-ask">?</span>}
        </EditCell>
      </td>
      <td className="num">
        {amps && (
          <Figure
            cell={at(4)}
            value={amps.value}
            dimension="current"
            strong
            atLeast={figure?.atLeast[amps.mode] === 1}
            label={`Amps in the return of ${name}`}
            of={{ kind: "wireAmps", wire: wire.id, mode: amps.mode }}
          />
        )}
      </td>
      <td className="num">
        {figure && (
          <Figure
            cell={at(5)}
            value={figure.worst.amps}
            atLeast={figure.worstAtLeast}
            dimension="current"
            rounding="up"
            label={`Worst amps in the return of ${name}`}
            of={{ kind: "wireWorst", wire: wire.id }}
          />
        )}
      </td>
      <td className="num">
        {figure && (
          <Figure
            cell={at(6)}
            value={figure.limitA}
            dimension="current"
            rounding="down"
            label={`What the return of ${name} may carry`}
            of={{ kind: "wireLimit", wire: wire.id }}
          />
        )}
      </td>
      <td className="num">
        {drop && (
          <Figure
            cell={at(7)}
            value={drop.value}
            dimension="voltage"
            label={`Drop in the return of ${name}`}
            of={{ kind: "wireDrop", wire: wire.id, mode: drop.mode }}
          />
        )}
      </td>
      <td className={`num ${NARROW_HIDDEN}`}>
        {heat && (
          <Figure
            cell={at(8)}
            value={heat.value}
            dimension="power"
            label={`Heat in the return of ${name}`}
            of={{ kind: "wireHeat", wire: wire.id, mode: heat.mode }}
          />
        )}
      </td>
      <td className="num">
        {offset && (
          <span className="inline-flex items-center gap-2">
            <span aria-hidden className="relative inline-block h-2 w-7 bg-hair/60">
              <span
                className="absolute inset-y-0 left-0 bg-accent/70"
                style={{ width: `${Math.min(100, (Math.abs(offset.value) / largestOffset) * 100)}%` }}
              />
            </span>
            <Figure
              cell={at(9)}
              value={offset.value}
              dimension="voltage"
              label={`Ground offset of ${name}`}
              of={{ kind: "groundOffset", of: wire.from.part, mode: offset.mode }}
            />
          </span>
        )}
      </td>
      <td>{status && <SeverityMark severity={status} />}</td>
      <td>
        {wire.pair === undefined && (from?.kind !== "bar" || wire.role === "bond") && (
          <button
            type="button"
            className="p-1 text-soft hover:text-stop"
            aria-label={`Remove the ${word ?? "tie"} of ${name}`}
            title={`Remove this ${word ?? "tie"}`}
            onClick={() => act({ type: "removeWire", id: wire.id })}
          >
            <Trash2 aria-hidden size={14} />
          </button>
        )}
      </td>
    </tr>
  );
}

/** Every conductor of the return side: where it lands, what it carries and may carry, how far its ground is lifted. */
export function ConductorsView() {
  const machine = useWorkbench((state) => state.machine);
  const mode = useWorkbench((state) => state.mode);
  const ledger = useLedger();
  const [adding, setAdding] = useState(false);
  const order = useMemo(() => new Map(ledger.rows.map((row, index) => [row.part.id, index])), [ledger]);
  const wires = useMemo(() => {
    const bars = (wire: Wire) => (machine.parts.find(({ id }) => id === wire.from.part)?.kind === "bar" ? 0 : 1);
    return machine.wires
      .filter((wire) => wire.role === "return" || wire.role === "signal" || wire.role === "bond")
      .sort((a, b) => bars(a) - bars(b) || (order.get(a.from.part) ?? 0) - (order.get(b.from.part) ?? 0));
  }, [machine, order]);
  const { scroller, indexes, top, bottom, reveal } = useVirtualRows(wires.length, ROW_HEIGHT);
  const onKeyDown = useGridKeys(wires.length, 10, reveal);
  const selected = useWorkbench((state) => state.selected);
  useShowChosen(
    selected,
    wires.map(({ from }) => from.part),
    scroller,
    reveal,
  );
  const { found } = useReturns();
  const lifts = found?.returns.offsets ?? {};
  const offsets = Object.values(lifts).map(({ volts }) => Math.abs(pickFigure(volts, mode)?.value ?? 0));
  const head = [
    ...columns("Return of", ["Lands on", 120]),
    // In the dock too, so a narrow screen does without.
    { label: "Run", num: true, width: 48, wideOnly: true },
    ...columns(
      ["Conductor", 60],
      [`Amps, ${mode === "worst" ? "worst" : machine.modes[mode]?.name}#`, 74],
      ["Worst#", 64],
      ["May carry#", 58],
      ["Drop#", 50],
    ),
    { label: "Heat", num: true, width: 48, wideOnly: true },
    ...columns(["Ground offset#", 82], ["Verdict", 48]),
    { label: "Remove", hidden: true, width: 20 },
  ];
  const largestOffset = Math.max(1e-6, ...offsets);
  return (
    <>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto pane">
        {wires.length === 0 ? (
          <p className="p-6 text-sm text-soft">
            No returns yet. Adding a part under a bar adds its return; a tie between two bars is added here.
          </p>
        ) : (
          <table className="ledger rows" style={rowGrid(head, 96)} onKeyDown={onKeyDown}>
            <caption className="sr-only">Return conductors and ground offsets</caption>
            <TableHead sticky columns={head} />
            <tbody>
              {top > 0 && <tr aria-hidden style={{ height: top }} />}
              {indexes.map((index) => {
                const wire = wires[index];
                return wire ? (
                  <ReturnRow key={wire.id} wire={wire} index={index} offsets={lifts[wire.from.part]?.volts} largestOffset={largestOffset} />
                ) : null;
              })}
              {bottom > 0 && <tr aria-hidden style={{ height: bottom }} />}
            </tbody>
          </table>
        )}
        <p className="flex items-baseline gap-6 px-3 py-2 text-xs">
          <button type="button" className="link" onClick={() => setAdding(true)}>
            Add a return or a tie
          </button>
          <span className="text-soft">
            Ground offset: how far a part's minus stands above the minus that the view Offsets takes as reference.
          </span>
        </p>
      </div>
      <Dock />
      {adding && <AddReturnDialog onClose={() => setAdding(false)} />}
    </>
  );
}
