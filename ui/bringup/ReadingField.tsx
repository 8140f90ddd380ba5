"use client";
import { type FormEvent, useEffect, useId, useRef, useState } from "react";
import { parseReading, readUnit } from "@/core/bringup/typed";
import type { Expect } from "@/core/bringup/types";
import type { ReadQuantity } from "@/core/reference/instruments";

interface Props {
  /** The reading it is for: another one begins with an empty field. */
  about: string;
  quantity: Exclude<ReadQuantity, "yes">;
  expect: Expect;
  /** The last reading, as it was. */
  last: string | null;
  onKeep: (value: number | null) => void;
  /** Large targets, for a phone. */
  large?: boolean;
}

/** Where a reading is typed: a bare number in the unit that stands beside it, or with its own. Enter keeps it. */
export function ReadingField({ about, quantity, expect, last, onKeep, large }: Props) {
  const [text, setText] = useState("");
  const [error, setError] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const id = useId();
  const unit = readUnit(quantity, expect);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another step begins anew
  useEffect(() => {
    setText("");
    setError(null);
  }, [about]);
  const keep = (event: FormEvent) => {
    event.preventDefault();
    const read = parseReading(text, quantity, unit);
    if (!read.ok) {
      setError(read.message);
      field.current?.focus();
      return;
    }
    setText("");
    onKeep(read.value);
  };
  return (
    <form onSubmit={keep} className={large ? "w-full" : undefined}>
      <label htmlFor={id} className="text-xs text-soft">
        it shows
      </label>
      <div className="flex items-baseline gap-2">
        <input
          ref={field}
          id={id}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setError(null);
          }}
          placeholder={last ?? ""}
          inputMode="text"
          autoComplete="off"
          aria-invalid={error !== null}
          aria-describedby={error ? `${id}-error` : undefined}
          data-reading
          className={
            large
              ? "fig h-[60px] w-full border-2 border-accent bg-sheet px-3 text-[28px]"
              : "fig w-[150px] border-0 border-b-2 border-accent bg-transparent text-[26px] leading-tight font-bold placeholder:font-normal placeholder:text-soft"
          }
        />
        <span className="fig text-lg text-soft">{unit}</span>
      </div>
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 max-w-[300px] text-xs font-semibold text-stop dark:text-fix">
          {error}
        </p>
      )}
      <div className={large ? "mt-2 grid grid-cols-2 gap-2" : "mt-2 flex gap-2"}>
        <button
          type="submit"
          className={`border border-ink bg-ink font-semibold text-paper ${large ? "col-span-2 min-h-[48px] px-3" : "px-3 py-1 text-sm"}`}
        >
          Keep the reading
        </button>
        {quantity === "ohms" && (
          <button
            type="button"
            onClick={() => onKeep(null)}
            className={`border border-rule hover:border-ink ${large ? "col-span-2 min-h-[48px]" : "px-3 py-1 text-sm"}`}
          >
            No reading (OL)
          </button>
        )}
      </div>
    </form>
  );
}
