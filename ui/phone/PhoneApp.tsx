"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { fetchPhonePlan, logLine } from "@/state/api";
import { BringUpThread } from "@/state/bring-up";
import { createLog, type LogStore, plainStorage } from "@/state/log";
import { forgetPlan, keepPlan, keptPlan, type PhonePlan } from "@/state/phone";
import { PairScreen } from "./PairScreen";
import { PhoneBringUp } from "./PhoneBringUp";

/** Between two looks at what others have added, ms. */
const LOOK_MS = 20_000;

type State = { kind: "looking" } | { kind: "pair"; detail: string | null } | { kind: "ready"; plan: PhonePlan; log: LogStore };

/** The machine in a hand: pairing, then one step a screen. What was read stays here until the server has it. */
export function PhoneApp() {
  const [state, setState] = useState<State>({ kind: "looking" });
  const [thread, setThread] = useState<BringUpThread | null>(null);
  const log = useRef<{ id: string; store: LogStore } | null>(null);
  const open = useCallback((plan: PhonePlan) => {
    if (log.current?.id !== plan.id) {
      log.current?.store.getState().stop();
      log.current = {
        id: plan.id,
        store: createLog(
          plan.id,
          logLine({ fetch: "/api/phone/plan", send: "/api/phone/readings" }),
          plainStorage(),
          undefined,
          plan.stored,
        ),
      };
    }
    setState({ kind: "ready", plan, log: log.current.store });
  }, []);
  const look = useCallback(async () => {
    const shelf = plainStorage();
    const found = await fetchPhonePlan();
    if (found === "unpaired") {
      forgetPlan(shelf);
      setState({ kind: "pair", detail: null });
      return;
    }
    if ("ok" in found) {
      const kept = keptPlan(shelf);
      if (kept) open(kept);
      else return setState({ kind: "pair", detail: found.detail });
      return log.current?.store.getState().refresh();
    }
    keepPlan(shelf, found);
    open(found);
    await log.current?.store.getState().refresh();
  }, [open]);
  useEffect(() => {
    const worker = new BringUpThread();
    setThread(worker);
    void look();
    const timer = setInterval(() => void look(), LOOK_MS);
    const awake = () => void look();
    window.addEventListener("online", awake);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", awake);
      worker.stop();
    };
  }, [look]);
  if (state.kind === "pair") return <PairScreen detail={state.detail} onPaired={() => void look()} />;
  if (state.kind === "looking" || !thread) return <p className="p-4 text-base">Looking for the machine…</p>;
  return <PhoneBringUp plan={state.plan} log={state.log} thread={thread} />;
}
