"use client";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { useStore } from "zustand";
import type { Ask } from "@/core/engine/engine";
import type { Machine } from "@/core/machine/schema";
import { afterPaint, atOnce, startAnalyst } from "@/state/analyst";
import { fetchMachine, saveMachine } from "@/state/api";
import { analysedOf, ranThroughOf } from "@/state/findings";
import { keepLate, lateWorker, Sources } from "@/state/sources";
import { createWorkbench } from "@/state/workbench";
import { WorkingPopover } from "../figure/WorkingPopover";
import { PaneBoundary } from "../kit/PaneBoundary";
import { ConflictDialog } from "./ConflictDialog";
import { type DialogRequest, WorkbenchContext, type WorkingRequest } from "./context";
import { FrameDialogs } from "./FrameDialogs";
import { ModeStrip } from "./ModeStrip";
import { TopBar } from "./TopBar";
import { useShortcuts } from "./useShortcuts";
import { VerdictColumn } from "./VerdictColumn";

interface Props {
  id: string;
  revision: number;
  machine: Machine;
  children: ReactNode;
}

/** The open machine: steps above, modes under them, the screen, and verdicts at the right of every step. */
export function WorkbenchFrame({ id, revision, machine, children }: Props) {
  const [store] = useState(() => createWorkbench({ id, machine, revision, send: saveMachine }));
  const [sources] = useState(() => new Sources());
  const [request, setRequest] = useState<DialogRequest>(null);
  const [figure, setFigure] = useState<WorkingRequest | null>(null);
  const ask = useRef<Ask | null>(null);

  useEffect(() => {
    // First, so that an edit takes the core from late work before it is analysed.
    const stopLate = keepLate(store, lateWorker());
    const running = startAnalyst(store, afterPaint);
    ask.current = running.ask;
    return () => {
      ask.current = null;
      running.stop();
      stopLate();
      sources.stop();
    };
  }, [store, sources]);

  useEffect(() => {
    const refresh = async () => {
      if (document.visibilityState !== "visible" || store.getState().save.kind !== "saved") return;
      const found = await fetchMachine(id);
      if (found) store.getState().adoptNewer(found.revision, found.document);
    };
    const leaving = (event: BeforeUnloadEvent) => {
      if (store.getState().save.kind !== "saved") event.preventDefault();
    };
    void refresh();
    document.addEventListener("visibilitychange", refresh);
    window.addEventListener("beforeunload", leaving);
    return () => {
      document.removeEventListener("visibilitychange", refresh);
      window.removeEventListener("beforeunload", leaving);
    };
  }, [id, store]);

  useEffect(
    () =>
      store.subscribe((state, previous) => {
        if (state.save.kind === "offline" && previous.save.kind !== "offline") toast.error(state.save.detail, { duration: 8000 });
      }),
    [store],
  );

  useShortcuts(store, setRequest);
  const value = useMemo(
    () => ({
      store,
      ask: () => ask.current,
      sources,
      openDialog: setRequest,
      showWorking: (next: WorkingRequest) => setFigure((open) => (open?.anchor === next.anchor ? null : next)),
    }),
    [store, sources],
  );
  // Until shorts and runs have been worked through nobody can say that a row is clear: the quiet marks wait.
  // What is analysed with the edit is judged a frame later; what a worker analyses may look clear no longer.
  const waiting = useStore(store, (state) => ranThroughOf(state) !== (atOnce(state.machine) ? analysedOf(state) : state.machine));
  return (
    <WorkbenchContext value={value}>
      <div data-waiting={waiting || undefined} className="print-flow flex h-screen min-h-[600px] flex-col">
        <TopBar />
        <PaneBoundary what="The modes">
          <ModeStrip />
        </PaneBoundary>
        <div className="print-flow flex min-h-0 flex-1">
          <main className="print-flow flex min-w-0 flex-1 flex-col">
            <PaneBoundary what="This step" on={children}>
              {children}
            </PaneBoundary>
          </main>
          <PaneBoundary what="The verdicts">
            <VerdictColumn />
          </PaneBoundary>
        </div>
      </div>
      <PaneBoundary what="The dialog" on={request}>
        <FrameDialogs request={request} onClose={() => setRequest(null)} />
      </PaneBoundary>
      <WorkingPopover request={figure} onClose={() => setFigure(null)} />
      <ConflictDialog />
    </WorkbenchContext>
  );
}
