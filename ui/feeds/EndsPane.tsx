"use client";
import { contactRating, wireFit } from "@/core/connectors/contact";
import { END_KEYS } from "@/core/connectors/ends";
import type { FeedChanges } from "@/core/machine/commands";
import { STRANDS, SURROUNDINGS, type Wire, type WireEnd } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { CONNECTORS, type ConnectorRow, connectorById } from "@/core/reference/connectors";
import { gaugeById } from "@/core/reference/gauges";
import { airAround } from "@/core/wires/ampacity";
import { analysisOf } from "@/state/findings";
import { Field } from "../kit/Field";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDraft } from "../kit/useDraft";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";

const SORTS: readonly { sort: ConnectorRow["sort"]; label: string }[] = [
  { sort: "plug", label: "Plugs" },
  { sort: "joint", label: "Lugs, splices and terminals" },
  { sort: "rotary", label: "Rotary joints" },
];

/** Connectors at both ends of a feed, and what the wire passes on its way. */
export function EndsPane({ wire, both }: { wire: Wire; both: boolean }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: FeedChanges) =>
    both ? ({ type: "setFeed", id: wire.id, changes } as const) : ({ type: "updateWire", id: wire.id, changes } as const);
  const toggle = (key: "moves" | "relief" | "soldered" | "unequal" | "twisted" | "pinned", label: string) => (
    <label className="text-[12.5px]">
      <input
        type="checkbox"
        className="mr-1.5"
        checked={wire[key] === true}
        onChange={(event) => act(change({ [key]: event.target.checked || (key === "relief" ? false : undefined) }))}
      />
      {label}
    </label>
  );
  const label = useDraft(wire.label ?? "", (text) => dispatch(change({ label: text.trim() === "" ? undefined : text.trim() })));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3.5 py-1.5">
      {(["from", "to"] as const).map((end) => (
        <EndFields key={end} wire={wire} end={end} onChange={(next) => act(change({ [END_KEYS[end]]: next }))} />
      ))}
      <h3 className="mt-1.5 border-t border-hair pt-1 text-xs font-bold">
        <Explained>On its way</Explained>
      </h3>
      <div className="grid grid-cols-2 gap-x-4">
        <SelectField
          label="Around it"
          value={wire.surroundings}
          none="open air"
          options={SURROUNDINGS.filter((value) => value !== "open").map((value) => ({
            value,
            label: value === "box" ? "the closed box" : "sleeve or duct",
          }))}
          onChange={(surroundings) => act(change({ surroundings }))}
        />
        <SelectField
          label="Strands"
          value={wire.strand}
          none="not said"
          options={STRANDS.map((value) => ({ value, label: value === "fine" ? "finest, class 6" : value }))}
          onChange={(strand) => act(change({ strand }))}
        />
        <Field slim label="Label" error={label.error}>
          {(props) => <input {...label.input} {...props} className="field" placeholder="none" maxLength={24} />}
        </Field>
      </div>
      <div className="mt-0.5 flex flex-wrap gap-x-4 gap-y-0.5">
        {toggle("moves", "crosses a moving joint")}
        {wire.moves && toggle("relief", "held on both sides of it")}
        {toggle("soldered", "a soldered joint in it")}
        {wire.parallel > 1 && toggle("unequal", "its conductors differ")}
        {both && toggle("twisted", "twisted with its return")}
        {toggle("pinned", "keep as it is when sizing")}
      </div>
      <BoardFields wire={wire} onChange={(changes) => act(change(changes))} onCommit={(changes) => dispatch(change(changes))} />
    </div>
  );
}

function EndFields({ wire, end, onChange }: { wire: Wire; end: "from" | "to"; onChange: (next: WireEnd | undefined) => void }) {
  const at = wire[END_KEYS[end]];
  const row = at && connectorById(at.family);
  const name = end === "from" ? "Source end" : "Far end";
  const coding = useDraft(at?.coding ?? "", (text) => {
    if (at) onChange({ ...at, coding: text.trim() === "" ? undefined : text.trim() });
    return { ok: true };
  });
  const count = (key: "loaded" | "perPole", text: string, placeholder: string) => (
    <QuantityInput
      slim
      label={text}
      dimension="count"
      min={1}
      max={key === "loaded" ? 64 : 24}
      optional
      placeholder={placeholder}
      value={at?.[key]}
      onCommit={(value) => {
        if (value !== undefined && !Number.isInteger(value)) return { ok: false, message: "A whole number." };
        if (at) onChange({ ...at, [key]: value });
        return { ok: true };
      }}
    />
  );
  return (
    <div>
      <Field slim label={name}>
        {(props) => (
          <select
            {...props}
            className="field min-w-0"
            value={at?.family ?? ""}
            onChange={(event) => onChange(event.target.value === "" ? undefined : { ...at, family: event.target.value })}
          >
            <option value="">plain crimp or bolt</option>
            {SORTS.map(({ sort, label }) => (
              <optgroup key={sort} label={label}>
                {CONNECTORS.filter((each) => each.sort === sort).map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.name}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        )}
      </Field>
      {at && row && (
        <>
          <div className="grid grid-cols-2 gap-x-4">
            {count("perPole", row.sort === "rotary" ? "Rings a pole" : "Contacts a pole", "1")}
            {count("loaded", "Loaded in all", "both poles")}
            {row.sort === "plug" && (
              <>
                <Field slim label="Key or colour" error={coding.error}>
                  {(props) => <input {...coding.input} {...props} className="field" placeholder="none" maxLength={20} />}
                </Field>
                <SelectField
                  label="Live half"
                  value={at.live}
                  none="not said"
                  options={[
                    { value: "recessed", label: "is recessed" },
                    { value: "pins", label: "shows its pins" },
                  ]}
                  onChange={(live) => onChange({ ...at, live })}
                />
              </>
            )}
          </div>
          <Verdict wire={wire} at={at} row={row} />
        </>
      )}
    </div>
  );
}

/** What the connector carries here and whether the wire goes in, in a line. */
function Verdict({ wire, at, row }: { wire: Wire; at: WireEnd; row: ConnectorRow }) {
  const settings = useWorkbench((state) => state.machine.settings);
  const amps = useWorkbench((state) => analysisOf(state)?.wires[wire.id]?.worstContinuous.amps);
  const rating = contactRating(row, at, airAround(wire, settings));
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const fit = gauge ? wireFit(row, gauge, wire.parallel, at.perPole ?? 1) : null;
  return (
    <p className="pb-1 text-xs text-soft">
      {rating ? (
        <>
          Carries <span className="fig text-ink">{say(rating.limitA, "current", "down")}</span> continuously here
          {amps !== undefined && (
            <>
              , has <span className="fig text-ink">{say(amps, "current", "up")}</span>
            </>
          )}
          {row.printedA !== null && row.contactA !== null && row.printedA > row.contactA && ` (${row.printedA} A is often printed)`}.
        </>
      ) : (
        "Carries what its wire carries."
      )}{" "}
      {fit && fit !== "fits" && (
        <span className="font-bold text-fix">
          {wire.gauge} is {fit} for it.{" "}
        </span>
      )}
      Worn it adds {say(row.agedMilliohm / 1000 / (at.perPole ?? 1), "resistance")} a pole. {row.note ? `${row.note}. ` : ""}Typical: check{" "}
      {checkWords(row.check)} in its sheet.
    </p>
  );
}

const CHECKS: Readonly<Record<string, string>> = {
  I: "current at your pole count",
  W: "wire range",
  V: "voltage",
  K: "keying",
  N: "mating cycles",
  T: "torque and stud",
  A: "making and breaking",
};

function checkWords(codes: string): string {
  return codes
    .split(" ")
    .map((code) => CHECKS[code] ?? code)
    .join(", ");
}

const TRACE_SIZES = [
  { key: "widthMm", label: "Width, mm", min: 0.05, max: 500 },
  { key: "copperUm", label: "Copper, µm", min: 5, max: 2000 },
] as const;

/** Copper of a board in place of a wire. */
function BoardFields({
  wire,
  onChange,
  onCommit,
}: {
  wire: Wire;
  onChange: (changes: FeedChanges) => void;
  onCommit: (changes: FeedChanges) => { ok: true } | { ok: false; message: string };
}) {
  const { board } = wire;
  const TRACE: NonNullable<Wire["board"]> = {
    kind: "trace",
    widthMm: { value: 5, provenance: "guess" },
    copperUm: { value: 35, provenance: "typical" },
    layer: "outside",
  };
  return (
    <>
      <SelectField
        label="In place of a wire"
        value={board?.kind}
        none="nothing: it is a wire"
        options={[
          { value: "trace" as const, label: "a board trace" },
          { value: "pads" as const, label: "a row of bridged pads" },
        ]}
        onChange={(kind) =>
          onChange(kind === undefined ? { board: undefined } : { gauge: undefined, board: kind === "trace" ? TRACE : { kind } })
        }
      />
      {board?.kind === "trace" && (
        <div className="grid grid-cols-2 gap-x-4">
          {TRACE_SIZES.map(({ key, label, min, max }) => (
            <QuantityInput
              key={key}
              slim
              label={label}
              dimension="count"
              min={min}
              max={max}
              value={board[key].value}
              onCommit={(value) =>
                value === undefined ? { ok: true } : onCommit({ board: { ...board, [key]: { value, provenance: "datasheet" } } })
              }
            />
          ))}
          <SelectField
            label="Layer"
            value={board.layer}
            options={[
              { value: "outside" as const, label: "outside" },
              { value: "inside" as const, label: "inside the board" },
            ]}
            onChange={(layer) => layer && onChange({ board: { ...board, layer } })}
          />
        </div>
      )}
    </>
  );
}
