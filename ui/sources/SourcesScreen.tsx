"use client";
import dynamic from "next/dynamic";
import { useState } from "react";
import { PaneBoundary } from "../kit/PaneBoundary";
import { ViewTabs } from "../kit/ViewTabs";
import { RailStrip } from "../loads/RailStrip";
import { useLedger, useWorkbench } from "../workbench/context";
import { Dock } from "../workbench/Dock";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { BenchView } from "./BenchView";
import { ChooseView } from "./ChooseView";
import { ConvertersView } from "./ConvertersView";
import { PackDock } from "./PackDock";
import { RailsView } from "./RailsView";
import { VoltsView } from "./VoltsView";

/** The chart library is only fetched by those who look at charts. */
const RunView = dynamic(() => import("./RunView").then((module) => module.RunView), { ssr: false });

const VIEWS = [
  { id: "rails", label: "Rails" },
  { id: "run", label: "Run and sag" },
  { id: "converters", label: "Converters" },
  { id: "choose", label: "Choose" },
  { id: "volts", label: "12, 24 or 48 V" },
  { id: "bench", label: "On the bench" },
] as const;
type View = (typeof VIEWS)[number]["id"];

/** What feeds each rail: against its demand, over its charge, and against what could feed it instead. */
export function SourcesScreen() {
  const ledger = useLedger();
  const kind = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected)?.kind);
  const selected = useWorkbench((state) => state.selected);
  const [view, setView] = useState<View>("rails");
  if (ledger.rows.length === 0) return <EmptyMachine />;
  return (
    <>
      <PaneBoundary what="The rails">
        <RailStrip />
      </PaneBoundary>
      <ViewTabs label="Views of the sources" views={VIEWS} view={view} onView={setView}>
        {view === "rails" && <RailsView />}
        {view === "run" && <RunView />}
        {view === "converters" && <ConvertersView />}
        {view === "choose" && <ChooseView />}
        {view === "volts" && <VoltsView />}
        {view === "bench" && <BenchView />}
      </ViewTabs>
      {(view === "rails" || view === "converters") && (kind === "pack" ? <PackDock key={selected} /> : <Dock />)}
    </>
  );
}
