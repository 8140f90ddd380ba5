"use client";
import { useEffect, useRef, useState } from "react";
import type { Late } from "@/core/verdicts/late";
import type { Analyst } from "@/state/analyst";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";

/** An answer about the newest figures, asked again after each analysis and each walk of shorts; the last one stays meanwhile. */
export function useAsked<T>(key: string, ask: (analyst: Analyst) => Promise<T>): T | null {
  const { analyst } = useWorkbenchContext();
  const figures = useWorkbench((state) => state.analysis?.wires);
  const late = useWorkbench((state) => state.late);
  const [answer, setAnswer] = useState<{ key: string; value: T; late: Late | null } | null>(null);
  const asking = useRef(ask);
  asking.current = ask;
  useEffect(() => {
    let current = true;
    const asked = figures ? analyst() : null;
    if (asked) void asking.current(asked).then((value) => current && setAnswer({ key, value, late }));
    return () => {
      current = false;
    };
  }, [analyst, figures, late, key]);
  return answer?.key === key ? answer.value : null;
}
