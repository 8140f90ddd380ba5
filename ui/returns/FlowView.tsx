"use client";
import { useMemo } from "react";
import { flowOf } from "@/core/returns/flow";
import { analysisOf } from "@/state/findings";
import { BrokeOff } from "../kit/BrokeOff";
import { useWorkbench } from "../workbench/context";
import { FlowPicture } from "./FlowPicture";
import { LinkBars } from "./LinkBars";
import { useDrawnMode, useReturns } from "./useReturns";

/** The mirrored picture, and under it every link with the ground beneath it. */
export function FlowView() {
  const { found, failed, start } = useReturns();
  const figures = useWorkbench(analysisOf);
  const drawn = useDrawnMode();
  const flow = useMemo(
    () => (found && figures ? flowOf(found.machine, figures, found.returns, Math.min(drawn, found.machine.modes.length - 1)) : null),
    [found, figures, drawn],
  );
  return (
    <>
      <div className="min-h-0 flex-1">
        {failed ? (
          <div className="px-3">
            <BrokeOff what="The flow" again={start} />
          </div>
        ) : (
          found && flow && <FlowPicture machine={found.machine} flow={flow} />
        )}
      </div>
      <div data-dock className="pane h-[27%] min-h-[120px] shrink-0 overflow-auto border-t-2 border-ink bg-sheet px-3.5 py-2" tabIndex={-1}>
        <LinkBars />
      </div>
    </>
  );
}
