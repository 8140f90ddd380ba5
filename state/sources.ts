import * as Comlink from "comlink";
import type { Machine } from "@/core/machine/schema";
import { type Late, nothingLate } from "@/core/verdicts/late";
import type { SourcesService } from "@/workers/sources.worker";
import type { Workbench } from "./workbench";

/** Long questions about sources, answered off the screen's thread; the worker starts with the first. */
export class Sources {
  private worker: Worker | null = null;
  private remote: Comlink.Remote<SourcesService> | null = null;

  get service(): Comlink.Remote<SourcesService> {
    if (!this.remote) {
      this.worker = new Worker(new URL("../workers/sources.worker.ts", import.meta.url), { type: "module" });
      this.remote = Comlink.wrap<SourcesService>(this.worker);
    }
    return this.remote;
  }

  stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
  }
}

/** Wait after the last edit before the run is integrated again, ms: a word typed quickly is one edit. */
const SETTLE_MS = 250;

/**
 * Keeps the late verdicts current: when edits pause, the newest analysed machine is run through, one at a time.
 * @param late what runs a machine through; a rejection is told as a broken analysis, never as silence
 */
export function keepLate(store: Workbench, late: (machine: Machine) => Promise<Late> | Late, settleMs = SETTLE_MS): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  let busy = false;
  let stopped = false;
  const run = async () => {
    timer = null;
    if (busy || stopped) return;
    busy = true;
    for (let next = due(store); next && !stopped; next = due(store)) {
      const machine = next;
      const found = await Promise.resolve(late(machine)).catch(() => null);
      if (!stopped) store.getState().adoptLate(found, machine);
      // What was edited meanwhile waits for its own pause.
      if (store.getState().analysed !== machine) break;
    }
    busy = false;
    if (due(store) && timer === null && !stopped) timer = setTimeout(() => void run(), settleMs);
  };
  /** Settles at once what needs no working out; true when it did. */
  const settled = (): boolean => {
    const machine = due(store);
    const found = machine && nothingLate(machine);
    if (machine && found) store.getState().adoptLate(found, machine);
    return found !== null;
  };
  const unsubscribe = store.subscribe((state, previous) => {
    if (state.analysed === previous.analysed || due(store) === null || settled()) return;
    if (timer !== null) clearTimeout(timer);
    timer = setTimeout(() => void run(), settleMs);
  });
  if (due(store) && !settled()) timer = setTimeout(() => void run(), 0);
  return () => {
    stopped = true;
    unsubscribe();
    if (timer !== null) clearTimeout(timer);
  };
}

/** The machine whose late verdicts are not there yet. */
function due(store: Workbench): Machine | null {
  const { analysed, lateOf, broken } = store.getState();
  return analysed !== null && analysed !== lateOf && !broken ? analysed : null;
}
