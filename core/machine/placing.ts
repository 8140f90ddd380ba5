import type { BuiltPart, Machine, Part, PartKind, TerminalRef } from "./schema";
import { isBoard, isChassis, isReturnBar, isSource, terminalName } from "./terminals";
import { type Ledger, railOrigin } from "./tree";

/** What may hang under a part and how its feed would run. */
export interface Placing {
  /** The part it would hang under; null for a new source. */
  parent: Part | null;
  kinds: readonly (PartKind | "returnBar")[];
  from: TerminalRef | null;
  /** Places its return may land on, the usual one first. */
  landings: readonly { at: TerminalRef; name: string }[];
  /** Other places on the chosen part it could take its supply from; the first is what `placeUnder` takes by itself. */
  outlets: readonly Outlet[];
}

/** A place a new part can be fed from. */
export interface Outlet {
  /** "" for the usual place, else the terminal. */
  id: string;
  name: string;
}

const NO_OUTLETS: readonly Outlet[] = [];
const SOURCES: Placing = { parent: null, kinds: ["pack", "supply"], from: null, landings: [], outlets: NO_OUTLETS };

/** Where a board or driver gives logic supply to others. */
function outletsOf(part: Part | undefined): readonly Outlet[] {
  if (part?.kind === "driver" && part.logic !== undefined)
    return [
      { id: "", name: "a motor channel" },
      { id: "5v", name: terminalName(part, "5v") },
    ];
  if (part && isBoard(part))
    return [
      { id: "", name: `the same place as ${part.name}` },
      { id: "5v", name: `${part.name}, its 5 V pin` },
      { id: "pin", name: `${part.name}, a signal pin` },
    ];
  return NO_OUTLETS;
}

function freeChannel(machine: Machine, driver: BuiltPart & { kind: "driver" }): number | null {
  for (let channel = 1; channel <= driver.channels; channel++) {
    if (!machine.wires.some((wire) => wire.from.part === driver.id && wire.from.terminal === `${channel}a`)) return channel;
  }
  return null;
}

/** Follows a negative bar's own returns to the source whose minus it reaches. */
function barHome(ledger: Ledger, bar: Part): string | null {
  const seen = new Set<string>();
  let row = ledger.rowOf.get(bar.id);
  while (row?.back && !seen.has(row.part.id)) {
    seen.add(row.part.id);
    const next = ledger.rowOf.get(row.back.to.part);
    if (!next) return null;
    if (isSource(next.part) || next.part.kind === "converter") return next.part.id;
    row = next;
  }
  return null;
}

/**
 * Where a new part would hang when it is added under `partId` (null: a new source). Under a load it hangs beside it,
 * since a load feeds nothing. The return lands by default on a negative bar of the same source, else on its minus.
 */
export function placeUnder(machine: Machine, ledger: Ledger, partId: string | null, outlet = ""): Placing {
  const chosen = partId === null ? undefined : machine.parts.find((part) => part.id === partId);
  const outlets = outletsOf(chosen);
  if (chosen && outlet !== "" && outlets.some(({ id }) => id === outlet)) {
    const minus = chosen.kind === "driver" ? "in-" : "-";
    return {
      parent: chosen,
      kinds: ["load"],
      from: { part: chosen.id, terminal: outlet },
      landings: [{ at: { part: chosen.id, terminal: minus }, name: terminalName(chosen, minus) }],
      outlets,
    };
  }
  return { ...usualPlace(machine, ledger, chosen), outlets };
}

function usualPlace(machine: Machine, ledger: Ledger, chosen: Part | undefined): Placing {
  let parent = chosen;
  if (parent?.kind === "load") {
    const above = ledger.rowOf.get(parent.id)?.parent;
    parent = machine.parts.find((part) => part.id === above);
    if (parent?.kind === "driver" && freeChannel(machine, parent) === null) {
      const higher = ledger.rowOf.get(parent.id)?.parent;
      parent = machine.parts.find((part) => part.id === higher);
    }
  }
  if (!parent) return SOURCES;

  const bars = machine.parts.filter(isReturnBar);
  const barLanding = (bar: Part) => ({ at: { part: bar.id, terminal: "bar" }, name: bar.name });
  if (parent.kind === "bar" && parent.side === "negative") {
    const rest = bars.filter((bar) => bar.id !== parent.id);
    return { parent, kinds: ["returnBar"], from: null, landings: [barLanding(parent), ...rest.map(barLanding)], outlets: NO_OUTLETS };
  }
  if (parent.kind === "driver") {
    const channel = freeChannel(machine, parent);
    const at = (leg: string): TerminalRef => ({ part: parent.id, terminal: `${channel}${leg}` });
    return channel === null
      ? { parent, kinds: [], from: null, landings: [], outlets: NO_OUTLETS }
      : {
          parent,
          kinds: ["load"],
          from: at("a"),
          landings: [{ at: at("b"), name: terminalName(parent, `${channel}b`) }],
          outlets: NO_OUTLETS,
        };
  }

  const out = parent.kind === "converter" ? "out+" : isSource(parent) ? "+" : parent.kind === "bar" ? "bar" : "out";
  const originId = parent.kind === "converter" ? parent.id : railOrigin(ledger, parent.id);
  const origin = machine.parts.find((part) => part.id === originId);
  const minus = origin
    ? {
        at: { part: origin.id, terminal: origin.kind === "converter" ? "out-" : "-" },
        name: terminalName(origin, origin.kind === "converter" ? "out-" : "-"),
      }
    : null;
  const own = bars.filter((bar) => barHome(ledger, bar) === originId);
  const others = bars.filter((bar) => !own.includes(bar));
  const landings = [...own.map(barLanding), ...(minus ? [minus] : []), ...others.map(barLanding)];
  const feedsReturns = isSource(parent) || parent.kind === "converter";
  return {
    parent,
    kinds: [
      ...(isSource(parent) || parent.kind === "switch" || parent.kind === "fuse" ? (["fuse", "switch", "bar"] as const) : []),
      ...(feedsReturns ? (["returnBar"] as const) : []),
      "driver",
      "converter",
      "load",
      ...(parent.kind === "bar" || parent.kind === "converter" ? (["fuse", "switch", "bar"] as const) : []),
    ],
    from: { part: parent.id, terminal: out },
    landings,
    outlets: NO_OUTLETS,
  };
}

/** Every terminal a return may be landed on: negative bars first, then minus terminals, then everything else that is metal. */
export function returnPlaces(machine: Machine): { at: TerminalRef; name: string }[] {
  const places: { at: TerminalRef; name: string; rank: number }[] = [];
  for (const part of machine.parts) {
    const add = (terminal: string, rank: number) =>
      places.push({ at: { part: part.id, terminal }, name: terminalName(part, terminal), rank });
    if (part.kind === "bar") add("bar", isReturnBar(part) ? 0 : isChassis(part) ? 5 : 4);
    else if (isSource(part)) add("-", 1);
    else if (part.kind === "converter") {
      add("out-", 2);
      if (part.isolated) add("in-", 2);
    } else if (part.kind === "driver") add("in-", 3);
    else if (part.kind === "load") add("-", 3);
  }
  return places.sort((a, b) => a.rank - b.rank).map(({ at, name }) => ({ at, name }));
}
