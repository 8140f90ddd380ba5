import type { Unasked } from "@/core/analysis/unasked";
import type { Machine } from "@/core/machine/schema";
import { type Late, nothingLate } from "@/core/verdicts/late";
import type { SourcesService } from "@/workers/sources.worker";
import { analysedOf, analysisOf, dueOf } from "./findings";
import { waitAfter } from "./saving";
import { NotLoaded, Thread } from "./thread";
import type { Workbench } from "./workbench";

/** Long questions about sources, answered off the screen's thread; the worker starts with the first. */
export class Sources extends Thread<SourcesService> {
  constructor() {
    super(() => new Worker(new URL("../workers/sources.worker.ts", import.meta.url), { type: "module" }));
  }
}

/**
 * Wait after the last edit before the run is integrated again, ms. Long enough that somebody who goes through cells one
 * after the other is never held up by work that the next edit throws away.
 */
const SETTLE_MS = 500;

/** As many such waits more until it is weighed what need not be asked: nobody waits for that, and it tries the machine many times. */
const WEIGH_AFTER = 3;

/** Runs a machine through. What is at work can be dropped: it never answers then. */
export interface LateRunner {
  run: (machine: Machine) => Promise<Late> | Late;
  /** What of all that is asked need not be: after everything else is told, since it tries the machine many times. */
  weigh: (machine: Machine, late: Late) => Promise<Unasked | null> | Unasked | null;
  drop: () => void;
}

/** A worker for late verdicts alone, ended at once when it is dropped: on a small machine it would take a core from the edit. */
export function lateWorker(): LateRunner {
  const worker = new Sources();
  return {
    run: (machine) => worker.ask((service) => service.late(machine)),
    weigh: (machine, { verdicts }) => worker.ask((service) => service.unasked(machine, verdicts)),
    drop: () => worker.stop(),
  };
}

/**
 * Keeps the late verdicts current: when edits pause, the newest analysed machine is run through, one at a time. An edit
 * drops what is at work. A rejection is told as a broken analysis, never as silence.
 */
export function keepLate(store: Workbench, late: LateRunner, settleMs = SETTLE_MS, waitMs = waitAfter): () => void {
  let failures = 0;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let running: Machine | null = null;
  const run = async () => {
    timer = null;
    const machine = dueOf(store.getState());
    if (machine === null) return;
    running = machine;
    const found = await Promise.resolve(late.run(machine)).catch((error: unknown) => (error instanceof NotLoaded ? "not loaded" : null));
    if (running !== machine) return;
    running = null;
    if (found === "not loaded") {
      // The server that has it is away: what is known stands, what is not is waited for, and nothing looks clear meanwhile.
      failures++;
      store.getState().holdLate(true);
      store.getState().adoptUnasked(null, machine);
      timer = setTimeout(() => void run(), waitMs(failures));
      return;
    }
    failures = 0;
    store.getState().holdLate(false);
    store.getState().adoptLate(found, machine);
    if (found === null || !analysisOf(store.getState())?.verdicts.some(({ severity }) => severity === "ask")) return;
    timer = setTimeout(() => void weigh(machine, found), WEIGH_AFTER * settleMs);
  };
  const weigh = async (machine: Machine, found: Late) => {
    timer = null;
    running = machine;
    // What could not be weighed is asked.
    const unasked = await Promise.resolve(late.weigh(machine, found)).catch(() => null);
    if (running !== machine) return;
    running = null;
    store.getState().adoptUnasked(unasked, machine);
  };
  const drop = () => {
    if (timer !== null) clearTimeout(timer);
    timer = null;
    if (running) late.drop();
    running = null;
  };
  /** Settles at once what needs no working out; true when it did. */
  const settled = (): boolean => {
    const machine = dueOf(store.getState());
    const found = machine && nothingLate(machine);
    if (machine && found) store.getState().adoptLate(found, machine);
    return found !== null;
  };
  const unsubscribe = store.subscribe((state, previous) => {
    if (state.machine !== previous.machine) drop();
    if (analysedOf(state) === analysedOf(previous) || dueOf(store.getState()) === null || settled()) return;
    drop();
    timer = setTimeout(() => void run(), analysedOf(previous) === null ? 0 : settleMs);
  });
  if (dueOf(store.getState()) && !settled()) timer = setTimeout(() => void run(), 0);
  return () => {
    unsubscribe();
    drop();
    late.drop();
  };
}
