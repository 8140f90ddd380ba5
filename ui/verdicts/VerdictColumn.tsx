"use client";
import { clsx } from "clsx";
import { usePathname } from "next/navigation";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Offer } from "@/core/settling/offers";
import { type Cause, causesOf, membersOf } from "@/core/verdicts/causes";
import { openAndDecided } from "@/core/verdicts/decided";
import { SEVERITIES, SEVERITY_WORDS, type Severity, type Verdict } from "@/core/verdicts/types";
import { analysedOf, analysisOf, dueOf, isBroken } from "@/state/findings";
import { AssumedList } from "../assumed/AssumedList";
import { useAssumptions } from "../assumed/useWeighed";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showMissing, showRow } from "../workbench/showRow";
import { openStep } from "../workbench/step-names";
import { CauseItem } from "./CauseItem";
import { CountMark, countBySeverity } from "./Counts";
import { DecidedList } from "./DecidedList";
import { isWanted, rowIndex, rowsOf } from "./rows";
import { UnaskedList } from "./UnaskedList";
import { useKeepFocus } from "./useKeepFocus";

const STEP_NAMES: Readonly<Record<string, string>> = {
  loads: "Loads",
  sources: "Sources",
  feeds: "Feeds",
  returns: "Returns",
  "bring-up": "Bring-up",
};

/** Shown at first; nobody reads two hundred at once, and the worst come first. */
const FIRST = 30;
const NONE: readonly Verdict[] = [];

/** Open verdicts by cause, what matters most first and the chosen row's own before all; then what was accepted. */
export function VerdictColumn() {
  const step = usePathname().split("/").at(-1) ?? "";
  const id = useWorkbench((state) => state.id);
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const analysed = useWorkbench(analysedOf);
  const late = useWorkbench((state) => dueOf(state) !== null);
  const broken = useWorkbench(isBroken);
  const held = useWorkbench((state) => state.lateHeld);
  const again = useWorkbench((state) => state.analyseAgain);
  const chosen = useWorkbench((state) => state.machine.parts.find((part) => part.id === state.selected)?.name);
  const selected = useWorkbench((state) => state.selected);
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  const { store, openDialog } = useWorkbenchContext();
  const undo = useStore(store, (state) => state.undo);
  const { act } = useDispatch();
  const [everywhere, setEverywhere] = useState(false);
  const [severities, setSeverities] = useState<ReadonlySet<Severity>>(new Set());
  const [text, setText] = useState("");
  const [more, setMore] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [view, setView] = useState<"causes" | "assumed">("causes");
  const assumed = useAssumptions().length;
  // A draft is opened with what it assumed beside it.
  useEffect(() => {
    if (window.location.hash === "#assumed") setView("assumed");
  }, []);
  const list = useRef<HTMLUListElement>(null);
  const keepFocus = useKeepFocus(list);

  const { open, decided } = useMemo(() => openAndDecided(verdicts ?? NONE), [verdicts]);
  const causes = useMemo(() => (analysed ? causesOf(analysed, open) : []), [analysed, open]);
  const rows = useMemo(() => (analysed ? rowIndex(analysed) : new Map<string, string>()), [analysed]);
  const ofStep = step in STEP_NAMES && !everywhere ? step : null;
  const isChosen = (cause: Cause) => selected !== null && membersOf(cause).some((verdict) => rowsOf(verdict, rows).includes(selected));
  const firstOf = (cause: Cause) =>
    selected === null
      ? ""
      : membersOf(cause)
          .filter((verdict) => rowsOf(verdict, rows).includes(selected))
          .map((verdict) => verdict.id)
          .join(" ");
  const wanted = causes.filter((cause) => isWanted(cause, { step: ofStep, severities, text }));
  // What is said of the chosen row comes first, from whichever step it is.
  const own = causes.filter((cause) => isChosen(cause) && isWanted(cause, { step: null, severities, text }));
  const shown = [...own, ...wanted.filter((cause) => !own.includes(cause))];
  const visible = more ? shown : shown.slice(0, FIRST);
  const counts = useMemo(() => countBySeverity(open), [open]);
  const searching = text !== "" || severities.size > 0;

  const jump = useCallback(
    (verdict: Verdict) => {
      const row = rowsOf(verdict, rowIndex(store.getState().machine))[0] ?? null;
      if (verdict.step !== step) openStep(id, verdict.step);
      if (row === null) store.getState().select(null);
      else showRow(store, row);
      if (verdict.severity === "ask") showMissing(store);
    },
    [store, id, step],
  );
  const take = useCallback(
    (cause: Cause, { label, command, settles }: Offer) => {
      const at = keepFocus(cause.id);
      if (!act(command)) return at.leave();
      setSaid(`Done: ${label}. It settles ${settles.length}; Ctrl Z takes it back.`);
    },
    [act, keepFocus],
  );
  const accept = useCallback(
    ({ head, alike }: Cause) => openDialog({ kind: "accept", verdicts: [head, ...alike].map((verdict) => verdict.id) }),
    [openDialog],
  );
  const toggle = (severity: Severity) => {
    const next = new Set(severities);
    if (!next.delete(severity)) next.add(severity);
    setSeverities(next);
  };

  return (
    <aside
      data-ready={verdicts ? "yes" : "no"}
      aria-label="Verdicts"
      data-sheet="verdicts"
      className="no-print w-[300px] shrink-0 overflow-y-auto pane border-l border-ink px-4 pb-4 min-[1600px]:w-[400px] max-[1100px]:w-[240px] max-desk:w-full max-desk:border-l-0"
    >
      <div className="sticky top-0 z-10 -mx-4 border-b border-hair bg-paper px-4 pt-3 pb-2">
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="text-base font-bold">
            {view === "assumed" ? "What I assumed" : "By cause"}{" "}
            <span className="text-xs font-normal text-soft">
              {view === "assumed" ? (
                <span className="fig">{assumed}</span>
              ) : verdicts ? (
                <>
                  <span className="fig">{open.length}</span> in <span className="fig">{causes.length}</span>
                </>
              ) : broken ? (
                ""
              ) : (
                "working them out…"
              )}
            </span>
          </h2>
          {verdicts && (
            <fieldset className="flex items-baseline gap-1.5">
              <legend className="sr-only">Show only</legend>
              {SEVERITIES.map((severity) => (
                <button
                  key={severity}
                  type="button"
                  aria-pressed={severities.has(severity)}
                  aria-label={`${counts[severity]} ${SEVERITY_WORDS[severity]}: show only these`}
                  className={clsx("px-0.5", severities.size > 0 && !severities.has(severity) && "opacity-40")}
                  onClick={() => toggle(severity)}
                >
                  <CountMark severity={severity} n={counts[severity]} />
                </button>
              ))}
            </fieldset>
          )}
        </div>
        {(assumed > 0 || view === "assumed") && (
          <p className="mt-1 text-xs">
            <button
              type="button"
              className="link"
              aria-pressed={view === "assumed"}
              onClick={() => setView(view === "assumed" ? "causes" : "assumed")}
            >
              {view === "assumed" ? (
                "Back to the verdicts"
              ) : (
                <>
                  <span className="fig">{assumed}</span> assumed
                </>
              )}
            </button>
          </p>
        )}
        {view === "causes" && verdicts && (
          <div className="mt-1.5 flex items-baseline gap-2 text-xs">
            <input
              id="find-verdict"
              type="search"
              aria-label="Find in verdicts"
              placeholder="find  /"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== "Escape") return;
                setText("");
                event.currentTarget.blur();
              }}
              className="field min-w-0 flex-1 !py-0.5 text-xs"
            />
            {step in STEP_NAMES && (
              <label className="flex items-baseline gap-1 whitespace-nowrap">
                <input type="checkbox" checked={!everywhere} onChange={(event) => setEverywhere(!event.target.checked)} /> only{" "}
                {STEP_NAMES[step]}
              </label>
            )}
          </div>
        )}
        {late && !held && !broken && verdicts && (
          <p role="status" className="mt-1 text-xs text-soft">
            Still walking short circuits and run times, <span className="fig">{open.length}</span> so far
          </p>
        )}
        {view === "causes" && step !== "settle" && counts.stop + counts.fix > 0 && (
          <p className="mt-1 text-xs">
            <a
              href={`/m/${id}/settle`}
              className="link"
              onClick={(event) => {
                event.preventDefault();
                openStep(id, "settle");
              }}
            >
              What settles {counts.stop + counts.fix === 1 ? "the one Stop or Fix" : `the ${counts.stop + counts.fix} Stops and Fixes`}
            </a>
          </p>
        )}
        {said && (
          <p role="status" className="mt-1 text-xs">
            {said}{" "}
            <button
              type="button"
              className="link"
              onClick={() => {
                undo();
                setSaid(null);
              }}
            >
              Undo
            </button>
          </p>
        )}
      </div>
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
      {view === "assumed" && <AssumedList />}
      {view === "causes" && verdicts && shown.length === 0 && (
        <p className="py-3 text-sm text-soft">
          {empty
            ? "Nothing to judge yet. Add a source and what it feeds."
            : searching
              ? `Nothing like that among ${open.length} open verdicts.`
              : causes.length > 0
                ? `Nothing here. ${open.length} open on other steps.`
                : late
                  ? "Nothing so far."
                  : decided.length > 0
                    ? "Nothing open. What was accepted stands below."
                    : "Clear: no rule found anything, and no figure is missing that could change that."}
        </p>
      )}
      {view === "causes" && own.length > 0 && chosen && <p className="pt-2 text-xs text-soft">First what is said of {chosen}:</p>}
      <ul ref={list} hidden={view === "assumed"}>
        {visible.map((cause) => (
          <CauseItem
            key={cause.id}
            cause={cause}
            chosen={own.includes(cause)}
            onJump={jump}
            onTake={take}
            onAccept={accept}
            unfolded={text !== ""}
            first={firstOf(cause)}
          />
        ))}
      </ul>
      {view === "causes" && visible.length < shown.length && (
        <button type="button" className="link mt-3 text-sm" onClick={() => setMore(true)}>
          Show the other {shown.length - visible.length}
        </button>
      )}
      {view === "causes" && <UnaskedList />}
      {view === "causes" && <DecidedList verdicts={decided} onJump={jump} />}
    </aside>
  );
}
