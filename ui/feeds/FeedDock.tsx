"use client";
import { useState } from "react";
import type { FuseRef } from "@/core/machine/schema";
import type { LedgerRow } from "@/core/machine/tree";
import { PaneBoundary } from "../kit/PaneBoundary";
import { ViewTabs } from "../kit/ViewTabs";
import { PartPane } from "../parts/PartPane";
import { useLedger, useWorkbench } from "../workbench/context";
import { AccountPane } from "./AccountPane";
import { EndsPane } from "./EndsPane";
import { FeedPane } from "./FeedPane";
import { type FuseAt, FusePane, FusePictureView } from "./FusePane";
import { LadderPane } from "./LadderPane";

const WIRE_VIEWS = [
  { id: "sizes", label: "Sizes" },
  { id: "conductor", label: "Conductor" },
  { id: "ends", label: "Ends and way" },
] as const;
const FUSE_VIEWS = [
  { id: "fuse", label: "Fuse" },
  { id: "picture", label: "Time and current" },
  { id: "part", label: "Part" },
] as const;
type WireView = (typeof WIRE_VIEWS)[number]["id"];
type FuseView = (typeof FUSE_VIEWS)[number]["id"];

/** The fuse of a row: the part itself, or the one in its feed. */
function fuseOf(row: LedgerRow): { at: FuseAt; fuse: FuseRef } | null {
  if (row.part.kind === "fuse") return { at: { kind: "part", id: row.part.id }, fuse: row.part.fuse };
  return row.feed?.fuse ? { at: { kind: "wire", id: row.feed.id }, fuse: row.feed.fuse } : null;
}

/** Under the ledger: the account of the selected node, its conductor with the ladder of sizes, its fuse with its picture. */
export function FeedDock({ onSize }: { onSize: (wireId: string) => void }) {
  const selected = useWorkbench((state) => state.selected);
  const ledger = useLedger();
  const [wireView, setWireView] = useState<WireView>("sizes");
  const [fuseView, setFuseView] = useState<FuseView>("fuse");
  const row = selected === null ? undefined : ledger.rowOf.get(selected);
  if (!row) {
    return (
      <p data-dock className="no-print shrink-0 border-t-2 border-ink bg-sheet px-3 py-2 text-center text-xs text-soft">
        Select a row to see its account, the sizes its feed could have, and its fuse. Press A to add a part under it.
      </p>
    );
  }
  const wire = row.feed ?? row.back;
  const paired = row.feed !== null && row.back?.pair === row.feed.id;
  const fuse = fuseOf(row);
  const right = fuse ? fuseView : "part";
  return (
    <div
      data-dock
      className="no-print pane grid h-[268px] shrink-0 grid-cols-[minmax(124px,0.55fr)_minmax(396px,1.75fr)_minmax(262px,1fr)] border-t-2 border-ink bg-sheet"
    >
      <PaneBoundary what="The account" on={row.part.id}>
        <AccountPane key={`account ${row.part.id}`} part={row.part} />
      </PaneBoundary>
      {wire ? (
        <ViewTabs
          slim
          label="Views of the conductor"
          views={WIRE_VIEWS}
          view={wireView}
          onView={setWireView}
          className="border-r border-hair"
        >
          {wireView === "sizes" && <LadderPane key={wire.id} wire={wire} onSize={() => onSize(wire.id)} />}
          {wireView === "conductor" && <FeedPane key={wire.id} row={row} bare />}
          {wireView === "ends" && <EndsPane key={wire.id} wire={wire} both={paired} />}
        </ViewTabs>
      ) : (
        <PaneBoundary what="The conductors" on={row.part.id}>
          <FeedPane key={`feed ${row.part.id}`} row={row} />
        </PaneBoundary>
      )}
      {fuse ? (
        <ViewTabs slim label="Views of the fuse" views={FUSE_VIEWS} view={right} onView={setFuseView}>
          {right === "fuse" && <FusePane key={fuse.at.id} at={fuse.at} fuse={fuse.fuse} name={row.part.name} />}
          {right === "picture" && <FusePictureView key={fuse.at.id} at={fuse.at} name={row.part.name} />}
          {right === "part" && <PartPane key={`part ${row.part.id}`} part={row.part} />}
        </ViewTabs>
      ) : (
        <PaneBoundary what="The figures" on={row.part.id}>
          <PartPane key={`part ${row.part.id}`} part={row.part} />
        </PaneBoundary>
      )}
    </div>
  );
}
