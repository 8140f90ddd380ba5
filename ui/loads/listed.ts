import type { ListedLoad } from "@/core/exchange/loads-csv";
import { say } from "@/core/quantity/format";
import { LOAD_KIND_NAMES } from "../parts/KindFields";

/** How a list of loads may begin. */
export const LIST_EXAMPLE = "name, volts, amps, how many, stall\nGearmotor, 24, 13.4, 2, 98\nDeck light, 12 V, 800 mA, 4,";

/** A load of a list as it was understood. */
export function listedWords({ name, loadKind, count, volts, runA, stallA, startA, idleA, gauge, lengthM }: ListedLoad): string {
  const amps = (label: string, value: number | undefined) => (value === undefined ? [] : [`${say(value, "current")} ${label}`]);
  const draws = [...amps("running", runA), ...amps("stalled", stallA), ...amps("starting", startA), ...amps("idle", idleA)];
  return [
    `${count > 1 ? `${count} × ` : ""}${name}: ${LOAD_KIND_NAMES[loadKind]}, ${say(volts, "voltage")}`,
    draws.length > 0 ? draws.join(", ") : "amps not known yet",
    ...(gauge ? [gauge] : []),
    ...(lengthM ? [say(lengthM, "length")] : []),
  ].join(", ");
}
