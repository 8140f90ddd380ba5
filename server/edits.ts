import { changeLines } from "@/core/machine/change-words";
import { changesBetween, type Edit, merge } from "@/core/machine/changes";
import type { Machine } from "@/core/machine/schema";
import type { Db } from "./database";
import { getMachine, noteSaved, revisionOf, type StoredMachine, savedAs, writeNext } from "./machines";

/** What happened to a machine since a revision, in the words of its history. */
export interface Since {
  readonly label: string;
  readonly origin: string | null;
}

/** What came of a save. `known` are edits that were in the machine before: an answer was lost, or a page was closed. */
export type EditsResult =
  | {
      ok: true;
      revision: number;
      known: string[];
      /** Where others had saved meanwhile: what came of both, and what theirs was. */
      joined: { document: Machine; since: Since[] } | null;
    }
  | { ok: false; reason: "missing" }
  /** The edits do not go in by themselves: somebody has to say which figure stands. */
  | { ok: false; reason: "clash"; current: StoredMachine; known: string[]; since: Since[] };

/** A save as it comes: edits in order, made on revision `base` by a window. */
export interface EditsRequest {
  readonly base: number;
  readonly origin: string;
  readonly edits: readonly Edit[];
}

// The machines saved last, read: the next save of one of them need not read its text again.
const KEPT = 4;
const read = new WeakMap<Db, Map<string, StoredMachine>>();

function keep(db: Db, machine: StoredMachine): void {
  const all = read.get(db) ?? new Map<string, StoredMachine>();
  read.set(db, all);
  all.delete(machine.id);
  all.set(machine.id, machine);
  for (const id of [...all.keys()].slice(0, -KEPT)) all.delete(id);
}

/** @throws UnreadableMachine */
function currentOf(db: Db, id: string): StoredMachine | null {
  const revision = revisionOf(db, id);
  if (revision === null) return null;
  const before = read.get(db)?.get(id);
  return before?.revision === revision ? before : getMachine(db, id);
}

/** What was saved after a revision, the oldest first. */
export function savedSince(db: Db, id: string, revision: number): Since[] {
  return db
    .prepare<[string, number], Since>("SELECT label, origin FROM revision WHERE machine_id = ? AND revision > ? ORDER BY revision")
    .all(id, revision);
}

function labelOf(edits: readonly Edit[]): string {
  const last = edits.at(-1)?.label ?? "";
  return edits.length > 1 ? `${edits.length} edits, ${last} the last` : last;
}

/**
 * Puts edits into a machine, each once, whatever revision they were made on. Edits of other figures than were saved
 * meanwhile go in beside them; where one figure was changed on both sides nothing is written and both are given back.
 * @throws UnreadableMachine, SqliteError
 */
export function saveEdits(db: Db, id: string, { base, origin, edits }: EditsRequest): EditsResult {
  let written: StoredMachine | null = null;
  const result = db
    .transaction((): EditsResult => {
      const current = currentOf(db, id);
      if (!current) return { ok: false, reason: "missing" };
      const fresh = edits.filter((edit) => savedAs(db, id, edit.id) === null);
      const known = edits.filter((edit) => !fresh.includes(edit)).map((edit) => edit.id);
      const joined = (document: Machine) => (base === current.revision ? null : { document, since: savedSince(db, id, base) });
      if (fresh.length === 0) return { ok: true, revision: current.revision, known, joined: joined(current.document) };
      const { machine, clashes, misfits } = merge(current.document, fresh);
      if (clashes.length + misfits.length > 0) return { ok: false, reason: "clash", current, known, since: savedSince(db, id, base) };
      const answer = joined(machine);
      const changed = machine !== current.document;
      const revision = changed ? current.revision + 1 : current.revision;
      if (changed) {
        const lines = changeLines(current.document, machine, changesBetween(current.document, machine));
        writeNext(db, id, current.revision, machine, { label: labelOf(fresh), origin, lines });
      }
      for (const edit of fresh) noteSaved(db, id, revision, edit);
      written = { id, revision, document: machine };
      return { ok: true, revision, known, joined: answer };
    })
    .immediate();
  // Not before it is written: a save that the disk refused leaves nothing behind.
  if (written) keep(db, written);
  return result;
}
