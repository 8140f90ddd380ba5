"use client";
import { Field } from "./Field";

interface Props<V extends string> {
  label: string;
  value: V | undefined;
  options: readonly { readonly value: V; readonly label: string }[];
  /** What an empty choice means; without it one of the options is always chosen. */
  none?: string;
  onChange: (value: V | undefined) => void;
}

/** A choice beside its name in a dock. */
export function SelectField<V extends string>({ label, value, options, none, onChange }: Props<V>) {
  return (
    <Field slim label={label}>
      {(props) => (
        <select
          {...props}
          className="field w-full"
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
      )}
    </Field>
  );
}
