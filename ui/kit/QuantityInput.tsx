"use client";
import { editText } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { Dimension } from "@/core/quantity/units";
import { Field } from "./Field";
import { type Committed, useDraft } from "./useDraft";

interface Props {
  label: string;
  dimension: Dimension;
  value: number | undefined;
  hint?: string;
  placeholder?: string;
  /** May be emptied: the figure is then not known. */
  optional?: boolean;
  slim?: boolean;
  min?: number;
  max?: number;
  onCommit: (value: number | undefined) => Committed;
}

/** A labelled quantity that saves itself when the builder leaves it. */
export function QuantityInput({ label, dimension, value, hint, placeholder, optional, slim, min, max, onCommit }: Props) {
  const { input, error } = useDraft(value === undefined ? "" : editText(value, dimension), (text) => {
    if (text === "" && optional) return onCommit(undefined);
    const bounds = { ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
    const parsed = parseQuantity(text, dimension, bounds);
    return parsed.ok ? onCommit(parsed.value) : parsed;
  });
  return (
    <Field label={label} error={error} {...(hint ? { hint } : {})} {...(slim ? { slim } : {})}>
      {(props) => (
        <input
          {...input}
          {...props}
          className="fig field w-full text-right"
          placeholder={placeholder ?? (optional ? "not known" : undefined)}
        />
      )}
    </Field>
  );
}
