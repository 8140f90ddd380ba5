import Database from "better-sqlite3";

/** What the ledger file was found to be, when it is not a ledger that can be worked with. */
export interface Trouble {
  readonly kind: "foreign" | "newer" | "text" | "emptied" | "missing" | "truncated" | "damaged" | "removed" | "replaced" | "unopenable";
  /** One sentence: what was found. */
  readonly found: string;
  /** What the program that found it said, for somebody who wants to look closer. */
  readonly detail?: string;
}

/** The ledger file cannot be worked with: nothing is written until somebody chose a way back. */
export class LedgerTrouble extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.found);
  }
}

/** A fault of the database as the builder is told of it, with what to do. */
export interface FaultWords {
  readonly status: number;
  readonly title: string;
  readonly detail: string;
  /** It passes, or somebody can take its cause away: the same request may be tried again. */
  readonly passes: boolean;
}

/** What is said of a fault nobody foresaw. */
export const UNKNOWN_FAULT =
  "The server met a fault it does not know. Try again; if it happens twice, take the plan out as a file and report it.";

/** A statement that was refused is taken back as a whole. */
const KEPT = "Nothing was changed in the ledger.";

/** Words for what SQLite said; null for a fault that is none of the database. */
export function faultWords(error: unknown): FaultWords | null {
  if (error instanceof LedgerTrouble)
    return {
      status: 503,
      title: "The ledger cannot be used",
      detail: `${error.trouble.found} Open the list of machines: it shows the ways back.`,
      passes: true,
    };
  if (!(error instanceof Database.SqliteError)) return null;
  const { code } = error;
  if (code === "SQLITE_FULL")
    return {
      status: 507,
      title: "The disk is full",
      detail: `There is no room left where the ledger file is. Make some room: saving goes on by itself. ${KEPT}`,
      passes: true,
    };
  if (code.startsWith("SQLITE_READONLY"))
    return {
      status: 503,
      title: "The ledger file is read-only",
      detail: `The ledger file may not be written. Give this program the right to write it and its folder: saving goes on by itself. ${KEPT}`,
      passes: true,
    };
  if (code.startsWith("SQLITE_BUSY") || code.startsWith("SQLITE_LOCKED"))
    return {
      status: 503,
      title: "The ledger file is in use",
      detail: `Another program is writing to the ledger file. Saving goes on by itself when it is done. ${KEPT}`,
      passes: true,
    };
  if (code.startsWith("SQLITE_CORRUPT") || code === "SQLITE_NOTADB")
    return {
      status: 503,
      title: "The ledger file is damaged",
      detail: `A part of the ledger file cannot be read. Open the list of machines: it shows the ways back. ${KEPT}`,
      passes: true,
    };
  if (code.startsWith("SQLITE_CANTOPEN"))
    return {
      status: 503,
      title: "The ledger file cannot be opened",
      detail: `The ledger file or its folder cannot be reached. Look whether its disk is there: saving goes on by itself. ${KEPT}`,
      passes: true,
    };
  if (code.startsWith("SQLITE_IOERR"))
    return {
      status: 503,
      title: "The disk does not answer",
      detail: `Reading or writing the ledger file failed. Look after the disk it is on: saving goes on by itself when it answers. ${KEPT}`,
      passes: true,
    };
  if (code === "SQLITE_TOOBIG")
    return { status: 413, title: "Too large", detail: `That is larger than one entry of the ledger can be. ${KEPT}`, passes: false };
  return { status: 500, title: "The ledger refused", detail: `The database said: ${error.message}. ${KEPT}`, passes: false };
}

/** Faults after which the connection is opened anew: it may hold on to what it found when it was opened. */
export function spoilsConnection(error: unknown): boolean {
  if (!(error instanceof Database.SqliteError)) return false;
  return /^SQLITE_(READONLY|IOERR|CANTOPEN|CORRUPT|NOTADB)/.test(error.code);
}
