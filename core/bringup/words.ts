import { type Rounding, say } from "../quantity/format";
import type { Dimension } from "../quantity/units";
import type { ReadQuantity } from "../reference/instruments";
import { passBand } from "./compare";
import type { Expect } from "./types";

/** What a reading is a quantity of. */
export const READ_DIMENSIONS: Readonly<Record<Exclude<ReadQuantity, "yes">, Dimension>> = {
  volts: "voltage",
  amps: "current",
  ohms: "resistance",
  celsius: "temperature",
  seconds: "time",
  rating: "current",
};

/** A reading as it is said; null is over range. */
export function readWords(quantity: ReadQuantity, value: number | null, rounding: Rounding = "nearest"): string {
  if (quantity === "yes") return value === 1 ? "yes" : "no";
  if (value === null) return "over range";
  if (quantity === "rating") return `${value}\u00a0A`;
  return say(value, READ_DIMENSIONS[quantity], rounding);
}

/** What is expected, for one line: the number apart from its bounds. */
export function expectWords(quantity: ReadQuantity, expect: Expect): { value: string; bounds: string } {
  switch (expect.kind) {
    case "band": {
      const { low, high } = passBand(expect.band);
      return {
        value: readWords(quantity, expect.band.value),
        bounds: `${readWords(quantity, low, "up")} to ${readWords(quantity, high, "down")}`,
      };
    }
    case "most":
      return {
        value: expect.usual === null ? `up to ${readWords(quantity, expect.limit, "down")}` : readWords(quantity, expect.usual),
        bounds: `at most ${readWords(quantity, expect.limit, "down")}`,
      };
    case "least":
      return {
        value: expect.open ? "no reading" : `from ${readWords(quantity, expect.limit, "up")}`,
        bounds: expect.open
          ? `over range, or at least ${readWords(quantity, expect.limit, "up")}`
          : `at least ${readWords(quantity, expect.limit, "up")}`,
      };
    case "exact":
      return { value: readWords(quantity, expect.value), bounds: "exactly" };
    case "yes":
      return { value: "yes", bounds: "" };
    case "ask":
      return { value: "not known", bounds: expect.missing };
  }
}
