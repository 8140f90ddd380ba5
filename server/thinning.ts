import type { Db } from "./database";

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** Days a deleted machine can be brought back. */
export const KEPT_DELETED_DAYS = 30;
/** Days through which a revision an hour is kept; after that one a day. */
const HOURLY_DAYS = 14;
/** Days through which an edit that comes a second time is known. */
const EDITS_KNOWN_DAYS = 120;

interface Kept {
  readonly revision: number;
  readonly at: string;
}

/** Which revisions go: all of the last day stay, then the last of each hour, then the last of each day. The first and the newest stay. */
export function goneRevisions(revisions: readonly Kept[], now: Date): number[] {
  const newestFirst = [...revisions].sort((a, b) => b.revision - a.revision);
  const taken = new Set<string>();
  return newestFirst.flatMap(({ revision, at }, i) => {
    const age = now.getTime() - Date.parse(at);
    if (!(age > DAY_MS) || i === newestFirst.length - 1) return [];
    const slot = age > HOURLY_DAYS * DAY_MS ? at.slice(0, 10) : at.slice(0, 13);
    if (i > 0 && taken.has(slot)) return [revision];
    taken.add(slot);
    return [];
  });
}

/** Lets requests be answered in between. */
const pause = () => new Promise<void>((resolve) => setImmediate(resolve));

/**
 * Thins the history of every machine, forgets what was deleted long ago, and gives the space back to the disk; a machine at a
 * time, so that nobody who saves waits for all of them.
 */
export async function thin(db: Db, now = new Date()): Promise<{ revisions: number; machines: number }> {
  const before = (days: number) => new Date(now.getTime() - days * DAY_MS).toISOString();
  const ids = db.prepare<[], { id: string }>("SELECT id FROM machine").all();
  // What was given a name stays, whatever its age.
  const kept = db.prepare<[string], Kept>(
    `SELECT revision, created_at AS at FROM revision WHERE machine_id = ?
        AND NOT EXISTS (SELECT 1 FROM version WHERE version.machine_id = revision.machine_id AND version.revision = revision.revision)`,
  );
  const drop = db.prepare("DELETE FROM revision WHERE machine_id = ? AND revision = ?");
  let revisions = 0;
  for (const { id } of ids) {
    await pause();
    const gone = goneRevisions(kept.all(id), now);
    if (gone.length === 0) continue;
    db.transaction(() => {
      for (const revision of gone) drop.run(id, revision);
    }).immediate();
    revisions += gone.length;
  }
  db.prepare("DELETE FROM edit WHERE at < ?").run(before(EDITS_KNOWN_DAYS));
  const machines = db.prepare("DELETE FROM machine WHERE deleted_at < ?").run(before(KEPT_DELETED_DAYS)).changes;
  await giveBack(db);
  return { revisions, machines };
}

/** Pages given back at a time: a few milliseconds of the disk. */
const PAGES = 500;

/** Gives pages that hold nothing back to the disk. */
export async function giveBack(db: Db): Promise<void> {
  for (let free = Number.POSITIVE_INFINITY; ; ) {
    const now = db.pragma("freelist_count", { simple: true }) as number;
    if (now === 0 || now >= free) break;
    free = now;
    db.pragma(`incremental_vacuum(${PAGES})`);
    await pause();
  }
  db.pragma("wal_checkpoint(TRUNCATE)");
}
