import { newMachine } from "@/core/machine/defaults";
import { datasheet as f, typical } from "@/core/machine/figure";
import type { Cell, Load, Machine, PartOf } from "@/core/machine/schema";
import { change, supplied } from "../support/judged";
import { at, driven, must, part, simple } from "../support/small";
import { type Case, edge, fact } from "./support";

/** A load of a kind on a supply of some volts, drawing next to nothing. */
const on = (volts: number, over: Partial<Load>, amps = 0.01) =>
  supplied({ outputV: f(volts), ratedA: f(10), limitA: f(12) }, amps, { behaviour: "current", ...over });
const timed = (machine: Machine, seconds: number, cell: Cell, load = "motor") => {
  const next = must(machine, { type: "addMode", name: "Brief", lastsS: seconds });
  return must(next, { type: "setCell", loadId: load, modeId: next.modes.at(-1)?.id ?? "", cell });
};
const drive = (over: Partial<PartOf<"driver">>, motor: Partial<Load> = {}) =>
  driven({ continuousA: f(30), peakA: f(60), ...over }, { levels: { idle: f(0.5), run: f(6), stall: f(25) }, ...motor });
/** Two motors on two channels of one driver. */
const twin = (over: Partial<PartOf<"driver">>) =>
  part(
    drive({ channels: 2, ...over }),
    "load",
    "second",
    { nominalV: f(24), levels: { run: f(6), stall: f(25) }, cells: { m1: { state: "run", percent: 100 } } },
    { from: "drive.2a", back: "drive.2b", wire: { gauge: "4 AWG", lengthM: f(0.5) } },
  );
const beside = (over: Partial<PartOf<"driver">>) => {
  const machine = twin(over);
  const wires = machine.wires.map((wire) =>
    wire.to.part === "second" ? { ...wire, from: at("drive.1a") } : wire.from.part === "second" ? { ...wire, to: at("drive.1b") } : wire,
  );
  return { ...machine, wires };
};
const ONBOARD = {
  outputV: f(5),
  inputMinV: f(7),
  inputMaxV: f(30),
  outputA: f(0.5),
  type: "linear" as const,
  kelvinPerWatt: f(60),
  jumper: "in" as const,
};
const carrying = (onboard: Partial<typeof ONBOARD>, logicA = 0.05) =>
  drive({ logic: "onboard", logicV: f(5), logicA: f(logicA), onboard: { ...ONBOARD, ...onboard } });
/** A driver whose logic terminal hangs on a converter of some volts. */
function logicOn(volts: number): Machine {
  const wire = { gauge: "18 AWG", lengthM: f(0.3) };
  const fed = part(
    drive({ logic: "own input", logicV: f(5), logicA: f(0.02) }),
    "converter",
    "reg",
    { topology: "buck", outputV: f(volts), efficiency: f(0.9), ratedA: f(2), limitA: f(2.5), inputMinV: f(7), inputMaxV: f(36) },
    { from: "main.out", back: "pack.-", wire },
  );
  const lead = { role: "supply" as const, from: at("reg.out+"), to: at("drive.5v"), parallel: 1, insulation: "pvc80", ...wire };
  return must(fed, { type: "addWire", wire: lead });
}
/** A board whose pin feeds a light of some amps. */
const pinned = (amps: number, pinA?: number) => {
  let machine = part(
    simple(),
    "load",
    "board",
    {
      loadKind: "board",
      nominalV: f(12),
      inputMinV: f(6),
      inputMaxV: f(20),
      ...(pinA ? { pinA: f(pinA) } : {}),
      cells: { m1: { state: "amps", amps: f(0.1) } },
    },
    { from: "main.out", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
  );
  machine = part(
    machine,
    "load",
    "light",
    { loadKind: "light", nominalV: f(12), cells: { m1: { state: "amps", amps: f(amps) } } },
    { from: "board.pin", back: "board.-", wire: { gauge: "24 AWG", lengthM: f(0.1) } },
  );
  return machine;
};
const stepper = (setA: number, scale: "rms" | "peak" = "rms") =>
  supplied({ ratedA: f(10), limitA: f(12) }, 0.5, { loadKind: "stepper", stepper: { ratedA: f(2), setA: f(setA), scale } });
const lone = () => part(newMachine("Lone"), "supply", "supply", { outputV: f(24), outputOhm: f(0.01), ratedA: f(5), limitA: f(6) });

export const LOADS: readonly Case[] = [
  edge("rail-mismatch", "a motor on a quarter more than its volts", "fix", 15, (v) => on(v, { loadKind: "motor", nominalV: f(12) }), {
    key: "high",
  }),
  edge("rail-mismatch", "a motor without a driver on twice its volts", "stop", 24, (v) => on(v, { loadKind: "motor", nominalV: f(12) }), {
    key: "high",
  }),
  edge("rail-mismatch", "a lamp on a quarter more", "fix", 15, (v) => on(v, { loadKind: "light", nominalV: f(12) }), { key: "high" }),
  edge("rail-mismatch", "a lamp on half as much again", "stop", 18, (v) => on(v, { loadKind: "light", nominalV: f(12) }), { key: "high" }),
  edge("rail-mismatch", "a fan, by its electronics", "stop", 18, (v) => on(v, { loadKind: "fan", nominalV: f(12) }), { key: "high" }),
  edge("rail-mismatch", "a 5 V sensor a tenth above", "fix", 5.5, (v) => on(v, { loadKind: "sensor", nominalV: f(5) }), { key: "high" }),
  edge("rail-mismatch", "a 5 V sensor a fifth above", "stop", 6, (v) => on(v, { loadKind: "sensor", nominalV: f(5) }), { key: "high" }),
  edge("rail-mismatch", "a 6 V servo a fifth above", "fix", 7.2, (v) => on(v, { loadKind: "servo", nominalV: f(6) }), { key: "high" }),
  edge("rail-mismatch", "a 6 V servo at 1.35 times", "stop", 8.1, (v) => on(v, { loadKind: "servo", nominalV: f(6) }), { key: "high" }),
  edge("rail-mismatch", "a 4.8 V servo, which takes 6 V as any does", "fix", 6, (v) => on(v, { loadKind: "servo", nominalV: f(4.8) }), {
    key: "high",
  }),
  edge("rail-mismatch", "a 12 V amplifier at half as much again", "stop", 18, (v) => on(v, { loadKind: "sound", nominalV: f(12) }), {
    key: "high",
  }),
  edge("rail-mismatch", "a 5 V radio a tenth short", "fix", 4.5, (v) => on(v, { loadKind: "radio", nominalV: f(5) }), {
    key: "low",
    below: true,
  }),
  edge("rail-mismatch", "a 24 V relay coil a fifth short", "fix", 19.2, (v) => on(v, { loadKind: "coil", nominalV: f(24) }), {
    key: "low",
    below: true,
  }),
  edge("rail-mismatch", "a heater a fifth short", "watch", 19.2, (v) => on(v, { loadKind: "heater", nominalV: f(24) }), {
    key: "low",
    below: true,
  }),
  edge("rail-mismatch", "a servo a quarter short", "watch", 4.5, (v) => on(v, { loadKind: "servo", nominalV: f(6) }), {
    key: "low",
    below: true,
  }),
  edge("rail-mismatch", "a motor a fifth short", "watch", 9.6, (v) => on(v, { loadKind: "motor", nominalV: f(12) }), {
    key: "low",
    below: true,
  }),
  edge(
    "rail-mismatch",
    "a duty cap above what its motor bears (12 of 25.2 V)",
    "fix",
    0.476,
    (cap) => drive({ dutyCap: f(cap) }, { nominalV: f(12) }),
    { key: "high" },
  ),

  edge("driver-current", "nine tenths of a channel", "watch", 6 / 0.9, (a) => drive({ continuousA: f(a) }), {
    key: "current:drive",
    below: true,
  }),
  edge("driver-current", "a channel", "fix", 6, (a) => drive({ continuousA: f(a) }), { key: "current:drive", below: true }),
  edge("driver-current", "two motors on one channel, together", "fix", 12, (a) => beside({ continuousA: f(a) }), { below: true }),
  edge("driver-current", "all channels together", "fix", 12, (a) => twin({ totalA: f(a) }), { key: "total", below: true }),
  edge(
    "driver-current",
    "a mode longer than its peak lasts (τ = −2/ln(1 − (4/8)²) s)",
    "fix",
    4.086,
    (s) =>
      timed(drive({ continuousA: f(4), peakA: f(8), peakS: f(2) }, { cells: { m1: { state: "off" } } }), s, { state: "amps", amps: f(6) }),
    { key: "brief" },
  ),
  edge(
    "driver-current",
    "a planned current above its peak",
    "stop",
    12,
    (a) => timed(drive({ continuousA: f(10), peakA: f(12), limitA: f(12) }), 0.5, { state: "amps", amps: f(a) }),
    { key: "brief" },
  ),
  edge("driver-current", "a stepper's phase current, r.m.s. of a peak setting", "fix", 2 * Math.SQRT2, (a) =>
    drive(
      { continuousA: f(2) },
      { loadKind: "stepper", stepper: { setA: f(a), scale: "peak" }, behaviour: "power", levels: { run: f(0.5) } },
    ),
  ),
  edge(
    "driver-current",
    "a stall above its peak: 25.2 V over winding, bridge and leads",
    "fix",
    25.9,
    (a) => drive({ continuousA: f(10), peakA: f(a) }),
    { key: "stall", below: true, near: 0.02 },
  ),
  fact(
    "driver-current",
    "a board whose own limit nobody told, though its chip's is known",
    "ask",
    () => drive({ continuousA: undefined as never, layers: [{ layer: "chip", continuousA: f(20) }] }),
    () => drive({ layers: [{ layer: "chip", continuousA: f(20) }] }),
    "ask",
  ),
  edge("driver-current", "a stall above what it carries", "watch", 25.9, (a) => drive({ continuousA: f(a), peakA: f(60) }), {
    key: "stall",
    below: true,
    near: 0.02,
  }),
  fact(
    "driver-current",
    "a stall that nobody knows and nothing limits",
    "ask",
    () => drive({}, { levels: { run: f(6) } }),
    () => drive({ limitA: f(20) }, { levels: { run: f(6) } }),
    "stall-ask",
  ),
  fact(
    "driver-current",
    "a driver without its figure",
    "ask",
    () => drive({ continuousA: undefined, peakA: undefined }),
    () => drive({}),
    "ask",
  ),

  edge("layer-voltage", "a fifth of headroom", "watch", 25.2 * 1.2, (v) => drive({ inputMaxV: f(v) }), { below: true }),
  edge("layer-voltage", "a chip below the bus", "stop", 25.2, (v) => drive({ layers: [{ layer: "chip", maxV: f(v) }] }), { below: true }),

  edge("logic-side", "volts that destroy 5 V logic: a fifth above", "stop", 6, (v) => logicOn(v), { key: "overfed" }),
  edge("logic-side", "volts a tenth below what logic is for", "fix", 4.5, (v) => logicOn(v), { key: "underfed", below: true }),
  edge("logic-side", "a regulator above its window", "stop", 25.2, (v) => carrying({ inputMaxV: f(v) }), { key: "above", below: true }),
  edge("logic-side", "a regulator that never starts", "fix", 25.2, (v) => carrying({ inputMinV: f(v) }), { key: "below" }),
  edge("logic-side", "a regulator that drops out at the lowest charge", "fix", 23.04, (v) => carrying({ inputMinV: f(v) }), { key: "sag" }),
  edge("logic-side", "more than its terminal gives", "fix", 0.5, (a) => carrying({ outputA: f(0.5), kelvinPerWatt: f(1) }, a), {
    key: "output",
  }),
  edge(
    "logic-side",
    "a chip at 100 °C: (25.2 − 5) V × 0.05 A × θ above 25 °C",
    "watch",
    75 / 1.01,
    (k) => carrying({ kelvinPerWatt: f(k) }),
    { key: "heat" },
  ),
  edge("logic-side", "a chip at 125 °C", "fix", 100 / 1.01, (k) => carrying({ kelvinPerWatt: f(k) }), { key: "heat" }),
  edge("logic-side", "a chip at 200 °C", "stop", 175 / 1.01, (k) => carrying({ kelvinPerWatt: f(k) }), { key: "heat" }),
  fact(
    "logic-side",
    "a driver whose logic nobody feeds",
    "fix",
    () => drive({ logic: "own input", logicV: f(5) }),
    () => carrying({}),
    "unfed",
  ),
  fact(
    "logic-side",
    "an output nobody knows",
    "ask",
    () => carrying({ outputA: undefined as never }),
    () => carrying({}),
    "output",
  ),

  fact(
    "stepper-setting",
    "a motor whose phases nobody rated",
    "ask",
    () => supplied({ ratedA: f(10), limitA: f(12) }, 0.5, { loadKind: "stepper", stepper: { setA: f(1), scale: "rms" } }),
    () => stepper(1),
  ),
  edge("bridge-drop", "a bridge that keeps 15 % of 24 V at 6 A", "watch", 0.605, (ohm) => drive({ bridgeOhm: f(ohm) }), { near: 0.03 }),
  edge("bridge-drop", "a bridge that keeps 30 %", "fix", 1.21, (ohm) => drive({ bridgeOhm: f(ohm) }), { near: 0.03 }),
  fact(
    "freewheel",
    "a bipolar bridge without diodes",
    "stop",
    () => drive({ bridge: "bipolar", freewheel: "missing" }),
    () => drive({ bridge: "bipolar", freewheel: "fitted" }),
  ),
  fact(
    "freewheel",
    "a bridge of which nobody told",
    "ask",
    () => drive({ bridge: "bipolar" }),
    () => drive({ bridge: "mosfet" }),
  ),
  edge("board-pin", "a pin of 20 mA", "stop", 0.02, (a) => pinned(a)),
  edge("board-pin", "a pin of what its board says", "stop", 0.04, (a) => pinned(a, 0.04)),
  edge("stepper-setting", "95 % of its motor", "watch", 1.9, (a) => stepper(a)),
  edge("stepper-setting", "its motor's rating", "fix", 2, (a) => stepper(a)),
  edge("stepper-setting", "the same on a peak scale", "fix", 2 * Math.SQRT2, (a) => stepper(a, "peak")),
  fact(
    "end-stop",
    "an actuator without switches and a mode that stalls it",
    "fix",
    () => on(12, { loadKind: "actuator", nominalV: f(12), endSwitches: false }),
    () => on(12, { loadKind: "actuator", nominalV: f(12), endSwitches: true }),
  ),
  fact(
    "end-stop",
    "nobody told",
    "ask",
    () => on(12, { loadKind: "actuator", nominalV: f(12) }),
    () => on(12, { loadKind: "actuator", nominalV: f(12), endSwitches: true }),
  ),
  fact(
    "lead-landing",
    "a lead on the supply side",
    "stop",
    () =>
      must(drive({}), {
        type: "reland",
        wireId: drive({}).wires.find(({ to }) => to.part === "motor")?.id ?? "",
        end: "from",
        at: at("drive.in+"),
      }),
    () => drive({}),
  ),
  fact(
    "estimate",
    "a figure whose range reaches past a limit that its value keeps",
    "ask",
    () => driven({ continuousA: f(7), peakA: f(60) }, { levels: { run: { value: 6, provenance: "guess", high: 9 }, stall: f(25) } }),
    () => driven({ continuousA: f(12), peakA: f(60) }, { levels: { run: { value: 6, provenance: "guess", high: 9 }, stall: f(25) } }),
  ),

  fact(
    "missing-figure",
    "a load without a figure in a mode",
    "ask",
    () => must(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: null }),
    () => simple(),
    "cells",
  ),
  fact(
    "missing-figure",
    "a state without its level",
    "ask",
    () => driven({}, { levels: { stall: f(25) } }),
    () => driven(),
    "level-run",
  ),
  fact(
    "missing-figure",
    "a pack without its resistance",
    "ask",
    () => change(simple(), "pack", { internalOhm: undefined }),
    () => simple(),
    "internal",
  ),
  fact(
    "missing-figure",
    "a supply without its resistance",
    "ask",
    () => change(on(12, { nominalV: f(12) }), "supply", { outputOhm: undefined }),
    () => on(12, { nominalV: f(12) }),
    "inner",
  ),
  fact(
    "missing-figure",
    "a computer without its window",
    "ask",
    () => on(5, { loadKind: "computer", nominalV: f(5) }),
    () => on(5, { loadKind: "computer", nominalV: f(5), inputMinV: f(4.5), inputMaxV: f(5.5) }),
    "window",
  ),
  fact(
    "missing-figure",
    "a driver without its window",
    "ask",
    () => drive({ inputMaxV: undefined }),
    () => drive({}),
    "window",
  ),
  fact(
    "missing-figure",
    "a wire without its length",
    "ask",
    () => must(simple(), { type: "updateWire", id: "w2", changes: { lengthM: undefined } }),
    () => simple(),
    "wire",
  ),
  fact(
    "missing-figure",
    "a size beyond its school's table",
    "ask",
    () =>
      must(simple({ amps: 1, gauge: "22 AWG" }), {
        type: "setSettings",
        changes: { schools: { fuseLoadFactor: "75 %", ampacity: "boat" } },
      }),
    () =>
      must(simple({ amps: 1, gauge: "18 AWG" }), {
        type: "setSettings",
        changes: { schools: { fuseLoadFactor: "75 %", ampacity: "boat" } },
      }),
    "table",
  ),
  fact(
    "polarity",
    "plus and minus swapped at a board",
    "stop",
    () => {
      const machine = part(
        lone(),
        "load",
        "board",
        { loadKind: "board", nominalV: f(24), inputMinV: f(9), inputMaxV: f(30), cells: { m1: { state: "amps", amps: f(0.1) } } },
        { from: "supply.+", back: "supply.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
      );
      return {
        ...machine,
        wires: machine.wires.map((wire) => (wire.role === "supply" ? { ...wire, from: at("supply.-") } : { ...wire, to: at("supply.+") })),
      };
    },
    () =>
      part(
        lone(),
        "load",
        "board",
        { loadKind: "board", nominalV: f(24), inputMinV: f(9), inputMaxV: f(30), cells: { m1: { state: "amps", amps: f(0.1) } } },
        { from: "supply.+", back: "supply.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
      ),
    "reversed",
  ),
  fact(
    "polarity",
    "a wire from plus to minus",
    "stop",
    () =>
      must(simple(), {
        type: "addWire",
        wire: {
          role: "supply",
          from: at("main.out"),
          to: at("pack.-"),
          gauge: "14 AWG",
          parallel: 1,
          insulation: "pvc80",
          lengthM: typical(0.3),
        },
      }),
    () => simple(),
    "short",
  ),
  edge(
    "collapse",
    "a constant power beyond the nose of the curve: U²/(4R)",
    "stop",
    12 ** 2 / (4 * (0.5 + 0.0183)) / 12,
    (a) => change(simple({ amps: a, behaviour: "power", gauge: "4 AWG" }), "pack", { internalOhm: f(0.5), lowV: undefined }),
    { near: 0.04 },
  ),
];
