import { inflateRawSync } from "node:zlib";
import { readMachineText } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { Db } from "./database";
import { UnreadableMachine } from "./machines";

/** A line of a machine's history. */
export interface RevisionLine {
  readonly revision: number;
  readonly at: string;
  readonly label: string;
  /** The window it came from; null where it came from none, or from before windows were noted. */
  readonly origin: string | null;
  /** What it changed, in lines. */
  readonly lines: readonly string[];
  /** What the builder called it; null: nothing. A named one stays when the history is thinned. */
  readonly name: string | null;
}

function linesOf(text: string | null): string[] {
  try {
    const lines: unknown = JSON.parse(text ?? "[]");
    return Array.isArray(lines) ? lines.map(String) : [];
  } catch {
    return [];
  }
}

/** The revisions of a machine that are kept, the newest first. */
export function historyOf(db: Db, id: string): RevisionLine[] {
  return db
    .prepare<[string], Omit<RevisionLine, "lines"> & { lines: string | null }>(
      `SELECT revision.revision, revision.created_at AS at, revision.label, revision.origin, revision.lines, version.name
         FROM revision JOIN machine ON machine.id = revision.machine_id
         LEFT JOIN version ON version.machine_id = revision.machine_id AND version.revision = revision.revision
        WHERE revision.machine_id = ? AND deleted_at IS NULL ORDER BY revision.revision DESC`,
    )
    .all(id)
    .map((row) => ({ ...row, lines: linesOf(row.lines) }));
}

/** Names a revision, or takes its name away. @returns whether that revision is kept */
export function nameVersion(db: Db, id: string, revision: number, name: string | null): boolean {
  if (name === null) return db.prepare("DELETE FROM version WHERE machine_id = ? AND revision = ?").run(id, revision).changes > 0;
  return (
    db
      .prepare(
        `INSERT INTO version (machine_id, revision, name, at) SELECT machine_id, revision, @name, @at FROM revision
          WHERE machine_id = @id AND revision = @revision
         ON CONFLICT (machine_id, revision) DO UPDATE SET name = excluded.name`,
      )
      .run({ id, revision, name, at: new Date().toISOString() }).changes > 0
  );
}

/**
 * A machine as it was at a revision; null where that revision is not kept.
 * @throws UnreadableMachine
 */
export function machineAt(db: Db, id: string, revision: number): { at: string; document: Machine } | null {
  const row = db
    .prepare<[string, number], { created_at: string; document: string | Buffer; name: string }>(
      `SELECT revision.created_at, revision.document, machine.name FROM revision JOIN machine ON machine.id = revision.machine_id
        WHERE machine_id = ? AND revision.revision = ? AND deleted_at IS NULL`,
    )
    .get(id, revision);
  if (!row) return null;
  const read = readMachineText(textOf(row.document));
  if (!read.ok) throw new UnreadableMachine(row.name, read.problems[0] ?? { path: "(whole file)", expected: "a machine" });
  return { at: row.created_at, document: read.machine };
}

/** Text of a revision's document; what cannot be unpacked is empty, and so no machine. */
export function textOf(document: string | Buffer): string {
  if (typeof document === "string") return document;
  try {
    return inflateRawSync(document, { maxOutputLength: 64 * 1024 * 1024 }).toString("utf8");
  } catch {
    return "";
  }
}
