import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Load, Machine, Signal, Wire } from "@/core/machine/schema";
import { at, must, part } from "./small";

const run = (gauge: string, metres: number) => ({ gauge, lengthM: typical(metres) });

/**
 * A pack with a fuse, plus and minus bars, a second minus bar by a link, a driver with its motor on the second one, and two
 * boards on the first. Nothing is wrong with its returns.
 */
export function workshop(): Machine {
  let machine = newMachine("Workshop");
  machine.modes = [
    { id: "m1", name: "Idle", lastsS: null },
    { id: "m2", name: "Running", lastsS: null },
  ];
  machine = part(machine, "pack", "pack", { openCircuitV: typical(24), fullV: typical(28), internalOhm: typical(0.01) });
  machine = part(machine, "fuse", "main", { fuse: { family: "blade_maxi_32v", ratingA: 40 } }, { from: "pack.+", wire: run("6 AWG", 0.1) });
  machine = part(machine, "bar", "plus", { side: "positive" }, { from: "main.out", wire: run("6 AWG", 0.3) });
  machine = part(machine, "bar", "n1", { side: "negative" }, { back: "pack.-", wire: run("6 AWG", 0.3) });
  machine = part(machine, "bar", "n2", { side: "negative" }, { back: "n1", wire: run("6 AWG", 0.8) });
  machine = part(
    machine,
    "driver",
    "drive",
    { bridgeOhm: typical(0.01), inputMinV: typical(10), inputMaxV: typical(40) },
    { from: "plus", back: "n2", wire: { ...run("10 AWG", 1), fuse: { family: "blade_regular_32v", ratingA: 30 } } },
  );
  machine = part(
    machine,
    "load",
    "motor",
    { nominalV: typical(24), cells: { m1: { state: "off" }, m2: { state: "amps", amps: typical(20) } } },
    { from: "drive.1a", back: "drive.1b", wire: run("10 AWG", 0.5) },
  );
  return board(board(machine, "mind", "n1"), "sense", "n1", { loadKind: "sensor" });
}

/** A board of a quarter of an ampere, its return on `back`. */
export function board(machine: Machine, id: string, back: string | undefined, over: Partial<Load> = {}): Machine {
  const amps = { state: "amps" as const, amps: typical(0.25) };
  return part(
    machine,
    "load",
    id,
    {
      loadKind: "board",
      behaviour: "current",
      nominalV: typical(24),
      inputMinV: typical(9),
      inputMaxV: typical(30),
      cells: { m1: amps, m2: amps },
      ...over,
    },
    { from: "plus", ...(back ? { back } : {}), wire: { ...run("18 AWG", 0.5), fuse: { family: "blade_regular_32v", ratingA: 3 } } },
  );
}

export function link(machine: Machine, from: string, to: string, over: Partial<Signal> = {}): Machine {
  return must(machine, { type: "addSignal", signal: { from, to, kind: "logic", sender: "ttl5", receiver: "ttl5", ...over } });
}

/** Joins two grounds: a signal's own ground wire (of the last link), a return, a bond. */
export function join(
  machine: Machine,
  role: Wire["role"],
  from: string,
  to: string,
  gauge: string | undefined,
  over: Partial<Wire> = {},
): Machine {
  const signal = role === "signal" ? { signal: machine.signals?.at(-1)?.id } : {};
  return must(machine, {
    type: "addWire",
    wire: {
      role,
      from: at(from),
      to: at(to),
      parallel: 1,
      insulation: "pvc80",
      lengthM: typical(0.8),
      ...(gauge ? { gauge } : {}),
      ...signal,
      ...over,
    },
  });
}

/** The return of a part. */
export const backOf = (machine: Machine, id: string): Wire => {
  const wire = machine.wires.find(({ role, from }) => role === "return" && from.part === id);
  if (!wire) throw new Error(`${id} has no return`);
  return wire;
};

export const land = (machine: Machine, id: string, place: string): Machine =>
  must(machine, { type: "reland", wireId: backOf(machine, id).id, end: "to", at: at(place) });

/** Beside it a second, small pack with a board of its own; no minus of theirs meets the rest. */
export function withBrain(machine: Machine, wire: Partial<Wire>): Machine {
  const amps = { state: "amps" as const, amps: typical(0.2) };
  return part(
    part(machine, "pack", "small", { openCircuitV: typical(12), internalOhm: typical(0.05) }),
    "load",
    "brain",
    { loadKind: "board", nominalV: typical(12), cells: { m1: amps, m2: amps } },
    { from: "small.+", back: "small.-", wire: { gauge: "18 AWG", ...wire } },
  );
}
