import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { randomFrom } from "./random";
import { beside, part } from "./small";

/** Sources of all sorts on one pair of bars, with one load. */
export function bus(seed: number): Machine {
  const random = randomFrom(seed);
  const one = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
  let machine = newMachine("Bus");
  machine = part(machine, "bar", "plus", {});
  machine = part(machine, "bar", "minus", { side: "negative" });
  const sources = 1 + Math.floor(random() * 5);
  for (let i = 0; i < sources; i++) {
    const id = `s${i}`;
    const volts = f(random() < 0.4 ? one([12, 12.6, 13.8]) : 10 + 8 * random());
    const ohm = f(10 ** (-3 + 2 * random()));
    machine =
      random() < 0.4
        ? part(machine, "pack", id, { openCircuitV: volts, internalOhm: ohm, diode: random() < 0.5 })
        : part(machine, "supply", id, {
            outputV: volts,
            outputOhm: ohm,
            diode: random() < 0.3,
            sinks: random() < 0.3,
            ...(random() < 0.6 ? { overload: "constant current" as const, limitA: f(1 + 30 * random()) } : {}),
          });
    machine = beside(machine, id, "plus", "minus", { gauge: "10 AWG", lengthM: f(0.1) });
  }
  const amps = one([0.001, 0.05, 2, 20, 60, 150]) * (0.5 + random());
  const cells = { m1: { state: "amps" as const, amps: f(amps) } };
  return part(
    machine,
    "load",
    "load",
    { behaviour: one(["current", "resistance", "power"]), nominalV: f(12), cells },
    { from: "plus", back: "minus", wire: { gauge: "10 AWG", lengthM: f(0.1) } },
  );
}
