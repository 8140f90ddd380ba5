import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { part } from "./small";

/**
 * As a newcomer enters it: two 12 V blocks, four gearmotors on two drivers, a small regulator with a board, a volt meter and a
 * lamp nobody knows the draw of; not one wire has a size or a length. `sized`: what each wire has all the same.
 */
export function newcomer(sized: { gauge?: string; lengthM?: ReturnType<typeof f> } = {}): Machine {
  let machine = newMachine("Four-winch awning");
  const wire = { ...sized };
  machine = part(machine, "pack", "pack", {
    openCircuitV: f(25.6),
    fullV: f(28.8),
    lowV: f(24.2),
    internalOhm: f(0.012),
    continuousA: f(60),
    peakA: f(200),
    chemistry: "lead_agm",
    series: 12,
    blocks: 2,
    capacityAh: f(33),
  });
  machine = part(machine, "fuse", "main", { fuse: { family: "strip_m5_58v", ratingA: 80 } }, { from: "pack.+", wire });
  machine = part(machine, "switch", "switch", { ratedA: f(100), breakA: f(100), breakV: f(48) }, { from: "main.out", wire });
  machine = part(machine, "bar", "plus", { ratedA: f(150) }, { from: "switch.out", wire });
  machine = part(machine, "bar", "minus", { side: "negative", ratedA: f(150) }, { back: "pack.-", wire });
  for (const side of ["left", "right"]) {
    machine = part(
      machine,
      "driver",
      `drive-${side}`,
      { channels: 2, continuousA: f(30), peakA: f(60), inputMinV: f(7), inputMaxV: f(40), bridge: "mosfet" },
      { from: "plus", back: "minus", wire },
    );
    for (const n of [1, 2])
      machine = part(
        machine,
        "load",
        `winch-${side}-${n}`,
        {
          nominalV: f(24),
          levels: { idle: f(1), run: f(10), stall: f(45) },
          cells: { m1: { state: "run", percent: 70 } },
        },
        { from: `drive-${side}.${n}a`, back: `drive-${side}.${n}b`, wire },
      );
  }
  machine = part(
    machine,
    "converter",
    "buck",
    { outputV: f(5), ratedA: f(0.5), limitA: f(0.8), inputMinV: f(7), inputMaxV: f(40), quiescentA: f(0.01) },
    { from: "plus", back: "minus", wire },
  );
  for (const { id, behaviour, nominalV, inputV, amps, feed } of [
    { id: "brain", behaviour: "power", nominalV: 5, inputV: [4.75, 5.5], amps: 0.2, feed: { from: "buck.out+", back: "buck.out-" } },
    { id: "meter", behaviour: "current", nominalV: 24, inputV: [5, 60], amps: 0.02, feed: { from: "plus", back: "minus" } },
  ] as const)
    machine = part(
      machine,
      "load",
      id,
      {
        loadKind: "board",
        behaviour,
        nominalV: f(nominalV),
        inputMinV: f(inputV[0]),
        inputMaxV: f(inputV[1]),
        cells: { m1: { state: "amps", amps: f(amps) } },
      },
      { ...feed, wire },
    );
  return part(
    machine,
    "load",
    "lamp",
    { loadKind: "light", behaviour: "resistance", nominalV: f(24) },
    { from: "plus", back: "minus", wire },
  );
}
