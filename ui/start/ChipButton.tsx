"use client";
import { clsx } from "clsx";
import { useState } from "react";
import { LOAD_COLUMNS } from "@/core/drafting/load-columns";
import type { Chip, ReadLine } from "@/core/drafting/reading";
import { LOAD_KINDS } from "@/core/reference/load-kinds";

interface Props {
  line: ReadLine;
  chip: Chip;
  /** What was typed in its place. */
  onCorrect: (typed: string) => void;
}

const KINDS = [...LOAD_KINDS, "pack", "supply", "converter", "driver", "e-stop"] as const;

/** Chips that are what the line comes to, and have no place of their own in it. */
const FIXED: ReadonlySet<Chip["key"]> = new Set(["name", "switches", "cells", "more", "driver"] as const);

/** One thing that was read, as a word that can be changed where it stands. What was not told is a question. */
export function ChipButton({ line, chip, onCorrect }: Props) {
  const [editing, setEditing] = useState(false);
  const look = clsx(
    "text-left",
    chip.how === "said" && "border-b border-rule",
    chip.how === "supposed" && "border-b-2 border-dotted border-ask text-ask",
    chip.how === "asked" && "font-semibold text-ask",
  );
  const shown = chip.how === "asked" ? `? ${chip.text.replace(/\?$/, "")}` : chip.text;
  if (FIXED.has(chip.key) && chip.at === null)
    return <span className={chip.key === "name" ? "font-semibold" : "text-soft"}>{chip.text}</span>;
  if (!editing)
    return (
      <button type="button" className={look} aria-label={`${chip.text}: change it, line ${line.number}`} onClick={() => setEditing(true)}>
        {shown}
      </button>
    );
  const done = (typed: string | null) => {
    setEditing(false);
    if (typed !== null && typed.trim() !== "") onCorrect(typed);
  };
  if (chip.key === "kind" || chip.key === "column") {
    const options: readonly string[] = chip.key === "kind" ? KINDS : LOAD_COLUMNS.map(({ label }) => label);
    return (
      <select
        className="field"
        aria-label={chip.key === "kind" ? `What it is, line ${line.number}` : "What this column is"}
        // Opened by the builder: what was clicked goes on under the same fingers.
        ref={(element) => element?.focus()}
        defaultValue=""
        onBlur={() => done(null)}
        onChange={(event) => done(event.target.value)}
        onKeyDown={(event) => event.key === "Escape" && done(null)}
      >
        <option value="" disabled>
          {chip.text}
        </option>
        {options.map((option) => (
          <option key={option} value={option}>
            {option}
          </option>
        ))}
      </select>
    );
  }
  return (
    <input
      className="field w-[110px]"
      aria-label={`${chip.key}, line ${line.number}`}
      ref={(element) => {
        if (element && document.activeElement !== element) {
          element.focus();
          element.select();
        }
      }}
      defaultValue={chip.at ? line.text.slice(chip.at.start, chip.at.end).trim() : ""}
      onBlur={(event) => done(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") done(null);
      }}
    />
  );
}
