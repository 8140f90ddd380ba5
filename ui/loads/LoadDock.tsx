"use client";
import { memo } from "react";
import type { Load } from "@/core/machine/schema";
import { PaneBoundary } from "../kit/PaneBoundary";
import { PartPane } from "../parts/PartPane";
import { useWorkbench } from "../workbench/context";
import { KnowPane } from "./KnowPane";
import { LevelsPane } from "./LevelsPane";

/** Whether two versions of a load differ in nothing but what it does in its modes. */
function sameButCells(a: Load, b: Load): boolean {
  return a === b || (Object.keys({ ...a, ...b }) as (keyof Load)[]).every((key) => key === "cells" || a[key] === b[key]);
}

// An edit of a mode's cell leaves these two as they are.
const Known = memo(KnowPane, (a, b) => sameButCells(a.load, b.load));
const Part = memo(PartPane, (a, b) => a.part.kind === "load" && b.part.kind === "load" && sameButCells(a.part, b.part));

/** Under the matrix: what the chosen load draws, what is known about it, and its own figures. */
export function LoadDock() {
  const load = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected));
  if (load?.kind !== "load") return null;
  return (
    <div
      data-dock
      className="no-print pane grid h-[266px] shrink-0 grid-cols-[minmax(0,0.85fr)_minmax(0,1.45fr)_minmax(0,1fr)] border-t-2 border-ink bg-sheet"
    >
      <PaneBoundary what="Its currents" on={load.id}>
        <LevelsPane load={load} />
      </PaneBoundary>
      <PaneBoundary what="What is known of it" on={load.id}>
        <Known load={load} />
      </PaneBoundary>
      <PaneBoundary what="The figures" on={load.id}>
        <Part part={load} />
      </PaneBoundary>
    </div>
  );
}
