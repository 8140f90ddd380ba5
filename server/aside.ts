import { join } from "node:path";
import { Worker } from "node:worker_threads";
import type { Job, JobAnswer } from "./jobs";

/** Longest a job may take, ms: a machine of two thousand parts takes seconds. */
const LIMIT_MS = 180_000;
/** Memory a job may take, MB. */
const MEMORY_MB = 1024;

interface Waiting {
  readonly key: string;
  readonly job: () => Job | null;
  readonly done: (answer: JobAnswer | null) => void;
  tries: number;
}

/** Where the build puts the worker; a program that runs from its sources is told by NODE_LEDGER_WORKER. */
const workerPath = () => process.env.NODE_LEDGER_WORKER ?? join(process.cwd(), ".next", "node-ledger", "analysis.worker.mjs");

/**
 * A thread beside the one that answers requests, for what takes long. Jobs of one key are one job. A thread that dies or
 * takes too long is started again once for the job that was at work; then that job is given up, and said to have failed.
 */
export class AsideThread {
  private worker: Worker | null = null;
  private at: Waiting | null = null;
  private timer: NodeJS.Timeout | null = null;
  private readonly queue: Waiting[] = [];
  /** Of everything that waits or is at work. */
  private readonly keys = new Set<string>();
  private ended = false;

  constructor(
    private readonly path = workerPath(),
    private readonly limitMs = LIMIT_MS,
  ) {}

  /**
   * Does something later.
   * @param key jobs that are waiting or at work under the same key are not put in again
   * @param job makes the job when its turn comes; null: it is no longer wanted
   * @param done gets the answer; null where it failed twice
   * @param soon before everything that waits
   * @returns whether it was put in
   */
  ask(key: string, job: () => Job | null, done: (answer: JobAnswer | null) => void, soon = false): boolean {
    if (this.ended || this.keys.has(key)) return false;
    this.keys.add(key);
    const waiting = { key, job, done, tries: 0 };
    if (soon) this.queue.unshift(waiting);
    else this.queue.push(waiting);
    this.next();
    return true;
  }

  end(): void {
    this.ended = true;
    this.queue.length = 0;
    this.keys.clear();
    this.dropThread();
  }

  private next(): void {
    if (this.at || this.ended) return;
    let job: Job | null = null;
    let waiting: Waiting | undefined;
    while (!job) {
      waiting = this.queue.shift();
      if (!waiting) return;
      try {
        job = waiting.job();
        if (!job) this.keys.delete(waiting.key);
      } catch {
        this.answer(waiting, null);
      }
    }
    if (!waiting) return;
    this.at = waiting;
    waiting.tries++;
    this.timer = setTimeout(() => this.failed(), this.limitMs);
    this.timer.unref();
    this.thread().postMessage(job);
  }

  private thread(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.path, { resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
    worker.unref();
    worker.on("message", (answer: JobAnswer) => this.finish(worker, answer));
    worker.on("error", () => this.failed(worker));
    worker.on("exit", () => this.failed(worker));
    this.worker = worker;
    return worker;
  }

  private finish(worker: Worker, answer: JobAnswer | null): void {
    if (worker !== this.worker || !this.at) return;
    const at = this.at;
    this.clear();
    this.answer(at, answer);
    this.next();
  }

  private failed(worker = this.worker): void {
    if (worker !== this.worker) return;
    const at = this.at;
    this.clear();
    this.dropThread();
    if (at && at.tries < 2) this.queue.unshift(at);
    else if (at) this.answer(at, null);
    this.next();
  }

  private answer({ key, done }: Waiting, answer: JobAnswer | null): void {
    this.keys.delete(key);
    done(answer);
  }

  private clear(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.at = null;
  }

  private dropThread(): void {
    const worker = this.worker;
    this.worker = null;
    void worker?.terminate();
  }
}

const holder = globalThis as typeof globalThis & { nodeLedgerAside?: AsideThread };

/** The thread of this process. */
export function aside(): AsideThread {
  holder.nodeLedgerAside ??= new AsideThread();
  return holder.nodeLedgerAside;
}
