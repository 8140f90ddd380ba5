import { oncePer } from "../machine/once";
import type { BuiltMachine, Wire } from "../machine/schema";

const driversOf = oncePer(
  (machine: BuiltMachine): ReadonlySet<string> => new Set(machine.parts.flatMap((part) => (part.kind === "driver" ? [part.id] : []))),
);

/**
 * Under the school that gives drivers no fuse of their own: whether a wire is such a feed, its return, or a motor's lead.
 * What must hold for them is judged by the short circuit, not by the fuse's rating.
 */
export function isDriverFeed(machine: BuiltMachine, wire: Wire): boolean {
  if (machine.settings.schools.driverFeeds !== "main only") return false;
  const own = driversOf(machine);
  return own.has(wire.to.part) || own.has(wire.from.part);
}
