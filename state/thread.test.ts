import * as Comlink from "comlink";
import { afterEach, describe, expect, it, vi } from "vitest";
import { NotLoaded, Thread } from "./thread";

afterEach(() => vi.useRealTimers());

interface Service {
  double: (n: number) => Promise<number>;
}

/** A worker whose other end runs here. */
function fakeWorker(kind: "works" | "fails to load" | "throws" | "hangs"): Worker & { ended: boolean } {
  const { port1, port2 } = new MessageChannel();
  const errors = new EventTarget();
  if (kind === "works") Comlink.expose({ double: async (n: number) => 2 * n }, port2);
  if (kind === "throws") Comlink.expose({ double: async () => Promise.reject(new Error("no")) }, port2);
  if (kind === "fails to load") setTimeout(() => errors.dispatchEvent(new Event("error")), 0);
  const worker = {
    ended: false,
    postMessage: port1.postMessage.bind(port1),
    addEventListener: (type: string, listen: EventListener) => (type === "message" ? port1 : errors).addEventListener(type, listen),
    removeEventListener: (type: string, listen: EventListener) => (type === "message" ? port1 : errors).removeEventListener(type, listen),
    start: () => port1.start(),
    terminate: () => {
      worker.ended = true;
      port1.close();
    },
  };
  port1.start();
  return worker as unknown as Worker & { ended: boolean };
}

function threadOf(...kinds: Parameters<typeof fakeWorker>[0][]) {
  const started: ReturnType<typeof fakeWorker>[] = [];
  const thread = new Thread<Service>(() => {
    const worker = fakeWorker(kinds[started.length] ?? "works");
    started.push(worker);
    return worker;
  });
  return { thread, started, double: (ms?: number) => thread.ask((service) => service.double(21), ms) };
}

describe("a worker", () => {
  it("is started with the first question and asked again and again", async () => {
    const { thread, started, double } = threadOf("works");
    expect(started).toHaveLength(0);
    expect(await double()).toBe(42);
    expect(await double()).toBe(42);
    expect(started).toHaveLength(1);
    thread.stop();
    expect(started[0]?.ended).toBe(true);
    expect(await double()).toBe(42);
    expect(started).toHaveLength(2);
    thread.stop();
  });

  it.each(["fails to load", "throws", "hangs"] as const)("that %s is started again once, and the question asked anew", async (kind) => {
    const { thread, started, double } = threadOf(kind, "works");
    expect(await double(30)).toBe(42);
    expect(started.map(({ ended }) => ended)).toEqual([true, false]);
    thread.stop();
  });

  it("that could not be loaded is told from one that failed at its question", async () => {
    await expect(threadOf("fails to load", "fails to load").double(1000)).rejects.toThrow(NotLoaded);
    await expect(threadOf("throws", "throws").double(1000)).rejects.not.toThrow(NotLoaded);
  });

  it.each(["fails to load", "throws", "hangs"] as const)("that %s twice fails the question, and no later one", async (kind) => {
    const { thread, started, double } = threadOf(kind, kind, "works");
    await expect(double(30)).rejects.toThrow();
    expect(started).toHaveLength(2);
    thread.stop();
    expect(await double(1000)).toBe(42);
    thread.stop();
  });
});
