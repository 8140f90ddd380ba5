"use client";
import { clsx } from "clsx";
import { PROVENANCES, type Provenance } from "@/core/machine/figure";
import { always, Select } from "./Select";

const MARKS: Readonly<Record<Provenance, string>> = {
  measured: "font-bold",
  datasheet: "",
  typical: "italic",
  guess: "font-bold text-ask",
};
const OPTIONS = PROVENANCES.map((value) => ({ value, label: value === "guess" ? "? guess" : value }));

interface Props {
  label: string;
  /** Undefined: several figures that are not known alike. */
  value: Provenance | undefined;
  onChange: (value: Provenance) => void;
}

/** How an entered figure is known; stands beside its field. */
export function KnownBy({ label, value, onChange }: Props) {
  return (
    <Select
      aria-label={label}
      className={clsx("field text-xs", value && MARKS[value])}
      value={value}
      options={OPTIONS}
      {...(value === undefined ? { none: "of several kinds" } : {})}
      onChange={always(onChange)}
    />
  );
}
