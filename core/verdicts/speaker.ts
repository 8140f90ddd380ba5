import type { Standing } from "../figures/standing";
import type { Wire } from "../machine/schema";
import type { Step, Verdict } from "./types";

/** The machine is grouped by step; a return's troubles are settled on the Returns step. */
export function stepOf(wire: Wire): Step {
  return wire.role === "supply" || wire.role === "phase" ? "feeds" : "returns";
}

/** A feed's return of the same size says nothing its supply wire has not said: it joins that verdict instead of repeating it. */
export function joinsFeed(said: ReadonlyMap<string, Verdict>, figures: Standing, wire: Wire, ruleId: string): boolean {
  const feed = wire.pair === undefined ? undefined : figures.wireOf.get(wire.pair);
  if (!feed || feed.gauge !== wire.gauge || feed.bundle !== wire.bundle || feed.parallel !== wire.parallel) return false;
  const earlier = said.get(ruleId.replace(wire.id, feed.id));
  if (!earlier) return false;
  earlier.also = [...(earlier.also ?? []), wire.id];
  return true;
}
