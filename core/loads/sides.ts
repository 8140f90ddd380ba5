import type { Load, Machine } from "../machine/schema";

/** Which of two sides a drive motor is on. */
export type Side = "one" | "other";

/** Words in a motor's name that tell its side. */
const ONE = /\b(left|port|l|links)\b/i;
const OTHER = /\b(right|starboard|r|rechts)\b/i;

/** What tells motors of one make: equal figures. */
function makeOf({ nominalV, levels, count }: Load): string {
  return [nominalV.value, levels?.run?.value, levels?.stall?.value, count].join(" ");
}

/**
 * Drive motors by side, for any even number of them: by the side their names or their drivers' names tell; else the largest
 * even group of one make, by the driver they share; else the first half against the second. A motor that is several pieces in
 * one row stands on both sides. Motors that are none of these are tools.
 */
export function sidesOf(machine: Machine): ReadonlyMap<string, Side | "both"> {
  const motors = machine.parts.filter((part): part is Load => part.kind === "load" && part.loadKind === "motor");
  const driverOf = (load: Load) => machine.wires.find(({ role, to }) => role === "phase" && to.part === load.id)?.from.part ?? null;
  const nameOf = (id: string | null) => machine.parts.find((part) => part.id === id)?.name ?? "";
  const told = (load: Load): Side | null => {
    for (const name of [load.name, nameOf(driverOf(load))]) {
      if (ONE.test(name) !== OTHER.test(name)) return ONE.test(name) ? "one" : "other";
    }
    return null;
  };
  const named = new Map(motors.flatMap((load) => (told(load) ? [[load.id, told(load) as Side] as const] : [])));
  const sides = new Set(named.values());
  if (sides.size === 2) return named;

  const groups = new Map<string, Load[]>();
  for (const load of motors) groups.set(makeOf(load), [...(groups.get(makeOf(load)) ?? []), load]);
  const several = motors.filter(({ count }) => count > 1 && count % 2 === 0);
  const [group = []] = [...groups.values()].filter(({ length }) => length % 2 === 0).sort((a, b) => b.length - a.length);
  if (group.length === 0) return new Map(several.slice(0, 1).map(({ id }) => [id, "both"]));
  const drivers = [...new Set(group.map(driverOf))];
  const byDriver =
    drivers.length === 2 && drivers.every((driver) => group.filter((load) => driverOf(load) === driver).length * 2 === group.length);
  return new Map(
    group.map((load, i) => {
      const first = byDriver ? driverOf(load) === drivers[0] : i < group.length / 2;
      return [load.id, first ? "one" : "other"];
    }),
  );
}
