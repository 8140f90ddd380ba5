import type { Build } from "../figures/build";
import { limitAt, smallestFuse } from "../fuses/pick";
import type { Command } from "../machine/commands";
import { guess } from "../machine/figure";
import { ASSUMED_M } from "../machine/length";
import type { Driver, Wire } from "../machine/schema";
import { setVolts } from "../machine/tree";
import { nodeAt } from "../network/circuit";
import { type Gauge, gaugeById } from "../reference/gauges";
import type { Remedy } from "./types";

/** Logic supplies are made to a tenth; below that inputs and gates are not sure to switch (usual absolute figures, from memory). */
export const LOGIC_LEAST = 0.9;

/** Usual for the few milliamps of a driver's logic (common practice, no source). */
const LOGIC_WIRE = "22 AWG";

/** A fused wire from a regulator that shares its minus and gives what the logic wants. */
export function feedLogic(figures: Build, driver: Driver): Remedy[] {
  const nominal = driver.logicV?.value ?? 5;
  const { circuit, wiring } = figures.solved;
  const ground = wiring.island[nodeAt(circuit, driver.id, "in-")];
  return figures.machine.parts
    .flatMap((part) => {
      const volts = part.kind === "converter" ? setVolts(part) : Number.NaN;
      const shares = part.kind === "converter" && wiring.island[nodeAt(circuit, part.id, "out-")] === ground;
      return shares && Math.abs(volts - nominal) <= (1 - LOGIC_LEAST) * nominal ? [part] : [];
    })
    .slice(0, 2)
    .flatMap((part): Remedy[] => {
      const wire: Omit<Wire, "id"> = {
        role: "supply",
        from: { part: part.id, terminal: "out+" },
        to: { part: driver.id, terminal: "5v" },
        gauge: LOGIC_WIRE,
        lengthM: guess(ASSUMED_M),
        parallel: 1,
        insulation: "pvc80",
      };
      const fuse = smallestFuse(
        driver.logicA?.value ?? 0,
        limitAt(gaugeById(LOGIC_WIRE) as Gauge, { ...wire, id: "w0" }, figures.machine.settings),
        nominal,
        null,
      );
      const command: Command = { type: "addWire", wire: { ...wire, ...(fuse ? { fuse } : {}) } };
      const board: Command = { type: "updatePart", id: driver.id, changes: { logic: "own input" } };
      return [
        {
          label: `Feed it from ${part.name}`,
          command:
            driver.logic === "own input"
              ? command
              : { type: "batch", label: `Feed the logic of ${driver.name}`, commands: [command, board] },
        },
      ];
    });
}
