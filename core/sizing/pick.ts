import type { FuseRef, Settings, Wire } from "../machine/schema";
import { FUSE_FAMILY_IDS, type FuseFamilyId, familyMaxV, ratingsOf } from "../reference/fuses";
import { type Gauge, gaugeById, usualSizes } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { chassisAmpacity } from "../wires/ampacity";

/** Continuous limit in A of a wire if it were of this size, with everything else about it unchanged. */
export function limitAt(gauge: Gauge, wire: Wire, settings: Settings): number {
  const insulation = insulationById(wire.insulation);
  if (!insulation) return 0;
  return chassisAmpacity(gauge, insulation.maxC, settings.ambientC, wire.bundle ?? settings.bundle, wire.parallel)?.limitA ?? 0;
}

/** The thinnest usual size, in the system the wire already uses, that satisfies `fits`; null when none does. */
export function thinnest(wire: Wire, fits: (gauge: Gauge) => boolean): Gauge | null {
  const system = (wire.gauge === undefined ? undefined : gaugeById(wire.gauge))?.system ?? "awg";
  return usualSizes(system).find(fits) ?? null;
}

/** Families usual for a new fuse, before the rest. */
const USUAL_FIRST: readonly FuseFamilyId[] = ["blade_regular_32v", "blade_regular_58v", ...FUSE_FAMILY_IDS];

/** Families that may replace one another for a bus of `maxV`, the present one first. */
function* familiesFor(maxV: number, present: FuseFamilyId | null): Generator<FuseFamilyId> {
  if (present && familyMaxV(present) >= maxV) yield present;
  for (const family of present ? FUSE_FAMILY_IDS : USUAL_FIRST) if (family !== present && familyMaxV(family) >= maxV) yield family;
}

/** The smallest fuse between two currents that a bus of `maxV` allows; null when no family makes one. */
export function smallestFuse(minA: number, maxA: number, maxV: number, present: FuseFamilyId | null): FuseRef | null {
  for (const family of familiesFor(maxV, present)) {
    const ratingA = ratingsOf(family).find((rating) => rating >= minA && rating <= maxA);
    if (ratingA !== undefined) return { family, ratingA };
  }
  return null;
}

/** The largest fuse between two currents: protects the wire and leaves the load the most room. */
export function largestFuse(minA: number, maxA: number, maxV: number, present: FuseFamilyId | null): FuseRef | null {
  for (const family of familiesFor(maxV, present)) {
    const ratingA = ratingsOf(family).findLast((rating) => rating >= minA && rating <= maxA);
    if (ratingA !== undefined) return { family, ratingA };
  }
  return null;
}
