import { z } from "zod";
import { converterSchema, driverSchema, packSchema, supplySchema } from "./schema";

/** What can lie on the shelf: parts that are chosen against a demand. */
export const shelfPartSchema = z.discriminatedUnion("kind", [packSchema, supplySchema, driverSchema, converterSchema]);
/** A part as it lies on the builder's shelf. */
export type ShelfPart = z.infer<typeof shelfPartSchema>;

/** A part on the shelf, with the shelf's own name for it. */
export const shelfItemSchema = z.strictObject({ id: z.string().max(60), part: shelfPartSchema });
/** A part on the shelf with its place there. */
export type ShelfItem = z.infer<typeof shelfItemSchema>;

/** Whether a kind of part can be put on the shelf. */
export function goesOnShelf(kind: string): kind is ShelfPart["kind"] {
  return kind === "pack" || kind === "supply" || kind === "driver" || kind === "converter";
}

/** A part as it lies on the shelf: without its place in a machine. */
export function forShelf(part: ShelfPart): ShelfPart {
  if (part.kind !== "supply") return part;
  const { box: _box, ...alone } = part;
  return alone;
}
