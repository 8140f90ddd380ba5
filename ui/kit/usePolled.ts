"use client";
import { useEffect, useRef, useState } from "react";

/** Waits between two looks, ms: soon at first. */
const WAITS_MS = [150, 300, 600, 1000, 1500];
/** Looks in a row that may fail before it is said. */
const FAILURES = 4;

/**
 * Looks at something again and again until it is there. A look that fails is tried again; after several it is given up,
 * and can be begun anew.
 * @param key what is looked at; null: nothing
 * @param done whether what was found is all there will be
 */
export function usePolled<T>(
  key: string | null,
  look: (signal: AbortSignal) => Promise<T | null>,
  done: (found: T) => boolean,
): { found: T | null; failed: boolean; again: () => void } {
  const [state, setState] = useState<{ key: string | null; found: T | null; failed: boolean }>({ key: null, found: null, failed: false });
  const [turn, setTurn] = useState(0);
  const newest = useRef({ look, done });
  newest.current = { look, done };
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new turn begins it anew
  useEffect(() => {
    if (key === null) return;
    const ending = new AbortController();
    let timer: ReturnType<typeof setTimeout> | null = null;
    let looks = 0;
    let failures = 0;
    const next = async () => {
      const found = await newest.current.look(ending.signal);
      if (ending.signal.aborted) return;
      failures = found === null ? failures + 1 : 0;
      setState((before) => ({ key, found: found ?? (before.key === key ? before.found : null), failed: failures >= FAILURES }));
      if ((found !== null && newest.current.done(found)) || failures >= FAILURES) return;
      timer = setTimeout(next, WAITS_MS[Math.min(looks++, WAITS_MS.length - 1)]);
    };
    void next();
    return () => {
      ending.abort();
      if (timer !== null) clearTimeout(timer);
    };
  }, [key, turn]);
  const mine = state.key === key;
  return { found: mine ? state.found : null, failed: mine && state.failed, again: () => setTurn((before) => before + 1) };
}
