"use client";
import { usePathname } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Ask } from "@/core/engine/engine";
import type { Machine } from "@/core/machine/schema";
import { afterPaint, atOnce, startAnalyst } from "@/state/analyst";
import { logLine, saveEdits } from "@/state/api";
import { BringUpThread, keepBringUp } from "@/state/bring-up";
import { DraftingThread } from "@/state/drafting";
import { analysedOf, ranThroughOf } from "@/state/findings";
import type { Keeper } from "@/state/journal";
import { createLog, plainStorage } from "@/state/log";
import { createSearching, SettlingThread } from "@/state/settling";
import { keepLate, lateWorker, Sources } from "@/state/sources";
import { keepUndo } from "@/state/undo-store";
import { ownWindow } from "@/state/windows";
import { createWorkbench } from "@/state/workbench";
import { WorkingPopover } from "../figure/WorkingPopover";
import { PaneBoundary } from "../kit/PaneBoundary";
import { OpenFieldsContext } from "../kit/useOpenField";
import { LeftBehind } from "../machines/LeftBehind";
import { LookRound } from "../start/LookRound";
import { VerdictColumn } from "../verdicts/VerdictColumn";
import { ConflictDialog } from "./ConflictDialog";
import { type DialogRequest, WorkbenchContext, type WorkingRequest } from "./context";
import { FrameDialogs } from "./FrameDialogs";
import { GoneDialog } from "./GoneDialog";
import { LookedAt, useRestore } from "./LookedAt";
import { ModeStrip } from "./ModeStrip";
import { PaneBar } from "./PaneBar";
import { StepScreen } from "./StepScreen";
import { TopBar } from "./TopBar";
import { useSaving } from "./useSaving";
import { useShortcuts } from "./useShortcuts";

interface Props {
  id: string;
  revision: number;
  machine: Machine;
  /** When it was so, as ISO text, for a revision that is only looked at; null for the machine itself. */
  lookedAt: string | null;
}

/** The journal of this window, which there is in the browser only. */
const keeper: Keeper = {
  put: (entry) => ownWindow().journal.put(entry),
  saved: (ids) => ownWindow().journal.saved(ids),
  drop: (ids) => ownWindow().journal.drop(ids),
  change: (edits) => ownWindow().journal.change(edits),
};

/** The open machine: steps above, modes under them, the screen, and verdicts at the right of every step. */
export function WorkbenchFrame({ id, revision, machine, lookedAt }: Props) {
  const [store] = useState(() =>
    createWorkbench({
      id,
      machine,
      revision,
      keeper,
      send: (of, base, edits) => saveEdits(of, base, edits, ownWindow().name),
      ...(lookedAt === null ? {} : { lookedAt: `This is revision ${revision}, to be looked at only. Restore it to go on from here.` }),
    }),
  );
  const [sources] = useState(() => new Sources());
  const [drafting] = useState(() => new DraftingThread());
  const [settling] = useState(() => ({ trying: new SettlingThread(), settling: new SettlingThread(), searching: createSearching() }));
  const [bringing] = useState(() => {
    const thread = new BringUpThread();
    const log = createLog(id, logLine({ fetch: `/api/machines/${id}/readings`, send: `/api/machines/${id}/readings` }), plainStorage());
    return { thread, log, ...keepBringUp(store, log, thread) };
  });
  const [request, setRequest] = useState<DialogRequest>(null);
  const [figure, setFigure] = useState<WorkingRequest | null>(null);
  const ask = useRef<Ask | null>(null);

  useEffect(() => {
    // First, so that an edit takes the core from late work before it is analysed.
    const stopLate = keepLate(store, lateWorker());
    const stopUndo = lookedAt === null ? keepUndo(store, window.sessionStorage) : () => undefined;
    const running = startAnalyst(store, afterPaint);
    ask.current = running.ask;
    void bringing.log.getState().refresh();
    return () => {
      ask.current = null;
      running.stop();
      stopLate();
      stopUndo();
      sources.stop();
      drafting.stop();
      settling.trying.stop();
      settling.settling.stop();
      bringing.thread.stop();
    };
  }, [store, sources, drafting, settling, bringing, lookedAt]);

  const fields = useSaving(id, store, lookedAt !== null);

  const step = usePathname();
  useRestore(store);
  useShortcuts(store, setRequest);
  const value = useMemo(
    () => ({
      store,
      ask: () => ask.current,
      sources,
      drafting,
      ...settling,
      log: bringing.log,
      bringUp: bringing.store,
      bringUpThread: bringing.thread,
      lookedAt: lookedAt !== null,
      openDialog: setRequest,
      showWorking: (next: WorkingRequest) => setFigure((open) => (open?.anchor === next.anchor ? null : next)),
    }),
    [store, sources, drafting, settling, bringing, lookedAt],
  );
  // Until shorts and runs have been worked through nobody can say that a row is clear: the quiet marks wait.
  // What is analysed with the edit is judged a frame later; what a worker analyses may look clear no longer.
  const waiting = useStore(store, (state) => ranThroughOf(state) !== (atOnce(state.machine) ? analysedOf(state) : state.machine));
  const pane = useStore(store, (state) => state.pane);
  return (
    <WorkbenchContext value={value}>
      <OpenFieldsContext value={fields}>
        <div
          data-waiting={waiting || undefined}
          data-pane={pane}
          className="print-flow flex h-dvh min-h-[600px] flex-col max-desk:min-h-[420px]"
        >
          <TopBar />
          {lookedAt !== null && <LookedAt id={id} revision={revision} at={lookedAt} />}
          <PaneBoundary what="The modes">
            <ModeStrip />
          </PaneBoundary>
          <div className="print-flow flex min-h-0 flex-1">
            <main className="print-flow flex min-w-0 flex-1 flex-col">
              <PaneBoundary what="This step" on={step}>
                <StepScreen />
              </PaneBoundary>
            </main>
            <PaneBoundary what="The verdicts">
              <VerdictColumn />
            </PaneBoundary>
          </div>
          <PaneBar />
        </div>
        <PaneBoundary what="The dialog" on={request}>
          <FrameDialogs request={request} onClose={() => setRequest(null)} />
        </PaneBoundary>
        <LookRound />
        <WorkingPopover request={figure} onClose={() => setFigure(null)} />
        <ConflictDialog />
        <GoneDialog />
        <LeftBehind except={id} />
      </OpenFieldsContext>
    </WorkbenchContext>
  );
}
