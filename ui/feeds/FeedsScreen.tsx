"use client";
import { useState } from "react";
import { ViewTabs } from "../kit/ViewTabs";
import { useLedger } from "../workbench/context";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { LedgerView } from "./LedgerView";
import { PlugsView } from "./PlugsView";
import { ShortsView } from "./ShortsView";
import { SizeView } from "./SizeView";

const VIEWS = [
  { id: "ledger", label: "Ledger" },
  { id: "shorts", label: "Short circuits" },
  { id: "size", label: "Size everything" },
  { id: "plugs", label: "Plugs and contacts" },
] as const;
type View = (typeof VIEWS)[number]["id"];

/** Every feed: its account, what happens if it shorts, what size it should have, and what it plugs into. */
export function FeedsScreen() {
  const ledger = useLedger();
  const [view, setView] = useState<View>("ledger");
  const [only, setOnly] = useState<string | null>(null);
  if (ledger.rows.length === 0) return <EmptyMachine />;
  return (
    <ViewTabs
      label="Views of the feeds"
      views={VIEWS}
      view={view}
      onView={(next) => {
        setOnly(null);
        setView(next);
      }}
    >
      {view === "ledger" && (
        <LedgerView
          onSize={(wireId) => {
            setOnly(wireId);
            setView("size");
          }}
        />
      )}
      {view === "shorts" && <ShortsView />}
      {view === "size" && <SizeView only={only} onAll={() => setOnly(null)} />}
      {view === "plugs" && <PlugsView />}
    </ViewTabs>
  );
}
