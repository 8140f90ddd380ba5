"use client";
import { type RefObject, useCallback, useRef } from "react";

/** How often, and how long after a remedy, it is looked whether the focus was lost with what it stood on, ms. */
const LOOK_MS = 80;
const LOOKS = 50;

/** The headlines of a list of causes, in order. */
export function headlinesIn(list: ParentNode): HTMLElement[] {
  return [...list.querySelectorAll<HTMLElement>("[data-cause] [data-headline]")];
}

/**
 * A remedy takes away what it settles, and with it the button that has the focus: the focus then goes to what stands in its
 * place, so that the next verdict is one key away. Called with the cause before it is taken; `leave` where nothing was done.
 */
export function useKeepFocus(list: RefObject<HTMLElement | null>): (causeId: string) => { leave: () => void } {
  const timer = useRef<ReturnType<typeof setInterval> | null>(null);
  return useCallback(
    (causeId) => {
      const items = [...(list.current?.querySelectorAll<HTMLElement>("[data-cause]") ?? [])];
      const index = Math.max(
        0,
        items.findIndex((item) => item.dataset.cause === causeId),
      );
      let looks = 0;
      const leave = () => {
        if (timer.current !== null) clearInterval(timer.current);
        timer.current = null;
      };
      leave();
      timer.current = setInterval(() => {
        if (looks++ > LOOKS || !list.current) return leave();
        if (document.activeElement !== document.body && document.activeElement !== null) return;
        const headlines = headlinesIn(list.current);
        headlines[Math.min(index, headlines.length - 1)]?.focus();
      }, LOOK_MS);
      return { leave };
    },
    [list],
  );
}
