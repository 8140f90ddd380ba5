import { type Choices, changesBetween, type Edit, merge } from "@/core/machine/changes";
import { renamedApart } from "@/core/machine/rename";
import type { Machine } from "@/core/machine/schema";
import type { SavedEdits, Since } from "./api";
import type { Keeper } from "./journal";
import { freshKey } from "./keys";
import { batchOf, type SaveState } from "./saving";
import type { Step, WorkbenchState } from "./workbench";

/** A save that broke off on this side. */
const LOST: SavedEdits = { ok: false, kind: "offline", detail: "The save broke off.", problems: [] };

interface Options {
  id: string;
  /** The version of the ledger at first. */
  machine: Machine;
  send: (id: string, base: number, edits: readonly Edit[]) => Promise<SavedEdits>;
  keeper: Keeper;
  waitMs: (failures: number) => number;
  /** What of the state changes with the version on the screen. */
  shown: (next: Machine) => Partial<WorkbenchState>;
  get: () => WorkbenchState;
  set: (changed: Partial<WorkbenchState>) => void;
}

/** Brings the edits of an open machine into the ledger and the ledger's newer versions under them, one request at a time. */
export interface Saver {
  /** Saves what is not saved, now. */
  pump: () => Promise<void>;
  /** Saves it in a while. */
  after: (ms: number) => void;
  /** The version of the ledger that the edits of `pending` stand on. */
  stored: () => Machine;
  /** That version is another one, and no edits stand on it. */
  standOnly: (theirs: Machine) => void;
  /** The edits that are not saved yet go onto another version of the ledger. False: somebody has to be asked. */
  standOn: (theirs: Machine, newer: number, choices?: Choices) => boolean;
}

/** Saves for one open machine. */
export function createSaver({ id, machine, send, keeper, waitMs, shown, get, set }: Options): Saver {
  let stored = machine;
  let sending = false;
  let failures = 0;
  let timer: ReturnType<typeof setTimeout> | null = null;

  const after = (ms: number) => {
    if (timer !== null) clearTimeout(timer);
    timer = setTimeout(() => void pump(), ms);
  };

  const standOn = (theirs: Machine, newer: number, choices?: Choices): boolean => {
    let edits = get().pending;
    let met = merge(theirs, edits, choices);
    const rename = renamedApart(theirs, edits, met.clashes);
    if (rename) {
      const renamed = (step: Step): Step => ({ ...step, changes: rename(step.changes) });
      edits = edits.map((edit) => ({ ...edit, changes: rename(edit.changes) }));
      keeper.change(edits);
      set({ pending: edits, undoSteps: get().undoSteps.map(renamed), redoSteps: get().redoSteps.map(renamed) });
      met = merge(theirs, edits, choices);
    }
    if (met.clashes.length + (choices ? 0 : met.misfits.length) > 0) {
      const since = get().save.kind === "asking" ? (get().save as { since: readonly Since[] }).since : [];
      set({ save: { kind: "asking", revision: newer, theirs, clashes: met.clashes, misfits: met.misfits, since } });
      return false;
    }
    if (choices) {
      // What was decided is one edit, made on the version it was decided over.
      const changes = changesBetween(theirs, met.machine);
      keeper.drop(edits.map((edit) => edit.id));
      const edit = { id: freshKey(), at: new Date().toISOString(), label: edits.at(-1)?.label ?? "", changes };
      if (changes.length > 0) keeper.put({ ...edit, machine: id, base: newer, turn: "do" });
      edits = changes.length > 0 ? [edit] : [];
    }
    stored = theirs;
    set({ ...shown(met.machine), pending: edits, revision: newer });
    return true;
  };

  const pump = async () => {
    if (timer !== null) clearTimeout(timer);
    timer = null;
    const edits = batchOf(get().pending);
    const { kind } = get().save;
    if (sending || kind === "asking" || kind === "missing") return;
    if (edits.length === 0) return set({ save: { kind: "saved" } });
    sending = true;
    const base = get().revision;
    const whole = edits.length === get().pending.length;
    const sent = get().machine;
    if (kind === "saved" || kind === "refused") set({ save: { kind: "saving" } });
    // Whatever goes wrong on the way, the next try must come.
    const result = await send(id, base, edits).catch(() => LOST);
    sending = false;
    if (result.ok) {
      failures = 0;
      keeper.saved(edits.map((edit) => edit.id));
      const rest = get().pending.slice(edits.length);
      stored = whole ? sent : merge(stored, edits).machine;
      set({ pending: rest, revision: result.revision, save: { kind: rest.length > 0 ? "saving" : "saved" } });
      if (result.joined) {
        standOn(result.joined.document, result.revision);
        if (result.joined.since.length > 0) set({ notice: { kind: "joined", since: result.joined.since } });
      }
      if (rest.length > 0) void pump();
    } else if (result.kind === "conflict") {
      failures = 0;
      const known = new Set(result.known);
      keeper.saved([...known]);
      set({ pending: get().pending.filter((edit) => !known.has(edit.id)) });
      if (standOn(result.document, result.revision)) {
        set({ save: { kind: "saving" }, notice: { kind: "joined", since: result.since } });
        void pump();
      } else set({ save: { ...(get().save as SaveState & { kind: "asking" }), since: result.since } });
    } else if (result.kind === "offline") {
      failures++;
      const ms = waitMs(failures);
      set({ save: { kind: "waiting", detail: result.detail, again: Date.now() + ms } });
      after(ms);
    } else set({ save: result.kind === "missing" ? { kind: "missing" } : { kind: "refused", detail: result.detail } });
  };

  return {
    pump,
    after,
    standOn,
    stored: () => stored,
    standOnly: (theirs) => {
      stored = theirs;
    },
  };
}
