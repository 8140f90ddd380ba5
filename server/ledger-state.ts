import { statSync } from "node:fs";
import { type BackupFile, backupFiles } from "./backup-files";
import { databasePath, heldDatabase, ledgerTrouble } from "./database";
import type { Trouble } from "./faults";
import { newestGoodBackup, readable } from "./heal";

/** The ledger as a file: where it is, its backups, and, where something keeps it from being used, what the ways back lead to. */
export interface LedgerState {
  readonly path: string;
  readonly bytes: number;
  readonly backups: readonly BackupFile[];
  readonly trouble: Trouble | null;
  /** Newest backup that is sound; only looked for when there is trouble. */
  readonly goodBackup: string | null;
  /** Names of machines that can still be read out of the file, or were in its newest backup. */
  readonly readable: readonly string[];
}

const HURT: ReadonlySet<Trouble["kind"]> = new Set(["damaged", "truncated", "emptied", "missing"]);

/** @throws SqliteError where the file cannot even be looked at */
export function ledgerState(): LedgerState {
  const trouble = ledgerTrouble();
  const path = heldDatabase()?.name ?? databasePath();
  return {
    path,
    bytes: statSync(path, { throwIfNoEntry: false })?.size ?? 0,
    backups: backupFiles(path),
    trouble,
    goodBackup: trouble ? newestGoodBackup(path) : null,
    readable:
      trouble && HURT.has(trouble.kind)
        ? readable(path)
            .machines.filter(({ deletedAt }) => deletedAt === null)
            .map(({ machine }) => machine.name)
        : [],
  };
}
