"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";

/** Renders only the rows in view of a long table; short ones are rendered whole, so that nothing is hidden from a reader. */
export function useVirtualRows(count: number, rowHeight: number) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 8 });
  const whole = count <= 60;
  const items = virtual.getVirtualItems();
  const indexes =
    whole || items.length === 0
      ? Array.from({ length: whole ? count : Math.min(count, 40) }, (_, i) => i)
      : items.map((item) => item.index);
  const top = whole ? 0 : (items[0]?.start ?? 0);
  const bottom = whole ? 0 : Math.max(0, virtual.getTotalSize() - (items.at(-1)?.end ?? 0));
  return { scroller, indexes, top, bottom, reveal: (row: number) => virtual.scrollToIndex(row) };
}
