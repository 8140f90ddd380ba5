"use client";
import { type KeyboardEvent, useState } from "react";
import { fieldName, useOpenField } from "./useOpenField";

export type Committed = { ok: true } | { ok: false; message: string };

/**
 * The text of an input that saves itself on Enter and on leaving. While the text does not fit, it stays with its message;
 * Escape gives the saved value back. A text that was not left when its page was closed is kept.
 * @param shown the saved value as text
 * @param commit saves the text, or says why not
 */
export function useDraft(shown: string, commit: (text: string) => Committed) {
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const open = useOpenField(commit);
  const reset = () => {
    open.left();
    setDraft(null);
    setError(null);
  };
  const finish = () => {
    if (draft === null || draft.trim() === shown) return reset();
    const result = commit(draft.trim());
    if (result.ok) reset();
    else setError(result.message);
  };
  const input = {
    value: draft ?? shown,
    onChange: (event: { target: HTMLInputElement }) => {
      const text = event.target.value;
      if (text.trim() === shown) open.left();
      else open.note(fieldName(event.target), text.trim());
      setDraft(text);
      setError(null);
    },
    onBlur: finish,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === "Enter") finish();
      if (event.key === "Escape" && draft !== null) {
        event.stopPropagation();
        reset();
      }
    },
  };
  return { input, error };
}
