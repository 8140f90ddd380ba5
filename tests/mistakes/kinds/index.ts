import { edited, type Mistake, type Sound } from "../oracle";
import { AMPS } from "./amps";
import { DRIVES } from "./drives";
import type { Kind } from "./support";
import { VOLTS } from "./volts";
import { WIRES } from "./wires";
import { WIRING } from "./wiring";

/** Every kind of mistake, each with the places of a machine it can be made at. */
export const KINDS: readonly Kind[] = [...WIRES, ...WIRING, ...VOLTS, ...AMPS, ...DRIVES];

/** Every mistake of every kind in a machine that is in order. */
export function* mistakesIn(s: Sound): Generator<Mistake> {
  for (const { kind, puts } of KINDS) {
    for (const { place, command, least, most } of puts(s)) {
      const machine = "type" in command ? edited(s.machine, command) : command;
      if (!machine) continue;
      const must = typeof least === "function" ? least(machine) : least;
      if (must !== null) yield { kind, place, machine, least: must, ...(most ? { most } : {}) };
    }
  }
}
