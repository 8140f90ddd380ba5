"use client";
import { AccountPane } from "../feeds/AccountPane";
import { FeedPane } from "../feeds/FeedPane";
import { PaneBoundary } from "../kit/PaneBoundary";
import { PartPane } from "../parts/PartPane";
import { useLedger, useWorkbench } from "./context";

/** Under every table: the selected part's account, its feed, its figures. */
export function Dock() {
  const selected = useWorkbench((state) => state.selected);
  const ledger = useLedger();
  const row = selected === null ? undefined : ledger.rowOf.get(selected);
  if (!row) {
    return (
      <p data-dock className="no-print shrink-0 border-t-2 border-ink bg-sheet px-3 py-2 text-center text-xs text-soft">
        Select a row to see its account, its conductors and its figures. Press A to add a part under it.
      </p>
    );
  }
  return (
    <div
      data-dock
      className="no-print pane grid h-[238px] shrink-0 grid-cols-[minmax(190px,0.8fr)_minmax(296px,1.25fr)_minmax(284px,1.2fr)] border-t-2 border-ink bg-sheet"
    >
      <PaneBoundary what="The account" on={row.part.id}>
        <AccountPane key={`account ${row.part.id}`} part={row.part} />
      </PaneBoundary>
      <PaneBoundary what="The conductors" on={row.part.id}>
        <FeedPane key={`feed ${row.part.id}`} row={row} />
      </PaneBoundary>
      <PaneBoundary what="The figures" on={row.part.id}>
        <PartPane key={`part ${row.part.id}`} part={row.part} />
      </PaneBoundary>
    </div>
  );
}
