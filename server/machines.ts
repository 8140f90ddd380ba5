import { randomUUID } from "node:crypto";
import { deflateRawSync } from "node:zlib";
import { toJson } from "@/core/exchange/json";
import type { Problem } from "@/core/machine/check";
import { readMachineText } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { MachineSummary } from "@/core/machine/summary";
import type { Db } from "./database";
import { knownOverviews } from "./overview";

export interface StoredMachine {
  id: string;
  revision: number;
  document: Machine;
}

export type SaveResult =
  | { ok: true; revision: number }
  | { ok: false; reason: "missing" }
  | { ok: false; reason: "conflict"; current: StoredMachine };

interface Row {
  id: string;
  name: string;
  revision: number;
  document: string;
}

/** A stored document that this version cannot read, a newer one's most likely. It stays as it is. */
export class UnreadableMachine extends Error {
  constructor(
    readonly name: string,
    readonly problem: Problem,
  ) {
    super(`${name} cannot be read: ${problem.path}: expected ${problem.expected}`);
  }
}

/** What `read` gives, or why the machine it needs cannot be read. */
export function orUnreadable<T>(read: () => T): T | UnreadableMachine {
  try {
    return read();
  } catch (error) {
    if (error instanceof UnreadableMachine) return error;
    throw error;
  }
}

function stored(row: Row): StoredMachine {
  const read = readMachineText(row.document);
  if (!read.ok) throw new UnreadableMachine(row.name, read.problems[0] as Problem);
  return { id: row.id, revision: row.revision, document: read.machine };
}

/** Machines that are not deleted, in the order they were made. */
export function machineNames(db: Db): { id: string; name: string }[] {
  return db
    .prepare<[], { id: string; name: string }>("SELECT id, name FROM machine WHERE deleted_at IS NULL ORDER BY created_at, rowid")
    .all();
}

/** A line of the list whose row in the file cannot be read. */
function lostRow(id: string): MachineSummary {
  return {
    id,
    name: "A machine whose entry is damaged",
    description: "",
    revision: 0,
    updatedAt: "",
    archivedAt: null,
    readAt: null,
    overview: { kind: "damaged" },
  };
}

/** Ids of all machines in the order they were made; by the index alone where a page of the rows themselves is damaged. */
function allIds(db: Db): string[] {
  const ids = (order: string) =>
    db
      .prepare<[], { id: string }>(`SELECT id FROM machine ${order}`)
      .all()
      .map(({ id }) => id);
  try {
    return ids("WHERE deleted_at IS NULL ORDER BY created_at, rowid");
  } catch {
    return ids("INDEXED BY sqlite_autoindex_machine_1 ORDER BY id");
  }
}

/** Every machine on the list, each row read by itself: one that is damaged costs no other. What is not worked out yet is waited for. */
export function listMachines(db: Db): MachineSummary[] {
  const one = db.prepare<[string], Omit<MachineSummary, "overview" | "archivedAt" | "readAt"> & { deletedAt: string | null }>(
    "SELECT id, name, description, revision, updated_at AS updatedAt, deleted_at AS deletedAt FROM machine WHERE id = ?",
  );
  const overviews = knownOverviews(db);
  const beside = besideRows(db);
  return allIds(db).flatMap((id) => {
    try {
      const row = one.get(id);
      if (!row) return [lostRow(id)];
      const { deletedAt, ...rest } = row;
      return deletedAt === null ? [{ ...rest, ...beside(id), overview: overviews(id, row.revision) }] : [];
    } catch {
      return [lostRow(id)];
    }
  });
}

/** What stands in other tables of a machine: when it was put aside and when it was last read. A damaged table costs no machine. */
function besideRows(db: Db): (id: string) => Pick<MachineSummary, "archivedAt" | "readAt"> {
  const all = <T>(read: () => T[]): T[] => {
    try {
      return read();
    } catch {
      return [];
    }
  };
  const archived = new Map(
    all(() => db.prepare<[], { id: string; at: string }>("SELECT machine_id AS id, at FROM archived").all()).map(({ id, at }) => [id, at]),
  );
  const read = new Map(
    all(() =>
      db
        .prepare<[], { id: string; at: string | null }>(
          `SELECT machine_id AS id, (SELECT taken_at FROM reading WHERE machine_id = bench.machine_id AND struck = 0
             ORDER BY taken_at DESC LIMIT 1) AS at FROM bench`,
        )
        .all(),
    ).map(({ id, at }) => [id, at]),
  );
  return (id) => ({ archivedAt: archived.get(id) ?? null, readAt: read.get(id) ?? null });
}

/** Puts a machine aside, or back on the list. @returns whether it is there */
export function archiveMachine(db: Db, id: string, archived: boolean): boolean {
  if (!archived) return db.prepare("DELETE FROM archived WHERE machine_id = ?").run(id).changes > 0;
  return (
    db
      .prepare("INSERT OR IGNORE INTO archived (machine_id, at) SELECT id, ? FROM machine WHERE id = ? AND deleted_at IS NULL")
      .run(new Date().toISOString(), id).changes > 0
  );
}

/** A machine that was taken off the list and is not purged yet. */
export interface DeletedMachine {
  readonly id: string;
  readonly name: string;
  readonly deletedAt: string;
}

/** Machines that can still be brought back, the last deleted first. */
export function deletedMachines(db: Db): DeletedMachine[] {
  return db
    .prepare<[], DeletedMachine>(
      "SELECT id, name, deleted_at AS deletedAt FROM machine WHERE deleted_at IS NOT NULL ORDER BY deleted_at DESC",
    )
    .all();
}

function rowById(db: Db, id: string): Row | undefined {
  return db.prepare<[string], Row>("SELECT id, name, revision, document FROM machine WHERE id = ? AND deleted_at IS NULL").get(id);
}

/** A machine's document as it is stored; null where there is none on the list. */
export function documentNow(db: Db, id: string): string | null {
  return rowById(db, id)?.document ?? null;
}

/** The machine a phone is to be paired with: the one of that name, or the one changed last. */
export function machineToPair(db: Db, name: string | undefined): { id: string; name: string } | null {
  const where = name === undefined ? "" : "AND name = ?";
  return (
    db
      .prepare<string[], { id: string; name: string }>(
        `SELECT id, name FROM machine WHERE deleted_at IS NULL ${where} ORDER BY updated_at DESC LIMIT 1`,
      )
      .get(...(name === undefined ? [] : [name])) ?? null
  );
}

/** The newest revision of a machine on the list. */
export function revisionOf(db: Db, id: string): number | null {
  return (
    db.prepare<[string], { revision: number }>("SELECT revision FROM machine WHERE id = ? AND deleted_at IS NULL").get(id)?.revision ?? null
  );
}

/** @throws UnreadableMachine */
export function getMachine(db: Db, id: string): StoredMachine | null {
  const row = rowById(db, id);
  return row ? stored(row) : null;
}

/** A machine as a file, to be imported here or elsewhere: what this version cannot read goes out as it is stored. */
export function machineFile(db: Db, id: string): { name: string; text: string } | null {
  const row = rowById(db, id);
  if (!row) return null;
  const read = readMachineText(row.document);
  return { name: row.name, text: read.ok ? toJson(read.machine) : row.document };
}

/** What is said of a new revision. */
export interface RevisionNote {
  readonly label: string;
  /** The window it came from. */
  readonly origin?: string | undefined;
  /** What it changed, in lines. */
  readonly lines?: readonly string[];
}

/** A document as it is written: its text, and what the list shows of it. */
export function rowOf(machine: Machine) {
  const { name, description } = machine;
  return { name, description, document: JSON.stringify(machine), now: new Date().toISOString() };
}

/** Writes a revision into the history. Deflated lightly: a document is mostly the same words over and over. */
export function writeRevision(
  db: Db,
  id: string,
  revision: number,
  row: ReturnType<typeof rowOf>,
  { label, origin, lines }: RevisionNote,
): void {
  db.prepare("INSERT INTO revision (machine_id, revision, label, origin, lines, created_at, document) VALUES (?, ?, ?, ?, ?, ?, ?)").run(
    id,
    revision,
    label,
    origin ?? null,
    lines ? JSON.stringify(lines) : null,
    row.now,
    deflateRawSync(row.document, { level: 1 }),
  );
}

export function createMachine(db: Db, machine: Machine, label: string): StoredMachine {
  const id = randomUUID();
  const row = rowOf(machine);
  db.transaction(() => {
    db.prepare(
      `INSERT INTO machine (id, name, description, revision, created_at, updated_at, document)
       VALUES (@id, @name, @description, 1, @now, @now, @document)`,
    ).run({ ...row, id });
    writeRevision(db, id, 1, row, { label });
  }).immediate();
  return { id, revision: 1, document: machine };
}

/** Writes the next revision over the one a change started from. @returns whether that one was still the newest */
export function writeNext(db: Db, id: string, base: number, machine: Machine, note: RevisionNote): boolean {
  const row = rowOf(machine);
  const { changes } = db
    .prepare(
      `UPDATE machine SET name = @name, description = @description, document = @document, revision = @revision, updated_at = @now
        WHERE id = @id AND revision = @base AND deleted_at IS NULL`,
    )
    .run({ ...row, id, base, revision: base + 1 });
  if (changes === 1) writeRevision(db, id, base + 1, row, note);
  return changes === 1;
}

/** The revision in which an edit or a save came into a machine; null where it did not. */
export function savedAs(db: Db, id: string, edit: string): number | null {
  const row = db.prepare<[string, string], { revision: number }>("SELECT revision FROM edit WHERE machine_id = ? AND id = ?").get(id, edit);
  return row?.revision ?? null;
}

/** Notes that an edit or a save is in a machine, so that it is known when it comes again. */
export function noteSaved(db: Db, id: string, revision: number, edit: { readonly id: string; readonly at: string }): void {
  db.prepare("INSERT INTO edit (machine_id, id, revision, at) VALUES (?, ?, ?, ?)").run(id, edit.id, revision, edit.at);
}

/**
 * Saves over revision `base`; a save that was done before, by its id, is not done again. A stale base changes nothing and
 * gives back what is stored, so that both can be offered.
 */
export function saveMachine(db: Db, id: string, base: number, machine: Machine, label: string, save?: string): SaveResult {
  return db
    .transaction((): SaveResult => {
      const known = save === undefined ? null : savedAs(db, id, save);
      if (known !== null) return { ok: true, revision: known };
      if (writeNext(db, id, base, machine, { label })) {
        if (save !== undefined) noteSaved(db, id, base + 1, { id: save, at: new Date().toISOString() });
        return { ok: true, revision: base + 1 };
      }
      const current = getMachine(db, id);
      return current ? { ok: false, reason: "conflict", current } : { ok: false, reason: "missing" };
    })
    .immediate();
}

/** Takes a machine off the list; `restoreMachine` brings it back. */
export function removeMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL").run(new Date().toISOString(), id).changes > 0;
}

/** Forgets a deleted machine and all its revisions for good. */
export function purgeMachine(db: Db, id: string): boolean {
  return db.prepare("DELETE FROM machine WHERE id = ? AND deleted_at IS NOT NULL").run(id).changes > 0;
}

export function restoreMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = NULL WHERE id = ? AND deleted_at IS NOT NULL").run(id).changes > 0;
}
