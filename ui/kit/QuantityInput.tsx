"use client";
import { type InputHTMLAttributes, useState } from "react";
import { editText } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { Dimension } from "@/core/quantity/units";
import { Field } from "./Field";

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "min" | "max"> {
  label: string;
  dimension: Dimension;
  value: number | undefined;
  hint?: string;
  optional?: boolean;
  slim?: boolean;
  min?: number;
  max?: number;
  /** Commits on Enter and on leaving the field; a refusal is shown beside it and the text stays. */
  onCommit: (value: number | undefined) => { ok: true } | { ok: false; message: string };
}

/** A labelled quantity that saves itself when the builder leaves it. */
export function QuantityInput({ label, dimension, value, hint, optional, slim, min, max, onCommit, placeholder, ...rest }: Props) {
  const shown = value === undefined ? "" : editText(value, dimension);
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const finish = () => {
    if (draft === null || draft.trim() === shown) return setDraft(null);
    if (draft.trim() === "" && optional) {
      const result = onCommit(undefined);
      if (!result.ok) return setError(result.message);
      setError(null);
      return setDraft(null);
    }
    const bounds = { ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
    const parsed = parseQuantity(draft, dimension, bounds);
    const result = parsed.ok ? onCommit(parsed.value) : parsed;
    if (!result.ok) return setError(result.message);
    setError(null);
    setDraft(null);
  };
  return (
    <Field label={label} error={error} {...(hint ? { hint } : {})} {...(slim ? { slim } : {})}>
      {(props) => (
        <input
          {...rest}
          {...props}
          className="fig field w-full text-right"
          value={draft ?? shown}
          placeholder={placeholder ?? (optional ? "not known" : undefined)}
          onChange={(event) => {
            setDraft(event.target.value);
            setError(null);
          }}
          onBlur={finish}
          onKeyDown={(event) => {
            if (event.key === "Enter") finish();
            if (event.key === "Escape" && draft !== null) {
              event.stopPropagation();
              setDraft(null);
              setError(null);
            }
          }}
        />
      )}
    </Field>
  );
}
