import { closeSync, existsSync, openSync, readSync, statSync } from "node:fs";
import Database from "better-sqlite3";
import { machinesSeen } from "./backup-files";
import { LedgerTrouble, type Trouble } from "./faults";

/** Written into the header of every ledger file: "NLDG". */
export const APPLICATION_ID = 0x4e4c4447;
/** Versions of the schema that were written before files carried the id. */
const WITHOUT_ID = 4;
const MAGIC = "SQLite format 3\0";

interface Header {
  readonly size: number;
  readonly database: boolean;
  readonly text: boolean;
  readonly applicationId: number;
  readonly version: number;
  /** Bytes the file should have by its own account. */
  readonly stated: number;
}

/** The first hundred bytes, read without the database: a file of another program is not even opened. */
function headerOf(path: string): Header {
  const { size } = statSync(path);
  const bytes = Buffer.alloc(100);
  const file = openSync(path, "r");
  try {
    readSync(file, bytes, 0, 100, 0);
  } finally {
    closeSync(file);
  }
  const page = bytes.readUInt16BE(16);
  const used = bytes.subarray(0, Math.min(size, 100));
  return {
    size,
    database: size >= 100 && bytes.toString("latin1", 0, 16) === MAGIC,
    text: used.every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13),
    applicationId: bytes.readUInt32BE(68),
    version: bytes.readUInt32BE(60),
    stated: (page === 1 ? 65536 : page) * bytes.readUInt32BE(28),
  };
}

/** Whether a database that carries no id is one of ours from before ids were written, or an empty one. */
function oursWithoutId(db: Database.Database, version: number): boolean {
  const tables = db.prepare<[], { name: string }>("SELECT name FROM sqlite_schema WHERE type = 'table'").all();
  if (version === 0) return tables.length === 0;
  const columns = db.prepare<[], { name: string }>("SELECT name FROM pragma_table_info('machine')").all();
  return version <= WITHOUT_ID && ["id", "name", "document", "revision"].every((name) => columns.some((column) => column.name === name));
}

/** What a quick look through every page of the file finds; null: nothing. */
function damageOf(path: string, newest: number, had: number): Trouble | null {
  try {
    const db = new Database(path, { readonly: true, fileMustExist: true, timeout: 1000 });
    try {
      // Asked of the database and not read from the file's head: of a young ledger all that counts may still be in its log.
      const id = db.pragma("application_id", { simple: true });
      const version = db.pragma("user_version", { simple: true }) as number;
      if (id === APPLICATION_ID && version > newest) return newer();
      if (id !== APPLICATION_ID && !(id === 0 && oursWithoutId(db, version))) return foreign();
      const [first] = db.pragma("quick_check(1)") as { quick_check: string }[];
      if (first?.quick_check !== "ok") return damaged(first?.quick_check ?? "no answer");
      // A log that was taken away leaves a sound file with nothing in it.
      const machines = version === 0 ? 0 : db.prepare<[], { n: number }>("SELECT count(*) AS n FROM machine").get()?.n;
      return machines === 0 && had > 0 ? emptied("holds no machine", had) : null;
    } finally {
      db.close();
    }
  } catch (error) {
    if (!(error instanceof Database.SqliteError)) throw error;
    if (/^SQLITE_(CORRUPT|NOTADB)/.test(error.code)) return damaged(error.message);
    throw error;
  }
}

function emptied(what: string, had: number): Trouble {
  return { kind: "emptied", found: `The ledger file ${what}. When it was last seen it held ${had} machines.` };
}

function newer(): Trouble {
  return { kind: "newer", found: "The ledger file was written by a newer Node Ledger, and this one would not understand it." };
}

function foreign(): Trouble {
  return { kind: "foreign", found: "The file in the place of the ledger belongs to another program." };
}

/** A file that is ours and hurt. */
export function damaged(detail: string): Trouble {
  return { kind: "damaged", found: "The ledger file is damaged: parts of it cannot be read.", detail };
}

/**
 * Looks at the file that is to be opened without changing a byte of it.
 * @param newest version of the schema that this program writes
 * @returns null where it is a sound ledger of this or an older version, or where there is none yet
 * @throws SqliteError where it cannot be looked at
 */
export function inspect(path: string, newest: number): Trouble | null {
  const had = machinesSeen(path);
  if (!existsSync(path)) {
    return had > 0 ? { kind: "missing", found: `The ledger file is gone. When it was last seen it held ${had} machines.` } : null;
  }
  if (!statSync(path).isFile()) return { kind: "unopenable", found: "There is something else than a file in the place of the ledger." };
  const header = headerOf(path);
  if (header.size === 0) {
    return had > 0 ? emptied("is empty", had) : null;
  }
  if (!header.database) {
    if (had > 0 && !header.text) return damaged("the file does not begin like a database");
    return header.text ? { kind: "text", found: "The file in the place of the ledger is a text file." } : foreign();
  }
  const withId = header.applicationId === APPLICATION_ID;
  if (!withId && header.applicationId !== 0) return foreign();
  if (withId && header.version > newest) return newer();
  if (header.stated > header.size) {
    const share = Math.floor((100 * header.size) / header.stated);
    return { kind: "truncated", found: `The ledger file is cut off: ${share} % of it is there.` };
  }
  return damageOf(path, newest, had);
}

/** @throws LedgerTrouble */
export function mustBeSound(path: string, newest: number): void {
  const trouble = inspect(path, newest);
  if (trouble) throw new LedgerTrouble(trouble);
}
