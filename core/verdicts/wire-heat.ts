import { MELTS_C } from "../faults/withstand";
import type { Wire } from "../machine/schema";
import { say } from "../quantity/format";
import { insulationById } from "../reference/insulation";
import { BOARD_MAX_C } from "../wires/trace";
import type { Severity } from "./types";

/** A wire up to this far above what its insulation bears ages; beyond, it is destroyed (docs/method.md, the scale). */
export const AGES_K = 20;

/** What a wire's insulation, or a board's laminate, bears continuously, °C. */
export function bearsC(wire: Wire): number {
  return wire.board ? BOARD_MAX_C : (insulationById(wire.insulation)?.maxC ?? 0);
}

/** What a conductor temperature that lasts does to a wire: inside what it bears it is only the builder's own limit that is passed. */
export function lastingSeverity(wire: Wire, hotC: number): Extract<Severity, "stop" | "fix"> {
  return hotC > bearsC(wire) + AGES_K ? "stop" : "fix";
}

/** "the conductor settles at 118 °C; its insulation bears 80 °C and is destroyed". */
export function heatWords(wire: Wire, hotC: number): string {
  const bears = bearsC(wire);
  if (hotC >= MELTS_C) return "it has no temperature at which it settles: it melts";
  const settles = `the conductor settles at ${say(hotC, "temperature", "up")}`;
  const what = wire.board ? "the board" : "its insulation";
  if (hotC <= bears) return `${settles}, which ${what} bears; your school allows it less`;
  return `${settles}; ${what} bears ${say(bears, "temperature")} and ${hotC > bears + AGES_K ? "is destroyed" : "ages quickly"}`;
}
