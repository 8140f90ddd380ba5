import { edited, type Mistake, type Sound } from "../oracle";
import { AMPS } from "./amps";
import { DRIVES } from "./drives";
import type { Kind } from "./support";
import { VOLTS } from "./volts";
import { WIRES } from "./wires";
import { WIRING } from "./wiring";

/** Every kind of mistake, each with the places of a machine it can be made at. */
export const KINDS: readonly Kind[] = [...WIRES, ...WIRING, ...VOLTS, ...AMPS, ...DRIVES];

/** Where a mistake of a kind can be made; made when it is asked for, and null where the edit is refused or nothing need be said of it. */
export interface Place {
  kind: string;
  mistake(): Mistake | null;
}

/** Every place of every kind in a machine that is in order. */
export function* placesIn(s: Sound): Generator<Place> {
  for (const { kind, puts } of KINDS) {
    for (const { place, command, least, most } of puts(s)) {
      const mistake = () => {
        const machine = "type" in command ? edited(s.machine, command) : command;
        const must = machine && (typeof least === "function" ? least(machine) : least);
        return machine && must ? { kind, place, machine, least: must, ...(most ? { most } : {}) } : null;
      };
      yield { kind, mistake };
    }
  }
}

/** Every mistake of every kind in a machine that is in order. */
export function* mistakesIn(s: Sound): Generator<Mistake> {
  for (const { mistake } of placesIn(s)) {
    const made = mistake();
    if (made) yield made;
  }
}
