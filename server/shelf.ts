import { randomUUID } from "node:crypto";
import { type ShelfEntry, type ShelfItem, shelfEntrySchema, shelfItemSchema, thingName } from "@/core/machine/shelf";
import type { Db } from "./database";

/** The shelf by sort and name. What a newer version wrote and this one cannot read stays there, unseen. */
export function listShelf(db: Db): ShelfItem[] {
  return db
    .prepare<[], { id: string; document: string }>("SELECT id, document FROM shelf_item ORDER BY sort, name, created_at")
    .all()
    .flatMap(({ id, document }) => shelfItemSchema.safeParse({ id, ...JSON.parse(document) }).data ?? []);
}

const row = (entry: ShelfEntry) => ({
  sort: entry.thing.sort,
  name: thingName(entry.thing),
  document: JSON.stringify(shelfEntrySchema.parse(entry)),
  now: new Date().toISOString(),
});

/** Puts a thing on the shelf. @throws SqliteError where that id is taken */
export function putOnShelf(db: Db, entry: ShelfEntry, id: string = randomUUID()): ShelfItem {
  db.prepare(
    "INSERT INTO shelf_item (id, sort, name, created_at, updated_at, document) VALUES (@id, @sort, @name, @now, @now, @document)",
  ).run({ ...row(entry), id });
  return { id, ...entry };
}

/** Puts all of several things on the shelf, or none. */
export function putAllOnShelf(db: Db, entries: readonly ShelfEntry[]): ShelfItem[] {
  return db.transaction(() => entries.map((entry) => putOnShelf(db, entry))).immediate();
}

/** Writes what is now known of a thing; one that was taken off lies there again under its old name. */
export function changeOnShelf(db: Db, id: string, entry: ShelfEntry): void {
  db.prepare(
    `INSERT INTO shelf_item (id, sort, name, created_at, updated_at, document) VALUES (@id, @sort, @name, @now, @now, @document)
     ON CONFLICT (id) DO UPDATE SET sort = @sort, name = @name, updated_at = @now, document = @document`,
  ).run({ ...row(entry), id });
}

export function takeOffShelf(db: Db, id: string): boolean {
  return db.prepare("DELETE FROM shelf_item WHERE id = ?").run(id).changes > 0;
}

/** A use of something on the shelf in a machine. */
export interface ShelfUse {
  readonly machine: string;
  readonly name: string;
  /** The shelf's own name of a part, or what tells wire, fuses and connectors apart, as `stockKey` does. */
  readonly of: string;
  /** Pieces, or conductors of that wire. */
  readonly count: number;
}

/** Where what lies on the shelf is used: parts that were taken from it, and wire, fuses and connectors of the same kind. */
export function shelfUses(db: Db): ShelfUse[] {
  return db
    .prepare<[], ShelfUse>(
      `WITH live AS (SELECT id, name, document FROM machine WHERE deleted_at IS NULL AND json_valid(document)),
            wire AS MATERIALIZED (SELECT live.id, live.name, each.value AS w FROM live, json_each(live.document, '$.wires') AS each),
            part AS MATERIALIZED (SELECT live.id, live.name, each.value AS p FROM live, json_each(live.document, '$.parts') AS each)
       SELECT id AS machine, name, "of", sum(n) AS count FROM (
         SELECT id, name, json_extract(p, '$.shelf') AS "of", coalesce(json_extract(p, '$.count'), 1) AS n FROM part
          WHERE json_extract(p, '$.shelf') IS NOT NULL
         UNION ALL
         SELECT id, name, 'fuse ' || json_extract(p, '$.fuse.family') || ' ' || json_extract(p, '$.fuse.ratingA'), 1 FROM part
          WHERE json_extract(p, '$.kind') = 'fuse'
         UNION ALL
         SELECT id, name, 'fuse ' || json_extract(w, '$.fuse.family') || ' ' || json_extract(w, '$.fuse.ratingA'), 1 FROM wire
          WHERE json_extract(w, '$.fuse') IS NOT NULL
         UNION ALL
         SELECT id, name, 'wire ' || json_extract(w, '$.gauge') || ' ' || json_extract(w, '$.insulation') || ' '
                || coalesce(json_extract(w, '$.colour'), ''), json_extract(w, '$.parallel') FROM wire
          WHERE json_extract(w, '$.gauge') IS NOT NULL
         UNION ALL
         SELECT id, name, 'connector ' || json_extract(w, '$.fromEnd.family') || ' ' || coalesce(json_extract(w, '$.fromEnd.coding'), ''), 1
           FROM wire WHERE json_extract(w, '$.fromEnd') IS NOT NULL
         UNION ALL
         SELECT id, name, 'connector ' || json_extract(w, '$.toEnd.family') || ' ' || coalesce(json_extract(w, '$.toEnd.coding'), ''), 1
           FROM wire WHERE json_extract(w, '$.toEnd') IS NOT NULL
       ) GROUP BY id, "of" ORDER BY name`,
    )
    .all();
}
