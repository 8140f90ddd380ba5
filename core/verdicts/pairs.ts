import type { Build } from "../figures/build";
import type { Wire } from "../machine/schema";
import type { Verdict } from "./types";

/**
 * A feed's return of the same size says nothing its supply wire has not said: it joins that verdict instead of repeating it.
 * @param said verdicts of this rule by wire and kind, in which the feed's is replaced by one that names the return too
 * @param key what the wire's own verdict would be found under, with its id in it
 */
export function joinsFeed(said: Map<string, Verdict>, figures: Build, wire: Wire, key: string): boolean {
  const feed = wire.pair === undefined ? undefined : figures.wireOf.get(wire.pair);
  if (!feed || feed.gauge !== wire.gauge || feed.bundle !== wire.bundle || feed.parallel !== wire.parallel) return false;
  const feedKey = key.replace(wire.id, feed.id);
  const earlier = said.get(feedKey);
  if (!earlier) return false;
  said.set(feedKey, { ...earlier, also: [...(earlier.also ?? []), wire.id] });
  return true;
}
