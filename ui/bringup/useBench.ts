"use client";
import { useCallback, useState } from "react";
import { answered, linesFor } from "@/core/bringup/protocol";
import type { Observable } from "@/core/bringup/types";
import type { InstrumentId } from "@/core/reference/instruments";
import { askBench, type BenchLine } from "@/state/api";
import { freshKey } from "@/state/keys";
import { useWorkbench } from "../workbench/context";

/** What a bench gave: a reading (null: over range), or why there is none. */
export type BenchReading = { ok: true; value: number | null; simulated: boolean } | { ok: false; detail: string };

/** A bench to read from. `drill`: a fault is hidden in its machine. */
export interface Bench {
  readonly line: BenchLine;
  read: (at: Observable, instrument: InstrumentId) => Promise<BenchReading>;
}

/** A bench that is set up when it is asked for, and asked over the line protocol. */
export function useBench(drill: boolean): { bench: Bench | null; begin: () => void; end: () => void } {
  const id = useWorkbench((state) => state.id);
  const [line, setLine] = useState<BenchLine | null>(null);
  const read = useCallback(
    async (at: Observable, instrument: InstrumentId): Promise<BenchReading> => {
      if (!line) return { ok: false, detail: "No bench is set up." };
      const answer = await askBench(id, line, linesFor(at, instrument));
      if ("ok" in answer) return { ok: false, detail: answer.detail };
      const value = answered(answer.answers.at(-1) ?? null);
      return value === undefined
        ? { ok: false, detail: "The bench gave no reading there." }
        : { ok: true, value, simulated: answer.simulated };
    },
    [id, line],
  );
  const begin = useCallback(() => {
    const [seed = 1] = crypto.getRandomValues(new Uint32Array(1));
    setLine({ session: freshKey(), seed: seed % 2 ** 31, drill });
  }, [drill]);
  const end = useCallback(() => setLine(null), []);
  return { bench: line && { line, read }, begin, end };
}
