import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { analyseFully } from "@/core/analysis/fully";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Machine, Signal, Wire } from "@/core/machine/schema";
import { LOGIC_FAMILIES, noiseMargins } from "@/core/reference/logic";
import { barLinks, worstCrossing } from "@/core/returns/bar-links";
import { toleranceOf } from "@/core/returns/budget";
import { slips } from "@/core/returns/chassis";
import { groundOf } from "@/core/returns/ground";
import { linksOf } from "@/core/returns/links";
import { signalGrounds } from "@/core/returns/loops";
import {
  bulkF,
  capacitorLossW,
  clearLoneM,
  clearPairM,
  holdUpF,
  humDb,
  LINE_V,
  loneInductanceH,
  spikeShare,
} from "@/core/returns/practice";
import { at, must, part } from "../support/small";

/**
 * Check values of the handbook, grounding section 12. Resistances are the ASTM B258 diameter with IACS copper at 20 °C (CV01),
 * put in as exact ohms so that what is checked here is the return network, not the wire table.
 */
const JOINT = 1e-5;
const OHM_PER_M: Readonly<Record<number, number>> = { 26: 0.1339, 18: 0.020948, 14: 0.008285, 12: 0.005211, 6: 0.001296 };
const awg = (size: number, metres: number) => (OHM_PER_M[size] ?? 0) * metres;

function bench(modes: readonly string[] = ["m1"]): Machine {
  const machine = newMachine("Bench");
  machine.settings.jointOhm = JOINT;
  machine.modes = modes.map((id) => ({ id, name: id, lastsS: null }));
  return part(machine, "pack", "pack", { openCircuitV: typical(24), internalOhm: typical(0.001) });
}

/** A wire of exactly so many ohms, joints included. */
const exactly = (ohm: number): Partial<Wire> => ({
  ...(ohm > 3 * JOINT ? { resistorOhm: typical(ohm - 2 * JOINT) } : {}),
  parallel: 1,
  insulation: "pvc80",
});

function wire(machine: Machine, role: Wire["role"], from: string, to: string, ohm: number, over: Partial<Wire> = {}): Machine {
  return must(machine, {
    type: "addWire",
    wire: { role, from: at(from), to: at(to), parallel: 1, insulation: "pvc80", ...exactly(ohm), ...over },
  });
}

/** A driver that draws `amps` by mode, fed by a stiff supply wire, its return of `ohm` on `back`. */
function draws(
  machine: Machine,
  id: string,
  amps: readonly number[],
  back: string,
  ohm: number,
  loadKind: "motor" | "board" = "motor",
): Machine {
  const cells = Object.fromEntries(machine.modes.map((mode, m) => [mode.id, { state: "amps" as const, amps: typical(amps[m] ?? 0) }]));
  const next = part(machine, "load", id, { loadKind, nominalV: typical(24), cells }, { from: "pack.+", wire: exactly(1e-3) });
  return wire(next, "return", `${id}.-`, back, ohm, { pair: next.wires.at(-1)?.id });
}

const link = (machine: Machine, from: string, to: string, over: Partial<Signal> = {}) =>
  must(machine, { type: "addSignal", signal: { from, to, kind: "logic", sender: "ttl5", receiver: "ttl5", ...over } });

const offset = (machine: Machine, mode = 0) => Math.abs(linksOf(analyse(machine).figures)[0]?.offsetV[mode] ?? Number.NaN);
const within = (value: number, expected: number, share: number) =>
  expect(Math.abs(value / expected - 1), `${value} against ${expected}`).toBeLessThan(share);

describe("offsets and shares of current (handbook grounding, derived)", () => {
  it("CV02: a metre of 12 AWG with 1 mΩ of joints lifts four motors' ground by 74.5 and 372.6 mV", () => {
    for (const [amps, volts] of [
      [12, 0.0745],
      [60, 0.3726],
    ] as const) {
      let machine = part(bench(), "bar", "minus", { side: "negative" });
      machine = wire(machine, "return", "minus", "pack.-", awg(12, 1) + 0.001);
      machine = draws(machine, "board", [0], "pack.-", 0.01, "board");
      machine = draws(machine, "motors", [amps], "minus", 1e-4);
      machine = draws(machine, "sensor", [0], "minus", 0.01, "board");
      within(offset(link(machine, "sensor", "board")), volts, 1e-3);
    }
  });

  /** CV03 and CV04: a driver's return beside the signal ground of the board that talks to it. */
  const beside = (powerOhm: number, signalOhm: number) => {
    let machine = draws(bench(), "driver", [20], "pack.-", powerOhm);
    machine = draws(machine, "board", [0], "pack.-", 2 * JOINT, "board");
    machine = link(machine, "driver", "board");
    return wire(machine, "signal", "driver.-", "board.-", signalOhm, { signal: machine.signals?.[0]?.id });
  };
  it.each([
    ["CV03 wire only", awg(14, 0.5), awg(26, 0.5), 1.165, 0.078],
    ["CV04 with contacts", awg(14, 0.5) + 0.002, awg(26, 0.5) + 0.04, 1.086, 0.1162],
    ["CV04 a loose power screw", awg(14, 0.5) + 0.05, awg(26, 0.5), 8.942, 0.599],
    ["CV04 10 Ω in the thin wire", awg(14, 0.5), awg(26, 0.5) + 10, 8.23e-3, 0.0828],
  ])("%s", (_name, powerOhm, signalOhm, amps, volts) => {
    const machine = beside(powerOhm, signalOhm);
    const [ground] = signalGrounds(analyse(machine).figures);
    within(Math.abs(ground?.amps[0] ?? 0), amps, 5e-3);
    within(offset(machine), volts, 5e-3);
    expect(ground?.chord).not.toBeNull();
  });

  it("CV08: a daisy chain of two drivers and a board, idle, running and starting", () => {
    const modes = ["idle", "run", "start"];
    let machine = draws(bench(modes), "one", [0, 10, 30], "pack.-", awg(14, 0.5));
    machine = draws(machine, "two", [0, 10, 30], "one.-", awg(14, 0.5));
    machine = draws(machine, "logic", [0.5, 0.5, 0.5], "two.-", awg(14, 0.5), "board");
    machine = draws(machine, "far", [0, 0, 0], "pack.-", 0.01, "board");
    machine = link(machine, "logic", "far");
    [0.00621, 0.1305, 0.3791].forEach((volts, mode) => {
      within(offset(machine, mode), volts, 5e-3);
    });
  });

  it("CV09: a star still leaves the link what the heavy branch loses: 243.3 mV", () => {
    let machine = draws(bench(), "driver", [30], "pack.-", awg(14, 1));
    machine = draws(machine, "logic", [0.5], "pack.-", awg(18, 0.5), "board");
    within(offset(link(machine, "driver", "logic")), 0.2433, 5e-3);
  });

  it("CV10: three bars in line, and two currents that cancel today", () => {
    let machine = bench();
    for (const id of ["one", "two", "three"]) machine = part(machine, "bar", id, { side: "negative" });
    machine = wire(machine, "return", "one", "pack.-", 3e-5);
    machine = wire(machine, "return", "two", "one", 0.8e-3);
    machine = wire(machine, "return", "three", "two", 0.8e-3);
    for (const [id, amps, bar] of [
      ["a", 10, "one"],
      ["b", 25, "two"],
      ["c", 15, "three"],
    ] as const)
      machine = draws(machine, id, [amps], bar, 1e-4);
    const { figures } = analyse(machine);
    const amps = (id: string) =>
      Math.abs(figures.wires[figures.machine.wires.find(({ from }) => from.part === id)?.id ?? ""]?.amps[0] ?? 0);
    within(amps("two"), 40, 1e-3);
    within(amps("three"), 15, 1e-3);
    const ground = groundOf(figures);
    const volts = (id: string) =>
      (figures.solved.planned[0]?.nodeV[ground.nodeOf(id)] ?? 0) - (figures.solved.planned[0]?.nodeV[ground.nodeOf("one")] ?? 0);
    within(volts("two"), 0.032, 1e-3);
    within(volts("three"), 0.044, 1e-3);
  });

  it("CV10: a tie between two packs' bars is judged by 12 A one way, not by the net of 7 A", () => {
    let machine = part(bench(), "pack", "pack2", { openCircuitV: typical(24), internalOhm: typical(0.001) });
    for (const [bar, pack] of [
      ["bar1", "pack"],
      ["bar2", "pack2"],
    ] as const) {
      machine = part(machine, "bar", bar, { side: "negative" });
      machine = wire(machine, "return", bar, `${pack}.-`, 1e-3);
    }
    machine = wire(machine, "return", "bar2", "bar1", 0.8e-3);
    machine = draws(machine, "first", [12], "bar2", 1e-3);
    const cells = { m1: { state: "amps" as const, amps: typical(5) } };
    machine = part(machine, "load", "second", { nominalV: typical(24), cells }, { from: "pack2.+", wire: exactly(1e-3) });
    machine = wire(machine, "return", "second.-", "bar1", 1e-3);
    const { figures } = analyse(machine);
    const tie = barLinks(figures).find(({ from, to }) => from.part === "bar2" && to.part === "bar1");
    if (!tie) throw new Error("no tie");
    within(Math.abs(figures.wires[tie.id]?.amps[0] ?? 0), 7, 2e-2);
    within(worstCrossing(figures, tie, false).amps, 12, 1e-6);
  });

  it("CV11: 60 A over a heavy and a light link", () => {
    for (const [ohm, volts] of [
      [0.789e-3, 0.0473],
      [1.383e-3, 0.083],
    ] as const) {
      let machine = part(bench(), "bar", "two", { side: "negative" });
      machine = wire(machine, "return", "two", "pack.-", ohm);
      machine = draws(machine, "drivers", [60], "two", 1e-4);
      machine = draws(machine, "far", [0], "two", 0.01, "board");
      machine = draws(machine, "near", [0], "pack.-", 0.01, "board");
      within(offset(link(machine, "far", "near")), volts, 5e-3);
    }
  });

  it("CV39: five boards in one piece with seven ground wires make three loops; four islands need three ties", () => {
    let machine = bench();
    for (let i = 1; i <= 5; i++) machine = draws(machine, `b${i}`, [0.1], "pack.-", 0.01, "board");
    // Seven conductors between five boards; their returns to the pack are the five that make them one piece already.
    machine = { ...machine, wires: machine.wires.filter(({ role, from }) => role !== "return" || from.part === "b1") };
    for (const [a, b] of ["12", "23", "34", "45", "51", "13", "24"].map((pair) => [`b${pair[0]}`, `b${pair[1]}`] as const)) {
      machine = link(machine, a, b);
      machine = wire(machine, "signal", `${a}.-`, `${b}.-`, 0.05, { signal: machine.signals?.at(-1)?.id });
    }
    expect(groundOf(analyse(machine).figures).chords).toHaveLength(3);
    const apart = { ...machine, wires: machine.wires.filter(({ role }) => role === "supply") };
    const pieces = (of: Machine) => {
      const ground = groundOf(analyse(of).figures);
      return new Set(["b1", "b2", "b3", "b4"].map((id) => ground.piece[ground.nodeOf(id)])).size;
    };
    expect(pieces(apart)).toBe(4);
    let tied = apart;
    for (const [a, b] of [
      ["b1", "b2"],
      ["b2", "b3"],
      ["b3", "b4"],
    ] as const)
      tied = wire(tied, "return", `${a}.-`, `${b}.-`, 0.01);
    expect(pieces(tied)).toBe(1);
  });

  it("CV28: a plus on the frame clears a 40 A fuse through a good bond, and not through an anodised joint", () => {
    const bonded = (ohm: number) => {
      let machine = bench();
      machine = part(machine, "fuse", "main", { fuse: { family: "blade_maxi_32v", ratingA: 40 } }, { from: "pack.+", wire: exactly(3e-5) });
      machine = part(machine, "bar", "plus", { side: "positive" }, { from: "main.out", wire: exactly(3e-5) });
      machine = part(machine, "bar", "frame", { side: "negative", form: "chassis" });
      machine = wire(machine, "bond", "frame", "pack.-", ohm, { bondBy: "wire" });
      const { figures } = analyseFully(machine);
      const frame = figures.partOf.get("frame");
      if (frame?.kind !== "bar") throw new Error("no frame");
      return slips(figures, frame).find(({ place }) => place === "plus");
    };
    // 50 mΩ all round: source, fuse and bond.
    const good = bonded(0.05 - 0.001 - 0.0006 - 6e-5);
    expect(good?.ends).toBe("clears");
    within(good?.mostA ?? 0, 480, 0.2);
    const bad = bonded(1.05 - 0.001 - 0.0006 - 6e-5);
    expect(bad?.ends).not.toBe("clears");
    within(bad?.mostA ?? 0, 22.86, 0.03);
    within(bad?.bondW ?? 0, 522, 0.12);
  });
});

describe("logic levels against the named standards, as the handbook quotes them", () => {
  const margins = (sender: keyof typeof LOGIC_FAMILIES, receiver: keyof typeof LOGIC_FAMILIES) =>
    noiseMargins(LOGIC_FAMILIES[sender], LOGIC_FAMILIES[receiver]);
  const allowed = (over: Partial<Signal>) =>
    toleranceOf(newMachine("any"), { id: "s", from: "a", to: "b", kind: "logic", ...over }, undefined);
  const held = (over: Partial<Signal>) => {
    const found = allowed(over);
    if (found.kind !== "held") throw new Error(found.kind);
    return found;
  };

  it.each([
    ["CV13 TTL data sheets", "ttl5", "ttl5", 0.4, 0.4],
    ["JESD8C LVTTL", "lvttl33", "lvttl33", 0.4, 0.4],
    ["JESD8C LVCMOS at 3.0 V, light load", "lvcmos33", "lvcmos33", 0.6, 0.8],
    ["typical 3.3 V microcontrollers", "mcu33", "mcu33", 0.59, 0.59],
    ["CV14 JESD7 at 4.5 V, 85 °C", "cmos5", "cmos5", 1.02, 0.69],
    ["CV15 JESD7 into a TTL-level input", "cmos5", "cmos5_ttl_in", 0.47, 1.84],
    ["CV15 JESD8C into 0.7 of 5 V", "lvcmos33", "cmos5_ratio_in", 1.3, -0.7],
    ["open collector into 5 V", "collector5", "cmos5_ratio_in", 1.1, 1.5],
    ["IEC 61131-2 type 3", "plc24_3", "plc24_3", 5, 6.4],
    ["IEC 61131-2 type 1", "plc24_1", "plc24_1", 5, 2.4],
    ["CV17 TIA-232-F", "rs232", "rs232", 2, 2],
  ] as const)("%s", (_name, sender, receiver, low, high) => {
    expect(margins(sender, receiver)?.low).toBeCloseTo(low, 3);
    expect(margins(sender, receiver)?.high).toBeCloseTo(high, 3);
  });

  it("CV13: half of TTL's margin for a steady offset, four fifths with spikes", () => {
    const ttl = held({ sender: "ttl5", receiver: "ttl5" });
    expect([ttl.steadyAboveV, ttl.steadyBelowV, ttl.peakAboveV]).toEqual([
      expect.closeTo(0.2, 9),
      expect.closeTo(0.2, 9),
      expect.closeTo(0.32, 9),
    ]);
  });

  it("CV15: refuses a link whose high is no high", () => {
    expect(allowed({ sender: "lvcmos33", receiver: "cmos5_ratio_in" }).kind).toBe("invalid");
  });

  it("CV16: I²C by UM10204: 0.1 and 0.2 of the bus supply, the smaller both ways", () => {
    const bus = held({ kind: "i2c", busV: typical(3.3) });
    expect(bus.aboveV).toBeCloseTo(0.33, 6);
    expect(bus.steadyBelowV).toBeCloseTo(0.165, 6);
    expect(held({ kind: "i2c", busV: typical(5) }).steadyAboveV).toBeCloseTo(0.25, 6);
  });

  it("CV17: TIA-485-A leaves 7 V, ISO 11898-2 2.5 V of ground difference", () => {
    expect(held({ kind: "rs485" })).toMatchObject({ aboveV: 7, belowV: 7, steadyAboveV: 3.5 });
    expect(held({ kind: "can" })).toMatchObject({ aboveV: 2.5, steadyAboveV: 1.25 });
    // The smaller side counts both ways.
    expect(held({ kind: "usb" })).toMatchObject({ aboveV: 0.25, belowV: 0.25 });
  });

  it("CV18: one count of 10 bits at 5 V and of 12 bits at 3.3 V, half of it without a wish", () => {
    const ten = held({ kind: "analogue", fullScaleV: typical(5), bits: 10 });
    within(ten.step?.volts ?? 0, 4.883e-3, 1e-3);
    within(ten.steadyAboveV, 2.44e-3, 2e-3);
    within(held({ kind: "analogue", fullScaleV: typical(3.3), bits: 12, wishCounts: typical(1) }).steadyAboveV, 0.8057e-3, 1e-3);
  });

  it("holds an input without a series resistor to its cap, and one with to its margin", () => {
    expect(held({ sender: "cmos5", receiver: "cmos5" }).steadyAboveV).toBeCloseTo(0.3, 6);
    expect(held({ sender: "cmos5", receiver: "cmos5", seriesOhm: typical(220) }).steadyAboveV).toBeCloseTo(0.51, 6);
    // 10 Ω hold no more than 10 mV at the milliamp a pin bears.
    expect(held({ sender: "cmos5", receiver: "cmos5", seriesOhm: typical(10) }).steadyAboveV).toBeCloseTo(0.31, 6);
    // Type 3 inputs of 24 V are made for more.
    expect(held({ sender: "plc24_3", receiver: "plc24_3" }).steadyAboveV).toBeCloseTo(2.5, 6);
  });
});

describe("noise and practice (formulas of the handbook)", () => {
  it("CV12: half a metre of 14 AWG has 0.636 µH: 20 A/µs make 12.7 V", () => {
    const henry = loneInductanceH(0.5, 1.628e-3);
    within(henry, 0.636e-6, 1e-2);
    within(henry * 20e6, 12.7, 1e-2);
  });

  it("CV19: 10 mV is 2.048 counts of 10 bits at 5 V, and 30 dB below line level", () => {
    const step = toleranceOf(
      newMachine("any"),
      { id: "s", from: "a", to: "b", kind: "analogue", fullScaleV: typical(5), bits: 10 },
      undefined,
    );
    if (step.kind !== "held" || !step.step) throw new Error("no step");
    within(0.01 / step.step.volts, 2.048, 1e-3);
    within(LINE_V, 0.316, 2e-3);
    expect(humDb(0.01)).toBeCloseTo(30, 1);
  });

  it("CV20: of 1 V for 1 µs 95.2 mV pass 10 µs", () => {
    within(spikeShare(1e-6, 10e-6), 0.0952, 5e-3);
  });

  it("CV23: bulk of 10 A for 20 µs and 0.5 V; hold-up of 45 W for a millisecond", () => {
    within(bulkF(10), 400e-6, 5e-3);
    within(holdUpF(45, 1e-3, 24, 20), 511e-6, 5e-3);
  });

  it("CV24: a capacitor across a chopped motor", () => {
    within(capacitorLossW(20e3, 100e-9, 24), 1.152, 1e-3);
    within(capacitorLossW(20e3, 100e-9, 48), 4.608, 1e-3);
  });

  it("CV26: field of 20 A at 10 cm, alone and beside its return; the distances offered give a microtesla", () => {
    // 40 µT at 10 cm fall with the distance; 1.2 µT beside the return with its square.
    within(clearLoneM(20), 0.1 * 40, 5e-3);
    within(clearPairM(20), 0.1 * Math.sqrt(1.2), 5e-3);
  });

  it("CV31: rings in parallel share by conductance", () => {
    let machine = draws(bench(), "rotor", [10], "pack.-", 0.02);
    machine = wire(machine, "return", "rotor.-", "pack.-", 0.04);
    const { figures } = analyse(machine);
    const amps = figures.machine.wires.filter(({ role }) => role === "return").map(({ id }) => Math.abs(figures.wires[id]?.amps[0] ?? 0));
    within(amps[0] ?? 0, 6.667, 1e-3);
    within(amps[1] ?? 0, 3.333, 1e-3);
  });
});
