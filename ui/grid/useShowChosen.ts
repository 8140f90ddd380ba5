"use client";
import { type RefObject, useEffect, useRef } from "react";

/**
 * Keeps the chosen row of a long table in sight: it is drawn if it was not, and scrolled clear of heads that stay. Rows scroll
 * by themselves only when another one is chosen.
 */
export function useShowChosen(
  chosen: string | null,
  ids: readonly string[],
  scroller: RefObject<HTMLElement | null>,
  reveal: (row: number) => void,
): void {
  const newest = useRef({ ids, reveal });
  newest.current = { ids, reveal };
  useEffect(() => {
    if (chosen === null) return;
    const show = () => {
      const row = scroller.current?.querySelector(`[data-row="${CSS.escape(chosen)}"]`);
      row?.scrollIntoView({ block: "nearest" });
      return row !== null && row !== undefined;
    };
    if (show()) return;
    const index = newest.current.ids.indexOf(chosen);
    if (index < 0) return;
    newest.current.reveal(index);
    const frame = requestAnimationFrame(() => requestAnimationFrame(show));
    return () => cancelAnimationFrame(frame);
  }, [chosen, scroller]);
}
