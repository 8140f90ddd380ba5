import { describe, expect, it } from "vitest";
import { generateMachine } from "@/tests/support/generate";
import { at, backedUp, driven, must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import type { Command } from "../machine/commands";
import { typical } from "../machine/figure";
import type { Machine, TerminalRef } from "../machine/schema";
import { fuseOhm } from "../network/circuit";
import { TopologyCache } from "../network/topology";
import { accountOf } from "./account";
import { solveMachine } from "./solved";
import type { ModeFigures } from "./types";
import { worstOfModes } from "./worst";

const wire = (gauge: string, metres: number) => ({ gauge, lengthM: typical(metres) });

/** Pack, bar, one motor behind a driver, a 5 V converter with a board that returns to a shared negative bar. */
function barge(): Machine {
  let machine = simple({ amps: 4 });
  machine = part(machine, "bar", "n1", { side: "negative" }, { back: "pack.-", wire: wire("10 AWG", 0.5) });
  machine = part(
    machine,
    "driver",
    "drive",
    { bridgeOhm: typical(0.1), ownA: typical(0.05) },
    { from: "main.out", back: "n1", wire: wire("14 AWG", 1) },
  );
  machine = part(
    machine,
    "load",
    "wheel",
    { nominalV: typical(12), cells: { m1: { state: "amps", amps: typical(6) } } },
    { from: "drive.1a", back: "drive.1b", wire: wire("14 AWG", 0.5) },
  );
  machine = part(
    machine,
    "converter",
    "buck",
    {
      outputV: typical(5),
      efficiency: typical(0.9),
      outputOhm: typical(0.02),
      quiescentA: typical(0.01),
      ratedA: typical(3),
      limitA: typical(4),
      inputMinV: typical(7),
      inputMaxV: typical(20),
    },
    { from: "main.out", back: "n1", wire: wire("16 AWG", 0.5) },
  );
  return part(
    machine,
    "load",
    "board",
    {
      loadKind: "board",
      nominalV: typical(5),
      inputMinV: typical(4.5),
      inputMaxV: typical(5.5),
      cells: { m1: { state: "amps", amps: typical(1) } },
    },
    { from: "buck.out+", back: "n1", wire: wire("18 AWG", 0.6) },
  );
}

const figuresOf = (machine: Machine) => analyse(machine).analysis;
const wireTo = (machine: Machine, id: string) =>
  machine.wires.find((each) => each.to.part === id && each.role !== "return" && each.pair === undefined)?.id ?? "";
const wireFrom = (machine: Machine, id: string) =>
  machine.wires.find((each) => each.from.part === id && (each.role === "return" || each.pair !== undefined))?.id ?? "";

describe("figures of wires", () => {
  it("drop is current times all of the wire, heat leaves the inline fuse out", () => {
    const machine = must(barge(), {
      type: "setFuse",
      wireId: wireTo(barge(), "drive"),
      fuse: { family: "blade_regular_32v", ratingA: 20 },
    });
    const figure = figuresOf(machine).wires[wireTo(machine, "drive")];
    const amps = figure?.amps[0] ?? 0;
    expect(amps).toBeCloseTo(6.05, 9);
    expect(figure?.dropV[0]).toBeCloseTo(amps * ((figure?.runOhm ?? 0) + (figure?.fuseOhm ?? 0)), 12);
    expect(figure?.heatW[0]).toBeCloseTo(amps ** 2 * (figure?.runOhm ?? 0), 12);
    expect(figure?.fuseOhm).toBeGreaterThan(0);
  });

  it("parallel conductors share the run's resistance and carry more, but not twice as much", () => {
    const machine = barge();
    const id = wireTo(machine, "drive");
    const one = figuresOf(machine).wires[id];
    const two = figuresOf(must(machine, { type: "setFeed", id, changes: { parallel: 2 } })).wires[id];
    expect(two?.runOhm).toBeCloseTo((one?.runOhm ?? 0) / 2, 12);
    expect(two?.limitA).toBeCloseTo((one?.limitA ?? 0) * 1.8, 9);
  });

  it("the worst continuous current leaves timed modes out, the worst of all does not", () => {
    let machine = must(barge(), { type: "addMode", name: "Start", lastsS: 0.5, copyFrom: "m1" });
    machine = must(machine, { type: "setCell", loadId: "wheel", modeId: "m2", cell: { state: "amps", amps: typical(20) } });
    const figure = figuresOf(machine).wires[wireTo(machine, "wheel")];
    expect(figure?.worst).toMatchObject({ mode: 1 });
    expect(figure?.worst.amps).toBeCloseTo(20, 9);
    expect(figure?.worstContinuous.amps).toBeCloseTo(6, 9);
  });

  it("resistance follows the conductor temperature of the settings, and the ambient when that is hotter", () => {
    const run = (conductorC: number, ambientC: number) => {
      const machine = must(barge(), { type: "setSettings", changes: { conductorC, ambientC, jointOhm: 1e-5 } });
      return figuresOf(machine).wires[wireTo(machine, "board")]?.runOhm ?? 0;
    };
    expect(run(60, 25) / run(20, 20)).toBeCloseTo(1.1572, 2);
    expect(run(20, 60)).toBeCloseTo(run(60, 25), 12);
  });
});

describe("figures of parts", () => {
  it("the worst a source gives counts the low pack, from which constant-power loads draw more", () => {
    const { parts, modes } = figuresOf(simple({ behaviour: "power" }));
    expect(parts.pack?.worstOut?.amps).toBe(parts.pack?.worst.amps);
    expect(parts.pack?.worstOut).toMatchObject({ low: true });
    expect(modes[0]?.worstA).toBe(parts.pack?.worstOut?.amps);
    expect(modes[0]?.worstA ?? 0).toBeGreaterThan(modes[0]?.sourceA ?? 0);
    expect(parts.motor?.worstOut).toBeNull();
  });

  it("a motor's drop leaves out what its driver's bridge keeps, its volts do not", () => {
    const { parts, wires } = figuresOf(barge());
    const machine = barge();
    const wheel = parts.wheel;
    const path = [
      wireTo(machine, "main"),
      wireTo(machine, "drive"),
      wireTo(machine, "wheel"),
      wireFrom(machine, "wheel"),
      wireFrom(machine, "drive"),
      wireFrom(machine, "n1"),
    ];
    const conductors = path.reduce((sum, id) => sum + (wires[id]?.dropV[0] ?? 0), 0);
    const mainFuse = (parts.main?.amps[0] ?? 0) * fuseOhm({ family: "blade_regular_32v", ratingA: 20 });
    expect(wheel?.dropV[0]).toBeCloseTo(conductors + mainFuse, 9);
    expect((parts.pack?.volts[0] ?? 0) - (wheel?.volts[0] ?? 0)).toBeCloseTo((wheel?.dropV[0] ?? 0) + 6 * 0.1, 9);
  });

  it("what is lost on the way counts from the source that feeds it: the battery, where the supply beside it gives nothing", () => {
    for (const mainsV of [11, 14]) {
      const { parts, wires } = analyse(backedUp(10, mainsV)).analysis;
      const feeding = mainsV > 12 ? "mains" : "battery";
      expect(parts[feeding]?.amps[0]).toBeGreaterThan(4);
      const machine = backedUp(10, mainsV);
      const way = machine.wires.filter(({ from, to }) => [from.part, to.part].some((id) => id === feeding || id === "lamp"));
      const lost = way.reduce((sum, { id }) => sum + (wires[id]?.dropV[0] ?? 0), 0);
      expect(parts.lamp?.dropV[0]).toBeCloseTo(lost, 9);
    }
  });

  it("a board's ground stands up by its own return and by what shares the bar with it", () => {
    const machine = barge();
    const { parts, wires } = figuresOf(machine);
    const shared = wires[wireFrom(machine, "n1")]?.dropV[0] ?? 0;
    const own = wires[wireFrom(machine, "board")]?.dropV[0] ?? 0;
    const converterReturn = (wires[wireFrom(machine, "buck")]?.amps[0] ?? 0) * (wires[wireFrom(machine, "buck")]?.runOhm ?? 0);
    expect(parts.drive?.offsetV[0]).toBeCloseTo(shared + (wires[wireFrom(machine, "drive")]?.dropV[0] ?? 0), 9);
    // Against the converter's own minus, which its input return lifts (or lowers, when the board lands elsewhere).
    expect(parts.board?.offsetV[0]).toBeCloseTo(own - converterReturn, 9);
  });

  it("a converter's input power is its output power over its efficiency, plus what it draws idle", () => {
    const { parts } = figuresOf(barge());
    const buck = parts.buck;
    const inW = (buck?.volts[0] ?? 0) * (buck?.amps[0] ?? 0);
    const outW = (buck?.outV?.[0] ?? 0) * (buck?.outA?.[0] ?? 0);
    expect(inW).toBeCloseTo(outW / 0.9 + (buck?.volts[0] ?? 0) * 0.01, 9);
    expect(buck?.lossW?.[0]).toBeCloseTo(inW - outW, 9);
    expect(buck?.outV?.[0]).toBeCloseTo(5 - 0.02 * (buck?.outA?.[0] ?? 0), 12);
  });

  it("highest is the full pack, or the output that feeds the rail; lowest is taken with the pack low", () => {
    const { parts } = figuresOf(barge());
    expect(parts.drive?.highestV).toBe(14.6);
    expect(parts.board?.highestV).toBe(5);
    expect(parts.drive?.lowestV?.volts ?? 99).toBeLessThan(parts.drive?.volts[0] ?? 0);
    expect(figuresOf(must(barge(), { type: "updatePart", id: "pack", changes: { fullV: undefined } })).parts.drive?.highestV).toBeNull();
  });

  it("nothing is live behind an open switch, and nothing there has a voltage", () => {
    let machine = must(barge(), { type: "addMode", name: "Stopped", lastsS: null, copyFrom: "m1" });
    machine = part(machine, "switch", "stop", { openIn: ["m2"] }, { from: "main.out", wire: wire("14 AWG", 0.2) });
    machine = must(machine, { type: "reland", wireId: wireTo(machine, "drive"), end: "from", at: at("stop.out") });
    const { parts } = figuresOf(machine);
    expect([...(parts.wheel?.live ?? [])]).toEqual([1, 0]);
    expect(parts.wheel?.amps[1]).toBe(0);
    expect(parts.wheel?.lowestV?.mode).toBe(0);
    expect([...(parts.buck?.live ?? [])]).toEqual([1, 1]);
  });
});

describe("accounts", () => {
  it("a bar gives on what arrives; a driver keeps its own use; a return bar collects", () => {
    const { figures } = analyse(barge());
    const account = (id: string) => accountOf(figures, id, 0);
    expect(account("drive")).toMatchObject({ arrives: [{ label: "main" }], leaves: [{ label: "wheel" }] });
    expect(account("drive")?.own).toBeCloseTo(0.05, 12);
    // The board lands on the bar too, so the converter fetches its output current back from there.
    expect(account("n1")?.leaves.map((line) => line.label)).toEqual(expect.arrayContaining(["pack", "buck"]));
    expect(account("n1")?.arrives.map((line) => line.label)).toEqual(expect.arrayContaining(["drive", "board"]));
    expect(account("pack")?.arrives[0]?.label).toBe("its cells");
    expect(accountOf(figures, "nobody", 0)).toBeNull();
  });

  it("what leaves the pack's plus comes home to its minus", () => {
    const { figures } = analyse(barge());
    const pack = accountOf(figures, "pack", 0);
    const out = pack?.leaves.reduce((sum, line) => sum + line.amps, 0) ?? 0;
    const home = pack?.returns.reduce((sum, line) => sum - line.amps, 0) ?? 1;
    expect(home).toBeCloseTo(out, 9);
  });
});

describe("solutions of modes that an edit does not touch", () => {
  it("are kept, and every figure is what a fresh analysis finds", () => {
    const cache = new TopologyCache();
    let machine = generateMachine({ parts: 60, seed: 77, modes: 4, driven: true, meshed: true });
    let before = solveMachine(machine, cache);
    const load = machine.parts.find((each) => each.kind === "load" && each.loadKind === "board");
    const edits: Command[] = [
      { type: "setCell", loadId: load?.id ?? "", modeId: "m2", cell: { state: "amps", amps: typical(3.3) } },
      { type: "setCell", loadId: load?.id ?? "", modeId: "m2", cell: null },
      { type: "setFeed", id: machine.wires[4]?.id ?? "", changes: { gauge: "8 AWG" } },
      { type: "moveMode", id: "m1", by: 1 },
    ];
    const kept: number[] = [];
    for (const edit of edits) {
      machine = must(machine, edit);
      const after = solveMachine(machine, cache);
      kept.push(after.planned.filter((point, m) => point === before.planned[m]).length);
      const fresh = solveMachine(machine);
      after.planned.forEach((point, m) => {
        const apart = point.nodeV.map((volts, node) => Math.abs(volts - (fresh.planned[m]?.nodeV[node] ?? Number.NaN)));
        expect(Math.max(...apart)).toBeLessThan(1e-8);
        expect(after.unknown[m]?.branch).toEqual(fresh.unknown[m]?.branch);
      });
      before = after;
    }
    expect(kept.slice(0, 3)).toEqual([3, 3, 0]);
  });

  it("are the same for a motor whose leads are changed over on its channel, which only turns the other way", () => {
    const machine = driven();
    const swap = (end: TerminalRef): TerminalRef => (end.part === "motor" ? { ...end, terminal: end.terminal === "+" ? "-" : "+" } : end);
    const turned = { ...machine, wires: machine.wires.map((wire) => ({ ...wire, from: swap(wire.from), to: swap(wire.to) })) };
    const [as, other] = [machine, turned].map((each) => analyse(each).figures);
    for (const id of ["motor", "drive", "pack"]) {
      expect(Array.from(other?.parts[id]?.amps ?? [])).toEqual(Array.from(as?.parts[id]?.amps ?? []));
      expect(Array.from(other?.parts[id]?.volts ?? [])).toEqual(Array.from(as?.parts[id]?.volts ?? []));
    }
    expect(analyse(turned).analysis.verdicts.find(({ rule }) => rule === "lead-landing")?.severity).toBe("fix");
  });
});

describe("the worst of all modes", () => {
  const [mode] = analyse(simple({ amps: 4 })).analysis.modes as [ModeFigures, ...ModeFigures[]];

  it("is the most at either charge, and nothing where no mode has an operating point", () => {
    expect(worstOfModes([mode, { ...mode, worstA: 9 }])).toEqual({ amps: 9, atLeast: false });
    expect(worstOfModes([{ ...mode, collapsed: true, worstA: 0 }])).toEqual({ amps: null, atLeast: true });
  });

  it("is a least value where a load is unknown, or a mode collapses at one of the two charges", () => {
    for (const flag of ["atLeast", "collapsed", "collapsedLow"] as const)
      expect(worstOfModes([mode, { ...mode, [flag]: true }]), flag).toEqual({ amps: mode.worstA, atLeast: true });
  });
});
