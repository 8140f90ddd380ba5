import * as Comlink from "comlink";

/** Longest a question is waited for, ms; whoever can be stopped while it works says so by asking without end. */
export const LIMIT_MS = 180_000;

/** The worker could not even be loaded: nothing was wrong with the question. */
export class NotLoaded extends Error {}

interface Running<T> {
  readonly worker: Worker;
  readonly remote: Comlink.Remote<T>;
  /** Rejects when the worker cannot be loaded or breaks off. */
  readonly broke: Promise<never>;
}

/**
 * A worker that is started with its first question. One that cannot be loaded, breaks off or takes too long is started again
 * once for the question that met it; then that question fails. None is waited for without end.
 */
export class Thread<T> {
  private running: Running<T> | null = null;

  constructor(private readonly start: () => Worker) {}

  /** @param question asked once more, with `again`, when the worker failed at it */
  async ask<R>(question: (remote: Comlink.Remote<T>, again: boolean) => Promise<R>, limitMs = LIMIT_MS): Promise<R> {
    const mine = this.thread();
    try {
      return await within(limitMs, mine, question(mine.remote, false));
    } catch {
      if (this.running === mine) this.stop();
      const next = this.thread();
      return within(limitMs, next, question(next.remote, true));
    }
  }

  /** Ends the worker: what it was asked is never answered. The next question starts another. */
  stop(): void {
    this.running?.worker.terminate();
    this.running = null;
  }

  private thread(): Running<T> {
    if (this.running) return this.running;
    const worker = this.start();
    // One that never said a word did not get as far as a question.
    let spoke = false;
    const broke = new Promise<never>((_resolve, reject) => {
      const fail = () => reject(spoke ? new Error("the worker broke off") : new NotLoaded("the worker could not be loaded"));
      worker.addEventListener("error", fail);
      worker.addEventListener("messageerror", fail);
      worker.addEventListener("message", () => {
        spoke = true;
      });
    });
    // Where nobody is asking when it breaks, the next question learns of it.
    broke.catch(() => undefined);
    this.running = { worker, remote: Comlink.wrap<T>(worker), broke };
    return this.running;
  }
}

function within<T, R>(limitMs: number, { broke }: Running<T>, answer: Promise<R>): Promise<R> {
  if (!Number.isFinite(limitMs)) return Promise.race([answer, broke]);
  let timer: ReturnType<typeof setTimeout>;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new Error("the worker took too long")), limitMs);
  });
  return Promise.race([answer, broke, late]).finally(() => clearTimeout(timer));
}
