"use client";
import type { Signal, SignalPin } from "@/core/machine/schema";
import { PINS_MAX } from "@/core/machine/signal-schema";
import { useDraft } from "../kit/useDraft";
import { type Dispatch, useDispatch } from "../workbench/context";

const FIELDS = [
  { key: "name", label: "Signal", example: "PWM" },
  { key: "fromPin", label: "Pin it leaves", example: "D9" },
  { key: "toPin", label: "Pin it reaches", example: "IN1" },
  { key: "colour", label: "Colour", example: "yellow" },
] as const;

/** The conductors of a link by name, pins and colour: for the connection list, and nothing computes with them. */
export function PinFields({ signal }: { signal: Signal }) {
  const { dispatch, act } = useDispatch();
  const pins = signal.pins ?? [];
  const write = (next: readonly SignalPin[]) =>
    ({ type: "updateSignal", id: signal.id, changes: { pins: next.length > 0 ? [...next] : undefined } }) as const;
  return (
    <fieldset className="mt-2 border-t border-hair pt-1">
      <legend className="pr-2 text-xs font-bold">Its conductors</legend>
      {pins.length > 0 && (
        <div className="grid grid-cols-[repeat(4,minmax(0,1fr))_auto] gap-x-1 text-[11.5px] text-soft" aria-hidden>
          {FIELDS.map(({ key, label }) => (
            <span key={key}>{label}</span>
          ))}
          <span className="w-[30px]" />
        </div>
      )}
      {pins.map((pin, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a conductor is its place among the others
        <div key={i} className="grid grid-cols-[repeat(4,minmax(0,1fr))_auto] items-baseline gap-x-1">
          {FIELDS.map(({ key, label, example }) => (
            <PinField
              key={key}
              label={`${label}, conductor ${i + 1}`}
              example={example}
              value={pin[key] ?? ""}
              onCommit={(text) => {
                const { [key]: _before, ...rest } = pin;
                return dispatch(write(pins.map((each, n) => (n === i ? (text === "" ? rest : { ...rest, [key]: text }) : each))));
              }}
            />
          ))}
          <button
            type="button"
            className="w-[30px] py-1 text-xs text-soft hover:text-ink"
            aria-label={`Take conductor ${i + 1} out`}
            onClick={() => act(write(pins.filter((_, n) => n !== i)))}
          >
            out
          </button>
        </div>
      ))}
      {pins.length < PINS_MAX && (
        <button type="button" className="link text-xs" onClick={() => act(write([...pins, {}]))}>
          {pins.length === 0 ? "Name its pins and colours" : "One conductor more"}
        </button>
      )}
    </fieldset>
  );
}

function PinField({
  label,
  example,
  value,
  onCommit,
}: {
  label: string;
  example: string;
  value: string;
  onCommit: (text: string) => ReturnType<Dispatch>;
}) {
  const { input, error } = useDraft(value, onCommit);
  return (
    <span>
      <input
        {...input}
        aria-label={label}
        aria-invalid={Boolean(error)}
        placeholder={example}
        maxLength={24}
        className="fig field w-full text-xs"
      />
      {error && (
        <span role="alert" className="block text-xs font-semibold text-stop dark:text-fix">
          {error}
        </span>
      )}
    </span>
  );
}
