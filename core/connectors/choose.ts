import type { WireEnd } from "../machine/schema";
import { CONNECTORS, type ConnectorRow } from "../reference/connectors";
import type { Gauge } from "../reference/gauges";
import { contactRating, isKeyed, wireFit } from "./contact";

/** What a connector has to do at one end of a wire. */
export interface EndNeed {
  amps: number;
  /** Short-time current, A. */
  peakA: number;
  volts: number;
  airC: number;
  gauge: Gauge;
  parallel: number;
}

/** Whether a family, fitted like this, satisfies a need. */
export function suits(row: ConnectorRow, end: WireEnd, need: EndNeed): boolean {
  if (row.maxV < need.volts || wireFit(row, need.gauge, need.parallel, end.perPole ?? 1) !== "fits") return false;
  const rating = contactRating(row, end, need.airC);
  return rating === null || (rating.limitA >= need.amps && shortTimeA(row, end, need.airC) >= need.peakA);
}

/** What a connector bears for seconds: its printed headline figure, lowered as its lasting one is. */
export function shortTimeA(row: ConnectorRow, end: WireEnd, airC: number): number {
  const rating = contactRating(row, end, airC);
  if (!rating || row.contactA === null) return Number.POSITIVE_INFINITY;
  return rating.limitA * Math.max(1, (row.printedA ?? row.contactA) / row.contactA);
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
