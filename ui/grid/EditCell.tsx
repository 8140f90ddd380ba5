"use client";
import { clsx } from "clsx";
import { type KeyboardEvent, type ReactNode, useContext, useEffect, useId, useRef, useState } from "react";
import { useOpenField } from "../kit/useOpenField";
import { WorkbenchContext } from "../workbench/context";

export type CellParse<T> = (text: string) => { ok: true; value: T } | { ok: false; message: string };

interface Props<T> {
  /** What the cell shows while not edited. */
  children: ReactNode;
  /** Text the editor opens with. */
  initial: string;
  label: string;
  parse: CellParse<T>;
  commit: (value: T) => { ok: true } | { ok: false; message: string };
  cell?: { r: number; c: number };
  className?: string;
  placeholder?: string;
  /** It takes words: a letter typed on it begins one. */
  words?: boolean;
}

/**
 * A cell that is read until Enter, F2, a click or the first letter or digit opens its editor over it. Bad input keeps the editor open with
 * its text and a message beside it; Escape gives the old value back.
 */
export function EditCell<T>({ children, initial, label, parse, commit, cell, className, placeholder, words }: Props<T>) {
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const button = useRef<HTMLButtonElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const closing = useRef(false);
  const noteId = useId();
  const workbench = useContext(WorkbenchContext);
  const editing = text !== null;
  const saveText = (given: string) => {
    const parsed = parse(given);
    return parsed.ok ? commit(parsed.value) : parsed;
  };
  const kept = useOpenField(saveText);

  useEffect(() => {
    if (editing) input.current?.focus();
  }, [editing]);

  const change = (next: string) => {
    if (next.trim() === initial.trim()) kept.left();
    else kept.note(label, next);
    setText(next);
    setError(null);
  };
  const open = (start: string) => {
    closing.current = false;
    change(start);
  };
  const close = (focus: boolean) => {
    // The focus moves while nothing on the page has changed yet: removing a focused field makes the browser lay out anew.
    closing.current = true;
    if (focus) button.current?.focus({ preventScroll: true });
    kept.left();
    setText(null);
    setError(null);
  };
  const finish = (focus: boolean) => {
    if (text === null || closing.current) return;
    if (text.trim() === initial.trim()) return close(focus);
    const result = saveText(text);
    if (result.ok) close(focus);
    else setError(result.message);
  };
  const onButtonKey = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "F2") open(initial);
    else if (event.key === "Escape") button.current?.blur();
    else if ((words ? /^[\p{L}\d.]$/u : /^[\d.]$/).test(event.key)) {
      // What is typed on a cell goes into it: where it takes words no letter is a command.
      event.preventDefault();
      event.stopPropagation();
      open(event.key);
    }
  };
  const onInputKey = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Enter") {
      // Else the browser clicks the button that gets the focus back, and the editor opens again.
      event.preventDefault();
      finish(true);
    } else if (event.key === "Escape") close(true);
  };

  return (
    // Placed only while something lies over it: each placed box is painted on its own, and a matrix has hundreds.
    <span className={clsx("inline-block", (editing || error) && "relative")}>
      <button
        ref={button}
        type="button"
        data-r={cell?.r}
        data-c={cell?.c}
        aria-label={`${label}. Edit`}
        onClick={() => open(initial)}
        onKeyDown={onButtonKey}
        className={clsx("min-w-8 px-1 hover:bg-tint", editing && "opacity-0", className)}
      >
        {children}
      </button>
      {editing && (
        <input
          ref={input}
          className={clsx("fig field absolute inset-y-0 right-0 z-20 w-24 !bg-sheet", className)}
          value={text}
          placeholder={placeholder}
          aria-label={label}
          aria-invalid={Boolean(error)}
          aria-describedby={error ? noteId : undefined}
          onChange={(event) => change(event.target.value)}
          onFocus={(event) => text === initial && event.target.select()}
          onKeyDown={onInputKey}
          onBlur={() => finish(false)}
          onPaste={(event) => {
            // A table belongs into the field of lines, not into one cell of it.
            const pasted = event.clipboardData.getData("text");
            if (!workbench || !/[\n\t]/.test(pasted.trim())) return;
            event.preventDefault();
            close(false);
            workbench.openDialog({ kind: "more", text: pasted });
          }}
        />
      )}
      {error && (
        <span
          id={noteId}
          role="alert"
          className="absolute top-full right-0 z-30 mt-1 w-64 border border-stop bg-sheet p-2 text-left text-xs font-semibold whitespace-normal text-stop dark:text-fix"
        >
          {error}
        </span>
      )}
    </span>
  );
}
