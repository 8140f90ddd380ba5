import { SimulatedBench } from "@/core/bringup/bench";
import { type SingleFault, tellingSize } from "@/core/bringup/faults";
import { meterOf } from "@/core/bringup/next";
import type { Ranking } from "@/core/bringup/rank";
import { type Search, type Weighed, weighed } from "@/core/bringup/search";
import type { BringUp } from "@/core/bringup/types";
import type { Figures } from "@/core/figures/figures";

/** Readings after the one that first showed something, at most. */
export const MOST_READINGS = 8;

/** How a search for a hidden fault went. */
export interface Found {
  /** Nothing of the whole bring-up was outside: the fault showed nowhere. */
  silent: boolean;
  first: boolean;
  /** Readings that were taken for the search's own sake. */
  extra: number;
  ranking: Ranking | null;
}

/**
 * Brings a machine up on the simulated bench as the stages say, with one fault hidden in it. The stage without power is gone through
 * to its end; with power it is stopped at the first reading outside, and the places the search names are read, at most eight in all.
 * Where the search then thinks the machine sound, the bring-up goes on with what is left of the eight.
 */
export function searchFor(figures: Figures, bringUp: BringUp, search: Search, fault: SingleFault, seed: number): Found {
  const bench = new SimulatedBench(figures, seed, { fault, size: tellingSize(figures, fault) });
  const all: Weighed[] = [];
  let extra = 0;
  let ranking: Ranking | null = null;
  /** True when an explanation stands that is not "sound". */
  const look = (): boolean => {
    ranking = search.rank(all);
    while (ranking && extra < MOST_READINGS) {
      const [best, second] = ranking.ranked.filter((each) => each.fault !== null);
      if (best && second && best.share > 0.5 && best.share > 20 * second.share) return true;
      const next = search.next(ranking, all);
      if (!next) break;
      const value = bench.read(next.at, next.instrument);
      all.push({
        seen: { at: next.at, value, meterU: meterOf(next.at, next.instrument, search.predictor.value(next.at, null)) },
        state: "noted",
      });
      extra++;
      ranking = search.rank(all);
    }
    return ranking?.ranked[0]?.fault !== null;
  };
  for (const stage of bringUp.stages) {
    let outside = false;
    for (const step of stage.steps) {
      if (!step.at) continue;
      const read = weighed(step, bench.read(step.at, step.instrument), null);
      if (!read) continue;
      all.push(read);
      if (read.state !== "outside") continue;
      outside = true;
      if (stage.id !== "inspect" && (look() || extra >= MOST_READINGS)) return verdict();
    }
    if (outside && stage.id === "inspect" && (look() || extra >= MOST_READINGS)) return verdict();
  }
  return verdict();

  function verdict(): Found {
    const best = ranking?.ranked.find((each) => each.fault !== null);
    return { silent: ranking === null, first: best?.fault === fault, extra, ranking };
  }
}
