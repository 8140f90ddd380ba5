"use client";
import { BAR_FORMS, COIL_CLAMPS, type PartOf, SWITCH_DEVICES, type Switch } from "@/core/machine/schema";
import { isReturnBar } from "@/core/machine/terminals";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDispatch } from "../workbench/context";

const CLAMP_NAMES = { none: "nothing", diode: "a plain diode", clamp: "a clamp, quick to drop" } as const;
const YES_NO = [
  { value: "yes", label: "yes" },
  { value: "no", label: "no" },
] as const;

/** A yes, a no, or nobody told. */
function asked(value: boolean | undefined): "yes" | "no" | undefined {
  return value === undefined ? undefined : value ? "yes" : "no";
}

/** What kind of contact it is, whether the emergency stop opens it, and what else its kind asks. */
export function SwitchFields({ part }: { part: Switch }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: Partial<Switch>) => ({ type: "updatePart" as const, id: part.id, changes });
  const { stop } = part;
  return (
    <>
      <SelectField
        label="What it is"
        value={part.device}
        none="not said"
        options={SWITCH_DEVICES.map((value) => ({ value, label: value }))}
        onChange={(device) => act(change({ device }))}
      />
      <label className="text-[12.5px]">
        <input
          type="checkbox"
          className="mr-1.5"
          checked={part.acOnly === true}
          onChange={(event) => act(change({ acOnly: event.target.checked || undefined }))}
        />
        only an AC rating is printed on it
      </label>
      {(part.device === "contactor" || part.device === "relay") && (
        <SelectField
          label="Across its coil"
          value={part.clamp}
          none="not said"
          options={COIL_CLAMPS.map((value) => ({ value, label: CLAMP_NAMES[value] }))}
          onChange={(clamp) => act(change({ clamp }))}
        />
      )}
      {part.device === "charging port" ? (
        <>
          <SelectField
            label="Live contacts recessed"
            value={asked(part.recessed)}
            none="not said"
            options={YES_NO}
            onChange={(next) => act(change({ recessed: next && next === "yes" }))}
          />
          <SelectField
            label="Holds motion while plugged"
            value={asked(part.holdsMotion)}
            none="not said"
            options={YES_NO}
            onChange={(next) => act(change({ holdsMotion: next && next === "yes" }))}
          />
        </>
      ) : (
        <label className="block text-[12.5px]">
          <input
            type="checkbox"
            className="mr-1.5"
            checked={stop !== undefined}
            onChange={(event) =>
              act(change({ stop: event.target.checked ? { devices: 1, normallyClosed: true, deliberateReset: true } : undefined }))
            }
          />
          the emergency stop opens it
        </label>
      )}
      {stop && (
        <div className="border-l-2 border-hair pl-2">
          <QuantityInput
            slim
            label="Stop devices in its loop"
            dimension="count"
            min={1}
            max={30}
            value={stop.devices}
            onCommit={(devices) =>
              devices !== undefined && Number.isInteger(devices)
                ? dispatch(change({ stop: { ...stop, devices } }))
                : { ok: false, message: "A whole number of devices." }
            }
          />
          {(
            [
              ["normallyClosed", "all normally closed, in series"],
              ["deliberateReset", "reset is a button of its own"],
            ] as const
          ).map(([key, label]) => (
            <label key={key} className="block text-[12.5px]">
              <input
                type="checkbox"
                className="mr-1.5"
                checked={stop[key]}
                onChange={(event) => act(change({ stop: { ...stop, [key]: event.target.checked } }))}
              />
              {label}
            </label>
          ))}
          <p className="text-xs text-soft">A short across the loop is the silent fault: test each device by itself.</p>
        </div>
      )}
    </>
  );
}

/** What form a place has where conductors meet. */
export function BarFields({ part }: { part: PartOf<"bar"> }) {
  const { act } = useDispatch();
  return (
    <>
      <SelectField
        label="Form"
        value={part.form}
        none="bus bar"
        options={BAR_FORMS.filter((value) => value !== "bar" && (value !== "chassis" || part.side === "negative")).map((value) => ({
          value,
          label: value,
        }))}
        onChange={(form) => act({ type: "updatePart", id: part.id, changes: { form } })}
      />
      {isReturnBar(part) && (
        <SelectField
          label="Brings home"
          value={part.carries}
          none="whatever lands on it"
          options={[
            { value: "power" as const, label: "power only" },
            { value: "logic" as const, label: "logic only" },
          ]}
          onChange={(carries) => act({ type: "updatePart", id: part.id, changes: { carries } })}
        />
      )}
    </>
  );
}

/** Whether a part bears plus and minus swapped. */
export function ReverseField({ part }: { part: PartOf<"driver"> | PartOf<"converter"> | PartOf<"load"> }) {
  const { act } = useDispatch();
  return (
    <label className="block text-[12.5px]">
      <input
        type="checkbox"
        className="mr-1.5"
        checked={part.reverseSafe === true}
        onChange={(event) => act({ type: "updatePart", id: part.id, changes: { reverseSafe: event.target.checked || undefined } })}
      />
      bears plus and minus swapped
    </label>
  );
}
