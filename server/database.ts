import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import Database from "better-sqlite3";
import { newBackup, thinBackups } from "./backup-files";
import { LedgerTrouble, spoilsConnection, type Trouble } from "./faults";
import { APPLICATION_ID, mustBeSound } from "./inspect";

export type Db = Database.Database;

const MIGRATIONS = join(process.cwd(), "server", "migrations");

/**
 * Wait for a lock another process holds, ms. Short, because every other request waits as well: whoever saves tries again.
 */
const BUSY_MS = 100;

/** Name of the file that says which ledger is used in place of one that is none. */
export function insteadPath(path: string): string {
  return `${path}.instead`;
}

/** The user's own database unless `NODE_LEDGER_DB` names another, or somebody chose another in place of it. */
export function databasePath(): string {
  const named = resolve(/* turbopackIgnore: true */ process.env.NODE_LEDGER_DB ?? join("data", "node-ledger.db"));
  const instead = insteadPath(named);
  if (!existsSync(instead)) return named;
  return join(dirname(named), basename(readFileSync(instead, "utf8").trim()));
}

function migrations(): { version: number; file: string }[] {
  return readdirSync(MIGRATIONS)
    .filter((file) => /^\d{4}_.*\.sql$/.test(file))
    .sort()
    .map((file) => ({ version: Number(file.slice(0, 4)), file }));
}

/** Version of the schema that this program writes. */
export function newestVersion(): number {
  return migrations().at(-1)?.version ?? 0;
}

/** Brings the schema up to date, each step in a transaction; a ledger that has something in it is copied aside first. */
export function migrate(db: Db, path: string): void {
  const version = db.pragma("user_version", { simple: true }) as number;
  const steps = migrations().filter((step) => step.version > version);
  if (steps.length === 0) return;
  if (version > 0) {
    db.prepare("VACUUM INTO ?").run(newBackup(path, "before-migration"));
    thinBackups(path);
  }
  // A table that others refer to is made anew: its rows must not take theirs along.
  db.pragma("foreign_keys = OFF");
  for (const step of steps) {
    db.transaction(() => {
      db.exec(readFileSync(join(MIGRATIONS, step.file), "utf8"));
      db.pragma(`user_version = ${step.version}`);
      db.pragma(`application_id = ${APPLICATION_ID}`);
    })();
  }
  // Space of what was thinned or purged goes back to the disk bit by bit; for that the file is laid out once.
  db.pragma("auto_vacuum = INCREMENTAL");
  db.exec("VACUUM");
}

/**
 * Opens a ledger with the settings every connection needs; a file that is no sound ledger is left as it is.
 * `synchronous=FULL`: an acknowledged edit survives a power cut.
 * @throws LedgerTrouble, SqliteError
 */
export function openDatabase(path: string): Db {
  mkdirSync(dirname(path), { recursive: true });
  mustBeSound(path, newestVersion());
  const db = new Database(path, { timeout: BUSY_MS });
  try {
    db.pragma("journal_mode = WAL");
    db.pragma("synchronous = FULL");
    migrate(db, path);
    db.pragma("foreign_keys = ON");
  } catch (error) {
    db.close();
    if (!(error instanceof Database.SqliteError) || !error.code.startsWith("SQLITE_READONLY")) throw error;
    return onlyRead(path, error);
  }
  return db;
}

/** A ledger of this version on a disk that may not be written: it can still be read. */
function onlyRead(path: string, why: unknown): Db {
  const db = new Database(path, { readonly: true, timeout: BUSY_MS });
  if (db.pragma("user_version", { simple: true }) === newestVersion()) return db;
  db.close();
  throw why;
}

interface Held {
  readonly db: Db;
  readonly path: string;
  readonly file: string;
}

// One connection a process; kept on globalThis because the server's bundles and reloads each bring their own modules.
const holder = globalThis as typeof globalThis & { nodeLedgerHeld?: Held; nodeLedgerTrouble?: Trouble };

/** What a file is, whatever it is called: a file that was put in place of another is another. */
function fileAt(path: string): string | null {
  const found = statSync(path, { throwIfNoEntry: false });
  return found ? `${found.dev} ${found.ino}` : null;
}

/**
 * The connection to the user's ledger, opened with the first request.
 * @throws LedgerTrouble where the file is none that can be worked with, or went away; SqliteError
 */
export function database(): Db {
  const held = holder.nodeLedgerHeld;
  if (holder.nodeLedgerTrouble) throw new LedgerTrouble(holder.nodeLedgerTrouble);
  if (held) {
    const now = fileAt(held.path);
    if (now === held.file && !held.db.readonly) return held.db;
    if (now === held.file) return writableByNow(held);
    throw new LedgerTrouble(
      now === null
        ? { kind: "removed", found: "The ledger file was removed while Node Ledger was running. What was in it is still held here." }
        : {
            kind: "replaced",
            found: "Another file was put in place of the ledger while Node Ledger was running. What was in the ledger is still held here.",
          },
    );
  }
  const path = databasePath();
  const db = openDatabase(path);
  holder.nodeLedgerHeld = { db, path, file: fileAt(path) ?? "" };
  return db;
}

/** Whoever is reading from a connection that is given up goes on with it for so long, ms. */
const GIVEN_UP_MS = 1000;

/** A file that could only be read may be writable by now. */
function writableByNow({ db: before, path, file }: Held): Db {
  const db = openDatabase(path);
  holder.nodeLedgerHeld = { db, path, file };
  setTimeout(() => before.close(), GIVEN_UP_MS).unref();
  return db;
}

/** What keeps the ledger from being used, or null. */
export function ledgerTrouble(): Trouble | null {
  try {
    database();
    return null;
  } catch (error) {
    if (error instanceof LedgerTrouble) return error.trouble;
    throw error;
  }
}

/** The connection that is open, whatever became of its file. */
export function heldDatabase(): Db | null {
  return holder.nodeLedgerHeld?.db ?? null;
}

/** Lets go of the file: the next request looks at it anew. */
export function letGo(): void {
  const held = holder.nodeLedgerHeld;
  delete holder.nodeLedgerHeld;
  delete holder.nodeLedgerTrouble;
  held?.db.close();
}

/** Says that the file was found damaged while it was in use. */
export function foundDamaged(trouble: Trouble): void {
  holder.nodeLedgerTrouble = trouble;
}

/** After a fault: a connection that may hold on to what it found when it was opened is given up. */
export function afterFault(error: unknown): void {
  if (spoilsConnection(error)) letGo();
}
