import type { FuseRef, Settings, Wire } from "../machine/schema";
import { type AmbientModel, FUSE_FAMILIES, type FuseFamilyId } from "../reference/fuses";
import { airAround } from "../wires/ampacity";

/** Melting points in °C behind the ambient models of fuses (handbook protection section 5, derived). */
const MELTS_C = { zinc: 419, tin: 232, copper: 1083 } as const;
/** Air in which fuses are rated, °C (23 to 25 by the standards, from memory). */
const REFERENCE_C = 25;

/** Bimetal: the rating is divided by this at the temperature, °C (handbook, from memory). */
const BIMETAL: readonly (readonly [number, number])[] = [
  [0, 0.92],
  [23, 1],
  [40, 1.08],
  [60, 1.24],
];

/** Resettable polymer: share of the hold current at T, 1 − (T − 23)/103, a fit to typical tables; never below this. */
const PTC_LEAST = 0.05;

function bimetal(ambientC: number): number {
  const last = BIMETAL.length - 2;
  const i = Math.max(
    0,
    Math.min(
      last,
      BIMETAL.findLastIndex(([at]) => at <= ambientC),
    ),
  );
  const [a, b] = [BIMETAL[i] as readonly [number, number], BIMETAL[i + 1] as readonly [number, number]];
  return 1 / Math.max(0.5, a[1] + ((b[1] - a[1]) * (ambientC - a[0])) / (b[0] - a[0]));
}

/** Factor on a rating at `ambientC` of the air at the fuse, as it is: above 1 in the cold. */
export function ambientRating(model: AmbientModel, ambientC: number): number {
  switch (model) {
    case "none":
      return 1;
    case "bimetal":
      return bimetal(ambientC);
    case "ptc":
      return Math.max(PTC_LEAST, 1 - (ambientC - 23) / 103);
    default: {
      const melts = MELTS_C[model];
      return Math.sqrt(Math.max(0, (melts - ambientC) / (melts - REFERENCE_C)));
    }
  }
}

/** The same for carrying a current: never above 1, a cold day is not planned on. */
export function carryingFactor(family: FuseFamilyId, ambientC: number): number {
  return Math.min(1, ambientRating(FUSE_FAMILIES[family].ambient, ambientC));
}

/** Share of its rating a fuse may carry continuously: the family's own, or the school's (common practice). */
export function loadShare(family: FuseFamilyId, school: Settings["schools"]["fuseLoadFactor"]): number {
  return FUSE_FAMILIES[family].share ?? (school === "75 %" ? 0.75 : 0.8);
}

/** Least rating in A for a continuous current: I / (f · k_T). */
export function leastRating(
  continuousA: number,
  family: FuseFamilyId,
  school: Settings["schools"]["fuseLoadFactor"],
  ambientC: number,
): number {
  return continuousA / (loadShare(family, school) * carryingFactor(family, ambientC));
}

/** The family meant where none is chosen yet. */
export const PLAIN_FUSE: FuseFamilyId = "blade_regular_32v";

/** Least rating in A for a current in a wire, in the air around that wire; null: the machine's own air. */
export function leastForWire(settings: Settings, wire: Wire | null, continuousA: number, family: FuseFamilyId = PLAIN_FUSE): number {
  return leastRating(continuousA, family, settings.schools.fuseLoadFactor, airAround(wire ?? {}, settings));
}

/** Overload a wire bears until its protection opens in the end, as a multiple of what it may carry (IEC 60364-4-43 cl. 433.1). */
const OVERLOAD = 1.45;

/**
 * What the wire behind a fuse must be able to carry, A: I_n where the fuse is sure to open by 1.45 × its rating, else
 * I₂/1.45. A resettable one holds more in the cold.
 */
export function wireMustBear(fuse: FuseRef, coldestC: number): number {
  const { opensFrom, ambient } = FUSE_FAMILIES[fuse.family];
  const cold = ambient === "ptc" ? Math.max(1, ambientRating(ambient, coldestC)) : 1;
  return fuse.ratingA * Math.max(1, (cold * opensFrom) / OVERLOAD);
}
