import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";

/** Why a backup was made. */
export const BACKUP_KINDS = ["daily", "before-migration", "before-restore", "by-hand", "from-file"] as const;
/** Why a backup was made. */
export type BackupKind = (typeof BACKUP_KINDS)[number];

/** A copy of the whole ledger in a file of its own. */
export interface BackupFile {
  readonly name: string;
  readonly kind: BackupKind;
  /** When it was made, as ISO text. */
  readonly at: string;
  readonly bytes: number;
}

/** Backups kept of each kind; the oldest go. */
const KEPT: Readonly<Record<BackupKind, number>> = { daily: 14, "before-migration": 3, "before-restore": 5, "by-hand": 10, "from-file": 5 };
const NAME = new RegExp(`^(\\d{4}-\\d\\d-\\d\\d)T(\\d\\d)-(\\d\\d)-(\\d\\d)-(\\d{3})Z-(${BACKUP_KINDS.join("|")})\\.db$`);

/** Folder of a ledger's backups, beside it. */
export function backupFolder(path: string): string {
  return join(dirname(path), `${basename(path).replace(/\.db$/, "")}-backups`);
}

/** Path for a new backup; the folder is there afterwards. */
export function newBackup(path: string, kind: BackupKind, now = new Date()): string {
  const folder = backupFolder(path);
  mkdirSync(folder, { recursive: true });
  return join(folder, `${now.toISOString().replace(/[:.]/g, "-")}-${kind}.db`);
}

/** Backups of a ledger, the newest first. */
export function backupFiles(path: string): BackupFile[] {
  const folder = backupFolder(path);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .flatMap((name): BackupFile[] => {
      const [, day, hour, minute, second, ms, kind] = NAME.exec(name) ?? [];
      if (kind === undefined) return [];
      return [
        { name, kind: kind as BackupKind, at: `${day}T${hour}:${minute}:${second}.${ms}Z`, bytes: statSync(join(folder, name)).size },
      ];
    })
    .sort((a, b) => b.at.localeCompare(a.at));
}

/** Path of a backup by its name; null for anything that is none. */
export function backupPath(path: string, name: string): string | null {
  return backupFiles(path).some((backup) => backup.name === name) ? join(backupFolder(path), name) : null;
}

/** Lets the oldest backups go where there are more of a kind than are kept. */
export function thinBackups(path: string): void {
  const files = backupFiles(path);
  for (const kind of BACKUP_KINDS)
    for (const { name } of files.filter((file) => file.kind === kind).slice(KEPT[kind])) rmSync(join(backupFolder(path), name));
}

const seenPath = (path: string) => join(backupFolder(path), "seen.json");

/** How many machines the ledger held when it was last seen in order; 0 where it never was. */
export function machinesSeen(path: string): number {
  try {
    const seen: unknown = JSON.parse(readFileSync(seenPath(path), "utf8"));
    return typeof seen === "object" && seen !== null && "machines" in seen && typeof seen.machines === "number" ? seen.machines : 0;
  } catch {
    return 0;
  }
}

/** Notes beside the backups how many machines there are, so that an empty file in their place is noticed. */
export function noteSeen(path: string, machines: number): void {
  if (machines === machinesSeen(path)) return;
  mkdirSync(backupFolder(path), { recursive: true });
  const draft = `${seenPath(path)}.new`;
  writeFileSync(draft, JSON.stringify({ machines }));
  renameSync(draft, seenPath(path));
}
