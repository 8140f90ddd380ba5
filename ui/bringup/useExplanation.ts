"use client";
import type { Remote } from "comlink";
import { useMemo } from "react";
import type { Extra } from "@/core/engine/bring-up";
import type { Machine } from "@/core/machine/schema";
import { analysedOf } from "@/state/findings";
import type { BringUpService } from "@/workers/bring-up.worker";
import { useLog, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { type Answer, useQuestion } from "../workbench/useQuestion";

/** A question to the bring-up worker about the plan last analysed and its log, asked again when either changes. */
export function useBringUpAnswer<T>(
  key: string | null,
  ask: (service: Remote<BringUpService>, machine: Machine) => Promise<T>,
  more: object | null = null,
): Answer<T> {
  const { bringUpThread } = useWorkbenchContext();
  const machine = useWorkbench(analysedOf);
  const log = useLog((state) => state.log);
  const kit = useLog((state) => state.kit);
  const version = useMemo(() => (machine && key !== null ? { machine, log, kit, more } : null), [machine, log, kit, more, key]);
  return useQuestion({
    key: key ?? "",
    version,
    pauseMs: 120,
    ask: () => (machine ? bringUpThread.ask((service) => ask(service, machine)) : undefined),
  });
}

/** What would explain the readings so far, with those taken beside the steps. */
export function useExplanation(key: string | null, extra: readonly Extra[]) {
  const log = useLog((state) => state.log);
  const kit = useLog((state) => state.kit);
  return useBringUpAnswer(key, (service, machine) => service.explain(machine, log, kit, extra), extra);
}
