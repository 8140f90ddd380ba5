"use client";
import { useId } from "react";
import { type Parsed, parseQuantity } from "@/core/quantity/parse";
import type { Dimension } from "@/core/quantity/units";

/** A quantity of a small form: its text, as it is typed, and what it reads as. */
export interface Typed {
  readonly text: string;
  readonly parsed: Parsed | null;
}

export const EMPTY: Typed = { text: "", parsed: null };

interface Props {
  label: string;
  dimension: Dimension;
  value: Typed;
  onType: (value: Typed) => void;
  signed?: boolean;
}

/** A quantity that is read as it is typed; what does not fit says so beside the field. */
export function NumberField({ label, dimension, value, onType, signed }: Props) {
  const id = useId();
  const wrong = value.parsed && !value.parsed.ok ? value.parsed.message : null;
  return (
    <span className="inline-block align-top">
      <label htmlFor={id} className="block text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        className="fig field w-[110px] text-right"
        value={value.text}
        aria-invalid={wrong !== null}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        onChange={(event) => {
          const text = event.target.value;
          onType({ text, parsed: text.trim() === "" ? null : parseQuantity(text, dimension, signed ? { min: -2000 } : {}) });
        }}
      />
      {wrong && (
        <span id={`${id}-wrong`} role="alert" className="block max-w-[180px] text-xs font-semibold text-stop dark:text-fix">
          {wrong}
        </span>
      )}
    </span>
  );
}

/** The value of a field that reads as one; null for an empty one and for one that does not fit. */
export function numberIn({ parsed }: Typed): number | null {
  return parsed?.ok ? parsed.value : null;
}
