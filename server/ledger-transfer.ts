import {
  closeSync,
  createReadStream,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from "node:fs";
import { join } from "node:path";
import { Readable } from "node:stream";
import Database from "better-sqlite3";
import { backupFolder, newBackup, thinBackups } from "./backup-files";
import { type Db, newestVersion } from "./database";
import { inspect } from "./inspect";

/** Names an upload while it arrives. */
const UPLOAD = /^[0-9a-f-]{36}$/;
/** Largest ledger that is taken in: beyond that something else was chosen. */
export const LEDGER_MOST = 2 * 1024 ** 3;
/** Pieces that arrived and were given up go after this, ms. */
const STALE_MS = 3_600_000;

/** The whole ledger as one file, copied bit by bit while it is in use, on its way out. The copy goes when it was sent. */
export async function outgoing(db: Db): Promise<{ stream: ReadableStream; bytes: number }> {
  const folder = backupFolder(db.name);
  mkdirSync(folder, { recursive: true });
  const copy = join(folder, `.leaving-${process.pid}-${Date.now()}`);
  await db.backup(copy);
  const read = createReadStream(copy);
  read.on("close", () => {
    for (const rest of ["", "-wal", "-shm"]) rmSync(copy + rest, { force: true });
  });
  return { stream: Readable.toWeb(read) as ReadableStream, bytes: statSync(copy).size };
}

const arriving = (path: string, upload: string) => join(backupFolder(path), `.arriving-${upload}`);

/** Takes in a piece of a file. @returns why it cannot be, or how much of it is there now */
export function takePiece(path: string, upload: string, at: number, piece: Uint8Array): { bytes: number } | { detail: string } {
  if (!UPLOAD.test(upload) || !Number.isInteger(at) || at < 0) return { detail: "That is no piece of a file." };
  if (at + piece.byteLength > LEDGER_MOST) return { detail: "That file is larger than any ledger (2 GB). Nothing was changed." };
  mkdirSync(backupFolder(path), { recursive: true });
  clearStale(path);
  const file = arriving(path, upload);
  const there = existsSync(file) ? statSync(file).size : 0;
  // A piece that comes a second time, after its answer was lost, is written over itself.
  if (at > there) return { detail: "A piece of the file is missing. Choose it again." };
  const out = openSync(file, there === 0 ? "w" : "r+");
  try {
    writeSync(out, piece, 0, piece.byteLength, at);
  } finally {
    closeSync(out);
  }
  return { bytes: statSync(file).size };
}

function clearStale(path: string): void {
  const folder = backupFolder(path);
  for (const name of readdirSync(folder)) {
    if (!/^\.(arriving|leaving)-/.test(name)) continue;
    const file = join(folder, name);
    if (Date.now() - statSync(file).mtimeMs > STALE_MS) rmSync(file, { force: true });
  }
}

/** What came of a file that arrived whole: its name among the backups and what it holds, or why it is none. */
export type Arrived = { backup: string; machines: readonly string[]; shelf: number } | { detail: string };

/** Looks at a file that arrived, and keeps it among the backups, from where it is restored like any other. */
export function arrived(path: string, upload: string, bytes: number): Arrived {
  const file = UPLOAD.test(upload) ? arriving(path, upload) : "";
  if (file === "" || !existsSync(file) || statSync(file).size !== bytes)
    return { detail: "The file did not arrive whole. Choose it again." };
  try {
    const trouble = inspect(file, newestVersion());
    if (trouble) return { detail: `${wordsFor(trouble.kind)} Nothing was changed.` };
    const holds = contentOf(file);
    const kept = newBackup(path, "from-file");
    renameSync(file, kept);
    thinBackups(path);
    return { backup: kept.slice(kept.lastIndexOf("/") + 1), ...holds };
  } finally {
    for (const rest of ["", "-wal", "-shm"]) rmSync(file + rest, { force: true });
  }
}

function wordsFor(kind: string): string {
  if (kind === "newer") return "That ledger was written by a newer Node Ledger than this one.";
  if (kind === "damaged" || kind === "truncated") return "That file is a ledger, but a damaged or unfinished one.";
  return "That file is no ledger of Node Ledger.";
}

function contentOf(file: string): { machines: string[]; shelf: number } {
  const db = new Database(file, { readonly: true, fileMustExist: true });
  try {
    const machines = db.prepare<[], { name: string }>("SELECT name FROM machine WHERE deleted_at IS NULL ORDER BY created_at").all();
    const tables = new Set(
      db
        .prepare<[], { name: string }>("SELECT name FROM sqlite_schema WHERE type = 'table'")
        .all()
        .map(({ name }) => name),
    );
    const table = tables.has("shelf_item") ? "shelf_item" : tables.has("shelf_part") ? "shelf_part" : null;
    const shelf = table ? (db.prepare<[], { n: number }>(`SELECT count(*) AS n FROM ${table}`).get()?.n ?? 0) : 0;
    return { machines: machines.map(({ name }) => name), shelf };
  } finally {
    db.close();
  }
}
