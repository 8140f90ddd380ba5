"use client";
import { createContext, useContext, useEffect, useId, useRef } from "react";

/** Where texts are kept that stand in fields nobody has left yet. */
export interface OpenFields {
  note: (key: string, field: { name: string; text: string; commit: () => { ok: boolean } }) => void;
  left: (key: string) => void;
  /** It went from the screen with a text in it that does not fit. */
  gone: (key: string) => void;
}

/** Null where nothing is kept: outside of a workbench. */
export const OpenFieldsContext = createContext<OpenFields | null>(null);

/** What people call a field. */
export function fieldName(input: HTMLInputElement): string {
  return input.getAttribute("aria-label") ?? input.labels?.[0]?.textContent ?? "a field";
}

/**
 * A field whose text counts before it is left. When it goes from the screen with a text in it, as when another step is
 * chosen by a key, the text is saved as leaving it would have done, or said where it does not fit.
 */
export function useOpenField(commit: (text: string) => { ok: boolean }) {
  const fields = useContext(OpenFieldsContext);
  const key = useId();
  const newest = useRef(commit);
  newest.current = commit;
  const open = useRef<string | null>(null);
  useEffect(
    () => () => {
      const text = open.current;
      open.current = null;
      if (text === null) return;
      if (newest.current(text).ok) fields?.left(key);
      else fields?.gone(key);
    },
    [fields, key],
  );
  return {
    note: (name: string, text: string) => {
      open.current = text;
      fields?.note(key, { name, text, commit: () => newest.current(text) });
    },
    left: () => {
      open.current = null;
      fields?.left(key);
    },
  };
}
