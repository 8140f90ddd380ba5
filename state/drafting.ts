import { changesBetween } from "@/core/machine/changes";
import { newMachine } from "@/core/machine/defaults";
import type { Machine } from "@/core/machine/schema";
import type { DraftingService } from "@/workers/drafting.worker";
import { type Created, createBlank, deleteMachine, fetchMachine, saveEdits } from "./api";
import { Thread } from "./thread";
import { keepStep } from "./undo-store";
import { ownWindow } from "./windows";

/** Reads lists and drafts plans off the screen's thread; the worker starts with the first question. */
export class DraftingThread extends Thread<DraftingService> {
  constructor() {
    super(() => new Worker(new URL("../workers/drafting.worker.ts", import.meta.url), { type: "module" }));
  }
}

/** What the step is called that makes a list into a plan. */
const LABEL = "Draft from a list";

/** Saves a draft as a machine: an empty one, and the plan as one step in it that can be taken back. */
export async function saveDraft(drafted: Machine): Promise<Created> {
  const created = await createBlank(drafted.name);
  if (!created.ok) return created;
  const stored = await fetchMachine(created.id);
  const [revision, empty] = stored === null || stored === "same" ? [1, newMachine(drafted.name)] : [stored.revision, stored.document];
  const changes = changesBetween(empty, drafted);
  const edit = { id: crypto.randomUUID(), at: new Date().toISOString(), label: LABEL, changes };
  const saved = await saveEdits(created.id, revision, [edit], ownWindow().name);
  if (!saved.ok) {
    // An empty machine nobody asked for is not left on the list; the lines are still in their field.
    await deleteMachine(created.id);
    return saved.kind === "conflict" ? { ok: false, kind: "refused", detail: "Another window changed it meanwhile.", problems: [] } : saved;
  }
  keepStep(window.sessionStorage, created.id, { label: LABEL, changes });
  return created;
}
