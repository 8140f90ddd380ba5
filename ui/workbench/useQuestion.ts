"use client";
import type { Remote } from "comlink";
import * as Comlink from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Ask } from "@/core/engine/engine";
import type { Machine } from "@/core/machine/schema";
import { analysedOf, analysisOf, lateOf } from "@/state/findings";
import type { SourcesService } from "@/workers/sources.worker";
import { useWorkbench, useWorkbenchContext } from "./context";

/** How far a long answer is. Whoever works it out calls this now and then, and stops when it answers false. */
export type Told = (done: number, of: number) => Promise<boolean>;

interface Question<T> {
  /** What it is about: an answer about something else is not shown. */
  key: string;
  /** What it hangs on besides: asked again when this is another object. Null: not yet, or not any more. */
  version: object | null;
  /** Null as answer to a long question: it was stopped. */
  ask: (told: Told) => Promise<T> | undefined;
  /** Pause after a change before it is asked again, ms. */
  pauseMs?: number;
  /** Asked only by `start`, not by itself. */
  onDemand?: boolean;
}

/** Where a question stands. The last answer stays on screen while a newer one is being worked out. */
export interface Answer<T> {
  value: T | null;
  /** The version the value is of. */
  of: object | null;
  /** There is no value yet, or it is of an older version. */
  stale: boolean;
  asking: boolean;
  /** It broke off; asked again with the next change, or by `start`. */
  failed: boolean;
  progress: { done: number; of: number } | null;
  start: () => void;
  stop: () => void;
}

/** Asks something that is worked out elsewhere, in a worker or on another turn, with progress, stop and failure. */
export function useQuestion<T>(question: Question<T>): Answer<T> {
  const { key, version, pauseMs = 0, onDemand = false } = question;
  const [answer, setAnswer] = useState<{ key: string; of: object; value: T } | null>(null);
  const [state, setState] = useState<"idle" | "asking" | "failed">("idle");
  const [progress, setProgress] = useState<Answer<T>["progress"]>(null);
  const newest = useRef(question);
  newest.current = question;
  const turn = useRef(0);
  const shown = useRef<string | null>(null);
  shown.current = answer?.key ?? null;

  const leave = useCallback(() => {
    turn.current++;
  }, []);
  const stop = useCallback(() => {
    turn.current++;
    setState("idle");
    setProgress(null);
  }, []);
  const start = useCallback(() => {
    const { key: about, version: of, ask } = newest.current;
    const mine = ++turn.current;
    if (!of) return;
    const asked = ask(async (done, all) => {
      if (turn.current !== mine) return false;
      setProgress({ done, of: all });
      return true;
    });
    if (!asked) return;
    setState("asking");
    setProgress(null);
    asked.then(
      (value) => {
        if (turn.current !== mine) return;
        setState("idle");
        setProgress(null);
        setAnswer({ key: about, of, value });
      },
      () => {
        if (turn.current !== mine) return;
        setState("failed");
        setProgress(null);
      },
    );
  }, []);

  useEffect(() => {
    if (onDemand) return;
    if (!version) return stop();
    const waits = shown.current === key ? pauseMs : 0;
    if (waits === 0) {
      start();
      return leave;
    }
    const timer = setTimeout(start, waits);
    return () => {
      clearTimeout(timer);
      leave();
    };
  }, [key, version, pauseMs, onDemand, start, stop, leave]);
  useEffect(() => leave, [leave]);

  const current = answer?.key === key ? answer : null;
  return {
    value: current?.value ?? null,
    of: current?.of ?? null,
    stale: current === null || current.of !== version,
    asking: state === "asking",
    failed: state === "failed",
    progress,
    start,
    stop,
  };
}

/** A question to whoever made the newest figures: asked again after each analysis and each walk of shorts. */
export function useAsked<T>(key: string, question: (ask: Ask) => Promise<T>): Answer<T> {
  const { ask } = useWorkbenchContext();
  const figures = useWorkbench((state) => analysisOf(state)?.wires);
  const late = useWorkbench(lateOf);
  const version = useMemo(() => (figures ? { figures, late } : null), [figures, late]);
  return useQuestion({
    key,
    version,
    ask: () => {
      const asking = ask();
      return asking ? question(asking) : undefined;
    },
  });
}

/** Pause after an edit before a long question is asked again, ms. */
const PAUSE_MS = 200;

/** A question to the sources worker about the machine last analysed, asked again after every edit. */
export function useSourcesAnswer<T>(key: string, ask: (service: Remote<SourcesService>, machine: Machine) => Promise<T>): Answer<T> {
  const { sources } = useWorkbenchContext();
  const machine = useWorkbench(analysedOf);
  return useQuestion({
    key,
    version: machine,
    pauseMs: PAUSE_MS,
    ask: () => (machine ? sources.ask((service) => ask(service, machine), Number.POSITIVE_INFINITY) : undefined),
  });
}

/** Progress as a worker can call it. */
export function across(told: Told): Told {
  return Comlink.proxy(told);
}
