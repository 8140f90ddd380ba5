"use client";
import { type FormEvent, useId, useRef, useState } from "react";
import { parseReading, readUnit } from "@/core/bringup/typed";
import type { Expect } from "@/core/bringup/types";
import type { ReadQuantity } from "@/core/reference/instruments";

/** What was typed and not kept yet, by the reading it is for: it is there again when one comes back to it. */
export type Drafts = Map<string, string>;

interface Props {
  /** The reading it is for; a field is of one. */
  about: string;
  quantity: Exclude<ReadQuantity, "yes">;
  expect: Expect;
  /** The last reading, as it was. */
  last: string | null;
  onKeep: (value: number | null) => void;
  /** Large targets, for a phone. */
  large?: boolean;
  drafts?: Drafts;
}

/** Where a reading is typed: a bare number in the unit that stands beside it, or with its own. Enter keeps it. */
export function ReadingField({ about, quantity, expect, last, onKeep, large, drafts }: Props) {
  const [text, setText] = useState(drafts?.get(about) ?? "");
  const [error, setError] = useState<string | null>(null);
  const type = (next: string) => {
    setText(next);
    setError(null);
    drafts?.set(about, next);
  };
  const field = useRef<HTMLInputElement>(null);
  const id = useId();
  const unit = readUnit(quantity, expect);
  const keep = (event: FormEvent) => {
    event.preventDefault();
    const read = parseReading(text, quantity, unit);
    if (!read.ok) {
      setError(read.message);
      field.current?.focus();
      return;
    }
    type("");
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
          onChange={(event) => type(event.target.value)}
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
            onClick={() => {
              type("");
              onKeep(null);
            }}
            className={`border border-rule hover:border-ink ${large ? "col-span-2 min-h-[48px]" : "px-3 py-1 text-sm"}`}
          >
            No reading (OL)
          </button>
        )}
      </div>
    </form>
  );
}
