"use client";
import { usePathname } from "next/navigation";
import { memo, useCallback, useMemo, useState } from "react";
import { toast } from "sonner";
import type { Machine, Wire } from "@/core/machine/schema";
import { isFeed } from "@/core/machine/terminals";
import type { Verdict } from "@/core/verdicts/types";
import { analysedOf, analysisOf, isBroken } from "@/state/findings";
import { SeverityMark } from "../kit/Severity";
import { useDispatch, useWorkbench, useWorkbenchContext } from "./context";
import { openStep } from "./step-names";

const STEP_NAMES: Readonly<Record<string, string>> = {
  loads: "Loads",
  sources: "Sources",
  feeds: "Feeds",
  returns: "Returns",
  "bring-up": "Bring-up",
};

/** The part whose row shows a wire: a feed at the part it feeds, a return at the part it comes from. */
function rowOfWire(wire: Wire): string {
  return isFeed(wire) ? wire.to.part : wire.from.part;
}

/** Rows a verdict speaks of: its subject's first, then those of everything it also names. */
function rowsOf(verdict: Verdict, rows: ReadonlyMap<string, string>): string[] {
  return [verdict.subject.id, ...(verdict.also ?? [])].flatMap((id) => rows.get(id) ?? []);
}

/** The part whose row shows each part and wire, by id. */
function rowIndex(machine: Machine): ReadonlyMap<string, string> {
  return new Map([
    ...machine.parts.map(({ id }): [string, string] => [id, id]),
    ...machine.wires.map((wire): [string, string] => [wire.id, rowOfWire(wire)]),
  ]);
}

interface ItemProps {
  verdict: Verdict;
  onJump: (verdict: Verdict) => void;
}

const VerdictItem = memo(function VerdictItem({ verdict, onJump }: ItemProps) {
  const { store } = useWorkbenchContext();
  const undo = useWorkbench((state) => state.undo);
  const { act } = useDispatch();
  return (
    <li className="border-b border-hair py-2.5">
      <SeverityMark severity={verdict.severity} />
      <button
        type="button"
        className="mt-1 block w-full text-left text-sm leading-snug font-bold hover:underline"
        onClick={() => onJump(verdict)}
      >
        {verdict.headline}
      </button>
      <p className="mt-1 text-xs leading-snug">{verdict.detail}</p>
      {verdict.remedies.length > 0 && (
        <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1 text-xs">
          {verdict.remedies.map((remedy) => (
            <button
              key={remedy.label}
              type="button"
              className="link"
              onClick={() => {
                // The item may be older than the plan: the command is taken from the newest analysis.
                const now = analysisOf(store.getState())?.verdicts.find(({ id }) => id === verdict.id);
                const command = (now ?? verdict).remedies.find(({ label }) => label === remedy.label)?.command ?? remedy.command;
                if (act(command)) toast(`Done: ${remedy.label}`, { action: { label: "Undo", onClick: () => undo() } });
              }}
            >
              {remedy.label}
            </button>
          ))}
        </div>
      )}
    </li>
  );
}, sameText);

/** A verdict that says the same is the same: figures behind it may have moved without changing a word. */
function sameText(a: ItemProps, b: ItemProps): boolean {
  return (
    a.onJump === b.onJump &&
    a.verdict.headline === b.verdict.headline &&
    a.verdict.detail === b.verdict.detail &&
    a.verdict.severity === b.verdict.severity &&
    a.verdict.remedies.map(({ label }) => label).join() === b.verdict.remedies.map(({ label }) => label).join()
  );
}

/** Shown at first; nobody reads two hundred at once, and the worst come first. */
const FIRST = 30;

/** Open verdicts of the step, each jumping to its row, each remedy one action that can be undone; then what other steps say of the chosen row. */
export function VerdictColumn() {
  const step = usePathname().split("/").at(-1) ?? "";
  const id = useWorkbench((state) => state.id);
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const analysed = useWorkbench(analysedOf);
  const broken = useWorkbench(isBroken);
  const held = useWorkbench((state) => state.lateHeld);
  const again = useWorkbench((state) => state.analyseAgain);
  const chosen = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected)?.name);
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  const selected = useWorkbench((state) => state.selected);
  const all = step === "sheet";
  const shown = verdicts?.filter((verdict) => all || verdict.step === step) ?? [];
  const elsewhere = verdicts?.filter((verdict) => !all && verdict.step !== step) ?? [];
  const rows = useMemo(() => (analysed ? rowIndex(analysed) : new Map<string, string>()), [analysed]);
  const about = selected === null ? [] : elsewhere.filter((verdict) => rowsOf(verdict, rows).includes(selected));

  const store = useWorkbenchContext().store;
  const jump = useCallback(
    (verdict: Verdict) => {
      const row = rowsOf(verdict, rowIndex(store.getState().machine))[0] ?? null;
      store.getState().select(row);
      if (verdict.step !== step) openStep(id, verdict.step);
      else requestAnimationFrame(() => document.querySelector(`[data-row="${row}"]`)?.scrollIntoView({ block: "nearest" }));
    },
    [store, id, step],
  );
  const [wanted, setWanted] = useState<string | null>(null);
  const visible = wanted === step ? shown : shown.slice(0, FIRST);

  return (
    <aside
      data-ready={verdicts ? "yes" : "no"}
      aria-label="Verdicts"
      className="no-print w-[300px] shrink-0 overflow-y-auto pane border-l border-ink px-4 pb-4 max-[1100px]:w-[240px] max-sm:max-h-[24vh] max-sm:w-full max-sm:border-t-2 max-sm:border-l-0"
    >
      <h2 className="sticky top-0 z-10 border-b border-hair bg-paper pt-3 pb-2 text-base font-bold">
        Verdicts{" "}
        <span className="font-normal text-soft">
          {all ? "for the machine" : `for ${STEP_NAMES[step] ?? "this step"}`}
          {verdicts ? `, ${shown.length} open` : broken ? "" : ", working them out…"}
        </span>
      </h2>
      {broken && (
        <p role="alert" className="py-3 text-sm font-semibold text-stop dark:text-fix">
          The figures of this plan could not be worked out, though it was tried twice. That is a fault of Node Ledger or of its server, not
          of the plan. Your edits are kept; undo the last one to go on, or{" "}
          <button type="button" className="underline" onClick={() => again()}>
            try once more
          </button>
          .
        </p>
      )}
      {held && !broken && (
        <p role="status" className="border-b border-hair py-2 text-xs">
          Short circuits, run times and what hangs on them are not worked out yet: that part of the program could not be loaded. It is tried
          again by itself; nothing is clear before.
        </p>
      )}
      {verdicts && shown.length === 0 && (
        <p className="py-3 text-sm text-soft">
          {empty
            ? "Nothing to judge yet. Add a source and what it feeds."
            : elsewhere.length > 0
              ? `Nothing here. ${elsewhere.length} open on other steps.`
              : "Clear: no rule found anything, and no figure it needs is missing."}
        </p>
      )}
      <ul>
        {visible.map((verdict) => (
          <VerdictItem key={verdict.id} verdict={verdict} onJump={jump} />
        ))}
      </ul>
      {visible.length < shown.length && (
        <button type="button" className="link mt-3 text-sm" onClick={() => setWanted(step)}>
          Show the other {shown.length - visible.length}
        </button>
      )}
      {about.length > 0 && (
        <>
          <h3 className="mt-5 border-b border-ink pb-1 text-sm font-bold">
            {chosen} <span className="font-normal text-soft">on other steps</span>
          </h3>
          <ul>
            {about.map((verdict) => (
              <VerdictItem key={verdict.id} verdict={verdict} onJump={jump} />
            ))}
          </ul>
        </>
      )}
    </aside>
  );
}
