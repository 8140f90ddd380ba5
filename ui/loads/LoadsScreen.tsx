"use client";
import dynamic from "next/dynamic";
import { Tabs } from "radix-ui";
import { useEffect, useState } from "react";
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
      <RailStrip />
      <Tabs.Root value={view} onValueChange={(next) => setView(next as View)} className="flex min-h-0 flex-1 flex-col">
        <div className="no-print flex shrink-0 items-baseline gap-4 border-b border-hair px-2 text-sm">
          <Tabs.List aria-label="Views of the loads" className="flex shrink-0">
            {VIEWS.map(({ id, label }) => (
              <Tabs.Trigger
                key={id}
                value={id}
                className="px-2.5 py-1 text-soft hover:text-ink data-[state=active]:border-b-2 data-[state=active]:border-accent data-[state=active]:font-bold data-[state=active]:text-ink"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          {view === "matrix" && <MatrixTools />}
        </div>
        <Tabs.Content value={view} tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
          {view === "matrix" && <Matrix />}
          {view === "drivers" && <DriversView />}
          {view === "charts" && <ChartView />}
          {view === "mission" && <MissionView />}
          {view === "schools" && <SchoolsView />}
        </Tabs.Content>
      </Tabs.Root>
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
      <button type="button" className="link" onClick={() => openDialog({ kind: "add", under: selected })}>
        Add a part
      </button>
    </p>
  );
}
