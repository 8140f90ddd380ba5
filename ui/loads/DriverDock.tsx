"use client";
import { useState } from "react";
import { PaneBoundary } from "../kit/PaneBoundary";
import { PartPane } from "../parts/PartPane";
import { useWorkbench } from "../workbench/context";
import { CandidatesDialog } from "./CandidatesDialog";
import { ChannelsPane } from "./ChannelsPane";
import { LogicPane } from "./LogicPane";

/** Under the drivers: what each channel does now, how the logic side is fed, and the driver's own figures. */
export function DriverDock() {
  const driver = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected));
  const [choosing, setChoosing] = useState<string | null>(null);
  if (driver?.kind !== "driver") return null;
  return (
    <div
      data-dock
      className="no-print pane grid h-[266px] shrink-0 grid-cols-[minmax(0,1fr)_minmax(0,1.05fr)_minmax(0,1.1fr)] border-t-2 border-ink bg-sheet"
    >
      <PaneBoundary what="Its channels" on={driver.id}>
        <ChannelsPane driver={driver} onChoose={setChoosing} />
      </PaneBoundary>
      <PaneBoundary what="Its logic side" on={driver.id}>
        <LogicPane driver={driver} />
      </PaneBoundary>
      <PaneBoundary what="The figures" on={driver.id}>
        <PartPane part={driver} />
      </PaneBoundary>
      {choosing !== null && <CandidatesDialog driver={driver} loadId={choosing} onClose={() => setChoosing(null)} />}
    </div>
  );
}
