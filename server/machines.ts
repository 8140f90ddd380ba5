import { randomUUID } from "node:crypto";
import { toJson } from "@/core/exchange/json";
import type { Problem } from "@/core/machine/check";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { MachineSummary } from "@/core/machine/summary";
import type { Db } from "./database";
import { storedOverview } from "./overview";

export interface StoredMachine {
  id: string;
  revision: number;
  document: Machine;
}

export type SaveResult =
  | { ok: true; revision: number }
  | { ok: false; reason: "missing" }
  | { ok: false; reason: "conflict"; current: StoredMachine };

/** Automatic revisions kept for each machine. */
const KEEP_REVISIONS = 200;

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
  const read = readMachine(JSON.parse(row.document));
  if (!read.ok) throw new UnreadableMachine(row.name, read.problems[0] as Problem);
  return { id: row.id, revision: row.revision, document: read.machine };
}

/** Machines that are not deleted, in the order they were made. */
export function machineNames(db: Db): { id: string; name: string }[] {
  return db
    .prepare<[], { id: string; name: string }>("SELECT id, name FROM machine WHERE deleted_at IS NULL ORDER BY created_at, rowid")
    .all();
}

export function listMachines(db: Db): MachineSummary[] {
  return db
    .prepare<[], Omit<MachineSummary, "overview">>(
      `SELECT id, name, coalesce(json_extract(document, '$.description'), '') AS description, revision, updated_at AS updatedAt
         FROM machine WHERE deleted_at IS NULL ORDER BY created_at, rowid`,
    )
    .all()
    .map((row) => ({ ...row, overview: storedOverview(db, row.id, row.revision) }));
}

function rowById(db: Db, id: string): Row | undefined {
  return db.prepare<[string], Row>("SELECT id, name, revision, document FROM machine WHERE id = ? AND deleted_at IS NULL").get(id);
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
  const read = readMachine(JSON.parse(row.document));
  return { name: row.name, text: read.ok ? toJson(read.machine) : row.document };
}

function rowOf(machine: Machine) {
  return { name: machine.name, document: JSON.stringify(machine), now: new Date().toISOString() };
}

export function createMachine(db: Db, machine: Machine, label: string): StoredMachine {
  const id = randomUUID();
  const row = { id, ...rowOf(machine), label };
  db.transaction(() => {
    db.prepare(
      "INSERT INTO machine (id, name, document, revision, created_at, updated_at) VALUES (@id, @name, @document, 1, @now, @now)",
    ).run(row);
    db.prepare("INSERT INTO revision (machine_id, revision, label, document, created_at) VALUES (@id, 1, @label, @document, @now)").run(
      row,
    );
  })();
  return { id, revision: 1, document: machine };
}

/** Saves over revision `base`. A stale base changes nothing and gives back what is stored, so that both can be offered. */
export function saveMachine(db: Db, id: string, base: number, machine: Machine, label: string): SaveResult {
  const row = { id, ...rowOf(machine), label, base, revision: base + 1 };
  return db
    .transaction((): SaveResult => {
      const { changes } = db
        .prepare(
          `UPDATE machine SET name = @name, document = @document, revision = @revision, updated_at = @now
            WHERE id = @id AND revision = @base AND deleted_at IS NULL`,
        )
        .run(row);
      if (changes === 0) {
        const current = getMachine(db, id);
        return current ? { ok: false, reason: "conflict", current } : { ok: false, reason: "missing" };
      }
      db.prepare(
        "INSERT INTO revision (machine_id, revision, label, document, created_at) VALUES (@id, @revision, @label, @document, @now)",
      ).run(row);
      db.prepare("DELETE FROM revision WHERE machine_id = ? AND revision <= ?").run(id, row.revision - KEEP_REVISIONS);
      return { ok: true, revision: row.revision };
    })
    .immediate();
}

/** Takes a machine off the list; `restoreMachine` brings it back. */
export function removeMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL").run(new Date().toISOString(), id).changes > 0;
}

export function restoreMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = NULL WHERE id = ? AND deleted_at IS NOT NULL").run(id).changes > 0;
}
