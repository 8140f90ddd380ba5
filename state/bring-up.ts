import { createStore, type StoreApi } from "zustand/vanilla";
import type { BringUpView } from "@/core/engine/bring-up";
import type { Machine } from "@/core/machine/schema";
import type { BringUpService } from "@/workers/bring-up.worker";
import { analysedOf } from "./findings";
import type { LogState, LogStore } from "./log";
import { Thread } from "./thread";
import type { Workbench } from "./workbench";

/** Questions of Bring-up, answered off the screen's thread; the worker starts with the first. */
export class BringUpThread extends Thread<BringUpService> {
  constructor() {
    super(() => new Worker(new URL("../workers/bring-up.worker.ts", import.meta.url), { type: "module" }));
  }
}

/** The bring-up as it was worked out last, and of what. */
export interface BringUpState {
  view: BringUpView | null;
  of: Machine | null;
  log: LogState["log"] | null;
  failed: boolean;
  /** Somebody looks at it: it is worked out also while nothing was read. */
  wanted: boolean;
  want: () => void;
}

export type BringUpStore = StoreApi<BringUpState>;

/** Pause after an edit before it is worked out again, ms. */
const PAUSE_MS = 150;

/** Keeps a bring-up current: with every analysed plan and every reading. Where nothing was read it waits until it is looked at. */
export function keepBringUp(workbench: Workbench, log: LogStore, thread: BringUpThread): { store: BringUpStore; stop: () => void } {
  let timer: ReturnType<typeof setTimeout> | null = null;
  let turn = 0;
  const due = () => {
    const machine = analysedOf(workbench.getState());
    const state = log.getState();
    const { wanted, of, log: known } = store.getState();
    const read = state.log.readings.length + state.log.waivers.length > 0;
    if (!machine || !(wanted || read)) return null;
    return of === machine && known === state.log && kit === state.kit ? null : { machine, log: state.log, kit: state.kit };
  };
  let kit: LogState["kit"] | null = null;
  const run = async () => {
    timer = null;
    const question = due();
    if (!question) return;
    const mine = ++turn;
    const view = await thread.ask((service) => service.view(question.machine, question.log, question.kit)).catch(() => null);
    if (mine !== turn) return;
    kit = question.kit;
    store.setState({ view, of: view ? question.machine : null, log: question.log, failed: view === null });
    workbench.getState().adoptLogged(view?.verdicts ?? [], question.machine);
  };
  const after = (ms: number) => {
    if (timer !== null) clearTimeout(timer);
    timer = setTimeout(() => void run(), ms);
  };
  const store = createStore<BringUpState>()((set) => ({
    view: null,
    of: null,
    log: null,
    failed: false,
    wanted: false,
    want: () => {
      set({ wanted: true });
      after(0);
    },
  }));
  const stops = [
    workbench.subscribe((state, before) => {
      if (analysedOf(state) !== analysedOf(before)) after(PAUSE_MS);
    }),
    log.subscribe((state, before) => {
      if (state.log !== before.log || state.kit !== before.kit) after(0);
    }),
  ];
  return {
    store,
    stop: () => {
      turn++;
      if (timer !== null) clearTimeout(timer);
      for (const stop of stops) stop();
    },
  };
}
