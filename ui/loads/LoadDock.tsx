"use client";
import { PartPane } from "../parts/PartPane";
import { useWorkbench } from "../workbench/context";
import { KnowPane } from "./KnowPane";
import { LevelsPane } from "./LevelsPane";

/** Under the matrix: what the chosen load draws, what is known about it, and its own figures. */
export function LoadDock() {
  const load = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected));
  if (load?.kind !== "load") return null;
  return (
    <div className="no-print pane grid h-[266px] shrink-0 grid-cols-[minmax(0,0.85fr)_minmax(0,1.45fr)_minmax(0,1fr)] border-t-2 border-ink bg-sheet">
      <LevelsPane load={load} />
      <KnowPane load={load} />
      <PartPane part={load} />
    </div>
  );
}
