"use client";
import { useState } from "react";
import { ViewTabs } from "../kit/ViewTabs";
import { useLedger } from "../workbench/context";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { ArrangeView } from "./ArrangeView";
import { ConductorsView } from "./ConductorsView";
import { FlowView } from "./FlowView";
import { OffsetsView } from "./OffsetsView";
import { PracticeView } from "./PracticeView";
import { SignalsView } from "./SignalsView";

const VIEWS = [
  { id: "flow", label: "Flow" },
  { id: "offsets", label: "Offsets" },
  { id: "signals", label: "Signals and loops" },
  { id: "conductors", label: "Conductors" },
  { id: "arrange", label: "Arrangements" },
  { id: "practice", label: "Chassis and noise" },
] as const;
type View = (typeof VIEWS)[number]["id"];

/** The return side solved like the supply side: where every amp comes home, and what that does to the boards. */
export function ReturnsScreen() {
  const ledger = useLedger();
  const [view, setView] = useState<View>("flow");
  if (ledger.rows.length === 0) return <EmptyMachine />;
  return (
    <ViewTabs label="Views of the returns" views={VIEWS} view={view} onView={setView}>
      {view === "flow" && <FlowView />}
      {view === "offsets" && <OffsetsView />}
      {view === "signals" && <SignalsView />}
      {view === "conductors" && <ConductorsView />}
      {view === "arrange" && <ArrangeView />}
      {view === "practice" && <PracticeView />}
    </ViewTabs>
  );
}
