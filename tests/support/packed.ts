import { composed } from "@/core/choosing/compose";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Load, Machine, Mission, Pack } from "@/core/machine/schema";
import { must, part } from "./small";

export interface Packed {
  chemistry?: NonNullable<Pack["chemistry"]>;
  series?: number;
  parallel?: number;
  cellAh?: number;
  ohm?: number;
  amps?: number;
  behaviour?: Load["behaviour"];
  leastV?: number;
  mostV?: number;
  cutoffV?: number;
  /** Charge kept back, share. */
  reserve?: number;
  ambientC?: number;
  health?: number;
  peukert?: number;
  mission?: Mission;
  over?: Partial<Pack>;
}

/** One pack whose every figure is known and one load on short wires: the smallest machine that can be run down. */
export function packed({
  chemistry = "lifepo4_energy",
  series = 8,
  parallel = 1,
  cellAh = 20,
  ohm = 0.02,
  amps = 10,
  behaviour = "current",
  leastV,
  mostV,
  cutoffV = 0,
  reserve = 0,
  ambientC = 25,
  health,
  peukert = 1,
  mission,
  over = {},
}: Packed = {}): Machine {
  let machine = newMachine("Packed");
  machine = must(machine, { type: "setSettings", changes: { ambientC } });
  const made = composed({ chemistry, series, parallel, cellAh }, 25, 1);
  machine = part(machine, "pack", "pack", {
    ...made,
    internalOhm: typical(ohm),
    cutoffV: typical(cutoffV),
    lowCharge: typical(reserve),
    peukert: typical(peukert),
    ...(health === undefined ? {} : { health: typical(health) }),
    management: "inside",
    ...over,
  });
  machine = part(
    machine,
    "load",
    "load",
    {
      loadKind: "board",
      behaviour,
      nominalV: made.openCircuitV ?? typical(24),
      ...(leastV === undefined ? {} : { inputMinV: typical(leastV) }),
      ...(mostV === undefined ? {} : { inputMaxV: typical(mostV) }),
      cells: { m1: { state: "amps", amps: typical(amps) } },
    },
    { from: "pack.+", back: "pack.-", wire: { gauge: "8 AWG", lengthM: typical(0.1) } },
  );
  return mission ? must(machine, { type: "setMission", mission }) : machine;
}
