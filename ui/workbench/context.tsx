"use client";
import { createContext, useContext, useMemo } from "react";
import { toast } from "sonner";
import { useStore } from "zustand";
import type { Ask } from "@/core/engine/engine";
import type { Command } from "@/core/machine/commands";
import { type Ledger, type LedgerRow, ledgerOf } from "@/core/machine/tree";
import type { FigureRef } from "@/core/working/types";
import type { BringUpState, BringUpStore, BringUpThread } from "@/state/bring-up";
import type { DraftingThread } from "@/state/drafting";
import type { LogState, LogStore } from "@/state/log";
import type { createSearching, SettlingThread } from "@/state/settling";
import type { Sources } from "@/state/sources";
import type { ModeChoice, Workbench, WorkbenchState } from "@/state/workbench";

/** Dialogs the frame owns; screens only ask for them. */
export type DialogRequest =
  | { kind: "add"; under: string | null }
  | { kind: "remove"; part: string }
  | { kind: "more"; text?: string }
  | { kind: "several" }
  | { kind: "modes" }
  | { kind: "settings" }
  | { kind: "history" }
  | { kind: "keys" }
  | { kind: "accept"; verdicts: readonly string[] }
  | { kind: "menu" }
  | null;

/** A figure whose working was asked for, and the element it is shown beside. */
export interface WorkingRequest {
  of: FigureRef;
  label: string;
  anchor: HTMLElement;
}

export interface WorkbenchContextValue {
  store: Workbench;
  /** Asks about the newest figures; null before the first are made. */
  ask: () => Ask | null;
  sources: Sources;
  /** Reads lists, drafts, weighs what is assumed. */
  drafting: DraftingThread;
  /** Tries what is offered, and searches for what settles a plan, each in a worker of its own. */
  trying: SettlingThread;
  settling: SettlingThread;
  /** Whether that search is under way. */
  searching: ReturnType<typeof createSearching>;
  /** What was read at the machine, and what comes of it. */
  log: LogStore;
  bringUp: BringUpStore;
  bringUpThread: BringUpThread;
  /** A revision that is only looked at. */
  lookedAt: boolean;
  openDialog: (request: DialogRequest) => void;
  showWorking: (request: WorkingRequest) => void;
}

export const WorkbenchContext = createContext<WorkbenchContextValue | null>(null);

export function useWorkbenchContext(): WorkbenchContextValue {
  const value = useContext(WorkbenchContext);
  if (!value) throw new Error("outside a workbench");
  return value;
}

export function useWorkbench<T>(selector: (state: WorkbenchState) => T): T {
  return useStore(useWorkbenchContext().store, selector);
}

export function useLog<T>(selector: (state: LogState) => T): T {
  return useStore(useWorkbenchContext().log, selector);
}

export function useBringUp<T>(selector: (state: BringUpState) => T): T {
  return useStore(useWorkbenchContext().bringUp, selector);
}

export type Dispatch = (command: Command) => { ok: true } | { ok: false; message: string };

/** Dispatches a command; a refusal that has no field to stand beside is told as a notice. */
export function useDispatch(): { dispatch: Dispatch; act: (command: Command) => boolean } {
  const { store } = useWorkbenchContext();
  return useMemo(() => {
    const dispatch: Dispatch = (command) => store.getState().dispatch(command);
    const act = (command: Command) => {
      const result = dispatch(command);
      if (!result.ok && !store.getState().rehearsing()) toast.error(result.message);
      return result.ok;
    };
    return { dispatch, act };
  }, [store]);
}

/** The ledger of the open machine. */
export function useLedger(): Ledger {
  return ledgerOf(useWorkbench((state) => state.machine));
}

/** Memo comparison of a table row: its ledger row by what it shows, everything else by identity. */
export function sameRowProps<P extends { row: LedgerRow }>(a: P, b: P): boolean {
  return sameRow(a.row, b.row) && (Object.keys(a) as (keyof P)[]).every((key) => key === "row" || a[key] === b[key]);
}

/** Whether two ledger rows show the same: a new document makes new rows, but most of them say what they said before. */
function sameRow(a: LedgerRow, b: LedgerRow): boolean {
  return (
    a.part === b.part &&
    a.feed === b.feed &&
    a.back === b.back &&
    a.depth === b.depth &&
    a.rail?.tag === b.rail?.tag &&
    a.rail?.order === b.rail?.order
  );
}

/** Value of a per-mode figure for the chosen mode; for Worst the largest magnitude and the mode it is from. */
export function pickFigure(values: ArrayLike<number> | undefined, mode: ModeChoice): { value: number; mode: number } | null {
  if (!values || values.length === 0) return null;
  if (mode !== "worst") return mode < values.length ? { value: values[mode] as number, mode } : null;
  let best = 0;
  for (let m = 1; m < values.length; m++) if (Math.abs(values[m] as number) > Math.abs(values[best] as number)) best = m;
  return { value: values[best] as number, mode: best };
}

/** The same for voltages, where the worst is the lowest of the modes in which the part is live. */
export function pickLowest(
  values: ArrayLike<number> | undefined,
  live: ArrayLike<number> | undefined,
  mode: ModeChoice,
): { value: number; mode: number } | null {
  if (!values || !live) return null;
  if (mode !== "worst") return live[mode] ? { value: values[mode] as number, mode } : null;
  let best: { value: number; mode: number } | null = null;
  for (let m = 0; m < values.length; m++) {
    const value = values[m] as number;
    if (live[m] && (!best || value < best.value)) best = { value, mode: m };
  }
  return best;
}
