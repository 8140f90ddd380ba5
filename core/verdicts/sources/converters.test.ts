import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { analyseFully } from "@/core/analysis/fully";
import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Part } from "@/core/machine/schema";
import { nodeAt } from "@/core/network/circuit";
import { holdUpNeed } from "@/core/sources/stops";
import { change, lead, one, said, settle, supplied, supplyOf } from "@/tests/support/judged";
import { packed } from "@/tests/support/packed";
import { must, part } from "@/tests/support/small";

describe("converters at their limits", () => {
  const regulated = (over: object, amps = 0.15, volts = 12): Machine => {
    let machine = supplied({ outputV: f(volts), ratedA: f(5) }, 0.01, { nominalV: f(volts) });
    machine = part(
      machine,
      "converter",
      "reg",
      { topology: "linear", outputV: f(5), ratedA: f(1), inputMinV: f(4), inputMaxV: f(25), quiescentA: f(0.006), ...over },
      { from: "supply.+", back: "supply.-" },
    );
    return part(
      machine,
      "load",
      "board",
      { loadKind: "board", nominalV: f(5), inputMinV: f(4.5), inputMaxV: f(5.5), cells: { m1: { state: "amps", amps: f(amps) } } },
      { from: "reg.out+", back: "reg.out-", wire: { gauge: "20 AWG", lengthM: f(0.1) } },
    );
  };

  it("a linear one is asked how it sheds heat, then judged by its chip", () => {
    expect(one(regulated({}), "converter-limits", "heat")).toMatchObject({ severity: "ask" });
    expect(one(regulated({ kelvinPerWatt: f(90) }, 0.14), "converter-limits", "heat")).toMatchObject({ severity: "watch" });
    const hot = one(regulated({ kelvinPerWatt: f(90) }, 0.2), "converter-limits", "heat");
    expect(hot).toMatchObject({ severity: "fix", limit: 125 });
    expect(hot?.value).toBeCloseTo(25 + 90 * (7 * 0.2 + 12 * 0.006), 0);
    expect(one(regulated({ kelvinPerWatt: f(20) }), "converter-limits", "heat")).toBeUndefined();
  });

  it("and its rating with it: what the chip bears at the highest input", () => {
    expect(one(regulated({ kelvinPerWatt: f(90) }, 0.2), "source-rating")?.limit).toBeCloseTo((85 / 90 - 12 * 0.006) / 7, 6);
  });

  it("dropout and the longest duty of a buck", () => {
    expect(one(regulated({ dropoutV: f(2), kelvinPerWatt: f(20) }, 0.1, 6.5), "converter-limits", "dropout")).toMatchObject({
      severity: "fix",
      limit: 7,
    });
    expect(one(regulated({ dropoutV: f(1), kelvinPerWatt: f(20) }, 0.1, 6.5), "converter-limits", "dropout")).toBeUndefined();
    expect(one(regulated({ topology: "buck", dutyMax: f(0.9) }, 0.1, 5.4), "converter-limits", "dropout")?.limit).toBeCloseTo(5 / 0.9, 9);
    // Below the printed minimum the window rule speaks, not both.
    const below = regulated({ dropoutV: f(2), inputMinV: f(6.8), kelvinPerWatt: f(20) }, 0.1, 6.5);
    expect(one(below, "converter-limits", "dropout")).toBeUndefined();
    expect(one(below, "input-window", "min:reg")).toMatchObject({ severity: "fix" });
  });

  it("an output that may be off its mark", () => {
    const set = (tolerance: number) =>
      one(regulated({ kelvinPerWatt: f(20), outputV: { ...f(5.3), tolerance } }), "converter-limits", "accuracy");
    expect(set(0.05)).toMatchObject({ severity: "fix", also: ["board"] });
    expect(set(0.02)).toBeUndefined();
  });

  it("a constant-power input that cannot start on a limited supply (CV 21)", () => {
    const starving = (limitA: number) => {
      let machine = newMachine("Start");
      machine = part(machine, "supply", "supply", {
        outputV: f(14),
        outputOhm: f(0.01),
        overload: "constant current",
        limitA: f(limitA),
        ratedA: f(limitA),
      });
      machine = part(
        machine,
        "converter",
        "boost",
        {
          topology: "boost",
          outputV: f(24),
          efficiency: f(1),
          ratedA: f(5),
          startsAtV: f(9),
          quiescentA: f(0),
          inputMinV: f(9),
          inputMaxV: f(20),
        },
        { from: "supply.+", back: "supply.-" },
      );
      return part(
        machine,
        "load",
        "load",
        { nominalV: f(24), cells: { m1: { state: "amps", amps: f(2.5) } } },
        { from: "boost.out+", back: "boost.out-" },
      );
    };
    expect(one(starving(5), "converter-limits", "start")?.value).toBeCloseTo(6.667, 1);
    expect(one(starving(8), "converter-limits", "start")).toBeUndefined();
  });
});

describe("braking energy", () => {
  const braked = (supply: Part, load: object, driver: object = {}): Machine => {
    let machine = newMachine("Braked");
    machine = must(machine, { type: "addPart", part: supply });
    machine = part(
      machine,
      "driver",
      "driver",
      { bridge: "mosfet", continuousA: f(20), inputMinV: f(8), inputMaxV: f(30), ...driver },
      { from: `${supply.id}.+`, back: `${supply.id}.-` },
    );
    return part(
      machine,
      "load",
      "motor",
      { nominalV: f(24), cells: { m1: { state: "amps", amps: f(4) } }, ...load },
      { from: "driver.1a", back: "driver.1b" },
    );
  };
  const supply = supplyOf("s", 24);

  it("asks how much comes back, and says nothing of a motor that only coasts or a bridge that cannot brake", () => {
    expect(one(braked(supply, {}), "regeneration")).toMatchObject({ severity: "ask" });
    expect(said(braked(supply, { brakingJ: f(0) }), "regeneration")).toEqual([]);
    expect(said(braked(supply, {}, { bridge: "low side" }), "regeneration")).toEqual([]);
    expect(said(braked({ ...supply, sinks: true } as Part, {}), "regeneration")).toEqual([]);
  });

  it("2 J into 4.7 mF at 24 V reach 37.8 V (CV 15): too much for the driver; a bank of 15 mF holds it", () => {
    const verdict = one(braked(supply, { brakingJ: f(2) }, { inputF: f(4700e-6) }), "regeneration");
    expect(verdict).toMatchObject({ severity: "fix" });
    expect(verdict?.value).toBeCloseTo(37.8, 1);
    expect(one(braked(supply, { brakingJ: f(2) }, { inputF: f(0.03) }), "regeneration")).toMatchObject({ severity: "watch" });
    expect(one(braked(supply, { brakingJ: f(2) }), "regeneration")).toMatchObject({ severity: "fix" });
  });

  it("a battery takes it, unless it is lithium below freezing or must never be charged", () => {
    const pack = lead("p", 25.2, { series: 12 });
    expect(said(braked(pack, { brakingJ: f(50) }), "regeneration")).toEqual([]);
    const lithium = braked({ ...pack, chemistry: "lifepo4_energy", series: 8 } as Part, { brakingJ: f(50) });
    expect(said(lithium, "regeneration")).toEqual([]);
    expect(one(must(lithium, { type: "setSettings", changes: { coldestC: -5 } }), "regeneration")).toMatchObject({ severity: "fix" });
    expect(one(braked(lead("p", 24, { chemistry: "alkaline_d", series: 16 }), { brakingJ: f(1) }), "regeneration")).toMatchObject({
      severity: "fix",
    });
  });
});

describe("sensors and sound on a rail with motors", () => {
  const mixed = (loadKind: "sensor" | "sound" | "light" = "sensor"): Machine => {
    let machine = supplied({ ratedA: f(10) }, 0.1);
    machine = part(
      machine,
      "converter",
      "buck",
      { outputV: f(5), ratedA: f(5), inputMinV: f(7), inputMaxV: f(30) },
      { from: "supply.+", back: "supply.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
    );
    machine = part(
      machine,
      "load",
      "servo",
      { loadKind: "servo", nominalV: f(5), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "18 AWG", lengthM: f(0.4) } },
    );
    return part(
      machine,
      "load",
      "quiet",
      { loadKind, nominalV: f(5), cells: { m1: { state: "amps", amps: f(0.05) } } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "22 AWG", lengthM: f(0.4) } },
    );
  };

  it("is watched, and each remedy settles it without touching anything else", () => {
    const machine = mixed();
    const verdict = one(machine, "clean-rail");
    expect(verdict?.remedies).toHaveLength(3);
    for (const { command } of verdict?.remedies ?? []) {
      const settled = settle(machine, command);
      expect(said(settled, "clean-rail")).toEqual([]);
      expect(analyse(settled).analysis.parts.quiet).toMatchObject({ wiring: "ok" });
      expect(analyse(settled).analysis.parts.quiet?.amps[0]).toBeCloseTo(0.05, 9);
    }
  });

  it("a filter with too high a corner does not, and a lamp does not mind", () => {
    expect(one(change(mixed(), "quiet", { filterMh: f(0.001), filterF: f(1e-6) }), "clean-rail")).toBeDefined();
    expect(said(mixed("light"), "clean-rail")).toEqual([]);
  });
});

describe("a dip that a capacitor carries", () => {
  it("the remedy of a board that falls short in a timed mode settles it; a mode that lasts has none", () => {
    const dipping = (lastsS: number | null) => {
      let machine = packed({ chemistry: "nimh_aa", series: 5, cellAh: 2, ohm: 0.35, amps: 0.1, leastV: 4.6, behaviour: "power" });
      machine = must(machine, { type: "addMode", name: "Start", lastsS, copyFrom: "m1" });
      const start = machine.modes[1]?.id ?? "";
      return part(
        machine,
        "load",
        "motor",
        { nominalV: f(6), cells: { m1: { state: "off" }, [start]: { state: "amps", amps: f(3.4) } } },
        { from: "pack.+", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.1) } },
      );
    };
    const machine = dipping(0.2);
    const verdict = one(machine, "input-window", "min:load");
    expect(verdict).toMatchObject({ severity: "fix" });
    expect(verdict?.detail).toMatch(/charge/);
    expect(verdict?.remedies).toHaveLength(1);
    const settled = settle(machine, verdict?.remedies[0]?.command);
    expect(one(settled, "input-window", "min:load")?.severity).not.toBe("fix");
    expect(one(dipping(null), "input-window", "min:load")?.remedies).toEqual([]);
  });

  it("is not offered where a longer mode leaves too little between its own two terminals", () => {
    // A second motor comes home by the board's own thin return, for five seconds: its plus stands high enough, and its minus too.
    const machine = (backM: number) => {
      let made = packed({ chemistry: "nimh_aa", series: 5, cellAh: 2, ohm: 0.35, amps: 0.1, leastV: 4.6, behaviour: "power" });
      made = must(made, { type: "addMode", name: "Start", lastsS: 0.2, copyFrom: "m1" });
      made = must(made, { type: "addMode", name: "Pull", lastsS: 5, copyFrom: "m1" });
      const [, start = "", pull = ""] = made.modes.map(({ id }) => id);
      const back = made.wires.find(({ role, from }) => role === "return" && from.part === "load");
      made = must(made, { type: "updateWire", id: back?.id ?? "", changes: { gauge: "30 AWG", lengthM: f(backM) } });
      const wire = { gauge: "18 AWG", lengthM: f(0.1) };
      const off = { m1: { state: "off" as const }, [start]: { state: "off" as const }, [pull]: { state: "off" as const } };
      const on = (amps: number) => ({ state: "amps" as const, amps: f(amps) });
      made = part(made, "load", "motor", { nominalV: f(6), cells: { ...off, [start]: on(3.4) } }, { from: "pack.+", back: "pack.-", wire });
      return part(made, "load", "puller", { nominalV: f(6), cells: { ...off, [pull]: on(1.2) } }, { from: "pack.+", back: "load.-", wire });
    };
    const pulled = (backM: number) => {
      const { solved } = analyse(machine(backM)).figures;
      const at = (terminal: string) => solved.low[2]?.nodeV[nodeAt(solved.circuit, "load", terminal)] ?? Number.NaN;
      return { plus: at("+") - (solved.low[2]?.nodeV[nodeAt(solved.circuit, "pack", "-")] ?? 0), across: at("+") - at("-") };
    };
    // Charged from what is between its terminals while all is quiet, less 0.4 V of the diode.
    const { solved, machine: made } = analyse(machine(20)).figures;
    const load = made.parts.find(({ id }) => id === "load");
    const quiet = solved.low[0];
    const [plus, minus] = ["+", "-"].map((terminal) => quiet?.nodeV[nodeAt(solved.circuit, "load", terminal)] ?? Number.NaN);
    expect(minus).toBeGreaterThan(0.3);
    expect(load && holdUpNeed(made, solved.circuit, load, (m) => solved.low[m])?.fromV).toBeCloseTo((plus ?? 0) - (minus ?? 0) - 0.4, 9);
    expect(pulled(0.1).across).toBeGreaterThan(4.6);
    expect(one(machine(0.1), "input-window", "min:load")?.remedies).toHaveLength(1);
    expect(pulled(2).plus).toBeGreaterThan(4.6);
    expect(pulled(2).across).toBeLessThan(4.6);
    expect(one(machine(2), "input-window", "min:load")?.remedies).toEqual([]);
  });

  it("is charged from what a lasting mode leaves, not from the pack at rest", () => {
    // 6 V at rest; the motor that always runs takes it to 5 V, the start to 4 V; 4.6 V are needed.
    const steady = (amps: number) => {
      let machine = newMachine("Steady");
      machine = must(machine, { type: "addMode", name: "Start", lastsS: 0.05 });
      const [run = "", start = ""] = machine.modes.map(({ id }) => id);
      machine = part(machine, "pack", "pack", { openCircuitV: f(6), lowV: f(6), fullV: f(6), internalOhm: f(0.5) });
      const both = (first: number, second: number) => ({
        [run]: { state: "amps" as const, amps: f(first) },
        [start]: { state: "amps" as const, amps: f(second) },
      });
      machine = part(machine, "load", "motor", { nominalV: f(6), cells: both(amps, 4) }, { from: "pack.+", back: "pack.-" });
      return part(
        machine,
        "load",
        "board",
        { loadKind: "board", nominalV: f(5), inputMinV: f(4.6), holdUpF: f(0.005), holdUpOhm: f(0), cells: both(0.05, 0.05) },
        { from: "pack.+", back: "pack.-" },
      );
    };
    expect(one(steady(0), "input-window", "min:board")).toBeUndefined();
    expect(one(steady(2), "input-window", "min:board")).toMatchObject({ severity: "fix" });
  });
});

describe("verdicts that need a run", () => {
  const late = (machine: Machine, rule: string) => analyseFully(machine).analysis.verdicts.filter((verdict) => verdict.rule === rule);
  const wished = (machine: Machine, wantedRunS: number) => must(machine, { type: "setSettings", changes: { wantedRunS } });

  it("a run shorter than the wish, close to it, and long enough", () => {
    // 20 Ah at 10 A: two hours.
    const machine = packed({ amps: 10 });
    const severity = (hours: number) => late(wished(machine, hours * 3600), "run-time")[0]?.severity;
    expect([2.2, 1.9, 1].map(severity)).toEqual(["fix", "watch", undefined]);
    expect(late(machine, "run-time")).toEqual([]);
  });

  it("asks for what is missing only where a run is wanted", () => {
    const machine = packed({ over: { capacityAh: undefined } });
    expect(late(machine, "run-time")).toEqual([]);
    expect(late(wished(machine, 3600), "run-time")).toMatchObject([{ severity: "ask", subject: { id: "pack" } }]);
  });

  it("a mission that one charge does not see through, wish or no wish", () => {
    const mission = (seconds: number, repeats: boolean) => packed({ amps: 10, mission: { steps: [{ mode: "m1", seconds }], repeats } });
    expect(late(mission(3 * 3600, false), "run-time")).toMatchObject([{ severity: "fix" }]);
    expect(late(mission(3 * 3600, true), "run-time")).toMatchObject([{ severity: "fix" }]);
    expect(late(mission(3600, false), "run-time")).toEqual([]);
    expect(late(mission(3600, true), "run-time")).toEqual([]);
  });

  it("an aged or cold pack that breaks what a new one holds", () => {
    // New: 25.4 V under load at its reserve, 25.3 V needed. Half as much resistance again takes it below.
    const machine = packed({
      amps: 20,
      leastV: 25.3,
      ohm: 0.022,
      reserve: 0.3,
      over: { lowV: f(25.9), plannedCharge: f(0.5), openCircuitV: f(26.24) },
    });
    expect(said(machine, "input-window").filter(({ severity }) => severity === "fix")).toEqual([]);
    expect(late(machine, "aged-cold").map(({ id }) => id)).toEqual(["aged-cold:aged"]);
    const sturdy = packed({
      amps: 20,
      leastV: 25.3,
      ohm: 0.008,
      reserve: 0.3,
      over: { lowV: f(25.9), plannedCharge: f(0.5), openCircuitV: f(26.24) },
    });
    expect(late(sturdy, "aged-cold")).toEqual([]);
    const cold = must(sturdy, { type: "setSettings", changes: { coldestC: -10 } });
    expect(late(cold, "aged-cold").map(({ id }) => id)).toEqual(["aged-cold:cold"]);
  });

  it("late verdicts count in the status of what they speak of", () => {
    const { analysis } = analyseFully(wished(packed({ amps: 10 }), 4 * 3600));
    expect(analysis.status.pack).toBe("fix");
    expect(analysis.verdicts.map(({ rule }) => rule)).toContain("run-time");
  });
});
