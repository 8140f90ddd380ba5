import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Machine } from "@/core/machine/schema";
import { entryOf, type ShelfPart, stockOf, thingName } from "@/core/machine/shelf";
import { EXAMPLES } from "@/demo/index";
import { reedcutter } from "@/demo/reedcutter";
import { packed } from "@/tests/support/packed";
import { must, simple } from "@/tests/support/small";
import { backupFiles } from "./backup-files";
import { type Db, migrate, newestVersion, openDatabase } from "./database";
import { readJson } from "./http";
import { APPLICATION_ID } from "./inspect";
import { answerJob } from "./jobs";
import { MAX_BODY_BYTES } from "./json-limits";
import { createMachine, getMachine, listMachines, purgeMachine, removeMachine, restoreMachine, saveMachine } from "./machines";
import { allowedHost, allowedOrigin } from "./origin";
import { keepOverview } from "./overview";
import { readCreate } from "./requests";
import { changeOnShelf, listShelf, putOnShelf, shelfUses, takeOffShelf } from "./shelf";

const JSON_TYPE = { "Content-Type": "application/json" };
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

  it("bears its own id, gives space back, and does nothing when it is up to date", () => {
    expect(db.pragma("application_id", { simple: true })).toBe(APPLICATION_ID);
    expect(db.pragma("auto_vacuum", { simple: true })).toBe(2);
    migrate(db, db.name);
    expect(backupFiles(db.name)).toEqual([]);
  });
});

describe("machines", () => {
  it("come back as they were stored, and are waited for until their overview is worked out", async () => {
    const machine = EXAMPLES[0]?.make() ?? simple();
    const { id } = createMachine(db, machine, "Created");
    expect(getMachine(db, id)).toEqual({ id, revision: 1, document: machine });
    expect(listMachines(db)).toMatchObject([{ name: "Reedcutter", overview: { kind: "waiting" } }]);
    const worked = async (of: Machine) => {
      const answer = await answerJob({ kind: "overview", document: JSON.stringify(of) });
      return answer.kind === "overview" ? answer.overview : { kind: "waiting" as const };
    };
    keepOverview(db, id, 1, 0, await worked(machine));
    const [row] = listMachines(db);
    // A servo's start is not known: the worst is a least value.
    expect(row?.overview).toMatchObject({ kind: "known", parts: machine.parts.length, mainV: 26.4, worstAtLeast: true });
    const known = row?.overview.kind === "known" ? row.overview : null;
    expect((known?.stops ?? 0) + (known?.fixes ?? 0) + (known?.asks ?? 0)).toBeGreaterThan(10);
    expect(known?.worstA ?? 0).toBeGreaterThan(90);
    saveMachine(db, id, 1, simple(), "edit");
    expect(listMachines(db)[0]?.overview).toEqual({ kind: "waiting" });
    keepOverview(db, id, 2, 0, await worked(simple()));
    expect(listMachines(db)[0]?.overview).toMatchObject({ parts: simple().parts.length, worstAtLeast: false });
    // What other rules said is not shown.
    db.prepare("UPDATE overview SET rules = 'older'").run();
    expect(listMachines(db)[0]?.overview).toEqual({ kind: "waiting" });
  });

  it("that cannot be read stay on the list, with nothing said of them", async () => {
    const { id } = createMachine(db, simple(), "Created");
    for (const document of ['{"format":', JSON.stringify({ ...simple(), version: 99 }), ""]) {
      db.prepare("UPDATE machine SET document = ? WHERE id = ?").run(document, id);
      expect(listMachines(db).map(({ name }) => name)).toEqual(["Small"]);
      expect(() => getMachine(db, id)).toThrow("cannot be read");
      expect(await answerJob({ kind: "overview", document })).toEqual({ kind: "overview", overview: { kind: "unreadable" } });
      expect(await answerJob({ kind: "compare", a: document, b: JSON.stringify(simple()) })).toEqual({
        kind: "compare",
        differences: null,
      });
    }
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

  it("know a save that comes a second time by its id", () => {
    const { id } = createMachine(db, simple(), "Created");
    const mine = { ...simple(), name: "Mine" };
    expect(saveMachine(db, id, 1, mine, "edit", "save-0001")).toEqual({ ok: true, revision: 2 });
    expect(saveMachine(db, id, 1, mine, "edit", "save-0001")).toEqual({ ok: true, revision: 2 });
    expect(getMachine(db, id)?.revision).toBe(2);
  });

  it("can be deleted and brought back", () => {
    const { id } = createMachine(db, simple(), "Created");
    expect(removeMachine(db, id)).toBe(true);
    expect(listMachines(db)).toEqual([]);
    expect(getMachine(db, id)).toBeNull();
    expect(removeMachine(db, id)).toBe(false);
    expect(restoreMachine(db, id)).toBe(true);
    expect(listMachines(db)).toHaveLength(1);
    expect(purgeMachine(db, id)).toBe(false);
    removeMachine(db, id);
    expect(purgeMachine(db, id)).toBe(true);
    expect(restoreMachine(db, id)).toBe(false);
    expect(db.prepare("SELECT count(*) AS n FROM revision").get()).toEqual({ n: 0 });
  });
});

describe("requests", () => {
  it("are accepted from this machine only, and changes only from our own pages", () => {
    expect(["127.0.0.1:4830", "localhost:4830", "[::1]:4830", "127.0.0.1"].map(allowedHost)).toEqual([true, true, true, true]);
    expect(["evil.example", "127.0.0.1.evil.example", "", null].map(allowedHost)).toEqual([false, false, false, false]);
    expect(allowedOrigin("http://127.0.0.1:4830", "127.0.0.1:4830")).toBe(true);
    expect(allowedOrigin(null, "127.0.0.1:4830")).toBe(true);
    const strangers = ["http://evil.example", "null", "http://127.0.0.1:9", "https://127.0.0.1:4830", "http://127.0.0.1:4830.evil.example"];
    expect(strangers.map((origin) => allowedOrigin(origin, "127.0.0.1:4830"))).toEqual(strangers.map(() => false));
    const sites = ["same-origin", "none", "same-site", "cross-site", "nonsense"];
    expect(sites.map((site) => allowedOrigin(null, "127.0.0.1:4830", site))).toEqual([true, true, false, false, false]);
    process.env.NODE_LEDGER_HOSTS = "https://shop.example";
    expect([
      allowedHost("shop.example"),
      allowedOrigin("https://shop.example", "shop.example"),
      allowedOrigin("http://shop.example", "shop.example"),
    ]).toEqual([true, true, false]);
    delete process.env.NODE_LEDGER_HOSTS;
  });

  it("nested deeper or in more parts than any request of ours are turned away before they are parsed", async () => {
    const status = async (body: string, type = "application/json") => {
      const read = await readJson(new Request("http://127.0.0.1/", { method: "POST", body, headers: { "Content-Type": type } }));
      return read.ok ? 200 : read.response.status;
    };
    const deep = (n: number) => "[".repeat(n) + "]".repeat(n);
    expect([await status(deep(30)), await status(deep(33)), await status(deep(3_000_000))]).toEqual([200, 400, 400]);
    expect([await status(`[${"{},".repeat(600_000)}{}]`), await status(`[${"1,".repeat(2_500_000)}1]`)]).toEqual([400, 400]);
    // Brackets in a text are none.
    expect(await status(JSON.stringify(`${"[".repeat(99)}\\"{`))).toBe(200);
    expect([await status("{}", "text/plain"), await status("{}", ""), await status("{}", "application/json; charset=utf-8")]).toEqual([
      415, 415, 200,
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
    const request = new Request("http://127.0.0.1/", { method: "POST", body: endless, duplex: "half", headers: JSON_TYPE } as RequestInit);
    const body = await readJson(request);
    expect(body.ok ? 0 : body.response.status).toBe(413);
    expect(sent).toBeLessThan(MAX_BODY_BYTES * 2);
  });

  it("answer broken JSON and broken machines with where it broke", async () => {
    const body = await readJson(new Request("http://127.0.0.1/", { method: "POST", body: '{"kind":', headers: JSON_TYPE }));
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
    const names = () => listShelf(db).map(({ thing }) => thingName(thing));
    putOnShelf(db, entryOf({ ...pack, name: "Second" }));
    const item = putOnShelf(db, entryOf({ ...pack, name: "First" }));
    const five = { id: "five", name: "5 V output", kind: "supply", outputV: { value: 5, provenance: "datasheet" }, box: "gone" } as const;
    putOnShelf(db, entryOf(five));
    putOnShelf(db, { ...entryOf(five), thing: { sort: "wire", gauge: "12 AWG", insulation: "pvc80" }, count: 8.5 });
    expect(names()).toEqual(["5 V output", "First", "Second", "Wire 12 AWG"]);
    expect(listShelf(db)[0]?.thing).not.toHaveProperty("part.box");
    expect(takeOffShelf(db, item.id)).toBe(true);
    expect(takeOffShelf(db, item.id)).toBe(false);
    expect(names()).toEqual(["5 V output", "Second", "Wire 12 AWG"]);
    const { id: _id, ...kept } = item;
    changeOnShelf(db, item.id, { ...kept, count: 3, note: "in the blue box", quirks: "sags at 40 A" });
    expect(names()).toContain("First");
    expect(listShelf(db).find(({ id }) => id === item.id)).toMatchObject({ count: 3, note: "in the blue box", quirks: "sags at 40 A" });
  });

  it("tells in which machines a thing is used: parts that were taken from it, wire and fuses of the same kind", () => {
    const item = putOnShelf(db, entryOf(pack));
    const machine = packed();
    createMachine(
      db,
      { ...machine, parts: machine.parts.map((part) => (part.kind === "pack" ? { ...part, shelf: item.id } : part)) },
      "made",
    );
    const gone = createMachine(db, { ...simple(), parts: [{ ...pack, id: "p9", shelf: item.id }], wires: [] }, "made");
    removeMachine(db, gone.id);
    const uses = shelfUses(db);
    expect(uses.filter((use) => use.of === item.id)).toEqual([{ machine: expect.any(String), name: machine.name, of: item.id, count: 1 }]);
    const laid = machine.wires.filter(({ gauge, insulation }) => `${gauge} ${insulation}` === `${machine.wires[0]?.gauge} pvc80`);
    expect(uses.find((use) => use.of === `wire ${machine.wires[0]?.gauge} pvc80 `)?.count).toBe(laid.length);
  });

  it("takes what earlier versions had on it along: parts, and the list of sizes, fuses and connectors", () => {
    const path = join(folder, "sixth.db");
    const sixth = new Database(path);
    const files = readdirSync(join(process.cwd(), "server/migrations")).sort();
    for (const file of files.slice(0, 6)) sixth.exec(readFileSync(join(process.cwd(), "server/migrations", file), "utf8"));
    sixth.pragma("user_version = 6");
    sixth.pragma(`application_id = ${APPLICATION_ID}`);
    sixth.prepare("INSERT INTO shelf_part VALUES ('3f', ?, 'pack', ?, '2026-01-02')").run(pack.name, JSON.stringify(pack));
    const stock = { gauges: ["14 AWG", "2.5 mm²"], fuses: [{ family: "blade_regular_32v", ratingA: 10 }], connectors: ["key60"] };
    sixth.prepare("INSERT INTO shelf_stock VALUES (1, ?)").run(JSON.stringify(stock));
    sixth.close();
    const opened = openDatabase(path);
    const items = listShelf(opened);
    expect(items.find(({ id }) => id === "3f")?.thing).toEqual({ sort: "part", part: pack });
    expect(stockOf(items)).toEqual({ ...stock, gauges: expect.arrayContaining(stock.gauges) });
    expect(items.every(({ count }) => count === null)).toBe(true);
    opened.close();
  });

  it("leaves alone what it cannot read", () => {
    db.prepare(
      "INSERT INTO shelf_item (id, sort, name, document, created_at, updated_at) VALUES ('x', 'part', 'Newer', '{\"thing\":\"fusion\"}', '', '')",
    ).run();
    expect(listShelf(db)).toEqual([]);
    expect(db.prepare("SELECT count(*) AS n FROM shelf_item").get()).toEqual({ n: 1 });
  });

  it("comes to a database of the first version without losing a machine, after a copy aside", () => {
    const path = join(folder, "first.db");
    const first = new Database(path);
    first.exec(readFileSync(join(process.cwd(), "server/migrations/0001_machines.sql"), "utf8"));
    first.pragma("user_version = 1");
    first.prepare("INSERT INTO machine VALUES ('old', 'Old', ?, 7, '', '', NULL, 4, 24, 9, 0, 0, 0, 0)").run(JSON.stringify(simple()));
    first.close();
    const opened = openDatabase(path);
    expect(opened.pragma("user_version", { simple: true })).toBe(newestVersion());
    expect(backupFiles(path).map(({ kind }) => kind)).toEqual(["before-migration"]);
    const { id } = createMachine(opened, simple(), "Created");
    putOnShelf(opened, entryOf(pack));
    expect(getMachine(opened, id)?.revision).toBe(1);
    expect(listShelf(opened)).toHaveLength(1);
    expect(getMachine(opened, "old")).toEqual({ id: "old", revision: 7, document: simple() });
    opened.close();
  });
});

describe("two machines side by side", () => {
  it("tells parts, wires, verdicts, amps and run time apart", async () => {
    const compared = async (one: Machine, other: Machine) => {
      const answer = await answerJob({ kind: "compare", a: JSON.stringify(one), b: JSON.stringify(other) });
      return answer.kind === "compare" ? answer.differences : null;
    };
    const found = await compared(reedcutter(false), reedcutter(true));
    expect(found?.lost.length).toBeGreaterThan(30);
    expect(found?.gained.filter(({ severity }) => severity !== "watch")).toEqual([]);
    expect([found?.added, found?.removed]).toEqual([[], []]);
    expect(await compared(reedcutter(false), must(reedcutter(false), { type: "removePart", id: "horn" }))).toMatchObject({
      added: [],
      removed: ["Horn amplifier"],
      changed: expect.arrayContaining([{ what: "Link Computer to Horn amplifier", said: ["removed"] }]),
    });
    const words = (what: string) =>
      found?.changed
        .find((each) => each.what === what)
        ?.said.join("; ")
        .replace(/\u00a0/g, " ") ?? "";
    expect(words("Pack")).toMatch(/capacity 60 → 105 Ah.*|mass/);
    expect(words("Cutter driver feed")).toMatch(/16 → \d+ AWG/);
    expect(found?.run.after?.value ?? 0).toBeGreaterThan(found?.run.before?.value ?? 0);
    // A servo without a figure makes the first one's run the most and its start the least it can be.
    expect([found?.run.before?.bound, found?.run.after?.bound]).toEqual([true, false]);
    expect(found?.modes.find(({ name }) => name === "Start both")?.before?.bound).toBe(true);
    expect(found?.mass.after.copperKg ?? 0).toBeGreaterThan(found?.mass.before.copperKg ?? 1e9);
    expect(found?.modes.map(({ name }) => name)).toContain("Cruise");
    const same = await compared(reedcutter(false), reedcutter(false));
    expect(same).toMatchObject({ added: [], removed: [], changed: [], gained: [], lost: [] });
  });
});
