"use client";
import * as Comlink from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Settled } from "@/core/engine/settling";
import type { Machine } from "@/core/machine/schema";
import type { Aim } from "@/core/settling/search";
import type { Progress, SettleChange } from "@/core/settling/settle";
import { useWorkbenchContext } from "../workbench/context";

/** Pause after an edit before the search begins again, ms. */
const PAUSE_MS = 500;

interface Held {
  aim: Aim;
  of: Machine;
  found: Settled;
}

/** The search for what settles a plan: begun by itself, again after each edit, with progress, what was found first, and stop. */
export function useSettlement(aim: Aim, machine: Machine | null) {
  const { settling, searching } = useWorkbenchContext();
  const [held, setHeld] = useState<Held | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [state, setState] = useState<"idle" | "asking" | "failed" | "stopped">("idle");
  const turn = useRef(0);

  const start = useCallback(() => {
    if (!machine) return;
    const mine = ++turn.current;
    setState("asking");
    setProgress(null);
    const told = Comlink.proxy(async (at: Progress) => {
      if (turn.current !== mine) return false;
      setProgress(at);
      return true;
    });
    settling
      .ask((service) => service.settle(machine, aim, told), Number.POSITIVE_INFINITY)
      .then(
        (found) => {
          if (turn.current !== mine || !found) return;
          setState("idle");
          setHeld({ aim, of: machine, found });
        },
        () => turn.current === mine && setState("failed"),
      );
  }, [settling, machine, aim]);

  const first = useRef(true);
  useEffect(() => {
    if (!machine) return;
    const timer = setTimeout(start, first.current ? 0 : PAUSE_MS);
    first.current = false;
    return () => {
      clearTimeout(timer);
      turn.current++;
    };
  }, [start, machine]);

  useEffect(() => {
    searching.setState({ searching: state === "asking" });
    return () => searching.setState({ searching: false });
  }, [searching, state]);

  const stop = () => {
    turn.current++;
    setState("stopped");
  };
  /** A change was taken (null: all of them): it goes from the list at once, before the rest is looked at again. */
  const left = (taken: SettleChange | null) =>
    setHeld(
      (before) =>
        before && { ...before, found: { ...before.found, changes: taken ? before.found.changes.filter((each) => each !== taken) : [] } },
    );

  const found = held?.aim === aim ? held.found : null;
  return {
    found,
    stale: found !== null && held?.of !== machine,
    sofar: state === "asking" ? (progress?.sofar ?? []) : [],
    asking: state === "asking",
    failed: state === "failed",
    stopped: state === "stopped",
    progress,
    start,
    stop,
    left,
  };
}
