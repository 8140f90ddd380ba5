import { type Chemistry, ocvCurve } from "../reference/chemistries";

/** Linear interpolation on rising x; beyond the ends the end values hold. */
function interpolate(points: readonly (readonly [number, number])[], x: number): number {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last) return Number.NaN;
  if (x <= first[0]) return first[1];
  if (x >= last[0]) return last[1];
  for (let i = 1; i < points.length; i++) {
    const [x1, y1] = points[i] as readonly [number, number];
    if (x > x1) continue;
    const [x0, y0] = points[i - 1] as readonly [number, number];
    return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
  }
  return last[1];
}

/** Rested open-circuit volts of one cell at a state of charge (0-1), 25 °C. Source: handbook table 1.2. */
export function ocvAt(chemistry: Chemistry, charge: number): number {
  return interpolate(ocvCurve(chemistry).points, charge);
}

/** State of charge (0-1) at which a rested cell shows `volts`; 0 or 1 beyond the table. Weak where the curve is flat. */
export function chargeAt(chemistry: Chemistry, volts: number): number {
  const turned = ocvCurve(chemistry).points.map(([charge, v]) => [v, charge] as const);
  return interpolate(turned, volts);
}

/** Resistance of one cell of `cellAh`, Ω at 25 °C and half charge: k / Ah, or fixed. Source: handbook table 1.3. */
export function cellOhm(chemistry: Chemistry, cellAh: number): number {
  return chemistry.kDc === null ? (chemistry.cellOhm ?? Number.NaN) : chemistry.kDc / 1000 / cellAh;
}

/** The least resistance of one cell, Ω: what limits the largest fault current. */
function cellFaultOhm(chemistry: Chemistry, cellAh: number): number {
  return chemistry.kFault === null ? (chemistry.cellFaultOhm ?? Number.NaN) : chemistry.kFault / 1000 / cellAh;
}

/** Most a full pack pushes into a dead short, A: rested volts over the least resistance of its cells, links left out. */
export function faultAmps(chemistry: Chemistry, series: number, parallel: number, cellAh: number): number {
  return (chemistry.restV * series) / packOhm(cellFaultOhm(chemistry, cellAh), series, parallel, 0);
}

/** Pack resistance, Ω: cells in series over strings in parallel, with links and management. */
export function packOhm(ofCell: number, series: number, parallel: number, linksOhm: number): number {
  return (ofCell * series) / parallel + linksOhm;
}

/** Lowest value a factor table is stretched to in deep cold. */
const LEAST_SHARE = 0.1;

/** Through 1 at 25 °C, then the values at 0 and −10 °C, on along the last slope below; warm brings nothing. */
function byTemperature(at0: number, atM10: number, celsius: number): number {
  if (celsius >= 25) return 1;
  if (celsius >= 0) return at0 + ((1 - at0) * celsius) / 25;
  return at0 + ((at0 - atM10) * celsius) / 10;
}

/** Share of the capacity left at a temperature, °C. Source: handbook table 1.4. */
export function capacityFactor(chemistry: Chemistry, celsius: number): number {
  return Math.max(LEAST_SHARE, byTemperature(chemistry.capacity0C, chemistry.capacityM10C, celsius));
}

/** Resistance against that at 25 °C. Source: handbook table 1.4. */
export function coldOhmFactor(chemistry: Chemistry, celsius: number): number {
  return byTemperature(chemistry.ohm0C, chemistry.ohmM10C, celsius);
}

/** Resistance against new for a pack that has `health` (share) of its capacity left: grows to the table's value at the end of life. */
export function agedOhmFactor(chemistry: Chemistry, health: number): number {
  if (chemistry.ageing >= 1) return 1;
  return 1 + ((chemistry.ohmAged - 1) * Math.max(0, 1 - health)) / (1 - chemistry.ageing);
}

/** Share of charge below which resistance rises, to twice when there is none left (typical, from memory). */
const NEARLY_EMPTY = 0.15;

/**
 * Resistance against that at half charge: alkaline cells climb all the way (1 + 2·(1 − charge)), the rest to twice below
 * 15 % (handbook 1.3: 1.5 to 2, common practice; the worse end is taken).
 */
export function chargeOhmFactor(chemistry: Chemistry, charge: number): number {
  if (chemistry.family === "alkaline") return 1 + 2 * (1 - charge);
  return charge >= NEARLY_EMPTY ? 1 : 1 + (NEARLY_EMPTY - Math.max(0, charge)) / NEARLY_EMPTY;
}

/** Lead-acid charge volts move by this much a kelvin and cell away from 25 °C (common practice, from memory). */
const LEAD_CHARGE_V_PER_K = -0.004;

/** Volts of a string of cells at the marks that matter; null where the chemistry has none. */
export interface PackVolts {
  chargeMaxV: number | null;
  chargeStdV: number | null;
  restV: number;
  nominalV: number;
  cutV: number;
  cutAbsV: number;
  /** The highest a part on the rail can see, cold charger included. */
  highestV: number;
}

/** Marks of `series` cells of a chemistry; `celsius` is the coldest a temperature-compensated charger may work at. */
export function packVolts(chemistry: Chemistry, series: number, celsius = 25): PackVolts {
  const cold = chemistry.family === "lead" ? Math.max(0, LEAD_CHARGE_V_PER_K * (celsius - 25)) : 0;
  const up = (cell: number | null) => (cell === null ? null : (cell + cold) * series);
  const chargeMaxV = up(chemistry.chargeMaxV);
  const restV = chemistry.restV * series;
  return {
    chargeMaxV,
    chargeStdV: up(chemistry.chargeStdV),
    restV,
    nominalV: chemistry.nominalV * series,
    cutV: chemistry.cutV * series,
    cutAbsV: chemistry.cutAbsV * series,
    highestV: Math.max(restV, chargeMaxV ?? 0),
  };
}

/**
 * Internal resistance from two readings, Ω: the fall in volts over the amps that caused it. Null when the loaded volts are
 * not below the unloaded ones or no current flowed.
 */
export function ohmFromReadings(unloadedV: number, loadedV: number, amps: number): number | null {
  const ohm = (unloadedV - loadedV) / amps;
  return amps > 0 && ohm > 0 && Number.isFinite(ohm) ? ohm : null;
}

/** Hours a battery gives `amps`: H·(C/(I·H))^k above the rated current, C/I below. Source: Peukert 1897; Linden, from memory. */
export function peukertHours(capacityAh: number, ratedH: number, k: number, amps: number): number {
  if (!(amps > 0)) return Number.POSITIVE_INFINITY;
  return amps * ratedH <= capacityAh ? capacityAh / amps : ratedH * (capacityAh / (amps * ratedH)) ** k;
}
