import { z } from "zod";
import { kitSchema } from "@/core/bringup/kit";
import { EMPTY_LOG, type Log, type Reading, readingSchema, type Waiver, waiverSchema } from "@/core/bringup/log";
import { type Kit, USUAL_KIT } from "@/core/bringup/types";
import { QUANTITY_UNITS } from "@/core/reference/instruments";
import type { Db } from "./database";
import { revisionOf } from "./machines";

/** What was read of a machine, what there is to read with, and the version of both. */
export interface StoredLog {
  readonly log: Log;
  readonly kit: Kit;
  readonly version: number;
}

/** Most readings and waivers in one request. */
const SENT_MAX = 500;
/** Most readings of one machine: a reading every minute for two months. */
const READINGS_MAX = 100_000;

/** What a window or a phone sends: each reading and waiver once, whatever was sent of it before. */
export const sentSchema = z.strictObject({
  readings: z.array(readingSchema).max(SENT_MAX),
  waivers: z.array(waiverSchema).max(SENT_MAX),
  kit: kitSchema.optional(),
});
/** What a window or a phone sends. */
export type Sent = z.infer<typeof sentSchema>;

type ReadingRow = Omit<Reading, "queueId" | "takenAt" | "struck"> & { queue_id: string; taken_at: string; struck: number };
type WaiverRow = Omit<Waiver, "queueId" | "ended"> & { queue_id: string; ended: number };

/** A row as a reading; what a newer version wrote and this one cannot read is left out. */
function readingOf({ queue_id, taken_at, struck, ...row }: ReadingRow): Reading[] {
  const read = readingSchema.safeParse({ ...row, queueId: queue_id, takenAt: taken_at, struck: struck === 1 });
  return read.success ? [read.data] : [];
}

function waiverOf({ queue_id, ended, ...row }: WaiverRow): Waiver[] {
  const read = waiverSchema.safeParse({ ...row, queueId: queue_id, ended: ended === 1 });
  return read.success ? [read.data] : [];
}

function kitOf(text: string | null | undefined): Kit {
  if (!text) return USUAL_KIT;
  return kitSchema.safeParse(JSON.parse(text)).data ?? USUAL_KIT;
}

/** How often a machine's log has changed. */
export function logVersion(db: Db, id: string): number {
  return db.prepare<[string], { version: number }>("SELECT version FROM bench WHERE machine_id = ?").get(id)?.version ?? 0;
}

/** The log of a machine, oldest reading first. */
export function logOf(db: Db, id: string): StoredLog {
  const readings = db
    .prepare<[string], ReadingRow>(
      `SELECT queue_id, stage, step, place, quantity, value, instrument, uncertainty, expected, basis, taken_at, note, way, struck
         FROM reading WHERE machine_id = ? ORDER BY taken_at, rowid`,
    )
    .all(id)
    .flatMap(readingOf);
  const waivers = db
    .prepare<[string], WaiverRow>("SELECT queue_id, stage, step, reason, at, ended FROM waiver WHERE machine_id = ? ORDER BY at, rowid")
    .all(id)
    .flatMap(waiverOf);
  const bench = db
    .prepare<[string], { version: number; kit: string | null }>("SELECT version, kit FROM bench WHERE machine_id = ?")
    .get(id);
  const log = readings.length + waivers.length === 0 ? EMPTY_LOG : { readings, waivers };
  return { log, kit: kitOf(bench?.kit), version: bench?.version ?? 0 };
}

export type Kept = { ok: true; version: number; added: number } | { ok: false; reason: "missing" | "full" };

/** Puts readings and waivers where they belong, each once; returns how many rows that changed, and how many readings are new. */
export function putReadings(
  db: Db,
  id: string,
  readings: readonly Reading[],
  waivers: readonly Waiver[],
  { revision, addsOnly = false }: { revision?: number; addsOnly?: boolean } = {},
): { changed: number; added: number } {
  const known = db.prepare<[string, string], { struck: number }>("SELECT struck FROM reading WHERE machine_id = ? AND queue_id = ?");
  const insert = db.prepare(
    `INSERT INTO reading (machine_id, queue_id, revision, stage, step, place, quantity, value, unit, instrument, uncertainty, expected, basis, taken_at, note, way, struck)
       SELECT id, @queueId, coalesce(@revision, revision), @stage, @step, @place, @quantity, @value, @unit, @instrument, @uncertainty, @expected, @basis, @takenAt, @note, @way, @struck
         FROM machine WHERE id = @id
       ON CONFLICT (machine_id, queue_id) DO UPDATE SET struck = excluded.struck`,
  );
  let [changed, added] = [0, 0];
  for (const reading of readings) {
    const before = known.get(id, reading.queueId);
    if (before && addsOnly) continue;
    if (!before) added++;
    if (before?.struck !== Number(reading.struck)) changed++;
    insert.run({ ...reading, id, revision: revision ?? null, unit: QUANTITY_UNITS[reading.quantity], struck: Number(reading.struck) });
  }
  const waived = db.prepare(
    `INSERT INTO waiver (machine_id, queue_id, stage, step, reason, at, ended) SELECT id, @queueId, @stage, @step, @reason, @at, @ended FROM machine WHERE id = @id
       ON CONFLICT (machine_id, queue_id) DO UPDATE SET ended = excluded.ended WHERE ended <> excluded.ended`,
  );
  for (const waiver of waivers) changed += waived.run({ ...waiver, id, ended: Number(waiver.ended) }).changes;
  return { changed, added };
}

/**
 * Takes what was sent, all of it or nothing. A reading that is there already stays as it is: only striking it out, and taking that
 * back, changes it; of a waiver only its end does.
 * @param addsOnly not even that: what is known is left as it is
 */
export function keepReadings(db: Db, id: string, { readings, waivers, kit }: Sent, addsOnly = false): Kept {
  return db.transaction((): Kept => {
    const revision = revisionOf(db, id);
    if (revision === null) return { ok: false, reason: "missing" };
    const count = db.prepare<[string], { n: number }>("SELECT count(*) AS n FROM reading WHERE machine_id = ?").get(id)?.n ?? 0;
    if (count + readings.length > READINGS_MAX) return { ok: false, reason: "full" };
    const { changed, added } = putReadings(db, id, readings, waivers, { revision, addsOnly });
    if (changed > 0 || kit)
      db.prepare(
        `INSERT INTO bench (machine_id, version, kit) VALUES (@id, 1, @kit)
           ON CONFLICT (machine_id) DO UPDATE SET version = version + 1, kit = coalesce(excluded.kit, kit)`,
      ).run({ id, kit: kit ? JSON.stringify(kit) : null });
    return { ok: true, version: logVersion(db, id), added };
  })();
}
