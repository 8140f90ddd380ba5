import * as Comlink from "comlink";
import { unpackAnalysis } from "@/core/analysis/packed";
import { deltaOf } from "@/core/machine/delta";
import type { Machine } from "@/core/machine/schema";
import type { AnalysisService } from "@/workers/analysis.worker";
import type { Workbench } from "./workbench";

export type Analyst = Comlink.Remote<AnalysisService>;

/**
 * Keeps a workbench's figures current: every change goes to the worker; while one analysis runs, only the newest
 * document waits. Returns the worker's services and a way to stop it.
 */
export function startAnalyst(store: Workbench): { analyst: Analyst; stop: () => void } {
  const worker = new Worker(new URL("../workers/analysis.worker.ts", import.meta.url), { type: "module" });
  const analyst = Comlink.wrap<AnalysisService>(worker);
  let busy = false;
  let sent: Machine | null = null;
  let stopped = false;
  const run = async () => {
    if (busy) return;
    busy = true;
    while (!stopped && store.getState().analysed !== store.getState().machine) {
      const { machine } = store.getState();
      const delta = deltaOf(sent, machine);
      sent = machine;
      // A fault in the analysis must not look like an answer, nor keep the next edit from being analysed.
      const analysis = await analyst.analyse(delta).then(unpackAnalysis, () => null);
      if (!stopped) store.getState().adoptAnalysis(analysis, machine);
    }
    busy = false;
  };
  const unsubscribe = store.subscribe((state, previous) => {
    if (state.machine !== previous.machine) void run();
  });
  void run();
  return {
    analyst,
    stop: () => {
      stopped = true;
      unsubscribe();
      worker.terminate();
    },
  };
}
