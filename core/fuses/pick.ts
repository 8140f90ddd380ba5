import type { FuseRef, Settings, Wire } from "../machine/schema";
import { type FuseFamilyId, familyMaxV, ratingsOf, USUAL_FUSES } from "../reference/fuses";
import { type Gauge, gaugeById, usualSizes } from "../reference/gauges";
import { sizeAmpacity } from "../wires/ampacity";
import { wireMustBear } from "./rating";

/** Continuous limit in A of a wire if it were of this size, with everything else about it unchanged. */
export function limitAt(gauge: Gauge, wire: Wire, settings: Settings): number {
  return sizeAmpacity(gauge, wire, settings)?.limitA ?? 0;
}

/** Largest protection in A the school allows a wire of this size: less than its amps for some. */
export function fuseLimitAt(gauge: Gauge, wire: Wire, settings: Settings): number {
  return sizeAmpacity(gauge, wire, settings)?.fuseLimitA ?? 0;
}

/** What a wire must bear behind one amp of a family's rating. */
function bearsPerAmp(family: FuseFamilyId): number {
  return wireMustBear({ family, ratingA: 1 }, 23);
}

/** The thinnest usual size, in the system the wire already uses, that satisfies `fits`; null when none does. */
export function thinnest(wire: Wire, fits: (gauge: Gauge) => boolean): Gauge | null {
  // Copper of a board has a width, not a size.
  if (wire.board) return null;
  const system = (wire.gauge === undefined ? undefined : gaugeById(wire.gauge))?.system ?? "awg";
  return usualSizes(system).find(fits) ?? null;
}

/** Families usual for a new fuse, before the rest. */
const USUAL_FIRST: readonly FuseFamilyId[] = ["blade_regular_32v", "blade_regular_58v", ...USUAL_FUSES];

/** Families that may replace one another for a bus of `maxV`, the present one first. */
function* familiesFor(maxV: number, present: FuseFamilyId | null): Generator<FuseFamilyId> {
  if (present && familyMaxV(present) >= maxV) yield present;
  for (const family of present ? USUAL_FUSES : USUAL_FIRST) if (family !== present && familyMaxV(family) >= maxV) yield family;
}

/** The smallest fuse between two currents that a bus of `maxV` allows and that `serves`; null when no family makes one. */
export function smallestFuse(
  minA: number,
  maxA: number,
  maxV: number,
  present: FuseFamilyId | null,
  serves: (fuse: FuseRef) => boolean = () => true,
): FuseRef | null {
  for (const family of familiesFor(maxV, present)) {
    const ratingA = ratingsOf(family).find(
      (rating) => rating >= minA && rating * bearsPerAmp(family) <= maxA && serves({ family, ratingA: rating }),
    );
    if (ratingA !== undefined) return { family, ratingA };
  }
  return null;
}

/** The largest fuse between two currents: protects the wire and leaves the load the most room. */
export function largestFuse(minA: number, maxA: number, maxV: number, present: FuseFamilyId | null): FuseRef | null {
  for (const family of familiesFor(maxV, present)) {
    const ratingA = ratingsOf(family).findLast((rating) => rating >= minA && rating * bearsPerAmp(family) <= maxA);
    if (ratingA !== undefined) return { family, ratingA };
  }
  return null;
}
