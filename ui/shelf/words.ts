import type { Provenance } from "@/core/machine/figure";
import { isObject } from "@/core/machine/same-value";
import { type ShelfItem, type ShelfThing, stockKey } from "@/core/machine/shelf";
import { connectorById } from "@/core/reference/connectors";
import { FUSE_FAMILIES } from "@/core/reference/fuses";
import { insulationById } from "@/core/reference/insulation";
import { fuseRated, ratedAs } from "@/core/sheet/ratings";
import type { ShelfUse } from "@/state/api";

/** What kind of thing it is, for a column and a filter. */
export function sortWords(thing: ShelfThing): string {
  return thing.sort === "part" ? (thing.part.kind === "load" ? thing.part.loadKind : thing.part.kind) : thing.sort;
}

/** What it bears, in the words of the buy list. */
export function ratingWords(thing: ShelfThing): string {
  switch (thing.sort) {
    case "part": {
      const { what, ratings } = ratedAs(thing.part);
      return [what, ...ratings].join(", ");
    }
    case "wire":
      return insulationById(thing.insulation)?.name ?? thing.insulation;
    case "fuse":
      return `${fuseRated(thing)}, ${FUSE_FAMILIES[thing.family].standard}`;
    case "connector":
      return [...contactWords(thing.family), ...(thing.coding ? [`key or colour ${thing.coding}`] : [])].join(", ");
  }
}

/** What one contact of a family bears continuously; fewer amps where all of them are loaded. */
function contactWords(family: string): string[] {
  const row = connectorById(family);
  if (!row) return [];
  const { contactA, allContactA, maxV } = row;
  return [
    contactA === null ? "carries what its wire does" : `${contactA} A a contact continuously`,
    ...(contactA !== null && allContactA !== null && allContactA < contactA ? [`${allContactA} A with all of them loaded`] : []),
    `up to ${maxV} V`,
  ];
}

const WORST_FIRST = ["guess", "typical", "datasheet", "measured"] as const satisfies readonly Provenance[];

/** How surely its figures are known: by the weakest of them. Null: it has none. */
export function knownBy(thing: ShelfThing): Provenance | null {
  if (thing.sort !== "part") return null;
  const found = new Set<unknown>();
  const look = (value: unknown): void => {
    if (!isObject(value)) return;
    if ("provenance" in value) found.add(value.provenance);
    for (const inner of Object.values(value)) look(inner);
  };
  look(thing.part);
  return WORST_FIRST.find((each) => found.has(each)) ?? null;
}

/** Machines in which it is used. */
export function usesOf({ id, thing }: ShelfItem, uses: readonly ShelfUse[]): ShelfUse[] {
  const of = thing.sort === "part" ? id : stockKey(thing);
  return uses.filter((use) => use.of === of);
}
