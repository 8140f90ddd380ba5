import { fuseOpening } from "../fuses/opening";
import type { FuseRef } from "../machine/schema";
import { fuseRow } from "../reference/fuses";

/** Whether the near fuse opens alone: assured by the gates, likely by the curves between them, or not. */
export const SELECTIVITIES = ["no", "likely", "assured"] as const;
/** Whether the fuse nearest to a short opens before those above it. */
export type Selectivity = (typeof SELECTIVITIES)[number];

/** Let-through of the near fuse as a share of what the far one melts at: above that it is aged (common practice). */
const MELT_SHARE = 0.75;

/**
 * A short drives `nearA` through the near fuse and `farA` through the one before it. Selective where the near one is sure
 * to be open before the far one may: by time, and where both are fast by the energy it lets through.
 */
export function selectivityAt(near: FuseRef, nearA: number, far: FuseRef, farA: number, hotC: number, coldC: number): Selectivity {
  let found: Selectivity = "no";
  for (const strict of [false, true]) {
    const open = fuseOpening(near, nearA, hotC, coldC, strict);
    const upstream = fuseOpening(far, farA, hotC, coldC, strict);
    if (!(open.maxS < upstream.minS)) return found;
    const melts = fuseRow(far.family, far.ratingA)?.meltA2s;
    const through = farA ** 2 * open.maxS;
    const bears = Math.max(farA ** 2 * upstream.minS, strict || melts === undefined ? 0 : melts);
    if (open.maxS < 0.1 && through > MELT_SHARE * bears) return found;
    found = strict ? "assured" : "likely";
  }
  return found;
}

/** Currents at which two fuses are held against each other, evenly on a logarithmic scale. */
const STEPS = 60;
/** From the current that opens a fuse in the end. */
const FROM = 1.35;

/** The same over every current from where the near fuse opens at all to the largest short, both carrying the same. */
export function selectivity(near: FuseRef, far: FuseRef, upToA: number, hotC: number, coldC: number): Selectivity {
  let worst: Selectivity = "assured";
  const from = near.ratingA * FROM;
  for (let k = 0; k <= STEPS; k++) {
    const amps = from * (Math.max(from, upToA) / from) ** (k / STEPS);
    const here = selectivityAt(near, amps, far, amps, hotC, coldC);
    if (SELECTIVITIES.indexOf(here) < SELECTIVITIES.indexOf(worst)) worst = here;
    if (worst === "no") break;
  }
  return worst;
}
