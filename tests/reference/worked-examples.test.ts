import { describe, expect, it } from "vitest";
import { solveMachine } from "@/core/figures/solved";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Machine, Wire } from "@/core/machine/schema";
import { nodeAt } from "@/core/network/circuit";
import { gaugeById } from "@/core/reference/gauges";
import { at, must, part } from "../support/small";

/**
 * Worked examples of the trade's handbooks on shared returns, ground loops and parallel conductors, done there by hand
 * from the copper formula (ASTM B258 diameters, IEC 60028 copper, solid, 20 °C), here by the network solver. Our AWG
 * design values hold 2 % for stranding, so lengths are scaled by it to put the handbook's ohms into the network.
 */
const STRANDING = 1.02;
const COLD = { conductorC: 20, ambientC: 20, jointOhm: 1e-5 };

/** A conductor of the handbook's resistance: `metres` of solid copper at 20 °C plus joints, less the model's own ends. */
function conductor(gauge: string, metres: number, jointsOhm = 0): Partial<Wire> {
  const ohmPerM = (gaugeById(gauge)?.r20OhmPerKm ?? Number.NaN) / 1000;
  const target = (ohmPerM / STRANDING) * metres + jointsOhm - 2 * COLD.jointOhm;
  return { gauge, lengthM: typical(target / ohmPerM) };
}

function machine(): Machine {
  const empty = must(newMachine("Worked example"), { type: "setSettings", changes: COLD });
  return part(empty, "pack", "pack", { openCircuitV: typical(24), internalOhm: typical(0.001) });
}

function load(to: Machine, id: string, amps: number, back: string, backWire: Partial<Wire>): Machine {
  const next = part(
    to,
    "load",
    id,
    { nominalV: typical(24), cells: { m1: { state: "amps", amps: typical(amps) } } },
    { from: "pack.+", wire: conductor("10 AWG", 1) },
  );
  return must(next, {
    type: "addWire",
    wire: { role: "return", from: at(`${id}.-`), to: at(back), parallel: 1, insulation: "pvc80", ...backWire },
  });
}

function read(solved: ReturnType<typeof solveMachine>) {
  const { circuit, planned } = solved;
  const volts = (terminal: string) => planned[0]?.nodeV[nodeAt(circuit, at(terminal).part, at(terminal).terminal)] ?? Number.NaN;
  const amps = (wireId: string) => planned[0]?.branchA[circuit.branches.findIndex((branch) => branch.id === wireId)] ?? Number.NaN;
  return { volts, amps };
}

const near = (value: number, expected: number, relative = 0.005) =>
  expect(Math.abs(value - expected) / expected, `${value} against ${expected}`).toBeLessThan(relative);

describe("shared returns", () => {
  it.each([
    [0, 6.21],
    [10, 130.5],
    [30, 379.1],
  ])("daisy chain of three on 0.5 m of 14 AWG each, drivers at %i A: logic stands %f mV up", (driver, millivolts) => {
    const segment = conductor("14 AWG", 0.5);
    let plan = part(machine(), "bar", "n1", { side: "negative" }, { back: "pack.-", wire: segment });
    plan = part(plan, "bar", "n2", { side: "negative" }, { back: "n1", wire: segment });
    plan = load(plan, "first", driver, "n1", conductor("10 AWG", 0.1));
    plan = load(plan, "second", driver, "n2", conductor("10 AWG", 0.1));
    plan = load(plan, "logic", 0.5, "n2", segment);
    near(read(solveMachine(plan)).volts("logic.-") * 1000, millivolts);
  });

  it("star: 30 A on its own 1 m of 14 AWG and 0.5 A on 0.5 m of 18 AWG differ by 243.3 mV", () => {
    const plan = load(load(machine(), "driver", 30, "pack.-", conductor("14 AWG", 1)), "logic", 0.5, "pack.-", conductor("18 AWG", 0.5));
    const { volts } = read(solveMachine(plan));
    near((volts("driver.-") - volts("logic.-")) * 1000, 243.3);
  });

  it("three bars in line with 0.8 mΩ links, returns 10, 25 and 15 A: links 40 and 15 A, bars 32 and 44 mV up", () => {
    const link = conductor("6 AWG", 0.0008 / 0.001296);
    let plan = part(machine(), "bar", "b1", { side: "negative" }, { back: "pack.-", wire: conductor("1/0 AWG", 0.1) });
    plan = part(plan, "bar", "b2", { side: "negative" }, { back: "b1", wire: link });
    plan = part(plan, "bar", "b3", { side: "negative" }, { back: "b2", wire: link });
    for (const [id, amps, bar] of [
      ["x", 10, "b1"],
      ["y", 25, "b2"],
      ["z", 15, "b3"],
    ] as const)
      plan = load(plan, id, amps, bar, conductor("10 AWG", 0.2));
    const { volts, amps } = read(solveMachine(plan));
    const wire = (from: string) => plan.wires.find((each) => each.from.part === from)?.id ?? "";
    near(amps(wire("b2")), 40, 1e-6);
    near(amps(wire("b3")), 15, 1e-6);
    near((volts("b2.bar") - volts("b1.bar")) * 1000, 32, 0.01);
    near((volts("b3.bar") - volts("b1.bar")) * 1000, 44, 0.01);
  });
});

describe("a thin signal ground beside a power return", () => {
  /** 20 A home through 0.5 m of 14 AWG with 0.5 m of 26 AWG in parallel. */
  const beside = (powerOhm: number, signalOhm: number) => {
    let plan = load(machine(), "driver", 20, "pack.-", conductor("14 AWG", 0.5, powerOhm));
    const thin = {
      role: "return" as const,
      from: at("driver.-"),
      to: at("pack.-"),
      parallel: 1,
      insulation: "pvc80",
      ...conductor("26 AWG", 0.5, signalOhm),
      id: "thin",
    };
    plan = must(plan, { type: "addWire", wire: thin });
    const { volts, amps } = read(solveMachine(plan));
    return { offset: volts("driver.-") * 1000, thin: amps("thin") };
  };

  it("takes 1.165 A and buys 6 %", () => {
    const { offset, thin } = beside(0, 0);
    near(thin, 1.165);
    near(offset, 78.0);
  });

  it("takes 8.94 A when the power screw is loose by 50 mΩ", () => {
    const { offset, thin } = beside(0.05, 0);
    near(thin, 8.942);
    near(offset, 599);
  });

  it("takes 1.086 A with 2 and 40 mΩ of contacts", () => {
    const { offset, thin } = beside(0.002, 0.04);
    near(thin, 1.086);
    near(offset, 116.2);
  });
});

describe("conductors in parallel", () => {
  const share = (first: Partial<Wire>, second: Partial<Wire>) => {
    let plan = load(machine(), "motor", 60, "pack.-", first);
    plan = must(plan, {
      type: "addWire",
      wire: { id: "other", role: "return", from: at("motor.-"), to: at("pack.-"), parallel: 1, insulation: "pvc80", ...second },
    });
    return read(solveMachine(plan)).amps("other");
  };

  it("2.0 and 2.2 m of 12 AWG share 60 A as 31.43 and 28.57", () => {
    near(share(conductor("12 AWG", 2), conductor("12 AWG", 2.2)), 28.571, 1e-4);
  });

  it("lugs of 1 and 3 mΩ on 1 m each share it as 34.16 and 25.84", () => {
    near(share(conductor("12 AWG", 1, 0.001), conductor("12 AWG", 1, 0.003)), 25.84, 5e-4);
  });
});

describe("converters", () => {
  it.each([
    // 5 V 4 A at 90 %: 1.764 A from 12.6 V and 2.222 A from 10 V. 40 W at 5 V from 24 V at 90 %: 1.852 A.
    [12.6, 5, 4, 0.9, 1.764],
    [10, 5, 4, 0.9, 2.222],
    [24, 5, 8, 0.9, 1.852],
  ])("from %f V to %f V at %f A with efficiency %f: %f A in", (inV, outV, amps, efficiency, expected) => {
    let plan = must(newMachine("Converter"), { type: "setSettings", changes: COLD });
    plan = part(plan, "supply", "s", { outputV: typical(inV), outputOhm: typical(1e-6) });
    plan = part(
      plan,
      "converter",
      "c",
      { outputV: typical(outV), outputOhm: typical(1e-6), efficiency: typical(efficiency), quiescentA: typical(0) },
      { from: "s.+", back: "s.-", wire: conductor("4 AWG", 0.1) },
    );
    plan = part(
      plan,
      "load",
      "b",
      { nominalV: typical(outV), cells: { m1: { state: "amps", amps: typical(amps) } } },
      { from: "c.out+", back: "c.out-", wire: conductor("4 AWG", 0.1) },
    );
    near(solveMachine(plan).planned[0]?.converterA[0] ?? 0, expected, 2e-3);
  });
});

describe("sources", () => {
  it("24 V into 0.45 Ω of motor, pack and wire: 53.33 A and 21.33 V at the motor", () => {
    let plan = must(newMachine("Stall"), { type: "setSettings", changes: COLD });
    plan = part(plan, "pack", "p", { openCircuitV: typical(24), internalOhm: typical(0.03) });
    const half = { gauge: "14 AWG", lengthM: typical((0.01 - 2 * COLD.jointOhm) / ((gaugeById("14 AWG")?.r20OhmPerKm ?? 1) / 1000)) };
    plan = part(
      plan,
      "load",
      "m",
      { behaviour: "resistance", nominalV: typical(24), cells: { m1: { state: "amps", amps: typical(60) } } },
      { from: "p.+", back: "p.-", wire: half },
    );
    const solved = solveMachine(plan);
    near(solved.planned[0]?.loadA[0] ?? 0, 53.33, 1e-4);
    const { volts } = read(solved);
    near(volts("m.+") - volts("m.-"), 21.33, 1e-3);
  });
});
