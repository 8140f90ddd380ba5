import { z } from "zod";
import { changeSchema } from "@/core/machine/changes";
import type { Step, Workbench } from "./workbench";

/** Most text kept of what can be undone, in letters: a window may store five million for all machines. */
const MOST = 1_500_000;

const stepsSchema = z.array(z.strictObject({ label: z.string(), changes: z.array(changeSchema) }));
const keptSchema = z.strictObject({ undo: stepsSchema, redo: stepsSchema });

/** Where a window keeps texts until it is closed. */
export type TextStore = Pick<Storage, "getItem" | "setItem" | "removeItem">;

const keyOf = (machineId: string) => `node-ledger undo ${machineId}`;

/** The last steps that fit, the newest first to stay. */
function fitting(steps: readonly Step[], room: number): { steps: Step[]; used: number } {
  const kept: Step[] = [];
  let used = 0;
  for (const step of [...steps].reverse()) {
    const size = JSON.stringify(step).length;
    if (used + size > room) break;
    used += size;
    kept.unshift(step);
  }
  return { steps: kept, used };
}

function read(store: TextStore, id: string): z.infer<typeof keptSchema> | null {
  try {
    return keptSchema.safeParse(JSON.parse(store.getItem(keyOf(id)) ?? "null")).data ?? null;
  } catch {
    return null;
  }
}

/** Puts a step there that was made before its machine was opened. */
export function keepStep(store: TextStore, id: string, step: Step): void {
  try {
    store.setItem(keyOf(id), JSON.stringify({ undo: [step], redo: [] }));
  } catch {
    // A full store: the step stands in the history all the same.
  }
}

/**
 * Keeps what can be undone and redone over a reload of the window. A step whose figures were changed meanwhile says so when it
 * is undone, like any other. @returns stops keeping
 */
export function keepUndo(workbench: Workbench, store: TextStore): () => void {
  const { id } = workbench.getState();
  const kept = read(store, id);
  if (kept && workbench.getState().undoSteps.length === 0)
    workbench.setState({ undoSteps: kept.undo, redoSteps: kept.redo, restoredSteps: kept.undo });
  return workbench.subscribe((state, before) => {
    if (state.undoSteps === before.undoSteps && state.redoSteps === before.redoSteps) return;
    const undo = fitting(state.undoSteps, MOST);
    const redo = fitting(state.redoSteps, MOST - undo.used);
    try {
      if (undo.steps.length + redo.steps.length === 0) store.removeItem(keyOf(id));
      else store.setItem(keyOf(id), JSON.stringify({ undo: undo.steps, redo: redo.steps }));
    } catch {
      // A full store: undo still works until the window is loaded again.
      store.removeItem(keyOf(id));
    }
  });
}
