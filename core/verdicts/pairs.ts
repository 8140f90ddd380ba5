import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
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

/** A return may carry more than came in by its feed, where others land on the way: by less than this it is the same, as a factor. */
const SAME_AMPS = 1.01;

/** Whether a return carries no more than its feed does, so that the feed can speak for both. */
export function carriesNoMore(figures: Figures, wire: Wire): boolean {
  const [own, feed] = [figures.wires[wire.id], figures.wires[wire.pair ?? ""]];
  if (!own || !feed) return false;
  return own.worst.amps <= feed.worst.amps * SAME_AMPS && own.worstContinuous.amps <= feed.worstContinuous.amps * SAME_AMPS;
}
