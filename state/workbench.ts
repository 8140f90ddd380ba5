import type { Patch } from "immer";
import { createStore, type StoreApi } from "zustand/vanilla";
import type { Analysis } from "@/core/analysis/types";
import type { ShownFigures } from "@/core/figures/types";
import { applyCommand, replay } from "@/core/machine/apply";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import type { Late } from "@/core/verdicts/late";
import type { Saved } from "./api";
import { type Findings, withAnalysis, withFigures, withLateOf } from "./findings";

/** One undoable step: patches both ways and what it did. */
interface Step {
  patches: Patch[];
  inverse: Patch[];
  label: string;
}

export type SaveState =
  | { kind: "saved" }
  | { kind: "saving" }
  | { kind: "offline"; detail: string }
  | { kind: "conflict"; revision: number; theirs: Machine };

/** Index into the machine's modes, or "worst". */
export type ModeChoice = number | "worst";

export interface WorkbenchState {
  id: string;
  machine: Machine;
  revision: number;
  save: SaveState;
  undoSteps: Step[];
  redoSteps: Step[];
  mode: ModeChoice;
  selected: string | null;
  findings: Findings;
  dispatch: (command: Command) => { ok: true } | { ok: false; message: string };
  undo: () => string | null;
  redo: () => string | null;
  setMode: (mode: ModeChoice) => void;
  select: (id: string | null) => void;
  /** New figures of the same rows, a moment before they are judged: the verdicts of the version before stand till then. */
  adoptFigures: (figures: ShownFigures) => void;
  /** Null when the analysis broke off. */
  adoptAnalysis: (analysis: Analysis | null, machine: Machine) => void;
  /** Null when it broke off; what belongs to an older machine is dropped. */
  adoptLate: (late: Late | null, machine: Machine) => void;
  /** After a conflict: whose version goes on. The other one stays one undo away. */
  resolve: (keep: "mine" | "theirs") => void;
  /** A newer revision was found while nothing was unsaved here. */
  adoptNewer: (revision: number, machine: Machine) => void;
  retry: () => void;
}

export type Workbench = StoreApi<WorkbenchState>;

interface Options {
  id: string;
  machine: Machine;
  revision: number;
  send: (id: string, base: number, machine: Machine, label: string) => Promise<Saved>;
  /** Wait before trying again when the server does not answer, ms. */
  retryMs?: number;
  /** Wait between an edit and its save, ms: the screen answers first, and quick edits go together. */
  settleMs?: number;
}

const UNDO_DEPTH = 500;

function wholeDocument(from: Machine, to: Machine, label: string): Step {
  return { patches: [{ op: "replace", path: [], value: to }], inverse: [{ op: "replace", path: [], value: from }], label };
}

/**
 * The open machine: edits go in as commands, come out as patches, and are saved at once, one request at a time. What was
 * typed while a save was under way goes with the next.
 */
export function createWorkbench({ id, machine, revision, send, retryMs = 2000, settleMs = 150 }: Options): Workbench {
  let stored = machine;
  let sending = false;
  let label = "";

  const store = createStore<WorkbenchState>()((set, get) => {
    const pump = async () => {
      if (sending || get().save.kind === "conflict" || get().machine === stored) return;
      sending = true;
      const sent = get().machine;
      if (get().save.kind !== "saving") set({ save: { kind: "saving" } });
      const result = await send(id, get().revision, sent, label);
      sending = false;
      if (result.ok) {
        stored = sent;
        set({ revision: result.revision, save: { kind: get().machine === sent ? "saved" : "saving" } });
        void pump();
      } else if (result.kind === "conflict") {
        set({ save: { kind: "conflict", revision: result.revision, theirs: result.document } });
      } else {
        set({ save: { kind: "offline", detail: result.detail } });
        if (result.kind === "offline") setTimeout(() => void pump(), retryMs);
      }
    };
    const put = (next: Machine, what: string, rest: Partial<WorkbenchState>) => {
      label = what;
      const { mode, save } = get();
      const kept = mode === "worst" || mode < next.modes.length ? mode : "worst";
      set({ machine: next, mode: kept, save: save.kind === "saved" ? { kind: "saving" } : save, ...rest });
      setTimeout(() => void pump(), settleMs);
    };
    const step = (from: "undoSteps" | "redoSteps", to: "undoSteps" | "redoSteps", which: "inverse" | "patches") => {
      const last = get()[from].at(-1);
      if (!last) return null;
      put(replay(get().machine, last[which]), `${from === "undoSteps" ? "Undo" : "Redo"}: ${last.label}`, {
        [from]: get()[from].slice(0, -1),
        [to]: [...get()[to], last],
      });
      return last.label;
    };
    const push = (done: Step) => [...get().undoSteps, done].slice(-UNDO_DEPTH);

    return {
      id,
      machine,
      revision,
      save: { kind: "saved" },
      undoSteps: [],
      redoSteps: [],
      mode: machine.modes.length > 1 ? 1 : 0,
      selected: null,
      findings: { kind: "none" },
      dispatch: (command) => {
        const result = applyCommand(get().machine, command);
        if (!result.ok) return { ok: false, message: result.message };
        if (result.patches.length === 0) return { ok: true };
        put(result.machine, result.label, {
          undoSteps: push({ patches: result.patches, inverse: result.inverse, label: result.label }),
          redoSteps: [],
        });
        return { ok: true };
      },
      undo: () => step("undoSteps", "redoSteps", "inverse"),
      redo: () => step("redoSteps", "undoSteps", "patches"),
      setMode: (mode) => set({ mode }),
      select: (selected) => set({ selected }),
      adoptFigures: (figures) => set({ findings: withFigures(get().findings, figures) }),
      adoptAnalysis: (analysis, of) => set({ findings: withAnalysis(get().findings, analysis, of) }),
      adoptLate: (late, of) => set({ findings: withLateOf(get().findings, late, of) }),
      resolve: (keep) => {
        const { save, machine: mine } = get();
        if (save.kind !== "conflict") return;
        if (keep === "mine") {
          set({
            revision: save.revision,
            save: { kind: "saving" },
            undoSteps: push(wholeDocument(save.theirs, mine, "Keep my version")),
            redoSteps: [],
          });
          stored = save.theirs;
          void pump();
        } else {
          stored = save.theirs;
          set({
            machine: save.theirs,
            revision: save.revision,
            save: { kind: "saved" },
            undoSteps: push(wholeDocument(mine, save.theirs, "Take the other version")),
            redoSteps: [],
          });
        }
      },
      adoptNewer: (newer, theirs) => {
        const { save, machine: mine, revision: now } = get();
        if (save.kind !== "saved" || mine !== stored || newer <= now) return;
        stored = theirs;
        set({ machine: theirs, revision: newer, undoSteps: push(wholeDocument(mine, theirs, "Edits from another window")), redoSteps: [] });
      },
      retry: () => void pump(),
    };
  });
  return store;
}
