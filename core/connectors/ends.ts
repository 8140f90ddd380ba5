import type { Command } from "../machine/commands";
import type { BuiltMachine, Wire, WireEnd } from "../machine/schema";
import { type ConnectorRow, connectorById } from "../reference/connectors";

/** A connector at an end of a wire, with its row of the table. */
export interface EndSite {
  wire: Wire;
  end: "from" | "to";
  at: WireEnd;
  row: ConnectorRow;
}

/** The field of a wire that holds each end's connector. */
export const END_KEYS = { from: "fromEnd", to: "toEnd" } as const;
const OTHER = { from: "to", to: "from" } as const;

/** The end of the feed that shares a housing with this end of its return: a return runs the other way. */
export function mateEnd(feed: Wire | undefined, end: "from" | "to"): WireEnd | undefined {
  return feed?.[END_KEYS[OTHER[end]]];
}

/** The connectors at a wire's ends. */
export function endsOf(wire: Wire): EndSite[] {
  const sites: EndSite[] = [];
  for (const end of ["from", "to"] as const) {
    const at = wire[END_KEYS[end]];
    const row = at && connectorById(at.family);
    if (at && row) sites.push({ wire, end, at, row });
  }
  return sites;
}

/** All connectors of a machine. */
export function endSites(machine: BuiltMachine): EndSite[] {
  return machine.wires.flatMap(endsOf);
}

/** Puts a connector on an end of a wire and on what shares its housing. */
export function setEnd({ wire, end }: Pick<EndSite, "wire" | "end">, next: WireEnd): Command {
  if (wire.pair === undefined) return { type: "setFeed", id: wire.id, changes: { [END_KEYS[end]]: next } };
  return { type: "setFeed", id: wire.pair, changes: { [END_KEYS[OTHER[end]]]: next } };
}
