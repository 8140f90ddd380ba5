import type { Machine, Part, Wire } from "../machine/schema";
import { say } from "../quantity/format";

/** What stands where nobody told. */
export const NOT_KNOWN = "?";

/** "10 AWG", "2 × 10 AWG", "?". */
export function conductorText({ gauge, parallel }: Pick<Wire, "gauge" | "parallel">): string {
  const size = gauge ?? NOT_KNOWN;
  return parallel > 1 ? `${parallel} × ${size}` : size;
}

/** A length to cut or to buy: never shorter than it is. */
export function lengthText(wire: Pick<Wire, "lengthM">): string {
  return wire.lengthM ? say(wire.lengthM.value, "length", "up") : NOT_KNOWN;
}

/** A terminal by its part's name and its own, short: "Bar P1", "Pack +", "Paddle left driver 1a". */
export function terminalText(parts: ReadonlyMap<string, Part>, { part: id, terminal }: Wire["from"]): string {
  const part = parts.get(id);
  if (!part) return NOT_KNOWN;
  return part.kind === "bar" ? part.name : `${part.name} ${terminal.replace("-", "−")}`;
}

/** Parts of a machine by id. */
export function partsOf(machine: Machine): ReadonlyMap<string, Part> {
  return new Map(machine.parts.map((part) => [part.id, part]));
}
