"use client";
import { useMemo } from "react";
import type { Machine } from "@/core/machine/schema";
import type { ReturnsFigures } from "@/core/returns/summary";
import { analysedOf, analysisOf } from "@/state/findings";
import { useWorkbench } from "../workbench/context";
import { type Answer, useAsked } from "../workbench/useQuestion";

/** The return side of the machine last analysed; null until the first answer. */
export function useReturns(): Pick<Answer<unknown>, "failed" | "start"> & { found: { returns: ReturnsFigures; machine: Machine } | null } {
  const machine = useWorkbench(analysedOf);
  const { value: returns, failed, start } = useAsked("returns", (ask) => ask("returns"));
  // An answer about the version before may come while a newer one is on its way: links that are gone are left out where shown.
  const found = useMemo(() => (returns && machine ? { returns, machine } : null), [returns, machine]);
  return { found, failed, start };
}

/** The mode drawn when Worst is chosen: the one in which most leaves the sources. */
export function useDrawnMode(): number {
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => analysisOf(state)?.modes);
  if (mode !== "worst") return mode;
  let best = 0;
  modes?.forEach(({ sourceA }, m) => {
    if (sourceA > (modes[best]?.sourceA ?? 0)) best = m;
  });
  return best;
}
