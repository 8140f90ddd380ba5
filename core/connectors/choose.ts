import type { WireEnd } from "../machine/schema";
import { CONNECTORS, type ConnectorRow } from "../reference/connectors";
import type { Gauge } from "../reference/gauges";
import { bearsFor, CONTACT_PEAK } from "../wires/brief";
import { type ContactRating, contactRating, isKeyed, wireFit } from "./contact";

/** What a connector has to do at one end of a wire. */
export interface EndNeed {
  /** For good, A. */
  amps: number;
  /** Currents that end, A, and after how many seconds. */
  brief: readonly { amps: number; seconds: number }[];
  volts: number;
  airC: number;
  gauge: Gauge;
  parallel: number;
}

/** Whether a family, fitted like this, satisfies a need. */
export function suits(row: ConnectorRow, end: WireEnd, need: EndNeed): boolean {
  if (row.maxV < need.volts || wireFit(row, need.gauge, need.parallel, end.perPole ?? 1) !== "fits") return false;
  const rating = contactRating(row, end, need.airC);
  if (rating === null) return true;
  return rating.limitA >= need.amps && need.brief.every(({ amps, seconds }) => connectorBearsA(row, rating, seconds) >= amps);
}

/**
 * What a connector bears for a time (null: continuously), A: its printed headline figure for the usual seconds, lowered as its
 * lasting one is, and at least what any contact bears for them.
 */
export function connectorBearsA(row: ConnectorRow, rating: ContactRating, seconds: number | null): number {
  const headline = row.contactA === null ? 1 : (row.printedA ?? row.contactA) / row.contactA;
  return bearsFor(seconds, rating.limitA, rating.limitA * Math.max(headline, CONTACT_PEAK));
}

/** Families that may stand in for one another: what is unplugged by hand stays so, and keeps its key. */
function alike(row: ConnectorRow, other: ConnectorRow): boolean {
  if (row.sort !== other.sort) return false;
  return row.sort !== "plug" || !isKeyed(row) || isKeyed(other);
}

/** Families that suit, the present one's kind only, small to large; headers and USB are not offered in place of power plugs. */
export function familiesThatSuit(present: ConnectorRow, end: WireEnd, need: EndNeed): ConnectorRow[] {
  return CONNECTORS.filter((row) => row !== present && alike(present, row) && !/^(usb|dsub|barrel|crimp254$)/.test(row.id))
    .filter((row) => suits(row, plainEnd(row.id, end), need))
    .sort((a, b) => (a.contactA ?? 0) - (b.contactA ?? 0));
}

/** The same end with another family: what was said of the old housing's contacts no longer holds. */
export function plainEnd(family: string, end: WireEnd): WireEnd {
  return { family, ...(end.coding ? { coding: end.coding } : {}), ...(end.live ? { live: end.live } : {}) };
}
