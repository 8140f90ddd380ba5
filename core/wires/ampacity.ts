import type { Settings, Wire } from "../machine/schema";
import { type Gauge, gaugeById, tableReference } from "../reference/gauges";
import { type Insulation, insulationById } from "../reference/insulation";
import { adiabaticC } from "./adiabatic";
import { balanceAt, temperatureAt, timeConstants, wireBody } from "./heat";
import { BOARD_MAX_C, PAD_ROW_A, TRACE_RISE_K, traceAmps, traceRise } from "./trace";

/** A school of continuous wire current. */
export type AmpacitySchool = NonNullable<Settings["schools"]["ampacity"]>;

/** The chassis column states no ambient or insulation: read as an 80 °C wire in 25 °C air (common practice, no source). */
export const CHASSIS_MAX_C = 80;
/** Air the chassis wiring table holds for, °C. */
export const CHASSIS_REFERENCE_C = 25;
/** Building-wire and boat tables: 30 °C air; the boat table's insulation 105 °C. */
export const TABLE_REFERENCE_C = 30;
const BOAT_MAX_C = 105;
const BUILDING_COLUMNS = [60, 75, 90] as const;
/** The heat balance finds 1 to 17 % more than tables of the same conditions: handbook section 2d, derived. */
export const MODEL_MARGIN = 0.85;
/** Sleeve, loom or closed duct (common practice, no source). */
const SLEEVE = 0.8;

/**
 * Ambient factor √((Tmax − Ta)/(Tmax − Tref)); 0 at or above Tmax. Reproduces NEC Table 310.15(B)(1).
 * No school here credits cooler air: callers cap it at 1.
 */
export function ambientFactor(maxC: number, referenceC: number, ambientC: number): number {
  if (ambientC >= maxC) return 0;
  return Math.sqrt((maxC - ambientC) / (maxC - referenceC));
}

/** Factor for n loaded conductors that run together, for the building-wire table alone. Source: NEC 310.15(C)(1), from memory. */
export function bundleFactor(loaded: number): number {
  if (loaded <= 3) return 1;
  if (loaded <= 6) return 0.8;
  if (loaded <= 9) return 0.7;
  if (loaded <= 20) return 0.5;
  if (loaded <= 30) return 0.45;
  if (loaded <= 40) return 0.4;
  return 0.35;
}

/**
 * The same for boat practice. Source: ABYC E-11, from memory; stated there above 50 V, taken here at any voltage. Its column is
 * one for free air, a tenth below the heat balance: from ten wires on its factors leave more than the balance of a bundle does,
 * and the lower of both counts.
 */
export function boatBundleFactor(loaded: number): number {
  return Math.min(boatTableFactor(loaded), BOAT_ROOM * freeAirBundleFactor(loaded));
}

/** Heat balance over the boat column in its own conditions, at least (handbook section 2d: 1.05 to 1.16, derived). */
const BOAT_ROOM = 1.1;

function boatTableFactor(loaded: number): number {
  if (loaded <= 2) return 1;
  if (loaded <= 3) return 0.7;
  if (loaded <= 6) return 0.6;
  return loaded <= 24 ? 0.5 : 0.4;
}

/**
 * The same for figures of one wire alone in free air: heat balance and the chassis column. n^−0.34 follows the heat balance of
 * a bundle taken as one cylinder within 3 % from 2 to 40 loaded wires (handbook harness section 8, derived; held against a
 * balance of our own in tests/reference/bundles.test.ts). Factors of other tables were made for lower base values: the
 * spacecraft rule (29 − N)/28 on free-air values lets through up to 1.6 times the allowed rise.
 */
export function freeAirBundleFactor(loaded: number): number {
  return loaded <= 1 ? 1 : loaded ** -0.34;
}

/** Factor for wires in parallel that never share evenly: two × 0.9, three or more × 0.8 (common practice, no source). */
export function parallelFactor(parallel: number): number {
  return parallel <= 1 ? 1 : parallel === 2 ? 0.9 : 0.8;
}

/** What a wire may carry, why, and how fast it heats. */
export interface Ampacity {
  readonly school: AmpacitySchool | "board";
  /** Allowed continuous current of the whole run, A. */
  readonly limitA: number;
  /** Largest protection the school allows on it, A: the same, or less. */
  readonly fuseLimitA: number;
  readonly tableA: number;
  /** Gauge whose table figure was used; null where there is no table. */
  readonly reference: Gauge | null;
  readonly ambient: number;
  readonly bundle: number;
  readonly sleeve: number;
  readonly parallel: number;
  /** What the run may carry over what one wire alone in free air may, by heat balance: for neighbours, sleeve and parallel ones. */
  readonly share: number;
  readonly maxC: number;
  readonly airC: number;
  /** Time constants at the limit, s. */
  readonly tauS: number;
  readonly tauCopperS: number;
}

/** Air around a wire, °C: inside a closed box it is warmer. */
export function airAround(wire: Pick<Wire, "surroundings">, settings: Settings): number {
  return settings.ambientC + (wire.surroundings === "box" ? (settings.boxRiseK ?? 0) : 0);
}

/** What one conductor alone in open air may carry under a school, before bundle, sleeve and parallel; null: not in the table. */
interface Single {
  tableA: number;
  reference: Gauge | null;
  ambient: number;
  maxC: number;
  fuseLimitA: number;
}

function chassis(gauge: Gauge, insulation: Insulation, airC: number): Single | null {
  const reference = tableReference(gauge, "chassisA");
  if (!reference || reference.chassisA === null) return null;
  const maxC = Math.min(CHASSIS_MAX_C, insulation.maxC);
  const byInsulation = Math.sqrt((maxC - CHASSIS_REFERENCE_C) / (CHASSIS_MAX_C - CHASSIS_REFERENCE_C));
  const ambient = byInsulation * Math.min(1, ambientFactor(maxC, CHASSIS_REFERENCE_C, airC));
  return { tableA: reference.chassisA, reference, ambient, maxC, fuseLimitA: Number.POSITIVE_INFINITY };
}

function boat(gauge: Gauge, insulation: Insulation, airC: number): Single | null {
  const reference = tableReference(gauge, "boatA");
  if (!reference || reference.boatA === null) return null;
  const maxC = Math.min(BOAT_MAX_C, insulation.maxC);
  const byInsulation = Math.sqrt((maxC - TABLE_REFERENCE_C) / (BOAT_MAX_C - TABLE_REFERENCE_C));
  const ambient = byInsulation * Math.min(1, ambientFactor(maxC, TABLE_REFERENCE_C, airC));
  return { tableA: reference.boatA, reference, ambient, maxC, fuseLimitA: Number.POSITIVE_INFINITY };
}

/** The column of the insulation; thin sizes stand only in the 90 °C one, lowered for what theirs bears. */
function building(gauge: Gauge, insulation: Insulation, airC: number): Single | null {
  const reference = tableReference(gauge, "buildingA");
  const amps = reference?.buildingA;
  if (!reference || !amps) return null;
  const own = BUILDING_COLUMNS.findLastIndex((column) => column <= insulation.maxC);
  const at = own >= 0 && amps[own] !== null ? own : amps.findIndex((value) => value !== null);
  const tableA = amps[at];
  if (tableA === null || tableA === undefined) return null;
  const columnC = BUILDING_COLUMNS[at] as number;
  const maxC = Math.min(columnC, insulation.maxC);
  const byInsulation = Math.sqrt(Math.max(0, maxC - TABLE_REFERENCE_C) / (columnC - TABLE_REFERENCE_C));
  const ambient = byInsulation * Math.min(1, ambientFactor(maxC, TABLE_REFERENCE_C, airC));
  return { tableA, reference, ambient, maxC, fuseLimitA: reference.buildingFuseA ?? Number.POSITIVE_INFINITY };
}

function heatBalance(gauge: Gauge, insulation: Insulation, airC: number): Single {
  const amps = balanceAt(wireBody(gauge, insulation), insulation.maxC, airC)?.amps ?? 0;
  return { tableA: amps, reference: null, ambient: MODEL_MARGIN, maxC: insulation.maxC, fuseLimitA: Number.POSITIVE_INFINITY };
}

const SCHOOLS = {
  chassis: { single: chassis, bundle: freeAirBundleFactor },
  boat: { single: boat, bundle: boatBundleFactor },
  building: { single: building, bundle: bundleFactor },
  "heat balance": { single: heatBalance, bundle: freeAirBundleFactor },
} as const satisfies Record<
  AmpacitySchool,
  { single: (gauge: Gauge, insulation: Insulation, airC: number) => Single | null; bundle: (loaded: number) => number }
>;

interface Alone {
  school: AmpacitySchool;
  airC: number;
  single: Single | null;
  tauS: number;
  tauCopperS: number;
}
/** Every size is asked for again and again while a ladder or a whole machine is sized. */
const known = new Map<Gauge, Map<Insulation, Alone[]>>();
/** Airs and schools kept of one size and insulation: a builder tries a few. */
const KEPT = 12;

function alone(school: AmpacitySchool, gauge: Gauge, insulation: Insulation, airC: number): Alone {
  const ofGauge = known.get(gauge) ?? new Map<Insulation, Alone[]>();
  const list = ofGauge.get(insulation) ?? [];
  for (const each of list) if (each.school === school && each.airC === airC) return each;
  const single = SCHOOLS[school].single(gauge, insulation, airC);
  const made = { school, airC, single, ...timeConstants(wireBody(gauge, insulation), single?.maxC ?? insulation.maxC, airC) };
  if (list.length >= KEPT) list.length = 0;
  list.push(made);
  known.set(gauge, ofGauge.set(insulation, list));
  return made;
}

/** Continuous current of a run under a school, with the air around it, what runs beside it, sleeve and parallel conductors. */
export function wireAmpacity(
  school: AmpacitySchool,
  gauge: Gauge,
  insulation: Insulation,
  airC: number,
  bundle: number,
  parallel: number,
  sleeved = false,
): Ampacity | null {
  const { single, tauS, tauCopperS } = alone(school, gauge, insulation, airC);
  if (!single) return null;
  const group = SCHOOLS[school].bundle(bundle);
  const shared = parallelFactor(parallel) * parallel;
  const sleeve = sleeved ? SLEEVE : 1;
  const limitA = single.tableA * single.ambient * group * sleeve * shared;
  return {
    school,
    limitA,
    fuseLimitA: Math.min(limitA, single.fuseLimitA * parallel),
    tableA: single.tableA,
    reference: single.reference,
    ambient: single.ambient,
    bundle: group,
    sleeve,
    parallel: shared,
    share: freeAirBundleFactor(bundle) * sleeve * shared,
    maxC: single.maxC,
    airC,
    tauS,
    tauCopperS,
  };
}

/** Copper of a board: a small body that follows its current within seconds (common practice, no source). */
const BOARD_TAU_S = 5;

function boardAmpacity(board: NonNullable<Wire["board"]>, airC: number, parallel: number): Ampacity {
  const riseK = Math.max(0, Math.min(TRACE_RISE_K, BOARD_MAX_C - airC));
  const one = board.kind === "pads" ? (riseK > 0 ? PAD_ROW_A : 0) : riseK > 0 ? traceAmps(traceOf(board), riseK) : 0;
  const limitA = one * parallel;
  const whole = { bundle: 1, sleeve: 1, share: parallel, ambient: 1, reference: null, tauS: BOARD_TAU_S, tauCopperS: BOARD_TAU_S };
  return { school: "board", limitA, fuseLimitA: limitA, tableA: one, parallel, maxC: airC + riseK, airC, ...whole };
}

/** A board's trace as its resistance and heating need it. */
export function traceOf(board: Extract<NonNullable<Wire["board"]>, { kind: "trace" }>) {
  return { widthMm: board.widthMm.value, copperUm: board.copperUm.value, outside: board.layer === "outside" };
}

/**
 * What a wire of a machine may carry under the machine's school; null while its size is unknown. A size that the school's table
 * does not reach is judged by heat balance, so that it is not passed over; `isOutsideTable` tells.
 */
export function ampacityOf(wire: Wire, settings: Settings): Ampacity | null {
  if (wire.board) return boardAmpacity(wire.board, airAround(wire, settings), wire.parallel);
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  if (!gauge) return null;
  return (
    sizeAmpacity(gauge, wire, settings) ??
    sizeAmpacity(gauge, wire, { ...settings, schools: { ...settings.schools, ampacity: "heat balance" } })
  );
}

/** Whether a wire's size is beyond the table of the machine's school. */
export function isOutsideTable(ampacity: Ampacity, settings: Settings): boolean {
  return ampacity.school !== "board" && ampacity.school !== (settings.schools.ampacity ?? "chassis");
}

/** The same if it were of another size, with everything else about it unchanged. */
export function sizeAmpacity(gauge: Gauge, wire: Wire, settings: Settings): Ampacity | null {
  const insulation = insulationById(wire.insulation);
  if (!insulation) return null;
  const school = settings.schools.ampacity ?? "chassis";
  const bundle = wire.bundle ?? settings.bundle;
  return wireAmpacity(school, gauge, insulation, airAround(wire, settings), bundle, wire.parallel, wire.surroundings === "sleeve");
}

/**
 * Conductor temperature in °C at a steady current: the heat balance, under every school, up to its limit with the reserve, beyond
 * it without and never cooler than at the limit. A school's number says what it allows, not how hot the wire gets. Copper of a
 * board: its rise goes with the square of current. Infinite where copper would melt before it settles.
 */
export function settledTemperature(wire: Wire, ampacity: Ampacity, amps: number): number {
  const { limitA, airC, maxC, share } = ampacity;
  if (amps === 0) return airC;
  if (wire.board?.kind === "trace") return airC + traceRise(traceOf(wire.board), amps / wire.parallel);
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const insulation = insulationById(wire.insulation);
  if (!gauge || !insulation || wire.board) return limitA > 0 ? airC + (maxC - airC) * (amps / limitA) ** 2 : Number.POSITIVE_INFINITY;
  const body = wireBody(gauge, insulation);
  const reserved = (each: number) => temperatureAt(body, each / (share * MODEL_MARGIN), airC);
  if (amps <= limitA) return reserved(amps);
  return Math.max(limitA > 0 ? reserved(limitA) : airC, temperatureAt(body, amps / share, airC));
}

/**
 * Conductor temperature in °C after `seconds` of a current, having carried `preload` of its limit before: first order, and
 * never more than its copper reaches when it keeps all heat.
 */
export function temperatureAfter(wire: Wire, ampacity: Ampacity, amps: number, seconds: number, preload: number): number {
  const { limitA, airC, maxC, tauS, tauCopperS } = ampacity;
  const settles = settledTemperature(wire, ampacity, amps);
  if (!Number.isFinite(seconds)) return settles;
  const m = limitA > 0 ? amps / limitA : Number.POSITIVE_INFINITY;
  const kept = Math.exp(-seconds / (m <= 2 ? tauS : tauCopperS));
  const before = (maxC - airC) * Math.min(1, preload) ** 2;
  // Where copper would melt before it settles its rise is taken on from what its limit tells.
  const rise = Number.isFinite(settles) ? settles - airC : (maxC - airC) * m ** 2;
  const firstOrder = airC + before * kept + rise * (1 - kept);
  const gauge = wire.gauge === undefined || wire.board ? undefined : gaugeById(wire.gauge);
  return gauge ? Math.min(firstOrder, adiabaticC(airC + before, amps, gauge.areaMm2 * wire.parallel, seconds)) : firstOrder;
}
