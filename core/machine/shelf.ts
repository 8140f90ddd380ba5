import { z } from "zod";
import { CONNECTOR_IDS, connectorById } from "../reference/connectors";
import { FUSE_FAMILIES, FUSE_FAMILY_IDS } from "../reference/fuses";
import { COLOUR_MAX, idSchema, lineSchema, NOTE_MAX, noteSchema, shelfIdSchema } from "./base-schema";
import {
  converterSchema,
  driverSchema,
  type FuseRef,
  loadSchema,
  type Part,
  packSchema,
  type Stock,
  supplySchema,
  switchSchema,
} from "./schema";

/** Parts that lie on the shelf with their ratings and how each is known. */
export const shelfPartSchema = z.discriminatedUnion("kind", [
  packSchema,
  supplySchema,
  driverSchema,
  converterSchema,
  switchSchema,
  loadSchema,
]);
/** A part as it lies on the builder's shelf. */
export type ShelfPart = z.infer<typeof shelfPartSchema>;

/** What lies on the shelf: a part, wire of one kind, a fuse of one rating, a connector of one family and key. */
export const shelfThingSchema = z.discriminatedUnion("sort", [
  z.strictObject({ sort: z.literal("part"), part: shelfPartSchema }),
  z.strictObject({
    sort: z.literal("wire"),
    gauge: z.string().min(1).max(12),
    insulation: z.string().max(20),
    colour: lineSchema(COLOUR_MAX).optional(),
  }),
  z.strictObject({ sort: z.literal("fuse"), family: z.enum(FUSE_FAMILY_IDS), ratingA: z.number().positive().max(2000) }),
  z.strictObject({ sort: z.literal("connector"), family: z.enum(CONNECTOR_IDS), coding: lineSchema(COLOUR_MAX).optional() }),
]);
/** What lies on the shelf. */
export type ShelfThing = z.infer<typeof shelfThingSchema>;
/** Wire, fuses and connectors: what is used up. */
export type ShelfSupply = Exclude<ShelfThing, { sort: "part" }>;

/** Most letters of what was found out about a thing. */
export const QUIRKS_MAX = 2000;

/** What is kept of a thing on the shelf, without the shelf's own name for it. */
export const shelfEntrySchema = z.strictObject({
  thing: shelfThingSchema,
  /** Pieces, or metres of wire; null: there is some, nobody counted. */
  count: z.number().min(0).max(1e6).nullable(),
  /** Of one piece or metre, in the builder's own currency; null: not known. */
  cost: z.number().min(0).max(1e6).nullable(),
  note: noteSchema(NOTE_MAX),
  /** What was found out by measuring, a line each: "channel 2 drops out above 18 A". */
  quirks: noteSchema(QUIRKS_MAX),
});
/** What is kept of a thing on the shelf. */
export type ShelfEntry = z.infer<typeof shelfEntrySchema>;

/** A thing on the shelf, with the shelf's own name for it. */
export const shelfItemSchema = shelfEntrySchema.extend({ id: shelfIdSchema });
/** A thing on the shelf with its place there. */
export type ShelfItem = z.infer<typeof shelfItemSchema>;

/** Whether a kind of part can be put on the shelf. */
export function goesOnShelf(kind: string): kind is ShelfPart["kind"] {
  return kind === "pack" || kind === "supply" || kind === "driver" || kind === "converter" || kind === "switch" || kind === "load";
}

/** A part as it lies on the shelf: without its place in a machine, and without what it does there. */
export function forShelf(part: ShelfPart): ShelfPart {
  const { shelf: _shelf, ...kept } = part;
  if (kept.kind === "supply") {
    const { box: _box, ...alone } = kept;
    return alone;
  }
  if (kept.kind === "load") return { ...kept, count: 1, cells: {} };
  return kept.kind === "switch" ? { ...kept, openIn: [] } : kept;
}

/** A part of a machine as a new thing on the shelf. */
export function entryOf(part: ShelfPart): ShelfEntry {
  return { thing: { sort: "part", part: forShelf(part) }, count: null, cost: part.cost ?? null, note: "", quirks: "" };
}

/** A thing of the shelf as a part of a machine, remembered as taken from there. */
export function fromShelf(id: string, part: ShelfPart, as: string): Part {
  return { ...forShelf(part), id: idSchema.parse(as), shelf: id };
}

/** Parts on the shelf, for those who choose among parts. */
export function partsOnShelf(items: readonly ShelfItem[]): (Pick<ShelfItem, "id" | "count" | "quirks"> & { part: ShelfPart })[] {
  return items.flatMap(({ id, thing, count, quirks }) => (thing.sort === "part" ? [{ id, count, quirks, part: thing.part }] : []));
}

/** What tells one kind of wire, fuse or connector from another. */
export function stockKey(thing: ShelfSupply): string {
  switch (thing.sort) {
    case "wire":
      return `wire ${thing.gauge} ${thing.insulation} ${thing.colour ?? ""}`;
    case "fuse":
      return `fuse ${thing.family} ${thing.ratingA}`;
    case "connector":
      return `connector ${thing.family} ${thing.coding ?? ""}`;
  }
}

/** What a thing is called. */
export function thingName(thing: ShelfThing): string {
  switch (thing.sort) {
    case "part":
      return thing.part.name;
    case "wire":
      return `Wire ${thing.gauge}${thing.colour ? `, ${thing.colour}` : ""}`;
    case "fuse":
      return `Fuse ${thing.ratingA} A, ${FUSE_FAMILIES[thing.family].name}`;
    case "connector":
      return `${connectorById(thing.family)?.name ?? thing.family}${thing.coding ? `, ${thing.coding}` : ""}`;
  }
}

/** Sizes, fuses and connectors that lie on the shelf and are not used up: what sizing may be kept to. */
export function stockOf(items: readonly ShelfItem[]): Stock {
  const left = items.filter(({ count }) => count !== 0).map(({ thing }) => thing);
  const gauges = [...new Set(left.flatMap((thing) => (thing.sort === "wire" ? [thing.gauge] : [])))];
  const fuses = left.flatMap((thing): FuseRef[] => (thing.sort === "fuse" ? [{ family: thing.family, ratingA: thing.ratingA }] : []));
  const connectors = [...new Set(left.flatMap((thing) => (thing.sort === "connector" ? [thing.family] : [])))];
  return {
    ...(gauges.length > 0 ? { gauges } : {}),
    ...(fuses.length > 0 ? { fuses } : {}),
    ...(connectors.length > 0 ? { connectors } : {}),
  };
}

/** The entries of a list of sizes, fuses and connectors: there is some of each. */
export function entriesOf(stock: Stock): ShelfEntry[] {
  const entry = (thing: ShelfThing): ShelfEntry => ({ thing, count: null, cost: null, note: "", quirks: "" });
  return [
    ...(stock.gauges ?? []).map((gauge) => entry({ sort: "wire", gauge, insulation: "pvc80" })),
    ...(stock.fuses ?? []).map(({ family, ratingA }) => entry({ sort: "fuse", family, ratingA })),
    ...(stock.connectors ?? []).map((family) => entry({ sort: "connector", family })),
  ];
}
