import { describe, expect, it } from "vitest";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { buildCircuit } from "@/core/network/build";
import { ModeSolver } from "@/core/network/solve";
import { buildTopology, openKey } from "@/core/network/topology";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "../support/generate";
import { compareWithNgspice } from "../support/oracle";
import { seeds } from "../support/seeds";
import { must, part } from "../support/small";

describe("operating point against ngspice", () => {
  it.each(EXAMPLES.map(({ key, make }) => [key, make] as const))("agrees on %s in every mode, planned and low", (_key, make) => {
    const machine = make();
    machine.modes.forEach((mode, m) => {
      for (const charge of ["planned", "low"] as const) {
        const { volts, amps } = compareWithNgspice(machine, m, charge);
        expect(volts, mode.name).toBeLessThan(1e-4);
        expect(amps, mode.name).toBeLessThan(1e-4);
      }
    });
  });

  for (const batch of seeds(0, 7)) {
    it(`agrees on 26 random machines, batch ${batch + 1}`, () => {
      for (let k = 0; k < 26; k++) {
        const seed = batch * 100 + k;
        const machine = generateMachine({ parts: 12 + ((seed * 7) % 60), seed, meshed: k % 2 === 0, converters: k % 5 !== 4 });
        const { volts, amps } = compareWithNgspice(machine, k % 3, k % 4 === 0 ? "low" : "planned");
        expect(volts, `seed ${seed}`).toBeLessThan(1e-4);
        expect(amps, `seed ${seed}`).toBeLessThan(1e-4);
      }
    });
  }

  for (const batch of seeds(0, 2)) {
    it(`agrees on 26 random machines whose drivers chop, limit and feed their own logic, batch ${batch + 1}`, () => {
      let loops = 0;
      for (let k = 0; k < 26; k++) {
        const seed = 5000 + batch * 100 + k;
        const machine = generateMachine({ parts: 12 + ((seed * 7) % 50), seed, meshed: k % 2 === 0, driven: true });
        expect(readMachine(machine), `seed ${seed}`).toMatchObject({ ok: true });
        loops += buildCircuit(machine).loads.filter(({ role }) => role === "loop").length;
        const { volts, amps } = compareWithNgspice(machine, k % 3, k % 4 === 0 ? "low" : "planned");
        expect(volts, `seed ${seed}`).toBeLessThan(1e-4);
        expect(amps, `seed ${seed}`).toBeLessThan(1e-4);
      }
      expect(loops).toBeGreaterThan(50);
    });
  }

  it("agrees on a charger, a battery and a load in every state of its limit, and on converters with losses", () => {
    const machine = limited();
    const told = machine.modes.map((_, m) => {
      const { volts, amps } = compareWithNgspice(machine, m, "planned");
      expect(volts, machine.modes[m]?.name).toBeLessThan(1e-4);
      expect(amps, machine.modes[m]?.name).toBeLessThan(1e-4);
      const circuit = buildCircuit(machine);
      const point = new ModeSolver(circuit, buildTopology(circuit, openKey(circuit, ""))).solve(m, "planned");
      return point.emfA[circuit.emfs.findIndex(({ id }) => id === "charger")] ?? 0;
    });
    expect(told[0]).toBeLessThan(8);
    expect(told[1]).toBeCloseTo(8, 9);
  });
});

/** A charger that holds 8 A beside a battery; bucks and a boost whose losses follow their load; modes light and heavy. */
function limited(): Machine {
  let machine = newMachine("Limited");
  machine = must(machine, { type: "addMode", name: "Heavy", lastsS: null });
  const [light = "", heavy = ""] = machine.modes.map(({ id }) => id);
  machine = part(machine, "supply", "charger", {
    outputV: typical(13.8),
    outputOhm: typical(0.02),
    make: "charger",
    overload: "constant current",
    limitA: typical(8),
  });
  machine = part(machine, "pack", "pack", { openCircuitV: typical(13.2), internalOhm: typical(0.05) });
  machine = part(machine, "bar", "plus", { side: "positive" }, { from: "charger.+", wire: { gauge: "10 AWG", lengthM: typical(0.4) } });
  machine = part(machine, "bar", "minus", { side: "negative" }, { back: "charger.-", wire: { gauge: "10 AWG", lengthM: typical(0.4) } });
  const run = { gauge: "10 AWG", lengthM: typical(0.6), parallel: 1, insulation: "pvc80" };
  for (const wire of [
    { role: "supply" as const, from: { part: "pack", terminal: "+" }, to: { part: "plus", terminal: "bar" } },
    { role: "return" as const, from: { part: "minus", terminal: "bar" }, to: { part: "pack", terminal: "-" } },
  ])
    machine = must(machine, { type: "addWire", wire: { ...wire, ...run } });
  const loss = { lossW: typical(0.2), lossV: typical(0.3), lossOhm: typical(0.04) };
  for (const [id, volts, over] of [
    ["buck", 5, { ...loss, lossAtV: typical(12) }],
    ["boost", 24, { ...loss, topology: "boost" as const, lossBasis: "in" as const, lossAtV: typical(12) }],
    ["linear", 9, { topology: "linear" as const }],
  ] as const) {
    machine = part(
      machine,
      "converter",
      id,
      { outputV: typical(volts), outputOhm: typical(0.01), ...over },
      { from: "plus", back: "minus", wire: { gauge: "14 AWG", lengthM: typical(0.5) } },
    );
    machine = part(
      machine,
      "load",
      `at-${id}`,
      {
        behaviour: "power",
        nominalV: typical(volts),
        cells: { [light]: { state: "amps", amps: typical(0.1) }, [heavy]: { state: "amps", amps: typical(2) } },
      },
      { from: `${id}.out+`, back: `${id}.out-`, wire: { gauge: "18 AWG", lengthM: typical(0.4) } },
    );
  }
  return machine;
}
