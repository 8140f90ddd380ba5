import { describe, expect, it, vi } from "vitest";
import type { Reading } from "@/core/bringup/log";
import { USUAL_KIT } from "@/core/bringup/types";
import { type Answered, createLog, type LogLine, memoryShelf, type Sent, type Shelf, type StoredLog } from "./log";

const reading = (n: number, over: Partial<Reading> = {}): Reading => ({
  queueId: `reading-${String(n).padStart(6, "0")}`,
  step: `tree:${n}`,
  stage: "tree",
  place: "Volts at Drive",
  quantity: "volts",
  value: 24 + n / 100,
  instrument: "hand",
  uncertainty: null,
  takenAt: new Date(Date.UTC(2026, 2, 1, 10, 0, n)).toISOString(),
  note: "",
  way: "phone",
  expected: 24,
  basis: "abc",
  struck: false,
  ...over,
});

/** A server that takes what it is sent while it is awake, each once. */
class Server implements LogLine {
  readonly rows = new Map<string, Reading>();
  awake = true;
  /** It takes what comes and its answer is lost. */
  mute = false;
  sent = 0;
  private answer<T>(value: T): Answered<T> {
    return this.awake && !this.mute ? { ok: true, value } : { ok: false, again: true, detail: "asleep" };
  }
  fetch = async (): Promise<Answered<StoredLog>> =>
    this.answer({ log: { readings: [...this.rows.values()], waivers: [] }, kit: USUAL_KIT, version: this.sent });
  send = async ({ readings }: Sent): Promise<Answered<{ version: number }>> => {
    this.sent++;
    if (this.awake) for (const each of readings) this.rows.set(each.queueId, each);
    return this.answer({ version: this.sent });
  };
}

const logOn = (server: LogLine, shelf: Shelf) => createLog("m1", server, shelf, () => 5);

describe("readings on their way to the ledger", () => {
  it("are there at once, wait while the server sleeps, survive a reload, and go once it wakes: none lost, none doubled", async () => {
    const [server, kept] = [new Server(), new Map<string, string>()];
    server.awake = false;
    const first = logOn(server, memoryShelf(kept));
    for (let n = 0; n < 30; n++) first.getState().add([reading(n)]);
    expect(first.getState().log.readings).toHaveLength(30);
    await vi.waitFor(() => expect(first.getState()).toMatchObject({ unsent: 30, waits: "asleep" }));
    // The page is closed and opened again while the server still sleeps.
    first.getState().stop();
    const second = logOn(server, memoryShelf(kept));
    await second.getState().refresh();
    expect(second.getState().log.readings).toHaveLength(30);
    server.awake = true;
    await vi.waitFor(() => expect(second.getState()).toMatchObject({ unsent: 0, waits: null }));
    expect(server.rows.size).toBe(30);
    expect(kept.size).toBe(0);
  });

  it("are sent again when the answer was lost, and are there once all the same", async () => {
    const server = new Server();
    server.mute = true;
    const log = logOn(server, memoryShelf());
    log.getState().add([reading(1), reading(2)]);
    await vi.waitFor(() => expect(server.rows.size).toBe(2));
    expect(log.getState().unsent).toBe(2);
    server.mute = false;
    await vi.waitFor(() => expect(log.getState()).toMatchObject({ unsent: 0 }));
    expect(server.sent).toBeGreaterThan(1);
    expect(server.rows.size).toBe(2);
    expect(log.getState().log.readings).toHaveLength(2);
  });

  it("of two windows go from either, each once", async () => {
    const [server, kept] = [new Server(), new Map<string, string>()];
    server.awake = false;
    const [a, b] = [logOn(server, memoryShelf(kept)), logOn(server, memoryShelf(kept))];
    a.getState().add([reading(1)]);
    b.getState().add([reading(2)]);
    await vi.waitFor(() => expect(b.getState().waits).toBe("asleep"));
    a.getState().stop();
    server.awake = true;
    await vi.waitFor(() => expect(b.getState().unsent).toBe(0));
    expect([...server.rows.keys()].sort()).toEqual([reading(1).queueId, reading(2).queueId]);
  });

  it("that are struck out while they are being sent are sent once more", async () => {
    const server = new Server();
    const log = logOn(server, memoryShelf());
    log.getState().add([reading(1)]);
    await vi.waitFor(() => expect(server.rows.size).toBe(1));
    log.getState().strike(reading(1).queueId, true);
    await vi.waitFor(() => expect(server.rows.get(reading(1).queueId)?.struck).toBe(true));
    expect(log.getState().log.readings[0]?.struck).toBe(true);
  });

  it("that the server will never take stay here, and it is said why", async () => {
    const refusing: LogLine = { fetch: new Server().fetch, send: async () => ({ ok: false, again: false, detail: "The log is full." }) };
    const log = logOn(refusing, memoryShelf());
    log.getState().add([reading(1)]);
    await vi.waitFor(() => expect(log.getState()).toMatchObject({ unsent: 1, waits: "The log is full." }));
  });

  it("are kept while the page is open where the storage is full, and sent all the same", async () => {
    const full: Shelf = {
      ...memoryShelf(),
      setItem: () => {
        throw new Error("quota");
      },
    };
    const server = new Server();
    server.awake = false;
    const log = logOn(server, full);
    log.getState().add([reading(1)]);
    expect(log.getState()).toMatchObject({ unsent: 1 });
    server.awake = true;
    await vi.waitFor(() => expect(log.getState().unsent).toBe(0));
    expect(server.rows.size).toBe(1);
  });

  it("of another machine, and what is no reading, are left alone", async () => {
    const kept = new Map([
      ["node-ledger reading m2 reading x", JSON.stringify({ kind: "reading", value: reading(9) })],
      ["node-ledger reading m1 reading y", "no json"],
      ["theme", "dark"],
    ]);
    const server = new Server();
    const log = logOn(server, memoryShelf(kept));
    await log.getState().refresh();
    expect(log.getState()).toMatchObject({ unsent: 0, log: { readings: [] } });
    expect(kept.size).toBe(3);
  });
});
