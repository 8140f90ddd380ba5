import { renameSync, rmSync } from "node:fs";
import { type BackupKind, backupFiles, newBackup, noteSeen, thinBackups } from "./backup-files";
import type { Db } from "./database";
import { newestVersion } from "./database";
import { inspect } from "./inspect";
import { purgeMachine } from "./machines";

/** How many machines are in a ledger, deleted ones that can be brought back included. */
export function machineCount(db: Db): number {
  return db.prepare<[], { n: number }>("SELECT count(*) AS n FROM machine").get()?.n ?? 0;
}

/**
 * Copies the whole ledger into a file of its own while it is in use (the online backup of SQLite). A copy that was not finished
 * or is not sound leaves nothing behind.
 * @returns the name of the backup
 */
export async function backUp(db: Db, kind: BackupKind, now = new Date()): Promise<string> {
  const path = newBackup(db.name, kind, now);
  const draft = `${path}.unfinished`;
  try {
    await db.backup(draft);
    // The copy is in the mode of its original; nobody writes it, so it needs no log beside it.
    const trouble = inspect(draft, newestVersion());
    if (trouble) throw new Error(trouble.detail ?? trouble.found);
    renameSync(draft, path);
  } finally {
    for (const rest of ["", "-wal", "-shm"]) rmSync(draft + rest, { force: true });
  }
  noteCount(db);
  thinBackups(db.name);
  return path.slice(path.lastIndexOf("/") + 1);
}

/** Notes that there are more or fewer machines from now on, and that it is meant. A disk that refuses keeps nobody from working. */
export function noteCount(db: Db): void {
  try {
    noteSeen(db.name, machineCount(db));
  } catch {
    // The next backup notes it.
  }
}

/** Forgets a deleted machine for good. */
export function purge(db: Db, id: string): boolean {
  const gone = purgeMachine(db, id);
  if (gone) noteCount(db);
  return gone;
}

const DAY_MS = 86_400_000;

/** Backs up when something changed since the newest backup, once a day. */
export async function backUpDaily(db: Db, now = new Date()): Promise<boolean> {
  noteCount(db);
  const changed = db
    .prepare<[], { at: string | null }>("SELECT max(max(updated_at), coalesce(max(deleted_at), '')) AS at FROM machine")
    .get()?.at;
  if (!changed) return false;
  const last = backupFiles(db.name).find(({ kind }) => kind === "daily");
  if (last && (changed <= last.at || now.getTime() - Date.parse(last.at) < DAY_MS)) return false;
  await backUp(db, "daily", now);
  return true;
}
