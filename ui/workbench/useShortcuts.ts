"use client";
import { useEffect } from "react";
import { toast } from "sonner";
import type { Stepped, Workbench } from "@/state/workbench";
import { onVerdict } from "../verdicts/keys";
import type { DialogRequest } from "./context";
import { openStep, TABS } from "./step-names";

/** Keys that work anywhere on a workbench; shown on the key sheet. */
export const SHORTCUTS: readonly { keys: string; what: string }[] = [
  { keys: "Arrows", what: "Move between the cells of a table" },
  { keys: "Enter", what: "Edit the cell, or open the working of a figure" },
  { keys: "Any digit", what: "On a cell that can be edited: begins to edit it; in a mode's cell letters do, too" },
  { keys: "Esc", what: "Leave a cell unchanged, leave the table, close what is open" },
  { keys: "F1", what: "In a field or on a column's head: what its word means" },
  { keys: "Ctrl K or K", what: "Go to, find, do: steps, parts, verdicts and commands by name" },
  { keys: "1 to 7", what: "The steps: Loads, Sources, Feeds, Returns, Settle, Bring-up, Sheet" },
  { keys: "N and P", what: "Next and previous verdict" },
  { keys: "G", what: "The row of the verdict that has the focus" },
  { keys: "R", what: "Its remedies; Enter takes the one that has the focus" },
  { keys: "X", what: "Accept it with a reason, or put it off" },
  { keys: "/", what: "Find in verdicts" },
  { keys: "A", what: "Add a part under the selected one" },
  { keys: "+", what: "More from a list: lines of text become parts, wired and sized" },
  { keys: "Delete", what: "Remove the selected part" },
  { keys: "Ctrl Z", what: "Undo" },
  { keys: "Ctrl Y or Ctrl Shift Z", what: "Redo" },
  { keys: "[ and ]", what: "Previous and next mode" },
  { keys: "W", what: "Worst of all modes" },
  { keys: "Shift Enter", what: "In a mode's cell: do in every mode what the load does in this one" },
  { keys: "Space", what: "On a load in the flow picture: pick its return up; arrows go from place to place, Space lands it" },
  { keys: "M", what: "Edit the modes" },
  { keys: "H", what: "History: what changed, when, and how it was before" },
  { keys: "?", what: "This key sheet" },
];

/** Says what undoing or redoing did, or why it did nothing. */
export function saySteps(done: Stepped, redo: boolean): void {
  const [did, todo] = redo ? ["Redone", "redo"] : ["Undone", "undo"];
  if (done?.blocked) toast(`Not ${did.toLowerCase()}: ${done.label}. ${done.blocked}.`, { duration: 6000, id: "undo" });
  else toast(done ? `${did}: ${done.label}` : `Nothing to ${todo}`, { duration: 1500, id: "undo" });
}

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

export function useShortcuts(store: Workbench, open: (request: DialogRequest) => void): void {
  useEffect(() => {
    const stepMode = (by: number) => {
      const { mode, machine, setMode } = store.getState();
      const all = machine.modes.length;
      const at = mode === "worst" ? -1 : mode;
      const next = at + by;
      setMode(next < 0 ? "worst" : Math.min(next, all - 1));
    };
    const onKey = (event: KeyboardEvent) => {
      if (typing(event.target) || document.querySelector('[role="dialog"][data-state="open"]')) return;
      const state = store.getState();
      const key = event.key.toLowerCase();
      const command = event.ctrlKey || event.metaKey;
      if (command && (key === "z" || key === "y")) {
        event.preventDefault();
        const redo = key === "y" || event.shiftKey;
        saySteps(redo ? state.redo() : state.undo(), redo);
        return;
      }
      if (command && key === "k") {
        event.preventDefault();
        open({ kind: "menu" });
        return;
      }
      if (command || event.altKey) return;
      if (onVerdict(key)) {
        event.preventDefault();
        return;
      }
      const tab = TABS[Number(key) - 1];
      if (tab) openStep(state.id, tab.step);
      else if (key === "k") open({ kind: "menu" });
      else if (key === "a") open({ kind: "add", under: state.selected });
      else if (event.key === "+") open({ kind: "more" });
      else if (event.key === "Delete" && state.selected) open({ kind: "remove", part: state.selected });
      else if (key === "m") open({ kind: "modes" });
      else if (key === "h") open({ kind: "history" });
      else if (key === "w") state.setMode("worst");
      else if (key === "[") stepMode(-1);
      else if (key === "]") stepMode(1);
      else if (event.key === "?") open({ kind: "keys" });
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [store, open]);
}
