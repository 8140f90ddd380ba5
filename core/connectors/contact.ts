import type { WireEnd } from "../machine/schema";
import type { ConnectorRow } from "../reference/connectors";
import type { Gauge } from "../reference/gauges";

/** Share of its current a contact keeps with `loaded` contacts of its housing loaded (typical, where no curve is printed). */
export function loadedFactor(loaded: number): number {
  if (loaded <= 2) return 1;
  if (loaded <= 6) return 0.9;
  if (loaded <= 12) return 0.8;
  return loaded <= 24 ? 0.67 : 0.5;
}

/** Hottest a common housing may get, °C (typical; some bear less, metal ones more). */
export const HOUSING_MAX_C = 105;

/** Factor for a hot place: √((T_limit − Ta)/ΔT_rated), never above 1; 0 where the air is as hot as the housing may be. */
export function hotFactor(riseK: number, airC: number): number {
  return Math.min(1, Math.sqrt(Math.max(0, HOUSING_MAX_C - airC) / riseK));
}

/** Contacts of one housing, or rings, never share evenly (handbook: n × 0.8). */
const SHARED = 0.8;

/** What one conductor's contacts may carry, A. */
export interface ContactRating {
  /** What one contact may carry continuously here, A, and all of this conductor's together. */
  readonly contactA: number;
  readonly limitA: number;
  readonly loaded: number;
  readonly byLoaded: number;
  readonly byHeat: number;
  readonly perPole: number;
}

/** Loaded contacts where nothing is said: both poles of a feed, all its contacts. */
export function loadedContacts(row: ConnectorRow, end: WireEnd): number {
  return end.loaded ?? Math.min(row.maxPoles, 2 * (end.perPole ?? 1));
}

/** What a connector lets a conductor carry continuously, A; null where the family has no current of its own (as the wire in it). */
export function contactRating(row: ConnectorRow, end: WireEnd, airC: number): ContactRating | null {
  if (row.contactA === null) return null;
  const loaded = loadedContacts(row, end);
  const perPole = end.perPole ?? 1;
  const byLoaded = loadedFactor(loaded);
  const all = loaded >= (row.fixedPoles ?? row.maxPoles) ? (row.allContactA ?? row.contactA) : Number.POSITIVE_INFINITY;
  const byHeat = hotFactor(row.riseK, airC);
  const contactA = Math.min(row.contactA * byLoaded, all) * byHeat;
  return { contactA, limitA: contactA * perPole * (perPole > 1 ? SHARED : 1), loaded, byLoaded, byHeat, perPole };
}

/** AWG size as a number: 1/0 is 0, 2/0 is −1. */
function awgNumber(text: string): number {
  return text.endsWith("/0") ? 1 - Number(text[0]) : Number(text);
}

/** Whether a wire goes into a contact. */
export type Fit = "fits" | "too thin" | "too thick";

/** Slack on areas of metric sizes that carry a standard's rounding. */
const AREA_SLACK = 1.02;

/**
 * Whether conductors go into a connector's barrels. Several in parallel with one contact share its barrel and count with
 * their areas together.
 */
export function wireFit(row: ConnectorRow, gauge: Gauge, parallel: number, perPole: number): Fit {
  const each = Math.max(1, parallel / perPole);
  if (each === 1 && gauge.awgN !== null) {
    if (gauge.awgN > awgNumber(row.awgThinnest)) return "too thin";
    return gauge.awgN < awgNumber(row.awgThickest) ? "too thick" : "fits";
  }
  const area = gauge.areaMm2 * each;
  if (area * AREA_SLACK < row.mm2Min) return "too thin";
  return area > row.mm2Max * AREA_SLACK ? "too thick" : "fits";
}

/** Whether the live half may show bare metal when it is unplugged: by the family, or by what was said of this one. */
export function showsPins(row: ConnectorRow, end: WireEnd): "no" | "yes" | "ask" {
  if (row.sort !== "plug") return "no";
  if (end.live === "recessed")
    return row.touchSafe === "yes" || row.touchSafe === "partly" || row.touchSafe.includes("if") || row.touchSafe.includes("only")
      ? "no"
      : "yes";
  if (end.live === "pins") return "yes";
  return row.touchSafe === "no" ? "yes" : "ask";
}

/** A key that is one: it goes in one way, and one coding does not go into another. */
export function isKeyed(row: ConnectorRow): boolean {
  return row.keyed.startsWith("yes");
}
