import { copyFileSync, existsSync, readFileSync, renameSync, rmSync, statSync, truncateSync, writeFileSync } from "node:fs";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { entriesOf, entryOf, type ShelfPart, stockOf, thingName } from "@/core/machine/shelf";
import { EXAMPLES } from "@/demo/index";
import { ledgerFolder } from "@/tests/support/ledger-file";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { simple } from "@/tests/support/small";
import { backupFiles, backupFolder, noteSeen } from "./backup-files";
import { backUp, backUpDaily, machineCount } from "./backups";
import { database, databasePath, heldDatabase, ledgerTrouble, letGo, newestVersion, openDatabase } from "./database";
import { faultWords } from "./faults";
import { heal, newestGoodBackup, readable } from "./heal";
import { historyOf, machineAt } from "./history";
import { inspect } from "./inspect";
import { ledgerState } from "./ledger-state";
import { createMachine, listMachines, removeMachine, saveMachine } from "./machines";
import { salvage } from "./salvage";
import { listShelf, putAllOnShelf } from "./shelf";
import { troubleShown } from "./trouble-shown";

const ledger = ledgerFolder();
const names = () => listMachines(database()).map(({ name }) => name);

/** The ledger of this process with the examples in it, closed again. */
function filled(): string[] {
  const db = database();
  for (const { make } of EXAMPLES) createMachine(db, make(), "Example");
  noteSeen(db.name, machineCount(db));
  const all = names();
  letGo();
  return all;
}

describe("a file in the place of the ledger", () => {
  const cases: [string, (path: string) => void, string][] = [
    ["a text file", (path) => writeFileSync(path, "Dear diary,\n"), "text"],
    ["another program's file", (path) => writeFileSync(path, Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 2, 3])), "foreign"],
    ["another program's database", (path) => void new Database(path).exec("CREATE TABLE song (title TEXT)").close(), "foreign"],
    [
      "a database of another program with an id",
      (path) => {
        const db = new Database(path);
        db.pragma("application_id = 77");
        db.close();
      },
      "foreign",
    ],
    [
      "a ledger of a newer version",
      (path) => {
        const db = new Database(path);
        db.pragma(`user_version = ${newestVersion() + 1}`);
        db.close();
      },
      "newer",
    ],
    ["an empty file where machines were", (path) => truncateSync(path, 0), "emptied"],
    ["no file where machines were", (path) => rmSync(path), "missing"],
    ["half a file", (path) => truncateSync(path, Math.floor(statSync(path).size / 2)), "truncated"],
    [
      "a file whose log was taken away",
      (path) => {
        const db = new Database(path);
        db.exec("DELETE FROM machine");
        db.close();
      },
      "emptied",
    ],
    ["a few bytes", (path) => truncateSync(path, 60), "damaged"],
  ];
  it.each(cases)("is looked at and left as it is: %s", (_what, hurt, kind) => {
    const path = ledger.path();
    if (kind === "foreign" || kind === "text") hurt(path);
    else {
      filled();
      hurt(path);
    }
    const before = existsSync(path) ? readFileSync(path) : null;
    expect(ledgerTrouble()?.kind).toBe(kind);
    expect(() => database()).toThrow();
    const state = ledgerState();
    expect(state.trouble?.found.length).toBeGreaterThan(20);
    expect("trouble" in troubleShown(() => names())).toBe(true);
    expect(existsSync(path) ? readFileSync(path) : null).toEqual(before);
    expect(faultWords(new Error("else"))).toBeNull();
  });

  it("is a ledger, however young: all that counts may still be in its log", () => {
    createMachine(database(), simple(), "Created");
    // As a server leaves it that is killed at once.
    const young = ledger.file("young.db");
    for (const end of ["", "-wal"]) copyFileSync(ledger.path() + end, young + end);
    expect(inspect(young, newestVersion())).toBeNull();
  });

  it("is begun where there is none, and where an empty one was never more", () => {
    writeFileSync(ledger.path(), "");
    expect(ledgerTrouble()).toBeNull();
    expect(names()).toEqual([]);
  });

  it("that was removed or replaced while it is in use is noticed, and written again from what is held", async () => {
    for (const replace of [false, true]) {
      filled();
      const all = names();
      rmSync(ledger.path());
      if (replace) writeFileSync(ledger.path(), "something else");
      expect(() => createMachine(database(), simple(), "Created")).toThrow(replace ? "put in place" : "was removed");
      expect(heldDatabase()).not.toBeNull();
      expect(await heal({ action: "put back" })).toMatchObject({ ok: true });
      expect(names()).toEqual(all);
      createMachine(database(), simple(), "Created");
      letGo();
      expect(names()).toEqual([...all, "Small"]);
      letGo();
      rmSync(ledger.path());
      rmSync(backupFolder(ledger.path()), { recursive: true, force: true });
    }
  });
});

describe("ways back", () => {
  it("leave another program's file where it is, and go on beside it, after the next start too", async () => {
    writeFileSync(ledger.path(), "Dear diary,\n");
    const healed = await heal({ action: "fresh" });
    expect(healed).toMatchObject({ ok: true });
    createMachine(database(), simple(), "Created");
    letGo();
    expect(readFileSync(ledger.path(), "utf8")).toBe("Dear diary,\n");
    expect(databasePath()).toBe(ledger.file("ledger-2.db"));
    expect(names()).toEqual(["Small"]);
  });

  it("take a good backup and pass over one that is not whole; the file as it was found is kept", async () => {
    const all = filled();
    await backUp(database(), "daily", new Date("2026-01-01T10:00:00Z"));
    createMachine(database(), simple(), "Later");
    const newer = await backUp(database(), "daily", new Date("2026-01-02T10:00:00Z"));
    letGo();
    truncateSync(`${backupFolder(ledger.path())}/${newer}`, 5000);
    writeFileSync(ledger.path(), "");
    const good = newestGoodBackup(ledger.path());
    expect(good).toContain("2026-01-01");
    expect(await heal({ action: "restore", backup: newer })).toMatchObject({ ok: false });
    expect(await heal({ action: "restore", backup: "../../etc/passwd" })).toMatchObject({ ok: false });
    expect(await heal({ action: "restore", backup: good ?? "" })).toMatchObject({ ok: true, undo: null });
    expect(names()).toEqual(all);
  });

  it("restore a backup over a ledger in order, and take that back", async () => {
    const all = filled();
    const name = await backUp(database(), "by-hand");
    createMachine(database(), simple(), "Later");
    const restored = await heal({ action: "restore", backup: name });
    expect(names()).toEqual(all);
    const undo = restored.ok ? restored.undo : null;
    expect(await heal({ action: "restore", backup: undo ?? "" })).toMatchObject({ ok: true });
    expect(names()).toEqual([...all, "Small"]);
  });

  it("never give a revision's number out a second time", async () => {
    filled();
    const [first] = listMachines(database());
    const id = first?.id ?? "";
    const name = await backUp(database(), "by-hand");
    saveMachine(database(), id, 1, { ...simple(), name: "Edited" }, "edit");
    saveMachine(database(), id, 2, { ...simple(), name: "Edited twice" }, "edit");
    await heal({ action: "restore", backup: name });
    expect(listMachines(database()).find((each) => each.id === id)).toMatchObject({ name: "Reedcutter", revision: 4 });
    expect(machineAt(database(), id, 4)?.document.name).toBe("Reedcutter");
    expect(machineAt(database(), id, 1)?.document.name).toBe("Reedcutter");
  });

  it("take a copy of another ledger, and refuse what is none", async () => {
    const other = ledger.file("other.db");
    const db = openDatabase(other);
    createMachine(db, simple(), "Created");
    db.close();
    writeFileSync(ledger.file("notes.txt"), "notes");
    filled();
    truncateSync(ledger.path(), 0);
    for (const file of [ledger.file("notes.txt"), ledger.file("nowhere.db")])
      expect(await heal({ action: "use", file })).toMatchObject({ ok: false });
    expect(await heal({ action: "use", file: other })).toMatchObject({ ok: true });
    expect(names()).toEqual(["Small"]);
    expect(existsSync(other)).toBe(true);
  });

  it("read every machine out of a file whose other pages are overwritten, its log included", async () => {
    const all = filled();
    const db = database();
    const [first] = listMachines(db);
    const machine = EXAMPLES[0]?.make() ?? simple();
    saveMachine(db, first?.id ?? "", 1, { ...machine, name: "Edited last" }, "edit");
    const [, second] = listMachines(db);
    removeMachine(db, second?.id ?? "");
    // As after a power cut: the file and its log, copied while they are in use.
    const hurt = ledger.file("hurt.db");
    copyFileSync(db.name, hurt);
    copyFileSync(`${db.name}-wal`, `${hurt}-wal`);
    letGo();
    const { machines: found, revisions } = salvage(hurt);
    expect(revisions.length).toBe(all.length + 1);
    expect(found.map((each) => each.machine.name).sort()).toEqual([...all.slice(1), "Edited last"].sort());
    expect(found.find(({ id }) => id === first?.id)?.revision).toBe(2);
    expect(found.find(({ id }) => id === second?.id)?.deletedAt).not.toBeNull();
    // The schema itself, and the first pages of every tree.
    const bytes = readFileSync(hurt);
    bytes.fill(0, 100, 4096);
    writeFileSync(hurt, bytes);
    expect(salvage(hurt).machines).toHaveLength(all.length);
  });

  it("bring back the history and the shelf as well", async () => {
    filled();
    const db = database();
    const [first] = listMachines(db);
    const id = first?.id ?? "";
    saveMachine(db, id, 1, { ...simple(), name: "Second" }, "Made small");
    saveMachine(db, id, 2, { ...simple(), name: "Third" }, "Renamed");
    const pack = simple().parts[0] as ShelfPart;
    putAllOnShelf(db, [entryOf({ ...pack, name: "Spare pack" }), ...entriesOf({ gauges: ["12 AWG"] })]);
    db.pragma("wal_checkpoint(TRUNCATE)");
    letGo();
    const bytes = readFileSync(ledger.path());
    bytes.fill(0, 100, 3000);
    writeFileSync(ledger.path(), bytes);
    expect(await heal({ action: "salvage" })).toMatchObject({ ok: true });
    const healed = database();
    expect(historyOf(healed, id).map(({ revision, label }) => [revision, label])).toEqual([
      [3, "Read out of a damaged file"],
      [2, "Made small"],
      [1, "Example"],
    ]);
    expect(machineAt(healed, id, 2)?.document.name).toBe("Second");
    expect(listShelf(healed).map(({ thing }) => thingName(thing))).toEqual(["Spare pack", "Wire 12 AWG"]);
    expect(stockOf(listShelf(healed))).toEqual({ gauges: ["12 AWG"] });
  });

  it.each(seeds(1, 12))("lose no machine that was backed up, wherever the file is hurt: seed %d", async (seed) => {
    const random = randomFrom(seed * 13);
    const all = filled();
    await backUp(database(), "daily");
    letGo();
    const bytes = readFileSync(ledger.path());
    for (let i = 0; i < 8; i++) {
      const at = 100 + Math.floor(random() * (bytes.length - 4200));
      bytes.fill(Math.floor(random() * 256), at, at + 50 + Math.floor(random() * 4000));
    }
    writeFileSync(ledger.path(), bytes);
    const trouble = ledgerTrouble();
    if (!trouble) return expect(names()).toEqual(all);
    expect(["damaged", "truncated", "foreign", "newer"]).toContain(trouble.kind);
    expect(
      readable(ledger.path())
        .machines.map(({ machine }) => machine.name)
        .sort(),
    ).toEqual([...all].sort());
    expect(await heal({ action: "salvage" })).toMatchObject({ ok: true });
    expect(names().sort()).toEqual([...all].sort());
    expect(inspect(ledger.path(), newestVersion())).toBeNull();
  });

  it("say so where nothing can be read, and leave everything as it is", async () => {
    filled();
    writeFileSync(ledger.path(), Buffer.alloc(20_000, 7));
    rmSync(`${ledger.path()}-wal`, { force: true });
    const before = readFileSync(ledger.path());
    expect(await heal({ action: "salvage" })).toMatchObject({ ok: false });
    expect(await heal({ action: "put back" })).toMatchObject({ ok: false });
    expect(readFileSync(ledger.path())).toEqual(before);
  });
});

describe("backups", () => {
  it("are made once a day when something changed, and not without end", async () => {
    filled();
    const start = Date.now();
    const at = (days: number) => new Date(start + days * 86_400_000);
    expect(await backUpDaily(database(), at(0))).toBe(true);
    expect(await backUpDaily(database(), at(0.5))).toBe(false);
    expect(await backUpDaily(database(), at(2))).toBe(false);
    database().prepare("UPDATE machine SET updated_at = ?").run(at(3).toISOString());
    expect(await backUpDaily(database(), at(3.1))).toBe(true);
    for (let i = 0; i < 20; i++) await backUp(database(), "daily", at(10 + i));
    expect(backupFiles(ledger.path())).toHaveLength(14);
    expect(backupFiles(ledger.path())[0]?.at).toBe(at(29).toISOString());
    expect(machineCount(openDatabase(`${backupFolder(ledger.path())}/${backupFiles(ledger.path())[0]?.name}`))).toBe(EXAMPLES.length);
  });

  it("leave nothing behind that is not finished", async () => {
    filled();
    const db = database();
    renameSync(ledger.path(), ledger.file("away.db"));
    letGo();
    await expect(backUp(db, "daily")).rejects.toThrow();
    expect(backupFiles(ledger.path())).toEqual([]);
  });
});
