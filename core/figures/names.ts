import { groupBy } from "../machine/group";
import type { Wire } from "../machine/schema";
import { terminalName } from "../machine/terminals";
import { say } from "../quantity/format";
import { airAround } from "../wires/ampacity";
import { type Build, perBuild } from "./build";
import type { Worst } from "./types";

/** A part's name; what is gone is said to be. */
export function partName(figures: Build, id: string): string {
  return figures.partOf.get(id)?.name ?? "a part that is gone";
}

/** A wire in words: "feed of Cutter bar", "return of Controller", "link from Bar N2 to Bar N1". */
export function wireName(figures: Build, wire: Wire): string {
  const from = figures.partOf.get(wire.from.part);
  const to = figures.partOf.get(wire.to.part);
  if (!from || !to) return "a wire";
  const several = alike(figures).has(wire.id);
  if (wire.role === "return")
    return from.kind === "bar" && to.kind === "bar"
      ? `link from ${from.name} to ${to.name}`
      : `return of ${from.name}${several ? ` to ${to.name}` : ""}`;
  if (wire.role === "signal") return `${wire.shield ? "shield" : "signal ground"} from ${from.name} to ${to.name}`;
  if (wire.role === "bond") return `bond from ${from.name} to ${to.name}`;
  if (wire.role === "phase") return wire.pair === undefined ? `lead to ${to.name}` : `lead back from ${from.name}`;
  return `feed of ${to.name}${several ? ` from ${from.name}` : ""}`;
}

/** Wires that would go by one name: those of one role that end at the same terminal. */
const alike = perBuild(({ machine }): ReadonlySet<string> => {
  const groups = groupBy(machine.wires, ({ role, from, to }) => {
    if (role !== "supply" && role !== "return") return undefined;
    const { part, terminal } = role === "return" ? from : to;
    return `${role} ${part} ${terminal}`;
  });
  return new Set([...groups.values()].flatMap((wires) => (wires.length > 1 ? wires.map(({ id }) => id) : [])));
});

/** Where a wire runs, for the second sentence. */
export function wireEnds(figures: Build, wire: Wire): string {
  const name = (end: Wire["from"]) => {
    const part = figures.partOf.get(end.part);
    return part ? terminalName(part, end.terminal) : "?";
  };
  return `from ${name(wire.from)} to ${name(wire.to)}`;
}

/** "in Cruise", or "in Cruise with the pack low". */
export function inMode(figures: Build, worst: Worst): string {
  if (worst.mission) return "over the mission, as heating goes";
  const name = figures.machine.modes[worst.mode]?.name ?? "a mode";
  return worst.low ? `in ${name} with the pack low` : `in ${name}`;
}

/** A wire's size as it is said. */
export function gaugeText(wire: Wire): string {
  if (wire.board) return wire.board.kind === "trace" ? `a ${wire.board.widthMm.value} mm trace` : "a row of pads";
  const gauge = wire.gauge ?? "unknown size";
  return wire.parallel > 1 ? `${wire.parallel} × ${gauge}` : gauge;
}

/** Wire conditions in words: "with 3 loaded wires together in air of 40 °C". */
export function conditions(figures: Build, wire: Wire): string {
  const { settings } = figures.machine;
  const bundle = wire.bundle ?? settings.bundle;
  return `${bundle > 1 ? `with ${bundle} loaded wires together ` : ""}in air of ${say(airAround(wire, settings), "temperature")}`;
}

/** A list as people say it, with the rest counted from `most` on. */
export function names(list: readonly string[], most = 3): string {
  if (list.length <= 1) return list[0] ?? "nothing";
  if (list.length > most) return `${list.slice(0, most).join(", ")} and ${list.length - most} more`;
  return `${list.slice(0, -1).join(", ")} and ${list.at(-1)}`;
}
