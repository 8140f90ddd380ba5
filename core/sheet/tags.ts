import { oncePer } from "../machine/once";
import type { FuseRef, Machine, Part, Wire } from "../machine/schema";
import { happens, isFeed } from "../machine/terminals";
import { ledgerOf } from "../machine/tree";

/** A fuse of the plan with what is written beside it and what it guards. */
export interface TaggedFuse {
  readonly tag: string;
  readonly fuse: FuseRef;
  /** The wire it sits in; null for a fuse that is a part of its own. */
  readonly wire: Wire | null;
  readonly part: Part | null;
  /** The part right behind it. */
  readonly guards: Part | null;
}

/** What is written on the wires and fuses of a machine: the same on drawing, lists and labels. */
export interface Tags {
  /** By wire id. */
  readonly wires: ReadonlyMap<string, string>;
  /** Wires that are laid, in the order of their tags. */
  readonly laid: readonly Wire[];
  readonly fuses: readonly TaggedFuse[];
  /** By wire id, or by id of a fuse that is a part. */
  readonly fuseOf: ReadonlyMap<string, TaggedFuse>;
}

/** Whether a wire is cut from a reel: traces of a board and bonds that just happen are not. */
export function isLaid(wire: Wire): boolean {
  return !wire.board && !happens(wire);
}

/**
 * Tags in the order of the ledger. A feed keeps the label it was given on both its conductors, its return with a minus; what
 * has none is numbered W1, W2 … past those that are taken. Fuses are F1, F2 …, or FU1 … where wires are called F already.
 */
export const tagsOf = oncePer((machine: Machine): Tags => {
  const ledger = ledgerOf(machine);
  const inOrder = [...new Set([...ledger.rows.flatMap(({ feed, back }) => [feed, back]), ...ledger.others])].filter(
    (wire) => wire !== null,
  );
  const taken = new Set(machine.wires.flatMap(({ label }) => (label === undefined ? [] : [label])));
  const wires = new Map<string, string>();
  let n = 0;
  const fresh = () => {
    do n++;
    while (taken.has(`W${n}`));
    return `W${n}`;
  };
  for (const wire of inOrder) {
    if (!isLaid(wire) || wires.has(wire.id)) continue;
    const mate = wire.pair === undefined ? undefined : wires.get(wire.pair);
    if (mate !== undefined && (wire.label === undefined || wire.label === mate)) wires.set(wire.id, `${mate}−`);
    else wires.set(wire.id, wire.label ?? fresh());
  }
  const letter = [...taken].some((label) => /^F\d+$/i.test(label)) ? "FU" : "F";
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  const fuses: TaggedFuse[] = [];
  const fuseOf = new Map<string, TaggedFuse>();
  const note = (key: string, fuse: Omit<TaggedFuse, "tag">) => {
    if (fuseOf.has(key)) return;
    const tagged = { tag: `${letter}${fuses.length + 1}`, ...fuse };
    fuses.push(tagged);
    fuseOf.set(key, tagged);
  };
  const behind = new Map(machine.wires.filter(isFeed).map((wire) => [wire.from.part, partOf.get(wire.to.part) ?? null]));
  for (const { part, feed } of ledger.rows) {
    if (feed?.fuse) note(feed.id, { fuse: feed.fuse, wire: feed, part: null, guards: part });
    if (part.kind === "fuse") note(part.id, { fuse: part.fuse, wire: null, part, guards: behind.get(part.id) ?? null });
  }
  for (const wire of machine.wires)
    if (wire.fuse) note(wire.id, { fuse: wire.fuse, wire, part: null, guards: partOf.get(wire.to.part) ?? null });
  return { wires, laid: inOrder.filter((wire) => wires.has(wire.id)), fuses, fuseOf };
});
