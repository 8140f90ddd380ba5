"use client";
import { analysedOf, unaskedIn } from "@/state/findings";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showMissing, showRow } from "../workbench/showRow";
import { openStep } from "../workbench/step-names";
import { rowIndex } from "./rows";

/** Figures that nobody gave and that nobody is asked for, since no verdict hangs on them; folded away. */
export function UnaskedList() {
  const unasked = useWorkbench(unaskedIn);
  const machine = useWorkbench(analysedOf);
  const id = useWorkbench((state) => state.id);
  const { store } = useWorkbenchContext();
  if (!unasked || !machine) return null;
  const many = unasked.figures.length;
  const show = (row: string, step: (typeof unasked.figures)[number]["step"]) => {
    openStep(id, step);
    showRow(store, rowIndex(machine).get(row) ?? row);
    showMissing(store);
  };
  return (
    <details className="mt-4 text-sm">
      <summary className="cursor-pointer border-b border-ink pb-1">
        <span className="fig">{many}</span> {many === 1 ? "figure is" : "figures are"} missing and not asked for
      </summary>
      <p className="py-2 text-xs leading-snug text-soft">
        Wherever {many === 1 ? "it lies in its range" : "they lie in their ranges"}, alone and together, no verdict changes. Each can still
        be given at its row.
      </p>
      <ul>
        {unasked.figures.map(({ row, step, what, range }) => (
          <li key={`${row} ${what}`} className="border-b border-hair py-1.5 text-xs leading-snug">
            <button type="button" className="link text-left" onClick={() => show(row, step)}>
              {what}
            </button>
            <span className="block text-soft">{range}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
