"use client";
import type { ComponentProps } from "react";
import { Field } from "./Field";

export interface Option<V extends string> {
  readonly value: V;
  readonly label: string;
}

/** Options that are their own words. */
export function words<V extends string>(values: readonly V[]): readonly Option<V>[] {
  return values.map((value) => ({ value, label: value }));
}

/** Options from a table of words, in its order. */
export function named<V extends string>(names: Readonly<Record<V, string>>): readonly Option<V>[] {
  return (Object.keys(names) as V[]).map((value) => ({ value, label: names[value] }));
}

interface Choice<V extends string> {
  value: V | undefined;
  options: readonly Option<V>[];
  /** What an empty choice means; without it one of the options is always chosen. */
  none?: string;
  onChange: (value: V | undefined) => void;
}

/** A choice of one out of several, each with its words: what is handed on is one of the options, or nothing. */
export function Select<V extends string>({
  value,
  options,
  none,
  onChange,
  className = "field",
  ...rest
}: Choice<V> & Omit<ComponentProps<"select">, "value" | "onChange" | "children">) {
  return (
    <select
      {...rest}
      className={className}
      value={value ?? ""}
      onChange={(event) => onChange(options.find((option) => option.value === event.target.value)?.value)}
    >
      {none !== undefined && <option value="">{none}</option>}
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}

/** A choice without an empty one: something is always chosen. */
export function always<V extends string>(take: (value: V) => void): (value: V | undefined) => void {
  return (value) => {
    if (value !== undefined) take(value);
  };
}

/** A choice beside its name: in a dock, or with a wide label in a dialog. */
export function SelectField<V extends string>({
  label,
  hint,
  wide,
  error,
  ...choice
}: Choice<V> & { label: string; hint?: string; wide?: boolean; error?: string | null }) {
  return (
    <Field slim={!wide} label={label} {...(hint ? { hint } : {})} {...(error ? { error } : {})}>
      {(props) => <Select {...props} {...choice} className={wide ? "field" : "field w-full"} />}
    </Field>
  );
}
