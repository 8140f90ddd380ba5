"use client";
import { useMemo } from "react";
import type { Yours } from "@/core/settling/settle";
import { causesOf } from "@/core/verdicts/causes";
import type { Verdict } from "@/core/verdicts/types";
import { analysedOf, analysisOf } from "@/state/findings";
import { SeverityMark } from "../kit/Severity";
import { rowIndex, rowsOf } from "../verdicts/rows";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { openStep } from "../workbench/step-names";

/** What is asked of several, each by its own sentence. */
function namesOf(verdicts: readonly Verdict[]): string {
  return verdicts.map(({ headline }) => headline).join(" ");
}

/** What no change settles: a part to buy, a figure to measure, a school to choose; each with the way there, or to accept it. */
export function YoursList({ yours }: { yours: readonly Yours[] }) {
  const { store, openDialog } = useWorkbenchContext();
  const { act } = useDispatch();
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const open = verdicts?.filter(({ decided }) => !decided) ?? [];
  const machine = useWorkbench(analysedOf);
  const asks = useMemo(
    () =>
      machine && verdicts
        ? causesOf(
            machine,
            verdicts.filter(({ severity, decided }) => severity === "ask" && !decided),
          )
        : [],
    [machine, verdicts],
  );
  if (yours.length + asks.length === 0) return null;
  const show = (verdict: Verdict) => {
    const { id, machine, select } = store.getState();
    select(rowsOf(verdict, rowIndex(machine))[0] ?? null);
    openStep(id, verdict.step);
  };
  const row = (
    verdict: Verdict | undefined,
    headline: string,
    severity: Yours["severity"],
    needs: string,
    answers: Yours["answers"] = [],
  ) => (
    <li
      key={`${severity} ${headline}`}
      className="grid grid-cols-[64px_minmax(0,1fr)_auto] items-baseline gap-x-3 border-b border-hair px-4 py-2.5"
    >
      <span>
        <SeverityMark severity={severity} />
      </span>
      <div>
        <p className="text-sm leading-snug font-bold">{headline}</p>
        <p className="text-xs leading-snug text-soft">{needs}</p>
        {answers.length > 0 && (
          <p className="mt-0.5 flex flex-wrap gap-x-4 text-xs">
            <span className="text-soft">If it is so already:</span>
            {answers.map(({ label, command }) => (
              <button key={label} type="button" className="link" onClick={() => act(command)}>
                {label}
              </button>
            ))}
          </p>
        )}
      </div>
      {verdict && (
        <span className="flex flex-wrap justify-end gap-x-4 text-sm">
          <button type="button" className="link" aria-label={`Go to: ${headline}`} onClick={() => show(verdict)}>
            {severity === "ask" ? "enter it" : "go there"}
          </button>
          <button
            type="button"
            className="link"
            aria-label={`Accept or put off: ${headline}`}
            onClick={() => openDialog({ kind: "accept", verdicts: [verdict.id] })}
          >
            accept
          </button>
        </span>
      )}
    </li>
  );
  return (
    <section aria-labelledby="yours" className="pb-6">
      <h2 id="yours" className="border-b border-ink px-4 pt-4 pb-1 text-base font-bold">
        Then only you can decide <span className="fig text-sm font-normal text-soft">{yours.length + asks.length}</span>
      </h2>
      <ul>
        {yours.map(({ id, headline, severity, needs, answers }) =>
          row(
            open.find((verdict) => verdict.id === id),
            headline,
            severity,
            needs,
            answers,
          ),
        )}
        {asks.map(({ head, headline, alike }) => row(head, headline, "ask", alike.length > 0 ? namesOf([head, ...alike]) : head.detail))}
      </ul>
    </section>
  );
}
