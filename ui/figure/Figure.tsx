"use client";
import { clsx } from "clsx";
import { Popover } from "radix-ui";
import { useState } from "react";
import { formatQuantity, type Rounding } from "@/core/quantity/format";
import type { Dimension } from "@/core/quantity/units";
import type { FigureRef, Working } from "@/core/working/types";
import { useWorkbenchContext } from "../workbench/context";
import { WorkingCard } from "./WorkingCard";

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
export function Figure({ value, dimension, rounding = "nearest", of, atLeast, label, className, strong, cell }: Props) {
  const { analyst } = useWorkbenchContext();
  const [working, setWorking] = useState<Working | null>(null);
  const [open, setOpen] = useState(false);
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
  const show = async (next: boolean) => {
    setOpen(next);
    if (next) setWorking((await analyst()?.explain(of)) ?? null);
  };
  return (
    <Popover.Root open={open} onOpenChange={show}>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`${label}: ${atLeast ? "at least " : ""}${digits} ${unit}. Show the working`}
          data-r={cell?.r}
          data-c={cell?.c}
          className={clsx("fig hover:underline decoration-dotted underline-offset-4", className)}
        >
          {text}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          collisionPadding={8}
          sideOffset={4}
          className="z-50 w-[440px] max-w-[92vw] border-2 border-ink bg-sheet p-4 text-sm"
          aria-label={`Working of ${label}`}
        >
          <WorkingCard working={working} />
          <Popover.Arrow className="fill-ink" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
