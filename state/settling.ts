import type { Remote } from "comlink";
import { createStore } from "zustand/vanilla";
import type { SettlingService } from "@/workers/settling.worker";
import { Thread } from "./thread";

/** Whether a long search is under way: what else can wait leaves it the cores. */
export const createSearching = () => createStore<{ searching: boolean }>()(() => ({ searching: false }));

/** Tries changes off the screen's thread; the worker starts with the first. One for what is offered, another for long searches. */
export class SettlingThread extends Thread<SettlingService> {
  private last: Promise<unknown> = Promise.resolve();

  constructor() {
    super(() => new Worker(new URL("../workers/settling.worker.ts", import.meta.url), { type: "module" }));
  }

  /** Asked once those before it are answered, so that what nobody waits for any more need not be begun. */
  inTurn<R>(question: (remote: Remote<SettlingService>) => Promise<R>): Promise<R> {
    const mine = this.last.then(() => this.ask(question, Number.POSITIVE_INFINITY));
    this.last = mine.catch(() => undefined);
    return mine;
  }
}
