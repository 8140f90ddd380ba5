"use client";
import { type KeyboardEvent, type RefObject, useRef, useState } from "react";
import { type Assumption, answered, confirmed } from "@/core/drafting/assumptions";
import { effectWords } from "@/core/drafting/told";
import type { Weighed } from "@/core/drafting/weigh";
import { parseQuantity } from "@/core/quantity/parse";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showRow } from "../workbench/showRow";
import { useWeighed } from "./useWeighed";

/**
 * What nobody has said yet, what could change most first. Enter on a row says that it is so, a digit begins to say what it
 * really is; arrows go from row to row.
 */
export function AssumedList() {
  const { rows, weighing } = useWeighed();
  const [all, setAll] = useState(false);
  const list = useRef<HTMLUListElement>(null);
  const mattering = rows.filter(({ weight }) => weight > 0);
  const shown = all || mattering.length === 0 ? rows : mattering;
  if (rows.length === 0)
    return (
      <p className="py-3 text-sm text-soft">
        Nothing is assumed: every figure of this plan is measured, printed on something, or typical of its class.
      </p>
    );
  return (
    <section aria-label="What I assumed" className="pt-2">
      <p className="text-xs text-soft">
        Nobody has said these yet. What could change most comes first. Enter: it is so. A digit: what it really is.
      </p>
      {weighing && (
        <p role="status" className="text-xs text-soft">
          weighing what each could change…
        </p>
      )}
      <ul ref={list}>
        {shown.map((row) => (
          <Row key={row.assumption.id} row={row} />
        ))}
      </ul>
      {shown.length < rows.length && (
        <button type="button" className="link mt-3 text-sm" onClick={() => setAll(true)}>
          {rows.length - shown.length} more: no verdict changed when they were tried
        </button>
      )}
    </section>
  );
}

/** The row an arrow leads to, or the next one when this one goes. */
function neighbour(from: HTMLElement, by: 1 | -1): HTMLElement | null {
  const rows = [...(from.closest("ul")?.querySelectorAll<HTMLElement>("[data-assumed]") ?? [])];
  return rows[rows.indexOf(from) + by] ?? null;
}

function Row({ row }: { row: Weighed }) {
  const { assumption } = row;
  const { store } = useWorkbenchContext();
  const { act, dispatch } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const item = useRef<HTMLButtonElement>(null);

  const leave = () => {
    const next = item.current && (neighbour(item.current, 1) ?? neighbour(item.current, -1));
    // Once the list has closed up, so that the focus does not fall off it.
    if (next) requestAnimationFrame(() => next.focus());
  };
  const confirm = () => {
    if (act(confirmed(machine, assumption))) leave();
  };
  const answer = (text: string) => {
    const { typed: dimension } = assumption;
    if (dimension === null) return;
    const read = parseQuantity(text, dimension);
    if (!read.ok) return setTrouble(read.message);
    const done = dispatch(answered(machine, assumption, read.value));
    if (!done.ok) return setTrouble(done.message);
    setTyped(null);
    setTrouble(null);
    leave();
  };
  const onKey = (event: KeyboardEvent<HTMLButtonElement>) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "ArrowDown") neighbour(event.currentTarget, 1)?.focus();
    else if (event.key === "ArrowUp") neighbour(event.currentTarget, -1)?.focus();
    else if (/^[\d.]$/.test(event.key) && assumption.typed !== null) setTyped(event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <li className="border-b border-hair py-1.5 text-sm">
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <button type="button" className="min-w-0 text-left hover:underline" onClick={() => showRow(store, assumption.at)}>
          {assumption.what}
        </button>
        <b className={assumption.typed === null ? "font-semibold" : "fig font-semibold"}>{assumption.now}</b>
      </p>
      {assumption.range && <p className="text-xs text-soft">may be {assumption.range}</p>}
      <p className="text-xs">{effectWords(row)}</p>
      <Answers
        assumption={assumption}
        typed={typed}
        trouble={trouble}
        button={item}
        onType={setTyped}
        onAnswer={answer}
        onConfirm={confirm}
        onKey={onKey}
        onLeave={() => {
          setTyped(null);
          setTrouble(null);
          requestAnimationFrame(() => item.current?.focus());
        }}
      />
    </li>
  );
}

interface AnswersProps {
  assumption: Assumption;
  typed: string | null;
  trouble: string | null;
  button: RefObject<HTMLButtonElement | null>;
  onKey: (event: KeyboardEvent<HTMLButtonElement>) => void;
  onType: (text: string) => void;
  onAnswer: (text: string) => void;
  onConfirm: () => void;
  onLeave: () => void;
}

function Answers({ assumption, typed, trouble, button, onKey, onType, onAnswer, onConfirm, onLeave }: AnswersProps) {
  if (typed !== null)
    return (
      <span className="block">
        <input
          className="field w-full"
          aria-label={assumption.what}
          aria-invalid={trouble !== null}
          ref={(element) => {
            if (element && document.activeElement !== element) element.focus();
          }}
          value={typed}
          onChange={(event) => onType(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") onAnswer(typed);
            else if (event.key === "Escape") onLeave();
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
        {trouble && (
          <span role="alert" className="block text-xs font-semibold text-stop dark:text-fix">
            {trouble}
          </span>
        )}
      </span>
    );
  return (
    <span className="flex gap-3 text-xs">
      <button
        ref={button}
        type="button"
        data-assumed={assumption.id}
        className="link"
        onClick={onConfirm}
        onKeyDown={onKey}
        aria-label={`It is so: ${assumption.what}, ${assumption.now}`}
      >
        It is so
      </button>
      {assumption.typed !== null && (
        <button type="button" className="link" onClick={() => onType("")} aria-label={`Say what it is: ${assumption.what}`}>
          It is…
        </button>
      )}
    </span>
  );
}
