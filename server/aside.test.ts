import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, afterEach, describe, expect, it } from "vitest";
import { AsideThread } from "./aside";
import type { JobAnswer } from "./jobs";

const folder = mkdtempSync(join(tmpdir(), "node-ledger-aside-"));
const path = join(folder, "worker.mjs");
// Does what the text of a job says: answers, dies, hangs.
writeFileSync(
  path,
  `import { parentPort } from "node:worker_threads";
   parentPort.on("message", ({ document }) => {
     if (document === "dies") process.exit(1);
     if (document === "throws") throw new Error("no");
     if (document !== "hangs") parentPort.postMessage({ kind: "check", wrong: document });
   });`,
);
let thread: AsideThread;
afterEach(() => thread.end());
afterAll(() => rmSync(folder, { recursive: true }));

const job = (document: string) => () => ({ kind: "overview" as const, document });
const ask = (key: string, document = key) =>
  new Promise<JobAnswer | null>((resolve) => {
    thread.ask(key, job(document), resolve);
  });

describe("the thread beside the one that answers", () => {
  it("does one job after the other, each key once, and the urgent ones first", async () => {
    thread = new AsideThread(path);
    const order: string[] = [];
    const done = (key: string) => () => void order.push(key);
    const put = [
      thread.ask("a", job("a"), done("a")),
      thread.ask("b", job("b"), done("b")),
      thread.ask("b", job("b"), done("b again")),
      thread.ask("unwanted", () => null, done("unwanted")),
      thread.ask("c", job("c"), done("c"), true),
    ];
    expect(put).toEqual([true, true, false, true, true]);
    await expect.poll(() => order).toEqual(["a", "c", "b"]);
    expect(await ask("d")).toEqual({ kind: "check", wrong: "d" });
  });

  it.each(["dies", "throws", "hangs"])(
    "that %s is started again once for its job; then the job has failed, and the next is done",
    async (fault) => {
      // A thread that is busy starting is none that hangs: on a starved machine that takes a second.
      thread = new AsideThread(path, fault === "hangs" ? 5000 : undefined);
      const [bad, good] = [ask("bad", fault), ask("good")];
      expect(await bad).toBeNull();
      expect(await good).toEqual({ kind: "check", wrong: "good" });
    },
  );

  it("that cannot be started fails what it was asked, and does not stop the others", async () => {
    thread = new AsideThread(join(folder, "nowhere.mjs"));
    expect(await Promise.all([ask("one"), ask("two")])).toEqual([null, null]);
  });
});
