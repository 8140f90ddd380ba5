import { steady } from "../analysis/standing";
import type { Machine, Wire, WireEnd } from "../machine/schema";
import { type ConnectorRow, connectorById } from "../reference/connectors";

/** A connector at an end of a wire, with its row of the table. */
export interface EndSite {
  wire: Wire;
  end: "from" | "to";
  at: WireEnd;
  row: ConnectorRow;
}

export const END_KEYS = { from: "fromEnd", to: "toEnd" } as const;
const OTHER = { from: "to", to: "from" } as const;

/** The end of the feed that shares a housing with this end of its return: a return runs the other way. */
export function mateEnd(feed: Wire | undefined, end: "from" | "to"): WireEnd | undefined {
  return feed?.[END_KEYS[OTHER[end]]];
}

export function endsOf(wire: Wire): EndSite[] {
  const sites: EndSite[] = [];
  for (const end of ["from", "to"] as const) {
    const at = wire[END_KEYS[end]];
    const row = at && connectorById(at.family);
    if (at && row) sites.push({ wire, end, at, row });
  }
  return sites;
}

export function endSites(machine: Machine): EndSite[] {
  return machine.wires.flatMap(endsOf);
}

/** All connectors of a machine, listed once for all versions that differ in cells alone. */
export const sitesOf = steady((still): readonly EndSite[] => endSites(still.machine));
