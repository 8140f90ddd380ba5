"use client";
import type { Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Machine } from "@/core/machine/schema";
import type { SourcesService } from "@/workers/sources.worker";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";

/** What the worker answered last; `stale` while a newer machine is being worked through, `failed` when it broke off. */
export interface Answer<T> {
  value: T | null;
  stale: boolean;
  failed: boolean;
}

/** Pause after an edit before a long question is asked again, ms. */
const PAUSE_MS = 200;

/**
 * Asks the sources worker about the open machine, again after every edit. The last answer stays on screen meanwhile.
 * @param key what the question depends on besides the machine
 */
export function useAnswer<T>(key: string, ask: (service: Remote<SourcesService>, machine: Machine) => Promise<T>): Answer<T> {
  const { sources } = useWorkbenchContext();
  const machine = useWorkbench((state) => state.analysed);
  const [answer, setAnswer] = useState<{ value: T; machine: Machine; key: string } | null>(null);
  const [failed, setFailed] = useState(false);
  const asking = useRef(ask);
  asking.current = ask;
  const first = answer === null || answer.key !== key;
  useEffect(() => {
    if (!machine) return;
    let gone = false;
    const timer = setTimeout(
      () => {
        asking.current(sources.service, machine).then(
          (value) => {
            if (gone) return;
            setFailed(false);
            setAnswer({ value, machine, key });
          },
          () => {
            if (!gone) setFailed(true);
          },
        );
      },
      first ? 0 : PAUSE_MS,
    );
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [sources, machine, key, first]);
  const current = answer !== null && answer.key === key;
  return { value: current ? answer.value : null, stale: !current || answer.machine !== machine, failed };
}
