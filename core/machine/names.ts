import type { Machine, Wire } from "./schema";
import { isFeed } from "./terminals";

/** Which end of a wire is on the side of the source: of a return, and of a lead back from a motor, it is the far one. */
export function sourceEnd(wire: Wire): "from" | "to" {
  return isFeed(wire) ? "from" : "to";
}

/** What the builder calls a part. */
export function partName(machine: Machine, id: string): string {
  return machine.parts.find((part) => part.id === id)?.name ?? "part";
}

/** A wire by what hangs on it. */
export function nameOfWire(machine: Machine, id: string): string {
  const wire = machine.wires.find((each) => each.id === id);
  if (wire?.role === "signal") return `signal ground of ${partName(machine, wire.from.part)}`;
  if (wire?.role === "bond") return "bond to the chassis";
  if (!wire) return "wire";
  return sourceEnd(wire) === "to" ? `return of ${partName(machine, wire.from.part)}` : `feed of ${partName(machine, wire.to.part)}`;
}

/** A link by what it joins. */
export function nameOfLink(machine: Machine, id: string): string {
  const signal = machine.signals?.find((each) => each.id === id);
  return signal ? `link ${partName(machine, signal.from)} to ${partName(machine, signal.to)}` : "link";
}
