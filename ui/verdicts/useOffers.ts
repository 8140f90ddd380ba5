"use client";
import { type RefObject, useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Offered } from "@/core/settling/offers";
import type { Cause } from "@/core/verdicts/causes";
import { analysedOf, dueOf } from "@/state/findings";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { type Answer, useQuestion } from "../workbench/useQuestion";

/** Before a verdict comes into view it is worked out what settles it, from this far away. */
const NEAR = "120px";
/** Pause after an edit before remedies are tried again, ms: the screen and the late verdicts come first. */
const PAUSE_MS = 400;

/** The answer to what nobody waits for: never shown. */
const NOTHING: Offered = { offers: [], needs: null };

/** Whether an element is in view or near it: after an edit only what can be seen is tried again. */
export function useSeen(ref: RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watcher = new IntersectionObserver((entries) => setSeen(entries.at(-1)?.isIntersecting ?? false), {
      rootMargin: NEAR,
    });
    watcher.observe(element);
    return () => watcher.disconnect();
  }, [ref]);
  return seen;
}

/** What can be done about a cause, each change tried before it is shown; asked once it is in view and all verdicts are there. */
export function useOffers(cause: Cause, seen: boolean): Answer<Offered> {
  const { trying, searching } = useWorkbenchContext();
  const busy = useStore(searching, (state) => state.searching);
  const machine = useWorkbench(analysedOf);
  const late = useWorkbench((state) => dueOf(state) !== null);
  const newest = useRef(cause);
  newest.current = cause;
  return useQuestion({
    key: cause.id,
    version: seen && !late && !busy ? machine : null,
    pauseMs: PAUSE_MS,
    ask: (told) =>
      machine
        ? // A plan that has changed meanwhile, or a screen that was left, wants no more of the old ones tried.
          trying.inTurn(async (service) => ((await told(0, 1)) ? service.offers(machine, newest.current) : NOTHING))
        : undefined,
  });
}
