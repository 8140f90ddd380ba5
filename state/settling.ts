import { createStore } from "zustand/vanilla";
import type { SettlingService } from "@/workers/settling.worker";
import { Thread } from "./thread";

/** Whether a long search is under way: what else can wait leaves it the cores. */
export const createSearching = () => createStore<{ searching: boolean }>()(() => ({ searching: false }));

/** Tries changes off the screen's thread; the worker starts with the first. One for what is offered, another for long searches. */
export class SettlingThread extends Thread<SettlingService> {
  constructor() {
    super(() => new Worker(new URL("../workers/settling.worker.ts", import.meta.url), { type: "module" }));
  }
}
