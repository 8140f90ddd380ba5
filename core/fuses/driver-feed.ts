import type { Machine, Wire } from "../machine/schema";

const drivers = new WeakMap<Machine, ReadonlySet<string>>();

function driversOf(machine: Machine): ReadonlySet<string> {
  const known = drivers.get(machine);
  if (known) return known;
  const made = new Set(machine.parts.flatMap((part) => (part.kind === "driver" ? [part.id] : [])));
  drivers.set(machine, made);
  return made;
}

/**
 * Under the school that gives drivers no fuse of their own: whether a wire is such a feed, its return, or a motor's lead.
 * What must hold for them is judged by the short circuit, not by the fuse's rating.
 */
export function isDriverFeed(machine: Machine, wire: Wire): boolean {
  if (machine.settings.schools.driverFeeds !== "main only") return false;
  const own = driversOf(machine);
  return own.has(wire.to.part) || own.has(wire.from.part);
}
