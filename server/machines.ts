import { randomUUID } from "node:crypto";
import { analyseFully } from "@/core/analysis/analyse";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { MachineSummary } from "@/core/machine/summary";
import type { Db } from "./database";

export interface StoredMachine {
  id: string;
  revision: number;
  document: Machine;
}

export type SaveResult =
  | { ok: true; revision: number }
  | { ok: false; reason: "missing" }
  | { ok: false; reason: "conflict"; current: StoredMachine };

/** Automatic revisions kept for each machine. */
const KEEP_REVISIONS = 200;

interface Row {
  id: string;
  revision: number;
  document: string;
}

/** What the list shows, computed when a machine is saved so that opening the list computes nothing. */
function summarise(machine: Machine) {
  const { analysis } = analyseFully(machine);
  const count = (severity: string) => analysis.verdicts.filter((verdict) => verdict.severity === severity).length;
  const source = machine.parts.find((part) => part.kind === "pack" || part.kind === "supply");
  const mainV = source?.kind === "pack" ? source.openCircuitV.value : source?.kind === "supply" ? source.outputV.value : null;
  const amps = analysis.modes.filter((mode) => !mode.collapsed).map((mode) => mode.sourceA);
  return {
    name: machine.name,
    document: JSON.stringify(machine),
    parts: machine.parts.length,
    mainV,
    worstA: source && amps.length > 0 ? Math.max(...amps) : null,
    stops: count("stop"),
    fixes: count("fix"),
    watches: count("watch"),
    asks: count("ask"),
    now: new Date().toISOString(),
  };
}

function stored(row: Row): StoredMachine {
  const read = readMachine(JSON.parse(row.document));
  if (!read.ok) throw new Error(`Stored machine ${row.id} is not readable: ${read.problems[0]?.path}`);
  return { id: row.id, revision: row.revision, document: read.machine };
}

export function listMachines(db: Db): MachineSummary[] {
  return db
    .prepare<[], MachineSummary>(
      `SELECT id, name, coalesce(json_extract(document, '$.description'), '') AS description, revision, updated_at AS updatedAt,
              parts, main_v AS mainV, worst_a AS worstA, stops, fixes, watches, asks
         FROM machine WHERE deleted_at IS NULL ORDER BY created_at, rowid`,
    )
    .all();
}

export function getMachine(db: Db, id: string): StoredMachine | null {
  const row = db.prepare<[string], Row>("SELECT id, revision, document FROM machine WHERE id = ? AND deleted_at IS NULL").get(id);
  return row ? stored(row) : null;
}

export function createMachine(db: Db, machine: Machine, label: string): StoredMachine {
  const id = randomUUID();
  const row = { id, ...summarise(machine), label };
  db.transaction(() => {
    db.prepare(
      `INSERT INTO machine (id, name, document, revision, created_at, updated_at, parts, main_v, worst_a, stops, fixes, watches, asks)
       VALUES (@id, @name, @document, 1, @now, @now, @parts, @mainV, @worstA, @stops, @fixes, @watches, @asks)`,
    ).run(row);
    db.prepare("INSERT INTO revision (machine_id, revision, label, document, created_at) VALUES (@id, 1, @label, @document, @now)").run(
      row,
    );
  })();
  return { id, revision: 1, document: machine };
}

/** Saves over revision `base`. A stale base changes nothing and gives back what is stored, so that both can be offered. */
export function saveMachine(db: Db, id: string, base: number, machine: Machine, label: string): SaveResult {
  const summary = summarise(machine);
  return db
    .transaction((): SaveResult => {
      const current = getMachine(db, id);
      if (!current) return { ok: false, reason: "missing" };
      if (current.revision !== base) return { ok: false, reason: "conflict", current };
      const row = { id, ...summary, label, revision: base + 1 };
      db.prepare(
        `UPDATE machine SET name = @name, document = @document, revision = @revision, updated_at = @now, parts = @parts, main_v = @mainV,
                worst_a = @worstA, stops = @stops, fixes = @fixes, watches = @watches, asks = @asks WHERE id = @id`,
      ).run(row);
      db.prepare(
        "INSERT INTO revision (machine_id, revision, label, document, created_at) VALUES (@id, @revision, @label, @document, @now)",
      ).run(row);
      db.prepare("DELETE FROM revision WHERE machine_id = ? AND revision <= ?").run(id, row.revision - KEEP_REVISIONS);
      return { ok: true, revision: row.revision };
    })
    .immediate();
}

/** Takes a machine off the list; `restoreMachine` brings it back. */
export function removeMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = ? WHERE id = ? AND deleted_at IS NULL").run(new Date().toISOString(), id).changes > 0;
}

export function restoreMachine(db: Db, id: string): boolean {
  return db.prepare("UPDATE machine SET deleted_at = NULL WHERE id = ? AND deleted_at IS NOT NULL").run(id).changes > 0;
}
