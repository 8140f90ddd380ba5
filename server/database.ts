import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import Database from "better-sqlite3";

export type Db = Database.Database;

const MIGRATIONS = join(process.cwd(), "server", "migrations");

/** The user's own database unless `NODE_LEDGER_DB` names another. */
export function databasePath(): string {
  return resolve(/* turbopackIgnore: true */ process.env.NODE_LEDGER_DB ?? join("data", "node-ledger.db"));
}

function pending(db: Db): { version: number; file: string }[] {
  const current = db.pragma("user_version", { simple: true }) as number;
  return readdirSync(MIGRATIONS)
    .filter((file) => /^\d{4}_.*\.sql$/.test(file))
    .sort()
    .map((file) => ({ version: Number(file.slice(0, 4)), file }))
    .filter(({ version }) => version > current);
}

/** Brings the schema up to date, each step in a transaction; an existing file is copied aside first. */
export function migrate(db: Db, path: string): void {
  const steps = pending(db);
  const first = steps[0];
  if (!first) return;
  const version = db.pragma("user_version", { simple: true }) as number;
  if (version > 0 && existsSync(path)) {
    db.pragma("wal_checkpoint(TRUNCATE)");
    copyFileSync(path, `${path}.before-${String(first.version).padStart(4, "0")}`);
  }
  for (const step of steps) {
    db.transaction(() => {
      db.exec(readFileSync(join(MIGRATIONS, step.file), "utf8"));
      db.pragma(`user_version = ${step.version}`);
    })();
  }
}

/** Opens a database with the settings every connection needs. `synchronous=FULL`: an acknowledged edit survives a power cut. */
export function openDatabase(path: string): Db {
  mkdirSync(dirname(path), { recursive: true });
  const db = new Database(path);
  db.pragma("journal_mode = WAL");
  db.pragma("synchronous = FULL");
  db.pragma("foreign_keys = ON");
  db.pragma("busy_timeout = 5000");
  migrate(db, path);
  return db;
}

// One connection a process; kept on globalThis because the development server reloads modules.
const holder = globalThis as typeof globalThis & { nodeLedgerDb?: Db };

export function database(): Db {
  holder.nodeLedgerDb ??= openDatabase(databasePath());
  return holder.nodeLedgerDb;
}
