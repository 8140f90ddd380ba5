"use client";
import { clsx } from "clsx";
import { memo } from "react";
import { formatQuantity, type Rounding } from "@/core/quantity/format";
import type { Dimension } from "@/core/quantity/units";
import type { FigureRef } from "@/core/working/types";
import { useWorkbenchContext } from "../workbench/context";

interface Props {
  value: number | null | undefined;
  dimension: Dimension;
  rounding?: Rounding;
  /** Opens this working; without it the figure is plain text. */
  of?: FigureRef;
  /** A lower bound: an unknown load would add to it. */
  atLeast?: boolean;
  label: string;
  className?: string;
  strong?: boolean;
  cell?: { r: number; c: number };
}

/** A number with its working behind it. */
export const Figure = memo(function Figure({ value, dimension, rounding = "nearest", of, atLeast, label, className, strong, cell }: Props) {
  const { showWorking } = useWorkbenchContext();
  if (value === null || value === undefined || !Number.isFinite(value)) {
    return (
      <span className={clsx("fig text-soft", className)} data-r={cell?.r} data-c={cell?.c}>
        –
      </span>
    );
  }
  const { digits, unit } = formatQuantity(value, dimension, rounding);
  const text = (
    <>
      {atLeast && (
        <span className="text-ask" title="At least: a load has no figure yet">
          ≥&nbsp;
        </span>
      )}
      <span className={clsx(strong && "font-bold", value === 0 && "font-normal text-soft")}>{digits}</span>
      {unit && <span className="unit">{unit}</span>}
    </>
  );
  if (!of) return <span className={clsx("fig", className)}>{text}</span>;
  return (
    <button
      type="button"
      aria-haspopup="dialog"
      aria-label={`${label}: ${atLeast ? "at least " : ""}${digits} ${unit}. Show the working`}
      data-r={cell?.r}
      data-c={cell?.c}
      className={clsx("fig hover:underline decoration-dotted underline-offset-4", className)}
      onClick={(event) => showWorking({ of, label, anchor: event.currentTarget })}
    >
      {text}
    </button>
  );
}, sameFigure);

/** Callers write `of` and `cell` in place, so these are compared by what they hold. */
function sameFigure(a: Props, b: Props): boolean {
  return (Object.keys({ ...a, ...b }) as (keyof Props)[]).every((key) => a[key] === b[key] || sameFields(a[key], b[key]));
}

function sameFields(a: unknown, b: unknown): boolean {
  if (typeof a !== "object" || typeof b !== "object" || !a || !b) return false;
  const other = new Map(Object.entries(b));
  return Object.entries(a).every(([key, value]) => other.get(key) === value) && other.size === Object.keys(a).length;
}
