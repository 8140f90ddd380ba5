"use client";
import { useMemo } from "react";
import type { Machine } from "@/core/machine/schema";
import type { ReturnsFigures } from "@/core/returns/summary";
import { useAsked } from "../feeds/useAsked";
import { useWorkbench } from "../workbench/context";

/** The return side of the machine last analysed; null until the first answer. */
export function useReturns(): { returns: ReturnsFigures; machine: Machine } | null {
  const machine = useWorkbench((state) => state.analysed);
  const returns = useAsked("returns", (analyst) => analyst.returns());
  // An answer about the version before may come while a newer one is on its way: links that are gone are left out where shown.
  return useMemo(() => (returns && machine ? { returns, machine } : null), [returns, machine]);
}

/** The mode drawn when Worst is chosen: the one in which most leaves the sources. */
export function useDrawnMode(): number {
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.analysis?.modes);
  if (mode !== "worst") return mode;
  let best = 0;
  modes?.forEach(({ sourceA }, m) => {
    if (sourceA > (modes[best]?.sourceA ?? 0)) best = m;
  });
  return best;
}
