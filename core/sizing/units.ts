import type { Figures } from "../figures/figures";
import { lengthOf } from "../machine/length";
import type { FuseRef, Machine, PartOf, Wire } from "../machine/schema";

/** What is sized as one: a feed with its return, a lead pair, or a single conductor. */
export interface Unit {
  /** The wire that commands name: the supply wire of a feed, or the single conductor. */
  lead: Wire;
  wires: readonly Wire[];
  /** A fuse may sit in it. */
  fusable: boolean;
}

/** All units of a machine, from the sources outward, then what is not in the ledger. */
export function unitsOf(figures: Pick<Figures, "machine" | "ledger" | "returnsOf">): Unit[] {
  const units: Unit[] = [];
  const seen = new Set<string>();
  const fuseIds = new Set(figures.machine.parts.flatMap(({ id, kind }) => (kind === "fuse" ? [id] : [])));
  const add = (lead: Wire) => {
    if (seen.has(lead.id)) return;
    const wires = [lead, ...(figures.returnsOf.get(lead.id) ?? [])];
    for (const wire of wires) seen.add(wire.id);
    // At a fuse that is a part of its own a wire needs no second one.
    const atFuse = [lead.from, lead.to].some(({ part }) => fuseIds.has(part));
    units.push({ lead, wires, fusable: lead.role === "supply" && (lead.fuse !== undefined || !atFuse) });
  };
  for (const { feed, back } of figures.ledger.rows) {
    if (feed) add(feed);
    if (back && back.pair === undefined) add(back);
  }
  // A signal's ground and a bond are chosen for what they join, not for amps they should carry.
  for (const wire of figures.machine.wires) if (wire.pair === undefined && wire.role !== "signal" && wire.role !== "bond") add(wire);
  return units;
}

/** Fuses that are parts of their own, in ledger order. */
export function fuseParts(figures: Pick<Figures, "ledger">): PartOf<"fuse">[] {
  return figures.ledger.rows.flatMap(({ part }) => (part.kind === "fuse" ? [part] : []));
}

/** Copper in a unit, kg. */
export function copperKg(unit: Unit, gramPerM: number, parallel: number): number {
  return unit.wires.reduce((sum, wire) => sum + (lengthOf(wire) * gramPerM * parallel) / 1000, 0);
}

/** Whether two fuses are the same part. */
export function sameFuse(a: FuseRef | null | undefined, b: FuseRef | null | undefined): boolean {
  return (a ?? null) === (b ?? null) || (a?.family === b?.family && a?.ratingA === b?.ratingA);
}

/** Whether a machine names what sizing may take. */
export function stockOf(machine: Machine) {
  const { gauges, fuses, connectors } = machine.settings.stock ?? {};
  return {
    gauge: (id: string) => !gauges || gauges.length === 0 || gauges.includes(id),
    fuse: (fuse: FuseRef) => !fuses || fuses.length === 0 || fuses.some((own) => sameFuse(own, fuse)),
    connector: (id: string) => !connectors || connectors.length === 0 || connectors.includes(id),
    fuses: fuses ?? [],
  };
}

/** Whether a conductor was chosen as it was: size, number, fuse and ends. */
export function sameChoice(a: Wire, b: Wire): boolean {
  return (
    a.gauge === b.gauge &&
    a.parallel === b.parallel &&
    sameFuse(a.fuse, b.fuse) &&
    a.fromEnd?.family === b.fromEnd?.family &&
    a.toEnd?.family === b.toEnd?.family
  );
}
