"use client";
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { ListReader, type ReadList } from "@/core/drafting/read-list";
import type { DraftingThread } from "@/state/drafting";

/** Lines up to which a list is read at the key itself; longer ones are read by the worker. */
const AT_ONCE = 60;

const countLines = (text: string) => text.split("\n").length;

/** A list as it is typed and what was made of it, read anew at every key; another text for one line of it. */
export function useList(thread: DraftingThread, first: string) {
  const [text, setText] = useState(first);
  const later = useDeferredValue(text);
  const reader = useRef(new ListReader());
  const [far, setFar] = useState<{ of: string; list: ReadList } | null>(null);
  const short = countLines(later) <= AT_ONCE && later.length < 20_000;
  const near = useMemo(() => (short ? reader.current.read(later) : null), [short, later]);
  useEffect(() => {
    if (short) return;
    let wanted = true;
    void thread
      .ask((service) => service.read(later))
      .then(
        (list) => wanted && setFar({ of: later, list }),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [short, later, thread]);
  const list = near ?? far?.list ?? null;
  const setLine = useCallback((number: number, line: string) => {
    setText((now) => {
      const lines = now.split("\n");
      lines[number - 1] = line;
      return lines.join("\n");
    });
  }, []);
  const reading = !short && far?.of !== later;
  return { text, setText, setLine, list, reading, settled: later === text && !reading };
}
