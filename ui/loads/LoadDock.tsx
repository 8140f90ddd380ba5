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
    <div className="no-print pane grid h-[252px] shrink-0 grid-cols-[minmax(230px,0.9fr)_minmax(330px,1.35fr)_minmax(250px,1fr)] border-t-2 border-ink bg-sheet">
      <LevelsPane load={load} />
      <KnowPane load={load} />
      <PartPane part={load} />
    </div>
  );
}
