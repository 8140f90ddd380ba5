import { formatQuantity } from "../quantity/format";
import { type Parsed, parseQuantity } from "../quantity/parse";
import type { ReadQuantity } from "../reference/instruments";
import type { Expect } from "./types";
import { READ_DIMENSIONS } from "./words";

/** The unit a bare number is taken in: that of what is expected, as a meter on the right range shows it. */
export function readUnit(quantity: ReadQuantity, expect: Expect): string {
  if (quantity === "yes") return "";
  const value = expect.kind === "band" ? expect.band.value : expect.kind === "exact" ? expect.value : null;
  if (quantity === "rating") return "A";
  if (quantity === "ohms" && expect.kind !== "band") return "Ω";
  const { unit } = formatQuantity(value ?? 1, READ_DIMENSIONS[quantity]);
  return unit;
}

const NUMBER_ALONE = /^[−+-]?[\d.,]+(e[+-]?\d+)?$/i;
const OVER_RANGE = /^(ol|o\.l\.?|over|over range|open|∞|inf)$/i;

/**
 * A reading as people write it off a meter: "25.12", "3.7 mV", "OL". A bare number is in `unit`; null is over range, which only
 * resistances can be.
 */
export function parseReading(
  text: string,
  quantity: Exclude<ReadQuantity, "yes">,
  unit: string,
): { ok: true; value: number | null } | Exclude<Parsed, { ok: true }> {
  const trimmed = text.trim();
  if (quantity === "ohms" && OVER_RANGE.test(trimmed)) return { ok: true, value: null };
  const whole = NUMBER_ALONE.test(trimmed) && unit !== "" ? `${trimmed} ${unit}` : trimmed;
  const dimension = READ_DIMENSIONS[quantity];
  const signed = quantity === "volts" || quantity === "amps";
  return parseQuantity(whole, dimension, signed ? { min: -2000 } : {});
}
