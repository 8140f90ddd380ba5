"use client";
import type { LinkKind, Signal, Wire } from "@/core/machine/schema";
import { LINK_KINDS } from "@/core/machine/signal-schema";
import { signalWire } from "@/core/machine/signal-wire";
import { parseSize } from "@/core/machine/typed";
import { CONNECTORS } from "@/core/reference/connectors";
import { LOGIC_FAMILIES, LOGIC_IDS, type LogicId } from "@/core/reference/logic";
import { LINK_WORDS } from "@/core/returns/link-words";
import { Field } from "../kit/Field";
import { LengthField } from "../kit/LengthField";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDraft } from "../kit/useDraft";
import { useDispatch, useWorkbench } from "../workbench/context";
import { PinFields } from "./PinFields";

const WITH_LEVELS: ReadonlySet<LinkKind> = new Set(["logic", "serial", "pulse"]);
/** Kinds whose nature is to join nothing. */
const APART: ReadonlySet<LinkKind> = new Set(["opto", "isolated supply"]);

const NOTES: Partial<Record<LinkKind, string>> = {
  pulse: "Common practice: often 3.3 V into a TTL input; a moving ground also shifts the pulse's edge.",
  i2c: "A glitch locks the bus: keep it inside one panel.",
  rs485: "Two wires for data, a third for the reference.",
  can: "The reference goes along with the pair.",
  usb: "Its ground and shield are a hard tie between the two boards: give them as wires below.",
  analogue: "The reading is taken against the receiver's ground.",
  audio: "Heard, not read: judged by how far its ground moves against line level.",
  opto: "Needs no common ground, and a supply of its own on the far side to separate anything else.",
};

/** Everything about one link: kind, levels or converter, ground wire, shield. */
export function LinkPane({ signal }: { signal: Signal }) {
  const machine = useWorkbench((state) => state.machine);
  const { dispatch, act } = useDispatch();
  const set = (changes: Partial<Omit<Signal, "id" | "from" | "to">>) => ({ type: "updateSignal", id: signal.id, changes }) as const;
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const figure = (
    key: "busV" | "seriesOhm" | "fullScaleV" | "wishCounts" | "allowsV",
    label: string,
    dimension: "voltage" | "resistance" | "count",
    hint?: string,
  ) => (
    <QuantityInput
      slim
      optional
      label={label}
      dimension={dimension}
      value={signal[key]?.value}
      {...(hint ? { hint } : {})}
      onCommit={(value) =>
        dispatch(set({ [key]: value === undefined ? undefined : { value, provenance: signal[key]?.provenance ?? "datasheet" } }))
      }
    />
  );
  const families = (side: "out" | "input") =>
    LOGIC_IDS.filter((id) => LOGIC_FAMILIES[id][side] !== null).map((id) => ({ value: id, label: LOGIC_FAMILIES[id].name }));
  const family = (id: LogicId | undefined) => (id ? LOGIC_FAMILIES[id] : undefined);
  const [sender, receiver] = [family(signal.sender), family(signal.receiver)];
  return (
    <>
      <h2 className="pb-1 text-sm font-bold">
        {name(signal.from)} → {name(signal.to)}
      </h2>
      <SelectField
        label="Kind"
        value={signal.kind}
        options={LINK_KINDS.map((value) => ({ value, label: LINK_WORDS[value] }))}
        onChange={(kind) => kind && act(set({ kind }))}
      />
      {NOTES[signal.kind] && <p className="pb-1 text-xs text-soft">{NOTES[signal.kind]}</p>}
      {WITH_LEVELS.has(signal.kind) && (
        <>
          <SelectField
            label="Sender gives"
            none="not known"
            value={signal.sender}
            options={families("out")}
            onChange={(next) => act(set({ sender: next }))}
          />
          <SelectField
            label="Receiver reads"
            none="not known"
            value={signal.receiver}
            options={families("input")}
            onChange={(next) => act(set({ receiver: next }))}
          />
          {sender?.out && receiver?.input && (
            <p className="py-1 text-xs text-soft">
              V<sub>OL</sub> {sender.out.low}, V<sub>IL</sub> {receiver.input.low}, V<sub>IH</sub> {receiver.input.high}, V<sub>OH</sub>{" "}
              {sender.out.high} V. {sender.source}
              {receiver.source === sender.source ? "" : `; ${receiver.source}`}
              {sender.fromMemory || receiver.fromMemory ? "; typical, verify with the sheets" : ""}.
            </p>
          )}
          <label className="block text-[12.5px]">
            <input
              type="checkbox"
              className="mr-1.5"
              checked={signal.bothWays === true}
              onChange={(event) => act(set({ bothWays: event.target.checked || undefined }))}
            />
            answers on the same levels
          </label>
        </>
      )}
      {signal.kind === "i2c" && figure("busV", "Bus supply", "voltage")}
      {signal.kind === "analogue" && (
        <>
          {figure("fullScaleV", "Full scale", "voltage")}
          <QuantityInput
            slim
            optional
            label="Bits"
            dimension="count"
            value={signal.bits}
            min={4}
            max={24}
            onCommit={(bits) =>
              bits === undefined || Number.isInteger(bits) ? dispatch(set({ bits })) : { ok: false, message: "A whole number of bits." }
            }
          />
          {figure("wishCounts", "Counts wrong, at most", "count", "half a count where nothing is said")}
        </>
      )}
      {!APART.has(signal.kind) && signal.kind !== "audio" && (
        <>
          {signal.kind !== "analogue" && figure("seriesOhm", "Series resistor", "resistance", "limits what flows into a pin")}
          {signal.kind !== "analogue" &&
            figure("allowsV", "Sheet allows", "voltage", "between the two grounds, in place of what its kind bears")}
        </>
      )}
      <GroundFields signal={signal} />
      <PinFields signal={signal} />
    </>
  );
}

/** The wires that run along with a link: its own ground and its shield. */
function GroundFields({ signal }: { signal: Signal }) {
  const machine = useWorkbench((state) => state.machine);
  const { act, dispatch } = useDispatch();
  const own = (shield: boolean) => machine.wires.find((wire) => wire.signal === signal.id && (wire.shield === true) === shield);
  const [ground, shield] = [own(false), own(true)];
  const wire = (isShield: boolean) => signalWire(machine, signal, isShield);
  const shieldNow = shield ? "both ends" : signal.shieldLifted ? "one end" : undefined;
  const setShield = (next: "one end" | "both ends" | undefined) =>
    act({
      type: "batch",
      label: "Change a shield",
      commands: [
        ...(shield && next !== "both ends" ? [{ type: "removeWire" as const, id: shield.id }] : []),
        ...(!shield && next === "both ends" ? [wire(true)] : []),
        { type: "updateSignal", id: signal.id, changes: { shieldLifted: next === "one end" ? true : undefined } },
      ],
    });
  return (
    <fieldset className="mt-2 border-t border-hair pt-1">
      <legend className="pr-2 text-xs font-bold">Along with it</legend>
      <label className="block text-[12.5px]">
        <input
          type="checkbox"
          className="mr-1.5"
          checked={ground !== undefined}
          onChange={(event) => (event.target.checked ? act(wire(false)) : ground && act({ type: "removeWire", id: ground.id }))}
        />
        a ground wire of its own
      </label>
      {ground && <RunFields wire={ground} what="Ground wire" onCommit={dispatch} />}
      <SelectField
        label="Shield"
        none="none"
        value={shieldNow}
        options={[
          { value: "one end" as const, label: "tied at one end" },
          { value: "both ends" as const, label: "tied at both ends" },
        ]}
        onChange={setShield}
      />
      {shield && <RunFields wire={shield} what="Shield" onCommit={dispatch} />}
    </fieldset>
  );
}

/** Families a signal's contacts may be of: plugs, and rings of a rotary joint. */
const FAMILIES = CONNECTORS.filter(({ sort, contactA }) => sort !== "joint" && contactA !== null && contactA <= 15).map(
  ({ id, short }) => ({
    value: id,
    label: short,
  }),
);

function RunFields({ wire, what, onCommit }: { wire: Wire; what: string; onCommit: ReturnType<typeof useDispatch>["dispatch"] }) {
  const set = (changes: Partial<Omit<Wire, "id" | "from" | "to" | "role">>) => onCommit({ type: "updateWire", id: wire.id, changes });
  const gauge = useDraft(wire.gauge ?? "", (text) => {
    if (text === "") return set({ gauge: undefined });
    const size = parseSize(text);
    return size.ok ? set({ gauge: size.value }) : size;
  });
  return (
    <>
      <Field slim label={`${what}, size`} error={gauge.error}>
        {(props) => <input {...gauge.input} {...props} className="fig field w-full text-right" placeholder="not known" />}
      </Field>
      <LengthField label={`${what}, length`} wire={wire} onCommit={(lengthM) => set({ lengthM })} />
      <SelectField
        label="Contacts in it"
        none="not said"
        value={wire.fromEnd?.family}
        options={FAMILIES}
        onChange={(family) => {
          const end = family === undefined ? undefined : { family };
          onCommit({ type: "updateWire", id: wire.id, changes: { fromEnd: end, toEnd: end } });
        }}
      />
      <QuantityInput
        slim
        optional
        label="Resistor in it"
        dimension="resistance"
        value={wire.resistorOhm?.value}
        hint="10 to 100 Ω beside fast edges"
        onCommit={(value) => set({ resistorOhm: value === undefined ? undefined : { value, provenance: "typical" } })}
      />
    </>
  );
}
