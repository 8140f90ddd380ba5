"use client";
import { type SelectHTMLAttributes, useState } from "react";
import type { TerminalRef } from "@/core/machine/schema";
import { sameTerminal } from "@/core/machine/terminals";

export interface Place {
  at: TerminalRef;
  name: string;
}

interface Props extends Omit<SelectHTMLAttributes<HTMLSelectElement>, "value" | "onChange"> {
  at: TerminalRef;
  /** What the terminal is called, shown while the list is closed. */
  name: string;
  places: () => readonly Place[];
  onPick: (at: TerminalRef) => void;
}

/**
 * A terminal that may be exchanged for another. The list, which can hold hundreds of places in every row of a table, is
 * only made once somebody points at it or gives it the focus.
 */
export function TerminalSelect({ at, name, places, onPick, ...rest }: Props) {
  const [awake, setAwake] = useState(false);
  const listed = awake ? places() : [];
  const current = listed.findIndex((place) => sameTerminal(place.at, at));
  return (
    <select
      {...rest}
      value={current}
      onFocus={() => setAwake(true)}
      onPointerEnter={() => setAwake(true)}
      onBlur={() => setAwake(false)}
      onChange={(event) => {
        const place = listed[Number(event.target.value)];
        if (place) onPick(place.at);
      }}
    >
      {current < 0 && <option value={-1}>{name}</option>}
      {listed.map((place, index) => (
        <option key={place.name} value={index}>
          {place.name}
        </option>
      ))}
    </select>
  );
}
