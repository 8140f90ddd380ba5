import { END_KEYS, type EndSite } from "../connectors/ends";
import type { Command } from "../machine/commands";
import type { WireEnd } from "../machine/schema";

const OTHER = { from: "to", to: "from" } as const;

/** Puts a connector on an end of a wire and on what shares its housing. */
export function setEnd({ wire, end }: Pick<EndSite, "wire" | "end">, next: WireEnd): Command {
  if (wire.pair === undefined) return { type: "setFeed", id: wire.id, changes: { [END_KEYS[end]]: next } };
  return { type: "setFeed", id: wire.pair, changes: { [END_KEYS[OTHER[end]]]: next } };
}
