import gateRows from "./data/fuse-gates.json";
import rows from "./data/fuses.json";

/** One fuse of a family. Typical values, from memory of the named standards: the part's own sheet always wins. */
export interface FuseRow {
  readonly family: FuseFamilyId;
  readonly ratingA: number;
  readonly maxV: number;
  readonly breakingA: number;
  readonly coldMilliohm: number;
  readonly certainty: string;
}

/** An opening-time gate: at `multiple` × rating the fuse opens between `minS` and `maxS` (null: need not open). */
export interface FuseGate {
  readonly family: string;
  readonly multiple: number;
  readonly minS: number;
  readonly maxS: number | null;
  readonly source: string;
  readonly certainty: string;
}

export const FUSE_FAMILIES = {
  blade_mini_32v: { name: "blade, mini, 32 V", gates: "blade_iso8820_3", standard: "ISO 8820-3 type F", holderMilliohm: 2 },
  blade_mini_58v: { name: "blade, mini, 58 V", gates: "blade_iso8820_3", standard: "ISO 8820-3 type F", holderMilliohm: 2 },
  blade_regular_32v: { name: "blade, regular, 32 V", gates: "blade_iso8820_3", standard: "ISO 8820-3 type C", holderMilliohm: 2 },
  blade_regular_58v: { name: "blade, regular, 58 V", gates: "blade_iso8820_3", standard: "ISO 8820-3 type C", holderMilliohm: 2 },
  blade_maxi_32v: { name: "blade, maxi, 32 V", gates: "blade_maxi", standard: "ISO 8820-3 type E", holderMilliohm: 1 },
  blade_maxi_58v: { name: "blade, maxi, 58 V", gates: "blade_maxi", standard: "ISO 8820-3 type E", holderMilliohm: 1 },
  strip_m5_32v: { name: "bolt-down strip, M5, 32 V", gates: "strip_set_a", standard: "ISO 8820-5 SF 30", holderMilliohm: 0.2 },
  strip_m5_58v: { name: "bolt-down strip, M5, 58 V", gates: "strip_set_a", standard: "ISO 8820-5 SF 30", holderMilliohm: 0.2 },
  strip_m8_32v: { name: "bolt-down strip, M8, 32 V", gates: "strip_set_a", standard: "ISO 8820-5 SF 51", holderMilliohm: 0.2 },
  strip_m8_70v: { name: "bolt-down strip, M8, 70 V", gates: "strip_set_a", standard: "ISO 8820-5 SF 51", holderMilliohm: 0.2 },
  cube_single_bolt: {
    name: "single-bolt block on the battery stud, 58 V",
    gates: "cube_single_bolt",
    standard: "ISO 8820-6 style",
    holderMilliohm: 0.2,
  },
} as const satisfies Record<string, { name: string; gates: string; standard: string; holderMilliohm: number }>;

export type FuseFamilyId = keyof typeof FUSE_FAMILIES;
export const FUSE_FAMILY_IDS = Object.keys(FUSE_FAMILIES) as [FuseFamilyId, ...FuseFamilyId[]];

const ROWS = rows as readonly FuseRow[];
const GATES = gateRows as readonly FuseGate[];
const byKey = new Map(ROWS.map((row) => [`${row.family} ${row.ratingA}`, row]));
const gatesByFamily = new Map<string, FuseGate[]>();
for (const gate of GATES) gatesByFamily.set(gate.family, [...(gatesByFamily.get(gate.family) ?? []), gate]);

const RATINGS = new Map(
  FUSE_FAMILY_IDS.map((family) => [
    family,
    ROWS.filter((row) => row.family === family)
      .map((row) => row.ratingA)
      .sort((a, b) => a - b),
  ]),
);

const MAX_V = new Map(FUSE_FAMILY_IDS.map((family) => [family, ROWS.find((row) => row.family === family)?.maxV ?? 0]));

/** Highest DC voltage a family may break, V. */
export function familyMaxV(family: FuseFamilyId): number {
  return MAX_V.get(family) ?? 0;
}

export function fuseRow(family: FuseFamilyId, ratingA: number): FuseRow | undefined {
  return byKey.get(`${family} ${ratingA}`);
}

/** Ratings of a family in A, ascending. */
export function ratingsOf(family: FuseFamilyId): readonly number[] {
  return RATINGS.get(family) ?? [];
}

/** Gates of the family's standard, by rising multiple. */
export function gatesOf(family: FuseFamilyId): readonly FuseGate[] {
  return gatesByFamily.get(FUSE_FAMILIES[family].gates) ?? [];
}
