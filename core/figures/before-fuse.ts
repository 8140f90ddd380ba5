import { actingLimit } from "../drivers/channel";
import { wireMustBear } from "../fuses/rating";
import type { BuiltMachine, Wire } from "../machine/schema";
import type { Build } from "./build";

/** What may flow continuously in a wire before its own fuse, A: what the wire into the same place lets through. */
export function capBefore(figures: Build, wire: Wire): number {
  if (wire.role !== "supply") return figures.wires[wire.id]?.exposure?.limitA ?? 0;
  const { coldestC, ambientC } = figures.machine.settings;
  const from = figures.partOf.get(wire.from.part);
  if (from?.kind === "pack") return postLead(figures.machine, wire) ?? Number.POSITIVE_INFINITY;
  if (from?.kind === "supply" || from?.kind === "converter") return from.limitA?.value ?? Number.POSITIVE_INFINITY;
  if (from?.kind === "fuse") return wireMustBear(from.fuse, coldestC ?? ambientC);
  const limited = from?.kind === "driver" ? actingLimit(from) : undefined;
  if (limited !== undefined) return limited;
  const into = figures.ledger.rowOf.get(wire.from.part)?.feed;
  return into ? (figures.wires[into.id]?.exposure?.limitA ?? Number.POSITIVE_INFINITY) : Number.POSITIVE_INFINITY;
}

/** The lead from a battery's post to the first fuse stands before it by nature: it is made for what that fuse lets through, A; null for others. */
export function postLead(machine: BuiltMachine, wire: Wire): number | null {
  const to = machine.parts.find(({ id }) => id === wire.to.part);
  const { coldestC, ambientC } = machine.settings;
  return to?.kind === "fuse" ? wireMustBear(to.fuse, coldestC ?? ambientC) : null;
}
