"use client";
import { leastForWire } from "@/core/fuses/rating";
import { returnPlaces } from "@/core/machine/placing";
import type { Wire } from "@/core/machine/schema";
import { endName, terminalName } from "@/core/machine/terminals";
import type { LedgerRow } from "@/core/machine/tree";
import { INSULATIONS } from "@/core/reference/insulation";
import { analysisOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { Field } from "../kit/Field";
import { LengthField } from "../kit/LengthField";
import { QuantityInput } from "../kit/QuantityInput";
import { always, Select, SelectField, words } from "../kit/Select";
import { FuseSelect } from "../parts/KindFields";
import { GaugeField } from "../parts/LeadFields";
import { PackFields, SupplyFields } from "../parts/SourceFields";
import { type Place, TerminalSelect } from "../parts/TerminalSelect";
import { JoinPane } from "../sources/JoinPane";
import { useDispatch, useWorkbench } from "../workbench/context";

const COLOURS = ["red", "black", "yellow", "blue", "orange", "white", "green", "brown", "grey", "violet"];

/** Supply places a feed may start from: outputs of sources, bars, switches, fuses, converters. */
function supplyPlaces(parts: readonly Parameters<typeof terminalName>[0][]): Place[] {
  return parts.flatMap((part) => {
    const terminal =
      part.kind === "bar" && part.side === "positive"
        ? "bar"
        : part.kind === "pack" || part.kind === "supply"
          ? "+"
          : part.kind === "switch" || part.kind === "fuse"
            ? "out"
            : part.kind === "converter"
              ? "out+"
              : null;
    return terminal ? [{ at: { part: part.id, terminal }, name: terminalName(part, terminal) }] : [];
  });
}

/** Length, size and the rest of one conductor; for a feed both conductors change together. */
function Conductor({ wire, both }: { wire: Wire; both: boolean }) {
  const { dispatch, act } = useDispatch();
  const bundle = useWorkbench((state) => state.machine.settings.bundle);
  const change = (changes: Partial<Pick<Wire, "gauge" | "lengthM" | "parallel" | "insulation" | "bundle">>) =>
    both ? ({ type: "setFeed", id: wire.id, changes } as const) : ({ type: "updateWire", id: wire.id, changes } as const);
  return (
    <>
      <div className="grid grid-cols-2 gap-x-5">
        <LengthField label="Length" wire={wire} onCommit={(lengthM) => dispatch(change({ lengthM }))} />
        <GaugeField label="Size" gauge={wire.gauge} onChange={(gauge) => act(change({ gauge }))} />
        <QuantityInput
          slim
          label="In parallel"
          dimension="count"
          min={1}
          max={12}
          value={wire.parallel}
          onCommit={(value) =>
            value !== undefined && Number.isInteger(value)
              ? dispatch(change({ parallel: value }))
              : { ok: false, message: "A whole number of conductors." }
          }
        />
        <QuantityInput
          slim
          label="Together"
          dimension="count"
          optional
          min={1}
          max={100}
          value={wire.bundle}
          placeholder={`(${bundle})`}
          hint="Loaded wires side by side: a feed's plus and minus are two."
          onCommit={(value) =>
            value === undefined || Number.isInteger(value)
              ? dispatch(change({ bundle: value }))
              : { ok: false, message: "A whole number of wires." }
          }
        />
        <Field slim label="Colour">
          {(props) => (
            <span className="flex items-center gap-2">
              {wire.colour && <span aria-hidden className="inline-block h-3 w-3 border border-rule" style={{ background: wire.colour }} />}
              <Select
                {...props}
                className="field flex-1"
                value={wire.colour}
                options={words(COLOURS)}
                none="not said"
                onChange={(chosen) => act({ type: "updateWire", id: wire.id, changes: { colour: chosen } })}
              />
            </span>
          )}
        </Field>
      </div>
      <SelectField
        label="Insulation"
        value={wire.insulation}
        options={INSULATIONS.map((row) => ({ value: row.id, label: row.name }))}
        onChange={always((chosen) => act(change({ insulation: chosen })))}
      />
    </>
  );
}

/** The conductors of the selected row: what they are, what they bear, where they run. */
export function FeedPane({ row, bare }: { row: LedgerRow; bare?: boolean }) {
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench(analysisOf);
  const { act } = useDispatch();
  const wire = row.feed ?? row.back;
  if (!wire) {
    const { part } = row;
    const source = part.kind === "pack" || part.kind === "supply";
    return (
      <section
        aria-label={source ? `${part.name}, how it behaves` : "Conductors"}
        className={`min-h-0 overflow-y-auto px-3.5 py-2.5 ${bare ? "flex-1" : "border-r border-hair"}`}
      >
        <h2 className="text-sm font-bold">{source ? "How it behaves" : "Conductors"}</h2>
        {part.kind === "pack" && <PackFields pack={part} />}
        {part.kind === "supply" && <SupplyFields supply={part} />}
        {source ? <JoinPane source={part} /> : <p className="mt-2 text-sm text-soft">No wire feeds this part yet.</p>}
      </section>
    );
  }
  const figure = analysis?.wires[wire.id];
  const paired = row.feed !== null && row.back?.pair === row.feed.id;
  const back = row.back?.role === "return" ? row.back : null;
  const name = row.part.name;
  const least = figure?.worstAtLeast ?? false;
  return (
    <section
      aria-label={`${name}, conductors`}
      className={`min-h-0 overflow-y-auto px-3.5 py-2.5 ${bare ? "flex-1" : "border-r border-hair"}`}
    >
      <h2 className="text-sm">
        <b>{row.feed ? "Feed" : "Return"}</b>{" "}
        <span className="text-soft">{paired ? "out and back" : row.feed ? "supply only" : "of this bar"}</span>
      </h2>
      <dl className="mt-1 mb-1 flex flex-wrap gap-x-5 gap-y-1 border-b border-hair pb-1.5 text-xs text-soft">
        <div>
          <dt>may carry</dt>
          <dd className="text-sm text-ink">
            {figure && (
              <Figure
                value={figure.limitA}
                dimension="current"
                rounding="down"
                label="May carry continuously"
                of={{ kind: "wireLimit", wire: wire.id }}
                strong
              />
            )}
          </dd>
        </div>
        <div>
          <dt>worst</dt>
          <dd className="text-sm text-ink">
            {figure && (
              <Figure
                value={figure.worst.amps}
                dimension="current"
                rounding="up"
                atLeast={least}
                label="Worst current"
                of={{ kind: "wireWorst", wire: wire.id }}
                strong
              />
            )}
          </dd>
        </div>
        <div>
          <dt>settles at</dt>
          <dd className="text-sm text-ink">
            {figure && (
              <Figure
                value={figure.temperatureC}
                dimension="temperature"
                rounding="up"
                label="Conductor temperature"
                of={{ kind: "wireTemperature", wire: wire.id }}
              />
            )}
          </dd>
        </div>
        <div>
          <dt>resistance</dt>
          <dd className="text-sm text-ink">
            {figure && <Figure value={figure.runOhm} dimension="resistance" label="Resistance" of={{ kind: "wireOhm", wire: wire.id }} />}
          </dd>
        </div>
        <div>
          <dt>fuse at least</dt>
          <dd className="text-sm text-ink">
            {figure && (
              <Figure
                value={leastForWire(machine.settings, wire, figure.worstContinuous.amps, wire.fuse?.family)}
                dimension="current"
                rounding="up"
                label="Least fuse"
                of={{ kind: "fuseLeast", wire: wire.id }}
              />
            )}
          </dd>
        </div>
      </dl>
      <Conductor wire={wire} both={paired} />
      {row.feed && row.feed.role === "supply" && (
        <>
          <div className="grid grid-cols-[64px_minmax(0,1fr)] items-baseline py-0.5 text-[12.5px]">
            <span>Fuse</span>
            <FuseSelect
              label={`Fuse of ${name}`}
              fuse={wire.fuse ?? null}
              onChange={(fuse) => act({ type: "setFuse", wireId: wire.id, fuse })}
              optional
            />
          </div>
          <Field slim label="Fed from">
            {(props) => (
              <TerminalSelect
                {...props}
                className="field min-w-0"
                at={wire.from}
                name={endName(machine, wire.from)}
                places={() => supplyPlaces(machine.parts).filter((place) => place.at.part !== row.part.id)}
                onPick={(at) => act({ type: "reland", wireId: wire.id, end: "from", at })}
              />
            )}
          </Field>
        </>
      )}
      {back && (
        <Field slim label="Return lands on">
          {(props) => (
            <TerminalSelect
              {...props}
              className="field min-w-0"
              at={back.to}
              name={endName(machine, back.to)}
              places={() => returnPlaces(machine).filter((place) => place.at.part !== row.part.id)}
              onPick={(at) => act({ type: "reland", wireId: back.id, end: "to", at })}
            />
          )}
        </Field>
      )}
    </section>
  );
}
