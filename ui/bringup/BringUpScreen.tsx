"use client";
import { useEffect, useState } from "react";
import { BrokeOff } from "../kit/BrokeOff";
import { ViewTabs } from "../kit/ViewTabs";
import { useBringUp, useLedger, useLog, useWorkbenchContext } from "../workbench/context";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { CorrectionsView } from "./CorrectionsView";
import { CurrentLogView } from "./CurrentLogView";
import { DrillView } from "./DrillView";
import { InstrumentsDialog } from "./InstrumentsDialog";
import { LogView } from "./LogView";
import { PhonesDialog } from "./PhonesDialog";
import { StagesView } from "./StagesView";
import { useBench } from "./useBench";

const VIEWS = [
  { id: "stages", label: "Stages" },
  { id: "log", label: "Log" },
  { id: "corrections", label: "Corrections" },
  { id: "current", label: "Current log" },
  { id: "drill", label: "Drill" },
] as const;
type View = (typeof VIEWS)[number]["id"];

/** Between two looks at what phones have added, ms. */
const LOOK_MS = 10_000;

/** From nothing connected to half an hour at work: what to read, what it should be, and what it means when it is not. */
export function BringUpScreen() {
  const ledger = useLedger();
  const { log } = useWorkbenchContext();
  const view = useBringUp((state) => state.view);
  const failed = useBringUp((state) => state.failed);
  const want = useBringUp((state) => state.want);
  const unsent = useLog((state) => state.unsent);
  const [tab, setTab] = useState<View>("stages");
  const [dialog, setDialog] = useState<"phones" | "instruments" | null>(null);
  const { bench, begin, end } = useBench(false);
  useEffect(want, [want]);
  useEffect(() => {
    // Phones add readings meanwhile.
    const timer = setInterval(() => void log.getState().refresh(), LOOK_MS);
    return () => clearInterval(timer);
  }, [log]);
  if (ledger.rows.length === 0) return <EmptyMachine />;
  const quiet = "hover:text-ink hover:underline";
  const tools = (
    <span className="ml-auto flex items-baseline gap-4 pr-2 text-xs text-soft">
      {unsent > 0 && <span role="status">{unsent} not sent yet</span>}
      <button type="button" className={quiet} onClick={bench ? end : begin} aria-pressed={bench !== null}>
        {bench ? "Bench in use: put it away" : "Use the bench"}
      </button>
      <button type="button" className={quiet} onClick={() => setDialog("instruments")}>
        Instruments
      </button>
      <button type="button" className={quiet} onClick={() => setDialog("phones")}>
        Phones
      </button>
    </span>
  );
  return (
    <ViewTabs label="Views of the bring-up" views={VIEWS} view={tab} onView={setTab} tools={tools}>
      {failed && (
        <div className="px-3">
          <BrokeOff what="The stages" again={want} />
        </div>
      )}
      {!failed && !view && <p className="p-4 text-sm text-soft">Working out what to expect…</p>}
      {view && view.judged.stages.length === 0 && (
        <p className="p-4 text-sm">A bring-up begins at a source: add a pack or a supply first.</p>
      )}
      {view && view.judged.stages.length > 0 && (
        <>
          {tab === "stages" && <StagesView judged={view.judged} bench={bench} />}
          {tab === "log" && <LogView judged={view.judged} />}
          {tab === "corrections" && <CorrectionsView view={view} />}
          {tab === "current" && <CurrentLogView />}
          {tab === "drill" && <DrillView judged={view.judged} />}
        </>
      )}
      {dialog === "phones" && <PhonesDialog onClose={() => setDialog(null)} />}
      {dialog === "instruments" && <InstrumentsDialog onClose={() => setDialog(null)} />}
    </ViewTabs>
  );
}
