import { spawnSync } from "node:child_process";
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, statSync, writeFileSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { applyCommand } from "@/core/machine/apply";
import type { Machine } from "@/core/machine/schema";
import { App } from "@/tests/support/app";
import { simple } from "@/tests/support/small";

let app: App;
let id = "";
let count = 0;

/** Renames the machine, as a window would. */
async function save(name: string, revision: number) {
  const machine = (await app.document(id)).document as unknown as Machine;
  const result = applyCommand(machine, { type: "rename", name });
  const edits = result.ok ? [{ id: `edit-${++count}-0000`, at: new Date().toISOString(), label: "Rename", changes: result.changes }] : [];
  return post(`/api/machines/${id}/edits`, { base: revision, origin: "w", edits });
}

async function post(
  path: string,
  body: unknown,
): Promise<{ status: number; body: { detail?: string; passes?: boolean; revision?: number }; ms: number }> {
  const start = performance.now();
  const answer = await fetch(app.url + path, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  return { status: answer.status, body: await answer.json(), ms: performance.now() - start };
}

const page = async () => (await fetch(app.url, { headers: { Accept: "text/html" } })).text();

/** A disk of its own, which can be small or read-only. Null where nobody may make one. */
function ownDisk(kilobytes: number): string | null {
  const folder = mkdtempSync(join(tmpdir(), "node-ledger-disk-"));
  return spawnSync("mount", ["-t", "tmpfs", "-o", `size=${kilobytes}k`, "tmpfs", folder]).status === 0 ? folder : null;
}
const mayMount = () => {
  const folder = ownDisk(64);
  if (folder) spawnSync("umount", [folder]);
  return folder !== null;
};

async function begin(folder?: string): Promise<void> {
  app = new App(folder);
  await app.start();
  id = await app.create({ kind: "import", document: simple() });
}

describe("a fault of the disk or the database", () => {
  let disk: string | null = null;
  beforeEach(() => {
    disk = null;
  });
  afterEach(async () => {
    await app.kill();
    if (disk) spawnSync("umount", ["-l", disk]);
    rmSync(app.folder, { recursive: true, force: true });
  });

  it.runIf(mayMount())("that is full is told with what to do; reading goes on, and saving by itself when there is room", async () => {
    disk = ownDisk(2048);
    await begin(disk ?? undefined);
    const filler = join(app.folder, "filler");
    const room = Number(spawnSync("df", ["--output=avail", "-k", app.folder], { encoding: "utf8" }).stdout.split("\n")[1]);
    writeFileSync(filler, Buffer.alloc(Math.max(0, room - 8) * 1024));
    let refused = await save("First", 1);
    for (let i = 2; refused.status === 200 && i < 60; i++) refused = await save(`Name ${i}`, i);
    expect([refused.status, refused.body.passes]).toEqual([507, true]);
    expect(refused.body.detail).toContain("Make some room");
    const { revision } = await app.document(id);
    expect((await fetch(`${app.url}/api/machines`)).status).toBe(200);
    expect(await page()).toContain("Node Ledger");
    rmSync(filler);
    expect(await save("After", revision)).toMatchObject({ status: 200, body: { revision: revision + 1 } });
  });

  it.runIf(mayMount())("that is read-only is told; reading goes on, and saving when it may be written again", async () => {
    disk = ownDisk(4096);
    await begin(disk ?? undefined);
    expect(await save("First", 1)).toMatchObject({ status: 200 });
    // The open connection of the server holds its files for writing: it is begun anew on the disk as it is then.
    await app.kill();
    const quiet = new Database(app.database);
    quiet.pragma("journal_mode = DELETE");
    quiet.close();
    expect(spawnSync("mount", ["-o", "remount,ro", disk ?? ""]).status).toBe(0);
    await app.start();
    expect(await page()).toContain("First");
    const refused = await save("Second", 2);
    expect([refused.status, refused.body.passes]).toEqual([503, true]);
    expect(refused.body.detail).toContain("may not be written");
    expect((await app.document(id)).revision).toBe(2);
    expect(spawnSync("mount", ["-o", "remount,rw", disk ?? ""]).status).toBe(0);
    expect(await save("Third", 2)).toMatchObject({ status: 200, body: { revision: 3 } });
  });

  it("another process that holds the lock is waited for by the saver alone: readers are answered at once", async () => {
    await begin();
    const other = new Database(app.database);
    other.exec("BEGIN IMMEDIATE");
    const saves = Promise.all([save("Second", 1), save("Second", 1), save("Second", 1)]);
    const reads = await Promise.all(Array.from({ length: 10 }, () => fetch(`${app.url}/api/machines/${id}`).then(({ status }) => status)));
    expect(new Set(reads)).toEqual(new Set([200]));
    for (const refused of await saves) {
      expect([refused.status, refused.body.passes]).toEqual([503, true]);
      expect(refused.body.detail).toContain("Another program");
    }
    other.exec("ROLLBACK");
    other.close();
    expect(await save("Second", 1)).toMatchObject({ status: 200, body: { revision: 2 } });
  });

  it("bytes that are overwritten under its hands cost nobody else, and show the ways back", async () => {
    await begin();
    for (let i = 0; i < 6; i++) await app.create({ kind: "example", key: "reedcutter" });
    await app.kill();
    const quiet = new Database(app.database);
    quiet.pragma("wal_checkpoint(TRUNCATE)");
    quiet.close();
    const bytes = readFileSync(app.database);
    const file = openSync(app.database, "r+");
    // In the schema, and in the middle of a machine.
    const { size } = statSync(app.database);
    for (const at of [300, Math.floor(size / 8192) * 4096]) writeSync(file, Buffer.alloc(600, 0xa5), 0, 600, at);
    closeSync(file);
    expect(readFileSync(app.database).equals(bytes)).toBe(false);
    await app.start();
    const answer = await fetch(`${app.url}/api/machines`);
    expect([answer.status, answer.headers.get("content-type")]).toEqual([503, "application/problem+json"]);
    expect(await page()).toContain("Ways back");
    expect(await post("/api/ledger", { action: "salvage" })).toMatchObject({ status: 200 });
    const list = (await (await fetch(`${app.url}/api/machines`)).json()) as unknown[];
    expect(list).toHaveLength(7);
  });

  it("one document that is damaged costs its own row, and its text can be taken out", async () => {
    await begin();
    const other = await app.create({ kind: "import", document: { ...simple(), name: "Whole" } });
    const db = new Database(app.database);
    db.prepare("UPDATE machine SET document = ?, revision = 2 WHERE id = ?").run('{"format":"node-ledger/machine","name":"Sm', id);
    db.close();
    const look = async () =>
      (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; name: string; overview: { kind: string } }[];
    await expect
      .poll(async () => (await look()).map(({ name, overview }) => [name, overview.kind]), { timeout: 20_000 })
      .toEqual([
        ["Small", "unreadable"],
        ["Whole", "known"],
      ]);
    expect(await (await fetch(`${app.url}/api/machines/${id}/export`)).text()).toContain('"name":"Sm');
    expect((await fetch(`${app.url}/api/machines/${id}`)).status).toBe(422);
    expect((await fetch(`${app.url}/api/machines/${other}`)).status).toBe(200);
  });
});
