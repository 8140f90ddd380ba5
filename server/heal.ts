import { existsSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import Database from "better-sqlite3";
import { readMachineText } from "@/core/machine/read";
import { backupFiles, backupPath, noteSeen } from "./backup-files";
import { backUp, machineCount } from "./backups";
import { type Db, databasePath, heldDatabase, insteadPath, ledgerTrouble, letGo, newestVersion, openDatabase } from "./database";
import type { Trouble } from "./faults";
import { inspect } from "./inspect";
import { rowOf, writeRevision } from "./machines";
import { putReadings } from "./readings";
import { type Found, type Salvaged, salvage } from "./salvage";
import { putOnShelf } from "./shelf";

/** A way back to a ledger that can be worked with. */
export type Way =
  | { action: "restore"; backup: string }
  | { action: "salvage" }
  | { action: "fresh" }
  | { action: "use"; file: string }
  | { action: "put back" };

/** What came of it: a sentence, and the backup that takes it back where there is one. */
export type Healed = { ok: true; done: string; undo: string | null } | { ok: false; detail: string };

/** Troubles with a file that is not ours to move: the ledger goes on in another file beside it. */
const NOT_OURS: ReadonlySet<Trouble["kind"]> = new Set(["foreign", "text", "newer", "unopenable"]);

/** The newest backup that is sound, and whether any is; unsound ones are passed over. */
export function newestGoodBackup(path: string): string | null {
  for (const { name } of backupFiles(path)) {
    const file = backupPath(path, name);
    if (file && isSound(file)) return name;
  }
  return null;
}

function isSound(file: string): boolean {
  try {
    return inspect(file, newestVersion()) === null;
  } catch {
    return false;
  }
}

const NOTHING: Salvaged = { machines: [], revisions: [], shelf: [], readings: [], waivers: [] };

/** What is in a sound ledger file. */
function contentOf(file: string | null): Salvaged {
  try {
    return file && isSound(file) ? salvage(file) : NOTHING;
  } catch {
    return NOTHING;
  }
}

/** Those of the first list, and of the second what the first lacks. */
function joined<T>(first: readonly T[], second: readonly T[], keyOf: (each: T) => string): T[] {
  const known = new Set(first.map(keyOf));
  return [...first, ...second.filter((each) => !known.has(keyOf(each)))];
}

/** What can be read of a damaged ledger, and beside it what only its newest sound backup has. */
export function readable(path: string): Salvaged {
  const found = existsSync(path) ? salvage(path) : NOTHING;
  const backup = newestGoodBackup(path);
  const backed = contentOf(backup && backupPath(path, backup));
  const before = new Map(backed.machines.map((each) => [each.id, each]));
  const whole = found.machines.map((each): Found => {
    // Of a machine whose own row is lost the backup knows whether it was on the list.
    const known = each.createdAt === null ? before.get(each.id) : undefined;
    return known ? { ...known, revision: each.revision, machine: each.machine } : each;
  });
  return {
    machines: joined(whole, backed.machines, ({ id }) => id),
    revisions: joined(found.revisions, backed.revisions, ({ id, revision }) => `${id} ${revision}`),
    shelf: joined(found.shelf, backed.shelf, ({ id }) => id),
    readings: joined(found.readings, backed.readings, ({ id, reading }) => `${id} ${reading.queueId}`),
    waivers: joined(found.waivers, backed.waivers, ({ id, waiver }) => `${id} ${waiver.queueId}`),
  };
}

function fill(db: Db, { machines, revisions, shelf, readings, waivers }: Salvaged): void {
  const insert = db.prepare(
    `INSERT INTO machine (id, name, description, revision, created_at, updated_at, deleted_at, document)
     VALUES (@id, @name, @description, @revision, @createdAt, @updatedAt, @deletedAt, @document)`,
  );
  const before = db.prepare(
    `INSERT OR IGNORE INTO revision (machine_id, revision, label, origin, lines, created_at, document)
     SELECT id, @revision, @label, @origin, @lines, @at, @document FROM machine WHERE id = @id AND revision > @revision`,
  );
  db.transaction(() => {
    for (const { id, revision, machine, createdAt, updatedAt, deletedAt } of machines) {
      const row = rowOf(machine);
      insert.run({ ...row, id, revision, createdAt: createdAt ?? row.now, updatedAt: updatedAt ?? row.now, deletedAt });
      writeRevision(db, id, revision, row, { label: "Read out of a damaged file" });
    }
    for (const revision of revisions) before.run(revision);
    for (const { id, ...entry } of shelf) putOnShelf(db, entry, id);
    for (const { id } of machines) {
      // Of a machine that is off the list nothing is taken that its row would refuse.
      const own = readings.flatMap((each) => (each.id === id ? [each.reading] : []));
      putReadings(
        db,
        id,
        own,
        waivers.flatMap((each) => (each.id === id ? [each.waiver] : [])),
      );
    }
  }).immediate();
}

/** Copies a sound ledger, whatever version of the schema it has, into a file that is not there yet. */
function copyOf(from: string, draft: string): void {
  const source = new Database(from, { readonly: true, fileMustExist: true });
  try {
    source.prepare("VACUUM INTO ?").run(draft);
  } finally {
    source.close();
  }
}

const withLog = (path: string) => [path, `${path}-wal`, `${path}-shm`];
const stamp = () => new Date().toISOString().replace(/[:.]/g, "-");

/** First name beside the ledger that no file has. */
function besidePath(path: string): string {
  const stem = path.replace(/\.db$/, "");
  for (let n = 2; ; n++) if (!existsSync(`${stem}-${n}.db`)) return `${stem}-${n}.db`;
}

/**
 * Puts a finished ledger in the place of the present file. A file that is hurt is moved aside as it is, byte for byte; one
 * that belongs to somebody else stays where it is, and the ledger goes on beside it.
 */
function swapIn(draft: string, path: string, trouble: Trouble | null): string {
  letGo();
  if (trouble && NOT_OURS.has(trouble.kind)) {
    const beside = besidePath(path);
    renameSync(draft, beside);
    writeFileSync(insteadPath(path), `${basename(beside)}\n`);
    return ` ${basename(path)} was left as it is; the ledger is in ${basename(beside)} now.`;
  }
  let said = "";
  const aside = `${path}.aside-${stamp()}`;
  for (const [i, file] of withLog(path).entries()) {
    if (!existsSync(file)) continue;
    if (trouble) {
      renameSync(file, withLog(aside)[i] as string);
      said = ` The file as it was found is kept as ${basename(aside)}.`;
    } else rmSync(file);
  }
  renameSync(draft, path);
  return said;
}

/** Makes the ledger that a way leads to, in a file of its own. @returns what was done, or why it cannot be */
function make(way: Way, path: string, draft: string): { done: string } | { detail: string } {
  switch (way.action) {
    case "restore": {
      const file = backupPath(path, way.backup);
      if (!file || !isSound(file)) return { detail: "That backup is not there any more, or it is not whole. Nothing was changed." };
      copyOf(file, draft);
      const at = backupFiles(path).find(({ name }) => name === way.backup)?.at ?? "";
      return { done: `The ledger is as it was on ${at.slice(0, 10)} at ${at.slice(11, 16)} (UTC).` };
    }
    case "salvage": {
      const all = readable(path);
      if (all.machines.length === 0) return { detail: "No machine could be read out of that file. Nothing was changed." };
      const db = openDatabase(draft);
      fill(db, all);
      db.close();
      return {
        done: `${all.machines.length} ${all.machines.length === 1 ? "machine was" : "machines were"} read out of the damaged file.`,
      };
    }
    case "use": {
      const file = resolve(way.file);
      if (!existsSync(file) || !isSound(file)) return { detail: "There is no sound ledger file at that place. Nothing was changed." };
      copyOf(file, draft);
      return { done: `The ledger is now a copy of ${basename(file)}.` };
    }
    case "put back": {
      const held = heldDatabase();
      if (!held) return { detail: "What was in the file is no longer held here. Take a backup instead." };
      held.prepare("VACUUM INTO ?").run(draft);
      return { done: "The ledger file was written again from what was still held here." };
    }
    case "fresh":
      openDatabase(draft).close();
      return { done: "A new, empty ledger was begun." };
  }
}

/** Revisions of the machines in the present file, as far as they can be told. */
function presentRevisions(path: string, held: Db | null): ReadonlyMap<string, number> {
  try {
    const rows = held
      ? held.prepare<[], { id: string; revision: number }>("SELECT id, revision FROM machine").all()
      : existsSync(path)
        ? salvage(path).machines
        : [];
    return new Map(rows.map(({ id, revision }) => [id, revision]));
  } catch {
    return new Map();
  }
}

/**
 * Numbers of revisions go up, whatever file comes in place of another: a window that shows revision 41 must not take another
 * 41 for its own. What is older than the present becomes the revision after it.
 */
function goOn(db: Db, present: ReadonlyMap<string, number>, label: string): void {
  const set = db.prepare("UPDATE machine SET revision = ? WHERE id = ?");
  db.transaction(() => {
    for (const row of db
      .prepare<[], { id: string; revision: number; document: string }>("SELECT id, revision, document FROM machine")
      .all()) {
      const before = present.get(row.id);
      if (before === undefined || before < row.revision) continue;
      set.run(before + 1, row.id);
      const read = readMachineText(row.document);
      if (read.ok) writeRevision(db, row.id, before + 1, rowOf(read.machine), { label });
    }
  }).immediate();
}

/**
 * Goes a way back. The present ledger, where it is in order, is backed up first; so that can be taken back, too.
 * @throws SqliteError when the disk refuses; the present file is then as it was
 */
export async function heal(way: Way): Promise<Healed> {
  const trouble = ledgerTrouble();
  const held = heldDatabase();
  const path = held?.name ?? databasePath();
  const draft = join(dirname(path), `.${basename(path)}.healing-${stamp()}`);
  try {
    const made = make(way, path, draft);
    if ("detail" in made) return { ok: false, detail: made.detail };
    // Brought up to date before anything is moved.
    const db = openDatabase(draft);
    if (way.action === "restore" || way.action === "use") goOn(db, presentRevisions(path, trouble ? null : held), "Restored from a backup");
    const machines = machineCount(db);
    db.pragma("wal_checkpoint(TRUNCATE)");
    db.close();
    const undo = trouble || !held ? null : await backUp(held, "before-restore");
    const said = swapIn(draft, path, trouble);
    noteSeen(databasePath(), machines);
    return { ok: true, done: made.done + said, undo };
  } finally {
    for (const file of withLog(draft)) rmSync(file, { force: true });
  }
}
