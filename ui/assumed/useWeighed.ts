"use client";
import { useMemo } from "react";
import { type Assumption, assumptionsOf } from "@/core/drafting/assumptions";
import type { Weighed } from "@/core/drafting/weigh";
import { analysedOf } from "@/state/findings";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { across, useQuestion } from "../workbench/useQuestion";

/** Pause after an edit before assumptions are weighed again, ms. */
const PAUSE_MS = 400;

/** What nobody has said of the open machine, at once; and what it could change, once that is weighed. */
export function useAssumptions(): readonly Assumption[] {
  const machine = useWorkbench((state) => state.machine);
  return useMemo(() => assumptionsOf(machine), [machine]);
}

/** The same in the order of what it could change; before it is weighed, and after an edit, in the order that is known. */
export function useWeighed(): { rows: readonly Weighed[]; weighing: boolean } {
  const { drafting } = useWorkbenchContext();
  const assumptions = useAssumptions();
  const machine = useWorkbench(analysedOf);
  const asked = useQuestion({
    key: "assumed",
    version: machine,
    pauseMs: PAUSE_MS,
    ask: (told) => (machine ? drafting.ask((service) => service.weigh(machine, across(told)), Number.POSITIVE_INFINITY) : undefined),
  });
  const rows = useMemo(() => {
    const known = new Map((asked.value ?? []).map((row, i) => [row.assumption.id, { row, i }]));
    const place = ({ id }: Assumption) => known.get(id)?.i ?? Number.POSITIVE_INFINITY;
    return [...assumptions]
      .sort((a, b) => place(a) - place(b))
      .map((assumption): Weighed => ({ weight: 0, worst: null, ...known.get(assumption.id)?.row, assumption }));
  }, [assumptions, asked.value]);
  return { rows, weighing: asked.stale };
}
