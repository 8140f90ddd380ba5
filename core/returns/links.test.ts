import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Machine, Signal } from "@/core/machine/schema";
import type { OperatingPoint } from "@/core/network/point";
import { generateMachine } from "@/tests/support/generate";
import { backOf, board, join, land, link, withBrain, workshop } from "@/tests/support/grounds";
import { must, part } from "@/tests/support/small";
import { talking } from "@/tests/support/talking";
import { isolates, toleranceOf } from "./budget";
import { largestDrop, linksOf, shareOf } from "./links";
import { leastLimit, secondLinks, secondReturns, signalGrounds } from "./loops";
import { sharedMetal } from "./shared";
import { returnsOf } from "./summary";

const figuresOf = (machine: Machine) => analyse(machine).figures;
const only = (machine: Machine) => {
  const [found] = linksOf(figuresOf(machine));
  if (!found) throw new Error("no link");
  return found;
};

describe("what a link bears", () => {
  const of = (over: Partial<Signal>, machine = newMachine("any")) =>
    toleranceOf(machine, { id: "s", from: "a", to: "b", kind: "logic", ...over }, undefined);

  it("is the smaller margin of both ways where the receiver answers", () => {
    const one = of({ sender: "cmos5", receiver: "cmos5_ttl_in" });
    const both = of({ sender: "cmos5", receiver: "cmos5_ttl_in", bothWays: true });
    if (one.kind !== "held" || both.kind !== "held") throw new Error("not held");
    // There: 0.47 low, 1.84 high. Back: 5 V CMOS reads 1.35 and 3.15 of 0.33 and 3.84.
    expect([one.aboveV, one.belowV]).toEqual([expect.closeTo(0.47, 9), expect.closeTo(1.84, 9)]);
    expect([both.aboveV, both.belowV]).toEqual([expect.closeTo(0.47, 9), expect.closeTo(1.02, 9)]);
  });

  it("is refused where one end cannot send or listen, and asked for where levels are not told", () => {
    expect(of({ sender: "cmos5_ratio_in", receiver: "cmos5" }).kind).toBe("invalid");
    expect(of({ sender: "cmos5", receiver: "collector5" }).kind).toBe("invalid");
    expect(of({ sender: "collector5", receiver: "cmos5", bothWays: true }).kind).toBe("invalid");
    for (const signal of [
      { sender: "cmos5" },
      { receiver: "cmos5" },
      { kind: "i2c" },
      { kind: "analogue", bits: 10 },
      { kind: "analogue", fullScaleV: typical(5) },
    ] as const)
      expect(of(signal).kind, JSON.stringify(signal)).toBe("missing");
  });

  it("is what its sheet says where that is given, whole, and nothing for what is isolated or heard", () => {
    expect(of({ allowsV: typical(0.25) })).toMatchObject({ kind: "held", steadyAboveV: 0.25, peakBelowV: 0.25 });
    expect(of({ kind: "opto", allowsV: typical(0.25) }).kind).toBe("isolated");
    expect(of({ kind: "audio" }).kind).toBe("heard");
    const driver = part(newMachine("any"), "driver", "d", { isolatedInputs: true }).parts[0];
    expect(isolates({ id: "s", from: "a", to: "d", kind: "pulse" }, driver)).toBe(true);
    expect(isolates({ id: "s", from: "a", to: "d", kind: "analogue" }, driver)).toBe(false);
  });

  it("follows the settings, and never exceeds the margin with spikes", () => {
    const machine = newMachine("any");
    machine.settings.links = { staticShare: 0.3, peakShare: 0.6, capV: 0.1 };
    expect(of({ sender: "ttl5", receiver: "ttl5" }, machine)).toMatchObject({
      steadyAboveV: expect.closeTo(0.1, 9),
      peakAboveV: expect.closeTo(0.24, 9),
    });
  });
});

describe("a link's offset", () => {
  it("turns its sign, and takes the other margin, when sender and receiver change places", () => {
    for (let seed = 1; seed <= 8; seed++) {
      const machine = talking(generateMachine({ parts: 26, seed, meshed: seed % 2 === 0 }), seed);
      const turned = { ...machine, signals: machine.signals?.map((signal) => ({ ...signal, from: signal.to, to: signal.from })) };
      const [a, b] = [linksOf(figuresOf(machine)), linksOf(figuresOf(turned))];
      a.forEach((each, i) => {
        each.offsetV.forEach((volts, m) => {
          expect(b[i]?.offsetV[m]).toBeCloseTo(-volts, 9);
        });
        expect(b[i]?.joined).toBe(each.joined);
        expect(b[i]?.unsure).toBe(each.unsure);
      });
    }
  });

  it("is the sum of what each load does to it, on a linear machine", () => {
    const machine = talking(generateMachine({ parts: 22, seed: 3, meshed: true, linear: true, converters: false }), 3);
    const amps = machine.parts.flatMap((each) => (each.kind === "load" ? [each.id] : []));
    const alone = (keep: string | null): Machine => ({
      ...machine,
      parts: machine.parts.map((each) =>
        each.kind === "load" && each.id !== keep
          ? { ...each, cells: Object.fromEntries(machine.modes.map(({ id }) => [id, { state: "off" as const }])) }
          : each,
      ),
    });
    const constant = machine.parts.every((each) => each.kind !== "load" || each.behaviour === "current");
    const whole = linksOf(figuresOf(machine));
    const rest = linksOf(figuresOf(alone(null)));
    const parts = amps.map((id) => linksOf(figuresOf(alone(id))));
    whole.forEach((each, i) => {
      const sum = parts.reduce(
        (total, links) => total + (links[i]?.offsetV[0] ?? 0) - (rest[i]?.offsetV[0] ?? 0),
        rest[i]?.offsetV[0] ?? 0,
      );
      // Stalled motors draw by the volts that are left, which the others lower: they differ by a few percent.
      expect(Math.abs(sum - (each.offsetV[0] ?? 0))).toBeLessThan(constant ? 1e-9 : 0.1 * Math.max(0.01, Math.abs(sum)));
    });
    expect(whole.some(({ offsetV }) => Math.abs(offsetV[0] ?? 0) > 1e-3)).toBe(true);
  });

  it("grows with the motor's current and with its return's length, and names the conductor that makes it", () => {
    const at = (metres: number) => {
      const machine = link(workshop(), "mind", "drive");
      return must(machine, { type: "updateWire", id: backOf(machine, "drive").id, changes: { lengthM: typical(metres) } });
    };
    const worst = [0.5, 1, 2, 4].map((metres) => only(at(metres)).worst?.share ?? 0);
    expect([...worst].sort((a, b) => a - b)).toEqual(worst);
    const figures = figuresOf(at(4));
    const signal = figures.machine.signals?.[0];
    expect(signal && largestDrop(figures, signal.id, figures.solved.planned[1] as OperatingPoint)?.wire.from.part).toBe("drive");
    expect(shareOf({ kind: "isolated" }, 5)).toBe(0);
  });

  it("is unsure by any unsized conductor in a loop its way has a part in, and only by those", () => {
    const looped = join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", undefined);
    expect(only(looped).unsure).toBe(true);
    const beside = must(link(workshop(), "mind", "sense"), {
      type: "updateWire",
      id: backOf(workshop(), "n2").id,
      changes: { lengthM: undefined },
    });
    expect(only(beside).unsure).toBe(false);
  });
});

describe("loops and limits", () => {
  it("tell a second link between bars from a second return of a part", () => {
    const linked = figuresOf(join(workshop(), "return", "n2", "n1", "6 AWG"));
    expect([secondLinks(linked).length, secondReturns(linked).length]).toEqual([1, 0]);
    const twice = figuresOf(join(workshop(), "return", "drive.in-", "n1", "20 AWG"));
    expect([secondLinks(twice).length, secondReturns(twice).length]).toEqual([0, 1]);
  });

  it("take the weaker of wire and contacts, and have a limit for thin wires under every school", () => {
    const machine = join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", "26 AWG");
    const wire = machine.wires.at(-1);
    if (!wire) throw new Error("no wire");
    const bare = leastLimit(figuresOf(machine), wire) ?? 0;
    expect(bare).toBeGreaterThan(0.5);
    const boat = must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, ampacity: "boat" } } });
    expect(leastLimit(figuresOf(boat), wire)).toBeGreaterThan(0.5);
    const unsized = must(machine, { type: "updateWire", id: wire.id, changes: { gauge: undefined } });
    expect(signalGrounds(figuresOf(unsized))[0]).toMatchObject({ limitA: null, unsure: true });
  });
});

describe("what shares metal, and where grounds stand", () => {
  it("counts every board on the motors' bar that talks with one elsewhere, and lifts by the others' current alone", () => {
    const machine = link(board(land(workshop(), "mind", "n2"), "radio", "n2"), "mind", "sense");
    const found = sharedMetal(figuresOf(machine));
    expect(found.map(({ board: { id } }) => id)).toContain("mind");
    const figures = figuresOf(machine);
    const tie = backOf(machine, "n2");
    const amps = Math.abs(figures.wires[tie.id]?.amps[1] ?? 0);
    const lift = found.find(({ board: { id } }) => id === "mind")?.liftV[1] ?? 0;
    expect(lift).toBeCloseTo((amps - 0.25) * (figures.wires[tie.id]?.runOhm ?? 0), 9);
  });

  it("measures from the bar beside each source, in every piece of metal", () => {
    const machine = withBrain(workshop(), { lengthM: typical(1) });
    const { offsets } = returnsOf(figuresOf(machine));
    expect(offsets.brain?.reference).toBe("small");
    expect(offsets.drive?.reference).toBe("n1");
    expect(offsets.brain?.volts[0]).toBeGreaterThan(0);
    expect(offsets.drive?.worst.mode).toBe(1);
  });
});
