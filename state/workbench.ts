import { createStore, type StoreApi } from "zustand/vanilla";
import type { Analysis } from "@/core/analysis/types";
import type { Unasked } from "@/core/analysis/unasked";
import type { ShownFigures } from "@/core/figures/types";
import { applyCommand } from "@/core/machine/apply";
import { changeWords } from "@/core/machine/change-words";
import { type Change, type Choices, changesBetween, type Edit, inverted, merge, withChanges } from "@/core/machine/changes";
import type { Command } from "@/core/machine/commands";
import { checkEdited } from "@/core/machine/edited";
import type { Machine } from "@/core/machine/schema";
import type { Late } from "@/core/verdicts/late";
import type { Verdict } from "@/core/verdicts/types";
import type { SavedEdits, Since } from "./api";
import { type Findings, withAnalysis, withFigures, withLateOf, withLogged, withUnasked } from "./findings";
import { type Draft, type Entry, type Keeper, type Turn, unsavedOf } from "./journal";
import { freshKey } from "./keys";
import { createSaver } from "./saver";
import { type SaveState, waitAfter } from "./saving";

/** One undoable step: what it did, and what that is called. */
export interface Step {
  readonly label: string;
  readonly changes: readonly Change[];
}

/** Index into the machine's modes, or "worst". */
export type ModeChoice = number | "worst";

/** What undoing or redoing came to: `blocked` says why nothing was changed. */
export type Stepped = { label: string; blocked?: string } | null;

/** Something the builder should be told once. */
export type Notice =
  | { kind: "left"; edits: number; at: string }
  | { kind: "unfit"; field: string; text: string }
  | { kind: "joined"; since: readonly Since[] };

/** What a narrow screen shows one of at a time. */
export const PANES = ["table", "account", "verdicts"] as const;
/** One of them. */
export type Pane = (typeof PANES)[number];

export interface WorkbenchState {
  id: string;
  machine: Machine;
  revision: number;
  save: SaveState;
  /** Edits that are not in the ledger yet. */
  pending: readonly Edit[];
  undoSteps: readonly Step[];
  /** What this window could undo before it was last loaded. */
  restoredSteps: readonly Step[];
  redoSteps: readonly Step[];
  notice: Notice | null;
  mode: ModeChoice;
  selected: string | null;
  pane: Pane;
  findings: Findings;
  /** What comes late cannot be worked out for now: its worker could not be loaded. */
  lateHeld: boolean;
  dispatch: (command: Command) => { ok: true } | { ok: false; message: string };
  /** What a commit would do, without doing it; null where it would be refused or do nothing. */
  rehearse: (commit: () => { ok: boolean }) => Edit | null;
  /** A rehearsal is under way: nothing may be told of it. */
  rehearsing: () => boolean;
  /** Puts another version in the place of this one, as one edit. */
  replaceWith: (machine: Machine, label: string) => { ok: true } | { ok: false; message: string };
  undo: () => Stepped;
  redo: () => Stepped;
  setMode: (mode: ModeChoice) => void;
  select: (id: string | null) => void;
  showPane: (pane: Pane) => void;
  /** New figures of the same rows, a moment before they are judged: the verdicts of the version before stand till then. */
  adoptFigures: (figures: ShownFigures) => void;
  /** Null when the analysis broke off. */
  adoptAnalysis: (analysis: Analysis | null, machine: Machine) => void;
  holdLate: (held: boolean) => void;
  /** Forgets an analysis that broke off, so that it is tried again. */
  analyseAgain: () => void;
  /** Null when it broke off; what belongs to an older machine is dropped. */
  adoptLate: (late: Late | null, machine: Machine) => void;
  adoptUnasked: (unasked: Unasked | null, machine: Machine) => void;
  /** What the rules say of what was read; what belongs to an older machine is dropped. */
  adoptLogged: (verdicts: readonly Verdict[], machine: Machine) => void;
  /** Edits and texts that windows left behind which are no more: they go in before those of this window. */
  takeLeft: (entries: readonly Entry[], drafts: readonly Draft[]) => void;
  /** Where the same figure was changed on both sides: whose value stands, by `keyOf`. Edits that do not fit are left out. */
  settle: (choices: Choices) => void;
  /** Gives up the edits that are not saved: they are in another machine now. */
  giveUp: () => void;
  /** Gives up the edits that are not saved, for the version of the ledger. */
  takeTheirs: () => void;
  /** Another revision was found in the ledger, which is newer than what was here when it was asked for. */
  adoptNewer: (revision: number, machine: Machine, askedAt: number) => void;
  retry: () => void;
}

export type Workbench = StoreApi<WorkbenchState>;

/** Keeps nothing. */
const NO_KEEPER: Keeper = { put: () => undefined, saved: () => undefined, drop: () => undefined, change: () => undefined };

interface Options {
  id: string;
  machine: Machine;
  revision: number;
  send: (id: string, base: number, edits: readonly Edit[]) => Promise<SavedEdits>;
  keeper?: Keeper;
  /** Only looked at: every edit is refused with these words. */
  lookedAt?: string;
  /** Wait before trying again after so many failures, ms. */
  waitMs?: (failures: number) => number;
  /** Wait between an edit and its save, ms: the screen answers first, and quick edits go together. */
  settleMs?: number;
}

const UNDO_DEPTH = 500;

/**
 * The open machine: edits go in as commands, come out as changes of figures, are kept in the same turn and saved soon after,
 * one request at a time. What was typed while a save was under way goes with the next.
 */
export function createWorkbench({
  id,
  machine,
  revision,
  send,
  keeper = NO_KEEPER,
  lookedAt,
  waitMs = waitAfter,
  settleMs = 150,
}: Options): Workbench {
  let rehearsal: { machine: Machine; label: string } | null = null;

  return createStore<WorkbenchState>()((set, get) => {
    const shown = (next: Machine): Partial<WorkbenchState> => {
      const { mode } = get();
      return { machine: next, mode: mode === "worst" || mode < next.modes.length ? mode : "worst" };
    };

    const saver = createSaver({ id, machine, send, keeper, waitMs, shown, get, set });

    /** Puts a version on the screen and, in the same turn, the edit that leads to it into the journal. */
    const put = (next: Machine, changes: readonly Change[], label: string, turn: Turn, rest: Partial<WorkbenchState>) => {
      const edit: Edit = { id: freshKey(), at: new Date().toISOString(), label, changes };
      const { save, pending } = get();
      keeper.put({ ...edit, machine: id, base: get().revision, turn });
      set({
        ...shown(next),
        pending: [...pending, edit],
        save: save.kind === "saved" || save.kind === "refused" ? { kind: "saving" } : save,
        ...rest,
      });
      if (get().save.kind !== "waiting") saver.after(settleMs);
    };
    const step = (from: "undoSteps" | "redoSteps", to: "undoSteps" | "redoSteps"): Stepped => {
      const last = get()[from].at(-1);
      if (!last || lookedAt !== undefined) return null;
      const undoing = from === "undoSteps";
      const rest = get()[from].slice(0, -1);
      const changes = undoing ? inverted(last.changes) : last.changes;
      const before = get().machine;
      const { machine: next, clashes } = withChanges(before, changes);
      const [clash] = clashes;
      const misfit = next === before ? null : checkEdited(before, next);
      if (clash || misfit) {
        set({ [from]: rest });
        const why = clash ? `${changeWords(before, clash.change).what} was changed since, in another window` : (misfit ?? "");
        return { label: last.label, blocked: why };
      }
      put(next, changes, `${undoing ? "Undo" : "Redo"}: ${last.label}`, undoing ? "undo" : "redo", {
        [from]: rest,
        [to]: [...get()[to], last],
      });
      return { label: last.label };
    };
    const push = (done: Step) => [...get().undoSteps, done].slice(-UNDO_DEPTH);
    const edited = (next: Machine, changes: readonly Change[], label: string) => {
      if (changes.length > 0) put(next, changes, label, "do", { undoSteps: push({ changes, label }), redoSteps: [] });
      return { ok: true } as const;
    };

    return {
      id,
      machine,
      revision,
      save: { kind: "saved" },
      pending: [],
      undoSteps: [],
      restoredSteps: [],
      redoSteps: [],
      notice: null,
      mode: machine.modes.length > 1 ? 1 : 0,
      selected: null,
      pane: "table",
      findings: { kind: "none" },
      lateHeld: false,
      dispatch: (command) => {
        if (lookedAt !== undefined) return { ok: false, message: lookedAt };
        const result = applyCommand(rehearsal?.machine ?? get().machine, command);
        if (!result.ok) return result;
        if (!rehearsal) return edited(result.machine, result.changes, result.label);
        rehearsal = { machine: result.machine, label: result.label };
        return { ok: true };
      },
      rehearse: (commit) => {
        const before = get().machine;
        rehearsal = { machine: before, label: "" };
        const { ok } = commit();
        const { machine: next, label } = rehearsal;
        rehearsal = null;
        const changes = ok ? changesBetween(before, next) : [];
        return changes.length > 0 ? { id: freshKey(), at: new Date().toISOString(), label, changes } : null;
      },
      rehearsing: () => rehearsal !== null,
      replaceWith: (other, label) => {
        const changes = changesBetween(get().machine, other);
        const { machine: next } = withChanges(get().machine, changes);
        const misfit = checkEdited(get().machine, next);
        return misfit === null ? edited(next, changes, label) : { ok: false, message: misfit };
      },
      undo: () => step("undoSteps", "redoSteps"),
      redo: () => step("redoSteps", "undoSteps"),
      setMode: (mode) => set({ mode }),
      select: (selected) => set({ selected }),
      showPane: (pane) => set({ pane }),
      adoptFigures: (figures) => set({ findings: withFigures(get().findings, figures) }),
      adoptAnalysis: (analysis, of) => set({ findings: withAnalysis(get().findings, analysis, of) }),
      holdLate: (lateHeld) => set({ lateHeld }),
      analyseAgain: () => set({ findings: { kind: "none" } }),
      adoptLate: (late, of) => set({ findings: withLateOf(get().findings, late, of) }),
      adoptUnasked: (unasked, of) => set({ findings: withUnasked(get().findings, unasked, of) }),
      adoptLogged: (verdicts, of) => set({ findings: withLogged(get().findings, verdicts, of) }),
      takeLeft: (entries, drafts) => {
        const steps = replayed(entries);
        const left = unsavedOf({ entries, drafts });
        const before = get().machine;
        const pending = [...left, ...get().pending];
        // What does not go in as it stands is sent all the same: the server knows whether it was saved before.
        const { machine: next } = merge(saver.stored(), pending);
        const unfit = drafts.find(({ edit }) => edit === null);
        const said: Notice | null =
          left.length > 0 && next !== before
            ? { kind: "left", edits: left.length, at: left.map(({ at }) => at).sort()[0] ?? "" }
            : unfit
              ? { kind: "unfit", field: unfit.field, text: unfit.text }
              : null;
        // After a reload of this window what can be undone is here already, or has been undone meanwhile.
        const known = JSON.stringify(get().restoredSteps.slice(-steps.undo.length)) === JSON.stringify(steps.undo);
        const earlier = known ? [] : steps.undo;
        const own = drafts.flatMap(({ edit }) => (edit ? [{ changes: edit.changes, label: edit.label }] : []));
        set({
          ...(left.length > 0 ? shown(next) : {}),
          pending,
          undoSteps: [...earlier, ...own, ...get().undoSteps].slice(-UNDO_DEPTH),
          redoSteps: get().undoSteps.length + own.length > 0 ? get().redoSteps : steps.redo,
          notice: said ?? get().notice,
          ...(left.length > 0 ? { save: { kind: "saving" } } : {}),
        });
        if (left.length > 0) saver.after(0);
      },
      settle: (choices) => {
        const { save } = get();
        if (save.kind !== "asking" || !saver.standOn(save.theirs, save.revision, choices)) return;
        set({ save: { kind: "saving" } });
        void saver.pump();
      },
      giveUp: () => {
        keeper.drop(get().pending.map((edit) => edit.id));
        set({ pending: [] });
      },
      takeTheirs: () => {
        const { save } = get();
        if (save.kind !== "asking") return;
        get().giveUp();
        saver.standOnly(save.theirs);
        set({ ...shown(save.theirs), revision: save.revision, save: { kind: "saved" } });
      },
      adoptNewer: (newer, theirs, askedAt) => {
        const { revision: now, pending, save } = get();
        // A save that went through meanwhile made what was asked for the older one.
        if (now !== askedAt || newer === now || pending.length > 0 || save.kind !== "saved") return;
        saver.standOnly(theirs);
        set({ ...shown(theirs), revision: newer });
      },
      retry: () => {
        const { save } = get();
        if (save.kind === "missing") set({ save: { kind: "saving" } });
        void saver.pump();
      },
    };
  });
}

/** The steps that can be undone and redone after these edits. */
function replayed(entries: readonly Entry[]): { undo: Step[]; redo: Step[] } {
  const undo: Step[] = [];
  let redo: Step[] = [];
  for (const { turn, label, changes } of entries) {
    if (turn === "do") {
      undo.push({ label, changes });
      redo = [];
    } else {
      const [from, to] = turn === "undo" ? [undo, redo] : [redo, undo];
      const moved = from.pop();
      if (moved) to.push(moved);
    }
  }
  return { undo, redo };
}
