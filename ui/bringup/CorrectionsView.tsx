"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { Correction } from "@/core/bringup/corrections";
import type { BringUpView } from "@/core/engine/bring-up";
import { useDispatch, useWorkbench } from "../workbench/context";
import { ByHand } from "./ByHand";
import { PanelMeter } from "./PanelMeter";
import { TriedPanel } from "./TriedPanel";

/** Figures of the plan that readings put right, each with what it would change before it is taken. */
export function CorrectionsView({ view }: { view: BringUpView }) {
  const [open, setOpen] = useState<string | null>(null);
  const { corrections } = view;
  return (
    <div className="pane min-h-0 flex-1 overflow-y-auto px-4 py-3" tabIndex={-1}>
      <h2 className="text-base font-bold">
        {corrections.length === 0
          ? "The readings change nothing in the plan."
          : `${corrections.length} figure${corrections.length === 1 ? "" : "s"} of the plan differ from what was read`}
      </h2>
      <p className="max-w-[640px] text-sm text-soft">
        {corrections.length === 0
          ? "Currents, regulator outputs and the pack's resistance show up here once they are read in their stages."
          : "Take a reading into the plan and budget, verdicts and what is still to be expected follow. What the plan had is kept beside it; one undo takes it back."}
      </p>
      <ul className="mt-2 max-w-[860px] border-t border-ink">
        {corrections.map((correction) => (
          <Row
            key={correction.id}
            correction={correction}
            open={open === correction.id}
            onToggle={() => setOpen(open === correction.id ? null : correction.id)}
          />
        ))}
      </ul>
      <ByHand />
      <PanelMeter />
    </div>
  );
}

function Row({ correction, open, onToggle }: { correction: Correction; open: boolean; onToggle: () => void }) {
  const { act } = useDispatch();
  const undo = useWorkbench((state) => state.undo);
  const take = () => {
    if (act(correction.command))
      toast(`In the plan: ${correction.what}, ${correction.after}`, { action: { label: "Undo", onClick: () => undo() } });
  };
  return (
    <li className="border-b border-hair py-1.5">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-3 text-sm">
        <div>
          <b>{correction.what}</b>: <span className="fig text-soft">{correction.before}</span> → <b className="fig">{correction.after}</b>
          <span className="block text-xs text-soft">{correction.why}</span>
        </div>
        <button type="button" className="link" aria-expanded={open} onClick={onToggle}>
          {open ? "Close" : "What it changes"}
        </button>
      </div>
      {open && (
        <TriedPanel of={correction.id} command={correction.command}>
          <button type="button" className="border border-ink bg-ink px-3 py-1 text-sm font-semibold text-paper" onClick={take}>
            Take it into the plan
          </button>
        </TriedPanel>
      )}
    </li>
  );
}
