import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Journal } from "./journal";

/** Plain storage as a browser has it: its keys are its own. */
function plainStorage(room = Number.POSITIVE_INFINITY): Storage {
  const held: Record<string, string> = {};
  const act = {
    getItem: (key: string) => held[key] ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > room) throw new Error("no room");
      held[key] = value;
    },
    removeItem: (key: string) => {
      delete held[key];
    },
  };
  return new Proxy(held, { get: (_target, key) => act[key as keyof typeof act] ?? held[String(key)] }) as unknown as Storage;
}

let storage = plainStorage();
beforeEach(() => {
  storage = plainStorage();
  vi.stubGlobal("indexedDB", new IDBFactory());
  vi.stubGlobal("localStorage", storage);
});
afterEach(() => vi.unstubAllGlobals());

const at = new Date().toISOString();
const edit = (id: string, label = id) => ({ id, at, label, changes: [{ path: ["name"], before: "a", after: "b" }] });
const entry = (id: string, machine = "m1") => ({ ...edit(id), machine, base: 1, turn: "do" as const });
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

describe("the journal", () => {
  it("gives a later window what a closed one left, in order, and leaves alone what a living one holds", async () => {
    const [closed, living] = [new Journal("closed"), new Journal("living")];
    closed.put(entry("edit-0001"));
    living.put(entry("edit-0002"));
    closed.put(entry("edit-0003"));
    closed.put(entry("edit-0004", "m2"));
    await settled();
    const later = new Journal("later");
    const left = await later.take("m1", new Set(["living", "later"]));
    expect(left.entries.map(({ id, window, saved }) => [id, window, saved])).toEqual([
      ["edit-0001", "closed", false],
      ["edit-0003", "closed", false],
    ]);
    expect((await later.machines()).sort()).toEqual(["m1", "m2"]);
    // They are the later one's now.
    expect((await new Journal("third").take("m1", new Set(["living", "later"]))).entries).toEqual([]);
  });

  it("keeps what was saved for undoing, and not for ever", async () => {
    const journal = new Journal("one");
    for (let i = 0; i < 520; i++) journal.put(entry(`edit-${String(i).padStart(4, "0")}`));
    journal.saved(["edit-0000", "edit-0519", ...Array.from({ length: 30 }, (_, i) => `edit-${String(i).padStart(4, "0")}`)]);
    await settled();
    const { entries } = await new Journal("two").take("m1", new Set());
    expect(entries).toHaveLength(500);
    expect(entries.filter(({ saved }) => saved).map(({ id }) => id)).toContain("edit-0519");
    // What is not saved stays, however much it is.
    expect(entries.filter(({ saved }) => !saved)).toHaveLength(489);
    journal.drop(["edit-0519"]);
    journal.change([{ ...edit("edit-0500"), changes: [{ path: ["name"], after: "other" }] }]);
    await settled();
    const again = await new Journal("three").take("m1", new Set());
    expect(again.entries.map(({ id }) => id)).not.toContain("edit-0519");
    expect(again.entries.find(({ id }) => id === "edit-0500")?.changes[0]?.after).toBe("other");
  });

  it("has what the database lost with its tab, from the write-ahead", async () => {
    // A database that does not get to anything any more.
    vi.stubGlobal("indexedDB", { open: () => new EventTarget() });
    const journal = new Journal("closed");
    journal.put(entry("edit-0001"));
    // The tab is gone before the database did anything: only what was written in the same turn is there.
    expect(Object.keys(storage)).toEqual(["node-ledger ahead entry edit-0001"]);
    vi.stubGlobal("indexedDB", new IDBFactory());
    const later = new Journal("later");
    expect(await later.machines()).toEqual(["m1"]);
    expect((await later.take("m1", new Set())).entries.map(({ id }) => id)).toEqual(["edit-0001"]);
    expect(Object.keys(storage)).toEqual([]);
    await settled();
    // It is in the database now.
    expect((await new Journal("third").take("m1", new Set())).entries.map(({ id }) => id)).toEqual(["edit-0001"]);
  });

  it("empties the write-ahead when the database confirms, and does without it where there is no room", async () => {
    const journal = new Journal("one");
    journal.put(entry("edit-0001"));
    journal.draft("m1", "field", { field: "Length", text: "3", base: 1, edit: edit("edit-0002") });
    await settled();
    expect(Object.keys(storage)).toEqual([]);
    vi.stubGlobal("localStorage", plainStorage(0));
    journal.put(entry("edit-0003"));
    await settled();
    expect((await new Journal("two").take("m1", new Set())).entries.map(({ id }) => id)).toEqual(["edit-0001", "edit-0003"]);
    expect(journal.broken).toBe(false);
  });

  it("turns a text that was not left into an edit, once, and gives one back that is none", async () => {
    const journal = new Journal("closed");
    journal.draft("m1", "a", { field: "Length", text: "3", base: 4, edit: edit("edit-0001") });
    journal.draft("m1", "a", { field: "Length", text: "3.", base: 4, edit: null });
    journal.draft("m1", "b", { field: "Amps", text: "5", base: 4, edit: edit("edit-0002") });
    journal.draft("m1", "c", { field: "Volts", text: "9", base: 4, edit: edit("edit-0003") });
    journal.draft("m1", "c", null);
    await settled();
    const later = new Journal("later");
    const { drafts } = await later.take("m1", new Set(["later"]));
    expect(drafts.map(({ field, text, edit: made }) => [field, text, made?.id ?? null])).toEqual([
      ["Length", "3.", null],
      ["Amps", "5", "edit-0002"],
    ]);
    const again = await new Journal("third").take("m1", new Set());
    expect([again.drafts, again.entries.map(({ id, base, saved }) => [id, base, saved])]).toEqual([[], [["edit-0002", 4, false]]]);
  });

  it("says so where the browser keeps nothing, and waits for nothing", async () => {
    vi.stubGlobal("indexedDB", {
      open: () => {
        throw new Error("switched off");
      },
    });
    const journal = new Journal("one");
    journal.put(entry("edit-0001"));
    await settled();
    expect(journal.broken).toBe(true);
    expect(await journal.take("m1", new Set())).toEqual({ entries: [], drafts: [] });
  });
});
