"use client";
import dynamic from "next/dynamic";
import { useEffect, useState } from "react";
import { PaneBoundary } from "../kit/PaneBoundary";
import { ViewTabs } from "../kit/ViewTabs";
import { useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { Dock } from "../workbench/Dock";
import { EmptyMachine } from "../workbench/EmptyMachine";
import { DriverDock } from "./DriverDock";
import { DriversView } from "./DriversView";
import { LoadDock } from "./LoadDock";
import { fillAcross, Matrix } from "./Matrix";
import { MissionView } from "./MissionView";
import { RailStrip } from "./RailStrip";
import { SchoolsView } from "./SchoolsView";

/** The chart library is only fetched by those who look at charts. */
const ChartView = dynamic(() => import("./ChartView").then((module) => module.ChartView), { ssr: false });

const VIEWS = [
  { id: "matrix", label: "By mode" },
  { id: "drivers", label: "Drivers" },
  { id: "charts", label: "Charts" },
  { id: "mission", label: "Mission" },
  { id: "schools", label: "Peak schools" },
] as const;
type View = (typeof VIEWS)[number]["id"];

/** What the machine draws, from what the builder knows: loads by mode, their drivers, and what the rails must give. */
export function LoadsScreen() {
  const ledger = useLedger();
  const selected = useWorkbench((state) => state.selected);
  const kind = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected)?.kind);
  const [view, setView] = useState<View>("matrix");
  useEffect(() => {
    // A verdict may jump to a driver or back to a load: their rows are on different views.
    if (kind === "driver") setView((now) => (now === "matrix" ? "drivers" : now));
    else if (kind === "load") setView((now) => (now === "drivers" ? "matrix" : now));
  }, [kind]);
  if (ledger.rows.length === 0) return <EmptyMachine />;
  return (
    <>
      <PaneBoundary what="The rails">
        <RailStrip />
      </PaneBoundary>
      <ViewTabs label="Views of the loads" views={VIEWS} view={view} onView={setView} tools={view === "matrix" && <MatrixTools />}>
        {view === "matrix" && <Matrix />}
        {view === "drivers" && <DriversView />}
        {view === "charts" && <ChartView />}
        {view === "mission" && <MissionView />}
        {view === "schools" && <SchoolsView />}
      </ViewTabs>
      {(view === "matrix" || view === "drivers") &&
        (kind === "load" ? <LoadDock key={selected} /> : kind === "driver" ? <DriverDock key={selected} /> : <Dock />)}
    </>
  );
}

/** What can be done to the matrix as a whole or to the chosen row. */
function MatrixTools() {
  const { openDialog } = useWorkbenchContext();
  const { act } = useDispatch();
  const selected = useWorkbench((state) => state.selected);
  const modes = useWorkbench((state) => state.machine.modes);
  const mode = useWorkbench((state) => state.mode);
  const load = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected));
  const name = mode === "worst" ? null : modes[mode]?.name;
  return (
    <p className="ml-auto flex min-w-0 items-baseline gap-4 text-xs">
      {load?.kind === "load" && mode !== "worst" && load.cells[modes[mode]?.id ?? ""] && (
        <button type="button" className="link truncate" onClick={() => fillAcross(act, load, modes, mode)}>
          Do in every mode what it does in {name}
        </button>
      )}
      <button type="button" className="link" onClick={() => openDialog({ kind: "modes" })}>
        Modes
      </button>
      <button type="button" className="link" onClick={() => openDialog({ kind: "more" })}>
        More from a list
      </button>
      <button type="button" className="link" onClick={() => openDialog({ kind: "add", under: selected })}>
        Add a part
      </button>
    </p>
  );
}
