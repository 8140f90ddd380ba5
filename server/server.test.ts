import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { ShelfPart } from "@/core/machine/shelf";
import { EXAMPLES } from "@/demo/index";
import { reedcutter } from "@/demo/reedcutter";
import { packed } from "@/tests/support/packed";
import { must, simple } from "@/tests/support/small";
import { compareStored } from "./compare";
import { type Db, migrate, openDatabase } from "./database";
import { allowedHost, allowedOrigin, MAX_BODY_BYTES, readJson } from "./http";
import { createMachine, getMachine, listMachines, removeMachine, restoreMachine, saveMachine } from "./machines";
import { readCreate } from "./requests";
import { keepStock, keptStock, listShelf, putOnShelf, takeOffShelf } from "./shelf";

let folder = "";
let db: Db;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "node-ledger-db-"));
  db = openDatabase(join(folder, "test.db"));
});

afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

describe("the database", () => {
  it("is durable and strict", () => {
    expect(db.pragma("journal_mode", { simple: true })).toBe("wal");
    expect(db.pragma("synchronous", { simple: true })).toBe(2);
    expect(db.pragma("foreign_keys", { simple: true })).toBe(1);
    expect(() =>
      db.prepare("INSERT INTO machine (id, name, document, revision, created_at, updated_at) VALUES ('a','a','{}','many','','')").run(),
    ).toThrow();
  });

  it("copies an older file aside before it migrates, and does nothing when up to date", () => {
    const path = join(folder, "test.db");
    migrate(db, path);
    expect(existsSync(`${path}.before-0001`)).toBe(false);
    const old = join(folder, "old.db");
    const raw = new Database(old);
    raw.pragma("user_version = 0");
    raw.close();
    const opened = openDatabase(old);
    expect(opened.pragma("user_version", { simple: true })).toBeGreaterThan(0);
    opened.close();
  });
});

describe("machines", () => {
  it("come back as they were stored, with a summary for the list", () => {
    const machine = EXAMPLES[0]?.make() ?? simple();
    const { id } = createMachine(db, machine, "Created");
    expect(getMachine(db, id)).toEqual({ id, revision: 1, document: machine });
    const [row] = listMachines(db);
    const overview = row?.overview;
    expect(row?.name).toBe("Reedcutter");
    expect(overview).toMatchObject({ parts: machine.parts.length, mainV: 26.4 });
    expect((overview?.stops ?? 0) + (overview?.fixes ?? 0) + (overview?.asks ?? 0)).toBeGreaterThan(10);
    expect(overview?.worstA ?? 0).toBeGreaterThan(90);
    // A servo's start is not known: the worst is a least value.
    expect(overview?.worstAtLeast).toBe(true);
    saveMachine(db, id, 1, simple(), "edit");
    expect(listMachines(db)[0]?.overview).toMatchObject({ parts: simple().parts.length, worstAtLeast: false });
  });

  it("that this version cannot read stay on the list, with nothing said of them", () => {
    createMachine(db, simple(), "Created");
    const { id } = createMachine(db, simple(), "Created");
    db.prepare("UPDATE machine SET document = json_set(document, '$.version', 99), revision = 2 WHERE id = ?").run(id);
    expect(listMachines(db).map(({ overview }) => overview === null)).toEqual([false, true]);
    expect(() => getMachine(db, id)).toThrow("version");
    expect(compareStored(db, id, createMachine(db, simple(), "Created").id)).toBeNull();
  });

  it("refuse a save over a stale revision and give back what is stored", () => {
    const { id } = createMachine(db, simple(), "Created");
    const mine = { ...simple(), name: "Mine" };
    const theirs = { ...simple(), name: "Theirs" };
    expect(saveMachine(db, id, 1, theirs, "edit")).toEqual({ ok: true, revision: 2 });
    expect(saveMachine(db, id, 1, mine, "edit")).toMatchObject({
      ok: false,
      reason: "conflict",
      current: { revision: 2, document: { name: "Theirs" } },
    });
    expect(getMachine(db, id)?.document.name).toBe("Theirs");
    expect(saveMachine(db, "nobody", 1, mine, "edit")).toEqual({ ok: false, reason: "missing" });
  });

  it("keep a history of revisions, not endlessly", () => {
    const { id } = createMachine(db, simple(), "Created");
    for (let base = 1; base <= 220; base++) saveMachine(db, id, base, { ...simple(), name: `Rev ${base}` }, "edit");
    const count = db.prepare("SELECT count(*) AS n, max(revision) AS last FROM revision").get() as { n: number; last: number };
    expect(count).toEqual({ n: 200, last: 221 });
  });

  it("can be deleted and brought back", () => {
    const { id } = createMachine(db, simple(), "Created");
    expect(removeMachine(db, id)).toBe(true);
    expect(listMachines(db)).toEqual([]);
    expect(getMachine(db, id)).toBeNull();
    expect(removeMachine(db, id)).toBe(false);
    expect(restoreMachine(db, id)).toBe(true);
    expect(listMachines(db)).toHaveLength(1);
  });
});

describe("requests", () => {
  it("are accepted from this machine only, and changes only from our own pages", () => {
    expect(["127.0.0.1:4830", "localhost:4830", "[::1]:4830", "127.0.0.1"].map(allowedHost)).toEqual([true, true, true, true]);
    expect(["evil.example", "127.0.0.1.evil.example", "", null].map(allowedHost)).toEqual([false, false, false, false]);
    expect(allowedOrigin("http://127.0.0.1:4830", "127.0.0.1:4830")).toBe(true);
    expect(allowedOrigin(null, "127.0.0.1:4830")).toBe(true);
    expect(["http://evil.example", "null", "http://127.0.0.1:9"].map((origin) => allowedOrigin(origin, "127.0.0.1:4830"))).toEqual([
      false,
      false,
      false,
    ]);
  });

  it("are cut off above the size limit even when no length is stated", async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += 1 << 20;
        controller.enqueue(new Uint8Array(1 << 20));
      },
    });
    const request = new Request("http://127.0.0.1/", { method: "POST", body: endless, duplex: "half" } as RequestInit);
    const body = await readJson(request);
    expect(body.ok ? 0 : body.response.status).toBe(413);
    expect(sent).toBeLessThan(MAX_BODY_BYTES * 2);
  });

  it("answer broken JSON and broken machines with where it broke", async () => {
    const body = await readJson(new Request("http://127.0.0.1/", { method: "POST", body: '{"kind":' }));
    expect(body.ok ? 0 : body.response.status).toBe(400);
    expect(readCreate({ kind: "blank", name: " " })).toMatchObject({ ok: false });
    expect(readCreate({ kind: "example", key: "none" })).toMatchObject({ ok: false });
    const broken = readCreate({ kind: "import", document: { ...simple(), modes: [] } });
    expect(broken.ok ? [] : broken.problems?.map((problem) => problem.path)).toEqual(["modes"]);
    expect(readCreate({ kind: "import", document: simple() })).toMatchObject({ ok: true, machine: { name: "Small" } });
  });
});

describe("the shelf", () => {
  const pack = packed().parts[0] as ShelfPart;

  it("keeps parts across machines, without their place in one, in order of kind and name", () => {
    putOnShelf(db, { ...pack, name: "Second" });
    const item = putOnShelf(db, { ...pack, name: "First" });
    putOnShelf(db, { id: "five", name: "5 V output", kind: "supply", outputV: { value: 5, provenance: "datasheet" }, box: "gone" });
    expect(listShelf(db).map(({ part }) => part.name)).toEqual(["First", "Second", "5 V output"]);
    expect(listShelf(db)[2]?.part).not.toHaveProperty("box");
    expect(takeOffShelf(db, item.id)).toBe(true);
    expect(takeOffShelf(db, item.id)).toBe(false);
    expect(listShelf(db).map(({ part }) => part.name)).toEqual(["Second", "5 V output"]);
  });

  it("leaves alone what it cannot read", () => {
    db.prepare(
      "INSERT INTO shelf_part (id, name, kind, document, created_at) VALUES ('x', 'Newer', 'pack', '{\"kind\":\"fusion\"}', '')",
    ).run();
    expect(listShelf(db)).toEqual([]);
    expect(db.prepare("SELECT count(*) AS n FROM shelf_part").get()).toEqual({ n: 1 });
  });

  it("keeps one list of sizes, fuses and connectors for all machines", () => {
    expect(keptStock(db)).toBeNull();
    keepStock(db, { gauges: ["12 AWG"] });
    keepStock(db, { gauges: ["14 AWG", "18 AWG"], fuses: [{ family: "blade_regular_32v", ratingA: 10 }] });
    expect(keptStock(db)).toEqual({ gauges: ["14 AWG", "18 AWG"], fuses: [{ family: "blade_regular_32v", ratingA: 10 }] });
    db.prepare("UPDATE shelf_stock SET document = ?").run('{"beams":3}');
    expect(keptStock(db)).toBeNull();
  });

  it("comes to a database of the first version without losing a machine, after a copy aside", () => {
    const path = join(folder, "first.db");
    const first = new Database(path);
    first.exec(readFileSync(join(process.cwd(), "server/migrations/0001_machines.sql"), "utf8"));
    first.pragma("user_version = 1");
    first.prepare("INSERT INTO machine VALUES ('old', 'Old', ?, 7, '', '', NULL, 4, 24, 9, 0, 0, 0, 0)").run(JSON.stringify(simple()));
    first.close();
    const opened = openDatabase(path);
    expect(opened.pragma("user_version", { simple: true })).toBe(4);
    expect(existsSync(`${path}.before-0002`)).toBe(true);
    const { id } = createMachine(opened, simple(), "Created");
    putOnShelf(opened, pack);
    expect(getMachine(opened, id)?.revision).toBe(1);
    expect(listShelf(opened)).toHaveLength(1);
    expect(getMachine(opened, "old")).toEqual({ id: "old", revision: 7, document: simple() });
    opened.close();
  });
});

describe("two machines side by side", () => {
  it("tells parts, wires, verdicts, amps and run time apart", () => {
    const a = createMachine(db, reedcutter(false), "Created");
    const b = createMachine(db, reedcutter(true), "Created");
    const found = compareStored(db, a.id, b.id)?.differences;
    expect(found?.lost.length).toBeGreaterThan(30);
    expect(found?.gained.filter(({ severity }) => severity !== "watch")).toEqual([]);
    expect([found?.added, found?.removed]).toEqual([[], []]);
    const lighter = createMachine(db, must(reedcutter(false), { type: "removePart", id: "horn" }), "Created");
    expect(compareStored(db, a.id, lighter.id)?.differences).toMatchObject({
      added: [],
      removed: ["Horn amplifier"],
      wires: { removed: 2 },
    });
    expect(found?.changed.find(({ name }) => name === "Pack")?.fields.map(({ field }) => field)).toEqual(
      expect.arrayContaining(["capacityAh", "internalOhm", "massKg"]),
    );
    expect(found?.wires.changed).toBeGreaterThan(10);
    expect(found?.run.after?.value ?? 0).toBeGreaterThan(found?.run.before?.value ?? 0);
    // A servo without a figure makes the first one's run the most and its start the least it can be.
    expect([found?.run.before?.bound, found?.run.after?.bound]).toEqual([true, false]);
    expect(found?.modes.find(({ name }) => name === "Start both")?.before?.bound).toBe(true);
    expect(found?.mass.after.copperKg ?? 0).toBeGreaterThan(found?.mass.before.copperKg ?? 1e9);
    expect(found?.modes.map(({ name }) => name)).toContain("Cruise");
    const same = compareStored(db, a.id, a.id)?.differences;
    expect(same).toMatchObject({ added: [], removed: [], changed: [], gained: [], lost: [], wires: { added: 0, removed: 0, changed: 0 } });
    expect(compareStored(db, a.id, "gone")).toBeNull();
  });
});
