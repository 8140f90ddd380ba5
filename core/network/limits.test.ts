import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { powerBalance } from "@/core/figures/figures";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Load, Machine, Supply } from "@/core/machine/schema";
import { bus } from "@/tests/support/bus";
import { beside, must, part } from "@/tests/support/small";

const figure = typical;

/** A supply and, where wanted, a battery on the same node, feeding one load. */
function together(supply: Partial<Supply>, load: { amps: number; behaviour: Load["behaviour"] }, battery = true): Machine {
  let machine = newMachine("Together");
  machine = part(machine, "supply", "supply", { outputV: figure(13.8), outputOhm: figure(0.02), ...supply });
  if (battery) machine = part(machine, "pack", "pack", { openCircuitV: figure(12.6), internalOhm: figure(0.04) });
  machine = part(
    machine,
    "load",
    "load",
    { behaviour: load.behaviour, nominalV: figure(12), cells: { m1: { state: "amps", amps: figure(load.amps) } } },
    { from: "supply.+", back: "supply.-", wire: { gauge: "10 AWG", lengthM: figure(0.2) } },
  );
  if (!battery) return machine;
  return beside(machine, "pack", "load.+", "load.-", { gauge: "10 AWG" });
}

function read(machine: Machine) {
  const { figures, analysis } = analyse(machine);
  const amps = (id: string) => analysis.parts[id]?.amps[0] ?? Number.NaN;
  return {
    figures,
    collapsed: analysis.modes[0]?.collapsed,
    supply: amps("supply"),
    pack: amps("pack"),
    load: amps("load"),
    volts: analysis.parts.load?.volts[0] ?? 0,
  };
}

describe("a source with limits in the network", () => {
  it("a charger holds its current and the battery gives the rest", () => {
    const { supply, pack, load, figures } = read(
      together({ make: "charger", overload: "constant current", limitA: figure(5) }, { amps: 20, behaviour: "current" }),
    );
    expect(supply).toBeCloseTo(5, 6);
    expect(load).toBeCloseTo(20, 6);
    expect(pack).toBeCloseTo(15, 6);
    expect(Math.abs(powerBalance(figures.solved, 0))).toBeLessThan(1e-6);
  });

  it("below its limit it holds its volts and charges the battery", () => {
    const { supply, pack } = read(together({ overload: "constant current", limitA: figure(30) }, { amps: 2, behaviour: "current" }));
    expect(pack).toBeLessThan(0);
    expect(supply).toBeCloseTo(2 - pack, 6);
    expect(supply).toBeLessThan(30);
  });

  it("a supply below the battery gives nothing, and takes nothing in", () => {
    const { supply, pack, load } = read(together({ outputV: figure(11) }, { amps: 4, behaviour: "current" }));
    expect(supply).toBe(0);
    expect(pack).toBeCloseTo(load, 6);
  });

  it("one that takes current back is pushed into", () => {
    expect(read(together({ outputV: figure(11), sinks: true }, { amps: 1, behaviour: "current" })).supply).toBeLessThan(-1);
  });

  it("an ideal diode keeps a battery from being charged", () => {
    const machine = together({}, { amps: 2, behaviour: "current" });
    const guarded = must(machine, { type: "updatePart", id: "pack", changes: { diode: true } });
    expect(read(machine).pack).toBeLessThan(-1);
    expect(read(guarded).pack).toBe(0);
  });

  it("alone and beyond its limit it lets the volts of a stalled motor fall to R·I", () => {
    const limited = together({ overload: "constant current", limitA: figure(3) }, { amps: 24, behaviour: "resistance" }, false);
    const { supply, volts } = read(limited);
    expect(supply).toBeCloseTo(3, 6);
    expect(volts).toBeCloseTo((3 * 12) / 24, 6);
  });

  it("a load that insists on more than it gives is no operating point", () => {
    const limited = (behaviour: "current" | "power") =>
      read(together({ overload: "constant current", limitA: figure(3) }, { amps: 24, behaviour }, false));
    expect(limited("current").collapsed).toBe(true);
    expect(limited("power").collapsed).toBe(true);
  });

  it("a hiccup type is solved as if it held, so that the verdict can say by how much it is asked too much", () => {
    const { supply, figures } = read(
      together({ overload: "hiccup", limitA: figure(3), ratedA: figure(3) }, { amps: 24, behaviour: "resistance" }, false),
    );
    expect(supply).toBeGreaterThan(20);
    expect(figures).toBeDefined();
  });

  it("outputs of one box share their minus, in whichever order they stand", () => {
    for (const order of [
      ["a", "b"],
      ["b", "a"],
    ]) {
      let machine = newMachine("Box");
      for (const id of order)
        machine = {
          ...machine,
          parts: [
            ...machine.parts,
            { id, name: id, kind: "supply" as const, outputV: figure(id === "a" ? 12 : 5), ...(id === "b" ? { box: "a" } : {}) },
          ],
        };
      machine = part(
        machine,
        "load",
        "load",
        { nominalV: figure(12), cells: { m1: { state: "amps", amps: figure(2) } } },
        { from: "a.+", back: "b.-", wire: { gauge: "14 AWG", lengthM: figure(0.3) } },
      );
      const { parts } = analyse(machine).analysis;
      expect(parts.load?.wiring).toBe("ok");
      expect(parts.a?.amps[0]).toBeCloseTo(2, 9);
      expect(parts.b?.amps[0]).toBeCloseTo(0, 9);
    }
  });
});

/** In this the search for a bus voltage goes down, V. */
const STEP_V = 0.005;

describe("sources with limits on one bus", () => {
  it("share as the one voltage says at which all that they give within their limits is what is drawn", () => {
    const found = { solved: 0, collapsed: 0, atLimit: 0 };
    for (let seed = 1; seed <= 300; seed++) {
      const { figures } = analyse(bus(seed));
      const { circuit, planned } = figures.solved;
      const point = planned[0];
      const ohmOf = (id: string) =>
        circuit.branches.reduce((sum, { ohm }, i) => {
          const wire = figures.machine.wires[i];
          return wire && (wire.from.part === id || wire.to.part === id) ? sum + ohm : sum;
        }, 0);
      const gives = circuit.emfs.map(({ id, volts, ohm, leastA, mostA }) => {
        const all = ohm + ohmOf(id);
        return (busV: number) => Math.min(mostA, Math.max(leastA, (volts - busV) / all));
      });
      const load = circuit.loads[0];
      const draws = (atV: number) => (load?.amps[0] ?? 0) + (load?.siemens[0] ?? 0) * atV + (load?.watts[0] ?? 0) / atV;
      const busV = (atV: number) => atV + draws(atV) * ohmOf("load");
      const excess = (atV: number) => gives.reduce((sum, give) => sum + give(busV(atV)), 0) - draws(atV);
      // From above down to where as much is given as is drawn: of two such voltages of a power load the upper is the stable one.
      let high = 20;
      while (high > 0 && !(excess(high - STEP_V) > 0)) high -= STEP_V;
      const solvable = high > 2 * STEP_V;
      expect(point?.status, `seed ${seed}`).toBe(solvable ? "solved" : "collapsed");
      found[solvable ? "solved" : "collapsed"]++;
      if (!solvable) continue;
      let low = high - STEP_V;
      for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (excess(middle) > 0) low = middle;
        else high = middle;
      }
      circuit.emfs.forEach(({ leastA, mostA }, i) => {
        const expected = gives[i]?.(busV(high)) ?? Number.NaN;
        if (expected === leastA || expected === mostA) found.atLimit++;
        expect(Math.abs((point?.emfA[i] ?? Number.NaN) - expected), `seed ${seed}, source ${i}`).toBeLessThan(1e-6);
      });
    }
    // The seeds are worth something: all three happen.
    expect(Math.min(...Object.values(found))).toBeGreaterThan(10);
  });
});

describe("flat batteries behind diodes", () => {
  it("do not pull down a supply that could carry a load of constant power alone", () => {
    for (const flat of [1, 2, 3]) {
      let machine = together({ outputV: figure(24), outputOhm: figure(0.05) }, { amps: 8, behaviour: "power" }, false);
      for (let i = 0; i < flat; i++) {
        const id = `flat${i}`;
        machine = part(machine, "pack", id, { openCircuitV: figure(1 + i / 10), internalOhm: figure(0.001), diode: true });
        machine = beside(machine, id, "load.+", "load.-", { gauge: "4 AWG", lengthM: figure(0.1) });
      }
      const { collapsed, supply, volts, figures } = read(machine);
      expect(collapsed, `${flat} flat`).toBe(false);
      expect(supply * volts).toBeCloseTo(8 * 12, 0);
      expect(Math.abs(powerBalance(figures.solved, 0))).toBeLessThan(1e-6);
    }
  });
});

describe("a converter with losses by load", () => {
  const rail = (changes: object): Machine => {
    let machine = newMachine("Converter");
    machine = part(machine, "supply", "supply", { outputV: figure(24), outputOhm: figure(0.001) });
    machine = part(
      machine,
      "converter",
      "converter",
      { outputV: figure(5), outputOhm: figure(1e-6), quiescentA: figure(0), ...changes },
      { from: "supply.+", back: "supply.-" },
    );
    return part(
      machine,
      "load",
      "load",
      { nominalV: figure(5), cells: { m1: { state: "amps", amps: figure(2) } } },
      { from: "converter.out+", back: "converter.out-" },
    );
  };
  const lossW = (machine: Machine) => analyse(machine).analysis.parts.converter?.lossW?.[0] ?? Number.NaN;
  const coefficients = { lossW: figure(0.2), lossV: figure(0.3), lossOhm: figure(0.05) };

  it("loses what its coefficients say, and more of it at a higher input", () => {
    expect(lossW(rail({ ...coefficients, lossAtV: figure(24) }))).toBeCloseTo(0.2 + 0.6 + 0.2, 2);
    // Twice the input it was measured at: twice the fixed loss and half of the proportional one.
    expect(lossW(rail({ ...coefficients, lossAtV: figure(12) }))).toBeCloseTo(0.4 + 0.3 + 0.6 + 0.2, 2);
  });

  it("falls back on its one efficiency when a coefficient is missing", () => {
    const { lossOhm: _gone, ...two } = coefficients;
    expect(lossW(rail({ ...two, efficiency: figure(0.8) }))).toBeCloseTo(10 / 0.8 - 10, 2);
  });

  it("a linear one passes its current through and burns the rest", () => {
    const machine = rail({ topology: "linear", quiescentA: figure(0.006) });
    const { converter } = analyse(machine).analysis.parts;
    expect(converter?.amps[0]).toBeCloseTo(2.006, 6);
    expect(lossW(machine)).toBeCloseTo(19 * 2 + 24 * 0.006, 1);
  });

  it("a boost whose input cannot carry its losses has no operating point", () => {
    const boost = {
      topology: "boost" as const,
      outputV: figure(48),
      lossW: figure(0.3),
      lossV: figure(0.5),
      lossOhm: figure(1.6),
      lossBasis: "in" as const,
    };
    expect(analyse(rail(boost)).analysis.modes[0]?.collapsed).toBe(true);
    expect(analyse(rail({ ...boost, lossOhm: figure(0.05) })).analysis.modes[0]?.collapsed).toBe(false);
  });
});
