import { randomUUID } from "node:crypto";
import { type Stock, stockSchema } from "@/core/machine/schema";
import { forShelf, type ShelfItem, type ShelfPart, shelfPartSchema } from "@/core/machine/shelf";
import type { Db } from "./database";

/** Parts on the shelf by kind and name. What a newer version wrote and this one cannot read stays there, unseen. */
export function listShelf(db: Db): ShelfItem[] {
  return db
    .prepare<[], { id: string; document: string }>("SELECT id, document FROM shelf_part ORDER BY kind, name, created_at")
    .all()
    .flatMap(({ id, document }) => {
      const read = shelfPartSchema.safeParse(JSON.parse(document));
      return read.success ? [{ id, part: read.data }] : [];
    });
}

export function putOnShelf(db: Db, part: ShelfPart, id: string = randomUUID()): ShelfItem {
  const kept = forShelf(part);
  db.prepare("INSERT INTO shelf_part (id, name, kind, document, created_at) VALUES (?, ?, ?, ?, ?)").run(
    id,
    kept.name,
    kept.kind,
    JSON.stringify(kept),
    new Date().toISOString(),
  );
  return { id, part: kept };
}

export function takeOffShelf(db: Db, id: string): boolean {
  return db.prepare("DELETE FROM shelf_part WHERE id = ?").run(id).changes > 0;
}

/** Sizes, fuses and connectors kept for all machines; null where none were, or where a newer version wrote them. */
export function keptStock(db: Db): Stock | null {
  const row = db.prepare<[], { document: string }>("SELECT document FROM shelf_stock WHERE id = 1").get();
  return row ? (stockSchema.safeParse(JSON.parse(row.document)).data ?? null) : null;
}

export function keepStock(db: Db, stock: Stock): void {
  db.prepare("INSERT INTO shelf_stock (id, document) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET document = excluded.document").run(
    JSON.stringify(stock),
  );
}
