import type { LoadKind } from "./load-kinds";

/**
 * Sizes that experienced builders fit. Source: handbook practice sections 4 and 5; common practice, no source, unless a row
 * says otherwise. They bound what is proposed; what is allowed is decided by the schools and the rules.
 */

/** Fuses that go with a conductor: `usualA` in a box or bundle, `mostA` for a short open run. */
interface LadderRow {
  readonly areaMm2: number;
  readonly usualA: number;
  readonly mostA: number;
}

/** Handbook practice section 4, by area. The two thinnest rows: common practice, no source. */
const LADDER: readonly LadderRow[] = [
  { areaMm2: 0.05, usualA: 0.5, mostA: 0.5 },
  { areaMm2: 0.08, usualA: 1, mostA: 1 },
  { areaMm2: 0.129, usualA: 2, mostA: 2 },
  { areaMm2: 0.205, usualA: 3, mostA: 3 },
  { areaMm2: 0.326, usualA: 5, mostA: 5 },
  { areaMm2: 0.518, usualA: 7.5, mostA: 10 },
  { areaMm2: 0.823, usualA: 10, mostA: 15 },
  { areaMm2: 1.307, usualA: 15, mostA: 20 },
  { areaMm2: 2.08, usualA: 20, mostA: 30 },
  { areaMm2: 3.307, usualA: 30, mostA: 40 },
  { areaMm2: 5.26, usualA: 40, mostA: 50 },
  { areaMm2: 8.36, usualA: 60, mostA: 70 },
  { areaMm2: 13.3, usualA: 80, mostA: 100 },
  { areaMm2: 21.15, usualA: 100, mostA: 125 },
  { areaMm2: 33.6, usualA: 150, mostA: 175 },
  { areaMm2: 53.4, usualA: 200, mostA: 225 },
  { areaMm2: 67.4, usualA: 250, mostA: 250 },
  { areaMm2: 107.2, usualA: 300, mostA: 350 },
];

/** Slack on areas that carry a standard's rounding. */
const SLACK = 1.005;

/** Place of a conductor on the ladder, by its area in mm²: the row that is not thicker. −1: thinner than all. */
function rungOf(areaMm2: number): number {
  return LADDER.findLastIndex((row) => row.areaMm2 <= areaMm2 * SLACK);
}

/** Largest fuse usual before a conductor of this area, A. Doubled conductors count one alone: each must bear the fuse. */
export function usualFuseA(areaMm2: number): number {
  return LADDER[rungOf(areaMm2)]?.usualA ?? 0;
}

/** Largest fuse practice puts before a short open run of this area, A. */
export function mostFuseA(areaMm2: number): number {
  return LADDER[rungOf(areaMm2)]?.mostA ?? 0;
}

/** Sizes between two areas, counted on the ladder; negative: `to` is thinner. */
export function ladderSteps(fromMm2: number, toMm2: number): number {
  return rungOf(toMm2) - rungOf(fromMm2);
}

/** Area of the thinnest conductor that usually follows a fuse of this rating, mm². */
export function usualAreaMm2(fuseA: number): number {
  return (LADDER.find(({ usualA }) => usualA >= fuseA) ?? (LADDER.at(-1) as LadderRow)).areaMm2;
}

/** Area that is `steps` sizes of the ladder above another, mm². */
export function thickerBy(areaMm2: number, steps: number): number {
  return (LADDER[Math.min(LADDER.length - 1, Math.max(0, rungOf(areaMm2)) + steps)] as LadderRow).areaMm2;
}

/** Thickest conductor a terminal takes, and what it is called. */
export interface TerminalClass {
  readonly name: string;
  readonly mostAwg: string;
}

/** A class that holds up to so many amps of the part's rating. */
interface Rated extends TerminalClass {
  readonly upToA: number;
}

const upTo = (upToA: number, mostAwg: string, name: string): Rated => ({ upToA, mostAwg, name });

/** Thickest conductor that fits without filing a lug or cutting strands, by the part's rating (handbook practice section 5, from memory). */
export const TERMINAL_CLASSES = {
  driver: [
    upTo(4, "16 AWG", "screw 2.5 to 3.5 mm"),
    upTo(15, "12 AWG", "screw 3.5 to 5 mm"),
    upTo(30, "10 AWG", "barrier or 7.6 mm screw"),
    upTo(80, "8 AWG", "screw of a 60 A driver"),
    upTo(160, "2 AWG", "M5 to M6 stud"),
    upTo(Number.POSITIVE_INFINITY, "2/0 AWG", "M8 stud"),
  ],
  converter: [
    upTo(10, "12 AWG", "5 mm screw"),
    upTo(25, "10 AWG", "7.6 mm screw"),
    upTo(60, "6 AWG", "M5 stud"),
    upTo(Number.POSITIVE_INFINITY, "2 AWG", "M6 stud"),
  ],
  supply: [
    upTo(5, "14 AWG", "5 mm screw"),
    upTo(25, "10 AWG", "7.6 mm screw"),
    upTo(50, "8 AWG", "9.5 mm screw"),
    upTo(Number.POSITIVE_INFINITY, "2 AWG", "M6 stud"),
  ],
  bar: [
    upTo(20, "10 AWG", "M4 screw"),
    upTo(60, "6 AWG", "M5 stud"),
    upTo(150, "2 AWG", "M6 stud"),
    upTo(Number.POSITIVE_INFINITY, "2/0 AWG", "M8 stud"),
  ],
  toggle: [upTo(Number.POSITIVE_INFINITY, "10 AWG", "6.3 mm tab or screw")],
  relay: [upTo(40, "10 AWG", "6.3 mm tab"), upTo(80, "8 AWG", "9.5 mm tab"), upTo(Number.POSITIVE_INFINITY, "2 AWG", "M6 stud")],
  contact: [upTo(20, "10 AWG", "M4 screw"), upTo(110, "2 AWG", "M6 stud"), upTo(Number.POSITIVE_INFINITY, "2/0 AWG", "M8 to M10 stud")],
  /** A fuse block's ways and other small fuses' holders. */
  holder: [
    upTo(40, "10 AWG", "blade holder"),
    upTo(80, "6 AWG", "maxi holder"),
    upTo(Number.POSITIVE_INFINITY, "2/0 AWG", "M8 strip holder"),
  ],
} as const satisfies Readonly<Record<string, readonly Rated[]>>;

/** The terminal of a part of this rating, A. */
export function terminalFor(kind: keyof typeof TERMINAL_CLASSES, ratedA: number): TerminalClass {
  const rows: readonly Rated[] = TERMINAL_CLASSES[kind];
  return rows.find((row) => row.upToA >= ratedA) ?? (rows.at(-1) as Rated);
}

/** Fuse families whose holder is not told by the rating alone (handbook practice section 5, from memory). */
export const HOLDERS: readonly (readonly [string, TerminalClass])[] = [
  ["blade_mini", { name: "mini blade holder", mostAwg: "12 AWG" }],
  ["blade_regular", { name: "blade holder", mostAwg: "10 AWG" }],
  ["blade_maxi", { name: "maxi holder", mostAwg: "6 AWG" }],
  ["strip_m5", { name: "M5 strip holder", mostAwg: "6 AWG" }],
  ["strip_m8", { name: "M8 strip holder", mostAwg: "2/0 AWG" }],
  ["cube", { name: "block on the battery post", mostAwg: "2/0 AWG" }],
  ["class_t", { name: "class T holder", mostAwg: "2/0 AWG" }],
  ["cart_", { name: "cartridge holder", mostAwg: "14 AWG" }],
  ["ptc_", { name: "resettable fuse on a board", mostAwg: "16 AWG" }],
];

/** Thickest conductor by a stud's size (handbook practice section 5, from memory). */
export const STUD_AWG: Readonly<Record<string, string>> = { M4: "10 AWG", M5: "6 AWG", M6: "2 AWG", M8: "2/0 AWG", M10: "4/0 AWG" };

/** Ends of loads: thickest conductor, and thinnest a hand crimps for this use (handbook practice sections 5 and 9). */
interface LoadEnds {
  readonly mostAwg: string;
  readonly leastAwg: string;
}

const power: LoadEnds = { mostAwg: "10 AWG", leastAwg: "20 AWG" };
const electronics: LoadEnds = { mostAwg: "16 AWG", leastAwg: "22 AWG" };

/** Ends of every kind of load. Motors and brushless drives of more amps have studs: see `ampsAtStuds`. */
export const LOAD_ENDS: Readonly<Record<LoadKind, LoadEnds>> = {
  motor: power,
  brushless: power,
  stepper: { mostAwg: "12 AWG", leastAwg: "20 AWG" },
  servo: { mostAwg: "12 AWG", leastAwg: "22 AWG" },
  actuator: { mostAwg: "12 AWG", leastAwg: "20 AWG" },
  pump: { mostAwg: "10 AWG", leastAwg: "18 AWG" },
  fan: power,
  coil: { mostAwg: "16 AWG", leastAwg: "22 AWG" },
  heater: power,
  light: { mostAwg: "12 AWG", leastAwg: "20 AWG" },
  sound: { mostAwg: "12 AWG", leastAwg: "18 AWG" },
  board: electronics,
  computer: { mostAwg: "14 AWG", leastAwg: "20 AWG" },
  sensor: { mostAwg: "18 AWG", leastAwg: "22 AWG" },
  radio: { mostAwg: "18 AWG", leastAwg: "22 AWG" },
  display: electronics,
  other: { mostAwg: "12 AWG", leastAwg: "22 AWG" },
};

/** Running current from which a motor, pump or heater comes with studs or heavy tails, A, by how much its terminal then takes. */
export const LOAD_STUDS: readonly { readonly fromA: number; readonly mostAwg: string }[] = [
  { fromA: 60, mostAwg: "1/0 AWG" },
  { fromA: 25, mostAwg: "4 AWG" },
  { fromA: 15, mostAwg: "6 AWG" },
  { fromA: 9, mostAwg: "10 AWG" },
];

/** Thinnest conductor of a feed that no load's kind decides, and of a lead to one small motor. */
export const LEAST_AWG = {
  feed: "22 AWG",
  driver: "20 AWG",
  trunk: "20 AWG",
  heavy: "18 AWG",
  lead: "24 AWG",
  moving: "20 AWG",
  boat: "16 AWG",
  boatSheathed: "18 AWG",
} as const;
