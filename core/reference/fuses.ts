import gateRows from "./data/fuse-gates.json";
import rows from "./data/fuses.json";

/** One fuse or breaker of a family. Typical values, from memory of the named standards: the part's own sheet always wins. */
export interface FuseRow {
  readonly family: FuseFamilyId;
  readonly ratingA: number;
  /** Highest DC voltage it breaks, V; null: only its own sheet tells. */
  readonly maxV: number | null;
  /** Breaking capacity: pairs of V and A, by rising volts; empty: only its own sheet tells. */
  readonly breaking: readonly (readonly [number, number])[];
  readonly coldMilliohm: number | null;
  /** Name of its gate set; null: electronic, opens at once. */
  readonly gates: string | null;
  /** Melting I²t, A²s, typical ±50 %. */
  readonly meltA2s?: number;
  /** Most it lets through while it limits the current itself, A²s (UL 248-15, from memory): an upper bound. */
  readonly letThroughA2s?: number;
  /** Resettable: current that is sure to trip it, and the longest it takes at five times its hold current. */
  readonly tripA?: number;
  readonly trip5S?: number;
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

/** What melts, bends or switches in it, which says how heat around it changes its rating. */
export type AmbientModel = "zinc" | "tin" | "copper" | "bimetal" | "ptc" | "none";

interface FuseFamily {
  readonly name: string;
  readonly sort: "fuse" | "breaker" | "resettable" | "electronic";
  readonly standard: string;
  readonly holderMilliohm: number;
  readonly ambient: AmbientModel;
  /** Share of the rating it may carry continuously; null: the machine's school says. */
  readonly share: number | null;
  /** Current that is sure to open it in the end, times its rating (I₂ of IEC 60364-4-43). */
  readonly opensFrom: number;
}

const blade = (name: string, standard: string, holderMilliohm: number): FuseFamily => ({
  name,
  sort: "fuse",
  standard,
  holderMilliohm,
  ambient: "zinc",
  share: null,
  opensFrom: 1.35,
});
const cartridge = (name: string, standard: string, ambient: AmbientModel, opensFrom: number, share: number | null): FuseFamily => ({
  ...blade(name, standard, 3),
  ambient,
  opensFrom,
  share,
});
const breaker = (name: string, standard: string, ambient: AmbientModel, opensFrom: number): FuseFamily => ({
  ...blade(name, standard, 0.5),
  sort: "breaker",
  ambient,
  opensFrom,
  share: 0.8,
});
const resettable = (volts: number): FuseFamily => ({
  ...blade(`resettable, polymer, ${volts} V`, "UL 1434", 0.5),
  sort: "resettable",
  ambient: "ptc",
  opensFrom: 2.2,
  share: 1,
});
const electronic = (name: string, share: number): FuseFamily => ({
  ...blade(name, "UL 2367", 0),
  sort: "electronic",
  ambient: "none",
  opensFrom: 1,
  share,
});

/** Fuse families by id. */
export const FUSE_FAMILIES = {
  blade_mini_32v: blade("blade, mini, 32 V", "ISO 8820-3 type F", 2),
  blade_mini_58v: blade("blade, mini, 58 V", "ISO 8820-3 type F", 2),
  blade_regular_32v: blade("blade, regular, 32 V", "ISO 8820-3 type C", 2),
  blade_regular_58v: blade("blade, regular, 58 V", "ISO 8820-3 type C", 2),
  blade_maxi_32v: blade("blade, maxi, 32 V", "ISO 8820-3 type E", 1),
  blade_maxi_58v: blade("blade, maxi, 58 V", "ISO 8820-3 type E", 1),
  strip_m5_32v: blade("bolt-down strip, M5, 32 V", "ISO 8820-5 SF 30", 0.2),
  strip_m5_58v: blade("bolt-down strip, M5, 58 V", "ISO 8820-5 SF 30", 0.2),
  strip_m8_32v: blade("bolt-down strip, M8, 32 V", "ISO 8820-5 SF 51", 0.2),
  strip_m8_70v: blade("bolt-down strip, M8, 70 V", "ISO 8820-5 SF 51", 0.2),
  cube_single_bolt: blade("single-bolt block on the battery stud, 58 V", "ISO 8820-6 style", 0.2),
  class_t: { ...blade("high-interrupt block, class T, 125 V", "UL 248-15", 0.2), ambient: "copper" },
  cart_5x20_F_glass: cartridge("5×20 glass, fast (F)", "IEC 60127-2 sheet 2", "copper", 2.1, 0.9),
  cart_5x20_T_glass: cartridge("5×20 glass, time-lag (T)", "IEC 60127-2 sheet 3", "tin", 2.1, 0.9),
  cart_5x20_F_ceramic: cartridge("5×20 ceramic, fast (F)", "IEC 60127-2 sheet 1", "copper", 2.1, 0.9),
  cart_5x20_T_ceramic: cartridge("5×20 ceramic, time-lag (T)", "IEC 60127-2 sheet 5", "tin", 2.1, 0.9),
  cart_6x32_fast: cartridge("6.3×32, fast", "UL 248-14", "copper", 1.35, null),
  cart_6x32_slow: cartridge("6.3×32, time-delay", "UL 248-14", "tin", 1.35, null),
  ptc_radial_16v: resettable(16),
  ptc_radial_30v: resettable(30),
  ptc_radial_60v: resettable(60),
  breaker_thermal_blade: breaker("thermal breaker, blade size", "SAE J553", "bimetal", 1.35),
  breaker_thermal_surface: breaker("thermal breaker, on studs", "SAE J553 type III", "bimetal", 1.35),
  breaker_thermal_pushbutton: breaker("thermal breaker, push button", "IEC 60934", "bimetal", 1.4),
  breaker_hydraulic_magnetic: breaker("hydraulic-magnetic breaker", "UL 489A, IEC 60934", "none", 1.25),
  breaker_mcb_dc_B: breaker("rail breaker, curve B, on DC", "IEC 60898-2", "bimetal", 1.45),
  breaker_mcb_dc_C: breaker("rail breaker, curve C, on DC", "IEC 60898-2", "bimetal", 1.45),
  efuse_internal: electronic("electronic fuse, one chip", 0.9),
  efuse_external_mosfet: electronic("electronic fuse with outside transistors", 0.8),
} as const satisfies Record<string, FuseFamily>;

/** A fuse family. */
export type FuseFamilyId = keyof typeof FUSE_FAMILIES;
/** Fuse families by id. */
export const FUSE_FAMILY_IDS = Object.keys(FUSE_FAMILIES) as [FuseFamilyId, ...FuseFamilyId[]];

/** Families one would take for a wire without being told: fuses of known DC rating, small to large. */
export const USUAL_FUSES: readonly FuseFamilyId[] = FUSE_FAMILY_IDS.filter(
  (id) => FUSE_FAMILIES[id].sort === "fuse" && !id.startsWith("cart_"),
);

const ROWS = rows as unknown as readonly FuseRow[];
const GATES = gateRows as readonly FuseGate[];
/** Asked for at every step of every short: no text is made to look one up. */
const byFamily = new Map<string, Map<number, FuseRow>>();
for (const row of ROWS) byFamily.set(row.family, (byFamily.get(row.family) ?? new Map<number, FuseRow>()).set(row.ratingA, row));
const gateSets = new Map<string, FuseGate[]>();
for (const gate of GATES) gateSets.set(gate.family, [...(gateSets.get(gate.family) ?? []), gate]);

/** An electronic fuse lets its rating through and opens within this above it, s (handbook: 1 to 100 µs). */
const ELECTRONIC: readonly FuseGate[] = [
  { family: "electronic", multiple: 1, minS: 1e-6, maxS: 1e-4, source: "handbook protection section 1 (from memory)", certainty: "low" },
];

const RATINGS = new Map(
  FUSE_FAMILY_IDS.map((family) => [
    family,
    ROWS.filter((row) => row.family === family)
      .map((row) => row.ratingA)
      .sort((a, b) => a - b),
  ]),
);

const MAX_V = new Map(FUSE_FAMILY_IDS.map((family) => [family, ROWS.find((row) => row.family === family)?.maxV ?? null]));

/** Highest DC voltage a family may break, V; 0 where only a part's own sheet tells. */
export function familyMaxV(family: FuseFamilyId): number {
  return MAX_V.get(family) ?? 0;
}

/** The row of a fuse; undefined where the family is not made in that rating. */
export function fuseRow(family: FuseFamilyId, ratingA: number): FuseRow | undefined {
  return byFamily.get(family)?.get(ratingA);
}

/** Ratings of a family in A, ascending. */
export function ratingsOf(family: FuseFamilyId): readonly number[] {
  return RATINGS.get(family) ?? [];
}

const ownGates = new Map<FuseRow, readonly FuseGate[]>();

/** A resettable part's own trip current and time make its gates sharper than those of its family. */
function gatesOfResettable(row: FuseRow, family: readonly FuseGate[]): readonly FuseGate[] {
  const [hold, five] = family;
  return hold && five ? [hold, { ...five, maxS: row.trip5S ?? five.maxS }] : family;
}

/** Where the energy let through bounds the time to this, the fuse is in the region where it limits, s. */
const LIMITING_S = 0.01;
/** Ratio of the currents at which gates are added beyond the last of the table. */
const STEP = 1.25;

/**
 * Gates of a current-limiting fuse stop at twice its rating. Energy never rises with current, so the last gate bounds what
 * follows along constant energy, down to the let-through of its class, which bounds the rest.
 */
function gatesOfLimiting(row: FuseRow, letThrough: number, family: readonly FuseGate[]): readonly FuseGate[] {
  const last = family.at(-1);
  if (!last || last.maxS === null) return family;
  const limits = Math.sqrt(letThrough / LIMITING_S) / row.ratingA;
  const made = [...family];
  const gate = (multiple: number, maxS: number) => made.push({ ...last, multiple, minS: 0, maxS, source: `${last.source}; derived` });
  for (let m = last.multiple * STEP; m < limits / STEP; m *= STEP) gate(m, last.maxS * (last.multiple / m) ** 2);
  if (limits > last.multiple) gate(limits, Math.min(LIMITING_S, last.maxS * (last.multiple / limits) ** 2));
  return made;
}

function special(row: FuseRow, family: readonly FuseGate[]): readonly FuseGate[] {
  if (row.letThroughA2s === undefined && FUSE_FAMILIES[row.family].sort !== "resettable") return family;
  const known = ownGates.get(row);
  if (known) return known;
  const made = row.letThroughA2s === undefined ? gatesOfResettable(row, family) : gatesOfLimiting(row, row.letThroughA2s, family);
  ownGates.set(row, made);
  return made;
}

/** Gates by rising multiple that say when this fuse opens; empty where the part is not in the table. */
export function gatesOf(family: FuseFamilyId, ratingA: number): readonly FuseGate[] {
  const row = fuseRow(family, ratingA);
  if (!row) return [];
  if (row.gates === null) return ELECTRONIC;
  return special(row, gateSets.get(row.gates) ?? []);
}

/** What it is sure to break at `volts`, A; null where only its own sheet tells or the volts are beyond it. */
export function breakingAt(row: FuseRow, volts: number): number | null {
  return row.breaking.find(([at]) => at >= volts)?.[1] ?? null;
}
