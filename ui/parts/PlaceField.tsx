"use client";
import { Field } from "../kit/Field";
import type { Place } from "./TerminalSelect";

interface Props {
  label: string;
  places: readonly Pick<Place, "name">[];
  /** Index of the chosen one. */
  value: number;
  error?: string | null;
  onChange: (value: number) => void;
}

/** A place to begin or end a conductor, chosen from a list in a dialog. */
export function PlaceField({ label, places, value, error, onChange }: Props) {
  return (
    <Field label={label} error={error ?? null}>
      {(props) => (
        <select {...props} className="field" value={value} onChange={(event) => onChange(Number(event.target.value))}>
          {places.map((place, index) => (
            <option key={place.name} value={index}>
              {place.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
