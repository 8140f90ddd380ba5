"use client";
import { useId, useMemo, useState } from "react";
import { corrected } from "@/core/drafting/edits";
import { readLine } from "@/core/drafting/read-line";
import { addUnder, usuallyNext } from "@/core/drafting/under";
import { ChipButton } from "../start/ChipButton";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showRow } from "../workbench/showRow";

interface Props {
  /** The part it is added under; null: as a source. */
  under: string | null;
  outlet: string;
  onDone: () => void;
}

/** The quickest way to add a part: a line as one would say it, with what is usual here ready to be taken or changed. */
export function AddLine({ under, outlet, onDone }: Props) {
  const machine = useWorkbench((state) => state.machine);
  const { store } = useWorkbenchContext();
  const { dispatch } = useDispatch();
  const [text, setText] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const id = useId();
  const ready = useMemo(() => usuallyNext(machine, under), [machine, under]);
  const line = useMemo(() => (text.trim() === "" ? null : readLine(text, 1)), [text]);
  const take = () => {
    if (!line) return setRefused("Write what it is, such as pump 12 V 3 A.");
    const found = addUnder(machine, under, line, outlet);
    if (!found.ok) return setRefused(found.why);
    const done = dispatch(found.command);
    if (!done.ok) return setRefused(done.message);
    onDone();
    showRow(store, found.id);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
      className="border-b border-ink pb-3"
    >
      <label htmlFor={id} className="text-sm font-semibold">
        Say what it is
      </label>
      <div className="flex items-baseline gap-3">
        <input
          id={id}
          data-first
          className="fig field w-full !py-1 text-[14px]"
          placeholder={ready[0]?.line ?? "pump 12 V 3 A"}
          value={text}
          aria-invalid={refused !== null}
          aria-describedby={refused ? `${id}-why` : undefined}
          onChange={(event) => {
            setText(event.target.value);
            setRefused(null);
          }}
        />
        <button type="submit" className="link text-sm whitespace-nowrap">
          Add it
        </button>
      </div>
      {line?.reading && (
        <p className="flex flex-wrap items-baseline gap-x-3 pt-1.5 text-sm">
          {line.chips.map((chip) => (
            <ChipButton
              key={`${chip.key} ${chip.text}`}
              line={line}
              chip={chip}
              onCorrect={(typed) => setText(corrected(line, chip, typed))}
            />
          ))}
        </p>
      )}
      {line && (line.reading === null || line.troubles.length > 0) && (
        <p className="flex flex-wrap gap-x-3 pt-1 text-sm">
          <span className="text-fix">{line.troubles[0]?.why}</span>
          {line.nearest
            .filter(({ label }) => label !== "leave it out")
            .map(({ label, line: next }) => (
              <button key={label} type="button" className="link" onClick={() => setText(next)}>
                {label}
              </button>
            ))}
        </p>
      )}
      {refused && (
        <p id={`${id}-why`} role="alert" className="pt-1 text-sm font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      {text === "" && (
        <ul className="grid grid-cols-2 gap-x-5 pt-1.5 text-sm max-sm:grid-cols-1" aria-label="Usual here">
          {ready.map(({ line: usual, what }) => (
            <li key={usual} className="flex items-baseline justify-between gap-2 border-b border-hair py-0.5">
              <button type="button" className="link" onClick={() => setText(usual)}>
                {usual}
              </button>
              <span className="truncate text-xs text-soft">{what}</span>
            </li>
          ))}
        </ul>
      )}
    </form>
  );
}
