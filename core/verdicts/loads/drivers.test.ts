import { describe, expect, it } from "vitest";
import { typical } from "@/core/machine/figure";
import type { Onboard } from "@/core/machine/load-schema";
import type { Machine, PartOf } from "@/core/machine/schema";
import { at, driven, must, part } from "@/tests/support/small";
import { analyse } from "../../analysis/analyse";
import type { Verdict } from "../types";

const of = (machine: Machine, rule: string): Verdict[] => analyse(machine).analysis.verdicts.filter((verdict) => verdict.rule === rule);

const ofDrive = (rule: string, drive: Partial<PartOf<"driver">> = {}, motor: Partial<PartOf<"load">> = {}, packV = 24) =>
  of(driven(drive, motor, packV), rule);

/** Applies a verdict's first remedy and says what its rule then says. */
const afterRemedy = (machine: Machine, rule: string) => {
  const remedy = of(machine, rule)[0]?.remedies[0];
  if (!remedy) throw new Error(`${rule} offers nothing`);
  return of(must(machine, remedy.command), rule);
};

it("a plain driver with a plain motor leaves nothing to say", () => {
  // Its 4 AWG feed is more than a driver of this class takes: that is said of the wire.
  expect(analyse(driven()).analysis.verdicts.filter(({ rule }) => rule !== "terminal-fit")).toEqual([]);
});

/** A linear regulator on the part's own board. */
const onboard: Onboard = {
  outputV: typical(5),
  inputMinV: typical(7),
  inputMaxV: typical(12),
  outputA: typical(0.2),
  type: "linear",
  kelvinPerWatt: typical(60),
  jumper: "in",
};

describe("channel current", () => {
  it("counts what the board carries as it is cooled, and fitting the heatsink settles it", () => {
    const drive = { continuousA: typical(5), heatsinkA: typical(12), airA: typical(20) };
    const machine = driven(drive);
    expect(of(machine, "driver-current")[0]).toMatchObject({ severity: "fix", limit: 5, unit: "A" });
    expect(afterRemedy(machine, "driver-current").filter(({ id }) => id === "driver-current:drive")).toEqual([]);
    expect(ofDrive("driver-current", { ...drive, cooling: "air" }).filter(({ id }) => id === "driver-current:drive")).toEqual([]);
  });

  it("a figure for cooling it does not have never counts, and missing ones fall back on the worse", () => {
    expect(ofDrive("driver-current", { continuousA: typical(5), airA: typical(50) })[0]).toMatchObject({ limit: 5 });
    expect(ofDrive("driver-current", { continuousA: typical(5), cooling: "air" })[0]).toMatchObject({ limit: 5 });
  });

  it("the lowest layer wins and is named", () => {
    const [verdict] = ofDrive("driver-current", { layers: [{ layer: "controller board", name: "shield base", continuousA: typical(4) }] });
    expect(verdict).toMatchObject({ severity: "fix", limit: 4 });
    expect(verdict?.detail).toContain("shield base");
  });

  it("a headline alone is not a rating: it asks", () => {
    const machine = must(driven({ headlineA: typical(43) }), { type: "updatePart", id: "drive", changes: { continuousA: undefined } });
    expect(of(machine, "driver-current")[0]).toMatchObject({ severity: "ask" });
    expect(analyse(machine).analysis.status.drive).toBe("ask");
  });

  it("a brief mode is judged by the peak, and by the continuous rating once it outlasts the peak", () => {
    const motor = { cells: { m1: { state: "run" as const, percent: 100 }, m2: { state: "stall" as const } } };
    const brief = (drive: Partial<PartOf<"driver">>) =>
      of(
        must(must(driven(drive), { type: "addMode", name: "Jam", lastsS: 20 }), { type: "updatePart", id: "motor", changes: motor }),
        "driver-current",
      );
    const severities = (found: Verdict[]) => found.filter(({ id }) => id === "driver-current:brief:drive").map(({ severity }) => severity);
    expect(severities(brief({ continuousA: typical(10), peakS: typical(30) }))).toEqual([]);
    expect(severities(brief({ continuousA: typical(10), peakS: typical(1) }))).toEqual(["fix"]);
  });

  it("a stall above the peak is refused, between the ratings it needs a time-out, a real limit settles it", () => {
    const stall = (drive: Partial<PartOf<"driver">>) => ofDrive("driver-current", drive).filter(({ id }) => id.includes("stall"));
    expect(stall({ continuousA: typical(10), peakA: typical(20) })[0]?.severity).toBe("fix");
    expect(stall({ continuousA: typical(10), peakA: typical(60) })[0]?.severity).toBe("watch");
    expect(stall({ continuousA: typical(10), peakA: typical(20), limitA: typical(9) })).toEqual([]);
    // A trip far above the rating is no limit.
    expect(stall({ continuousA: typical(10), peakA: typical(20), limitA: typical(40) })[0]?.severity).toBe("fix");
  });
});

describe("motor leads", () => {
  const thin = (drive: Partial<PartOf<"driver">> = {}) => {
    const machine = driven(drive);
    const lead = machine.wires.find(({ to }) => to.part === "motor");
    return must(machine, { type: "setFeed", id: lead?.id ?? "", changes: { gauge: "18 AWG" } });
  };
  const school = (machine: Machine, motorLeads: "unfused" | "fused") =>
    must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, motorLeads } } });

  it("the two schools read the same lead differently, and a driver's limit satisfies both", () => {
    expect(of(school(thin(), "unfused"), "motor-lead")[0]?.severity).toBe("watch");
    expect(of(school(thin(), "fused"), "motor-lead")[0]?.severity).toBe("fix");
    expect(of(school(thin({ limitA: typical(8) }), "fused"), "motor-lead")).toEqual([]);
  });

  it("fusing the lead is one action", () => {
    const machine = school(thin(), "fused");
    expect(of(machine, "motor-lead")[0]?.remedies[0]?.command.type).toBe("setFuse");
    expect(afterRemedy(machine, "motor-lead")).toEqual([]);
  });
});

describe("volts at every layer", () => {
  it("names the layer that dies first, at full charge", () => {
    const [verdict] = ofDrive("layer-voltage", { layers: [{ layer: "chip", maxV: typical(25) }] });
    expect(verdict).toMatchObject({ severity: "stop", limit: 25, value: expect.closeTo(24 * 1.05, 6) });
    expect(verdict?.headline).toContain("chip");
    expect(ofDrive("layer-voltage", { inputMaxV: typical(28) })[0]?.severity).toBe("watch");
  });

  it("a motor below its rail needs a duty cap; with it there is still a risk to tell", () => {
    const motor = { nominalV: typical(12) };
    const machine = driven({}, motor);
    expect(of(machine, "rail-mismatch")[0]).toMatchObject({ severity: "fix" });
    const capped = must(machine, of(machine, "rail-mismatch")[0]?.remedies[0]?.command ?? { type: "rename" });
    const drive = capped.parts.find(({ id }) => id === "drive");
    expect(drive?.kind === "driver" ? drive.dutyCap?.value : 1).toBeLessThanOrEqual(12 / (24 * 1.05));
    expect(of(capped, "rail-mismatch").map(({ severity }) => severity)).toEqual(["watch"]);
    expect(ofDrive("rail-mismatch", { dutyCap: typical(0.8) }, motor)[0]?.severity).toBe("fix");
  });

  it("a motor above its rail is slow; a bipolar bridge makes it slower", () => {
    expect(ofDrive("rail-mismatch", {}, { nominalV: typical(36) })[0]).toMatchObject({ severity: "watch" });
    const bipolar = { bridge: "bipolar" as const, bridgeV: typical(1.4), bridgeOhm: typical(0.3), freewheel: "fitted" as const };
    expect(ofDrive("bridge-drop", bipolar, { levels: { run: typical(1), stall: typical(3) } }, 6)[0]?.severity).toBe("watch");
    expect(ofDrive("bridge-drop", bipolar, { levels: { run: typical(3), stall: typical(9) } }, 6)[0]?.severity).toBe("fix");
    expect(ofDrive("bridge-drop", {})).toEqual([]);
  });
});

describe("a way round for the motor's current", () => {
  it("asks where it cannot be taken for granted, stops where it is missing, and is settled by fitting it", () => {
    expect(ofDrive("freewheel", { bridge: "bipolar" })[0]?.severity).toBe("ask");
    const missing = driven({ bridge: "low side", freewheel: "missing" });
    expect(of(missing, "freewheel")[0]?.severity).toBe("stop");
    expect(afterRemedy(missing, "freewheel")).toEqual([]);
    expect(ofDrive("freewheel", { bridge: "mosfet" })).toEqual([]);
  });
});

describe("how the logic side is fed", () => {
  const board = (packV: number, over: Partial<Onboard> = {}) =>
    driven(
      { logic: "onboard", logicA: typical(0.02), onboard: { ...onboard, ...over } },
      { levels: { run: typical(1), stall: typical(4) } },
      packV,
    );
  const five = (machine: Machine) =>
    part(
      machine,
      "converter",
      "buck",
      { outputV: typical(5), ratedA: typical(2), limitA: typical(2), inputMinV: typical(5), inputMaxV: typical(40) },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: typical(0.2) } },
    );
  const wired = (machine: Machine) =>
    must(five(machine), {
      type: "addWire",
      wire: {
        role: "supply",
        from: at("buck.out+"),
        to: at("drive.5v"),
        parallel: 1,
        insulation: "pvc80",
        gauge: "20 AWG",
        lengthM: typical(0.2),
      },
    });
  const said = (machine: Machine) => of(machine, "logic-side").map(({ id, severity }) => `${severity} ${id.split(":")[1]}`);

  it("inside its window the regulator feeds it, and its terminal is an output", () => {
    expect(said(board(9))).toEqual([]);
    const { parts } = analyse(board(9)).analysis;
    expect(parts.drive?.outA?.[0]).toBeCloseTo(0.02, 6);
    expect(parts.drive?.outV?.[0]).toBeCloseTo(5, 2);
  });

  it("above the window the jumper must come out, and then 5 V must be fed in", () => {
    const high = board(14);
    expect(said(high)).toEqual(["stop above"]);
    const pulled = must(high, of(high, "logic-side")[0]?.remedies[0]?.command ?? { type: "rename" });
    expect(said(pulled)).toEqual(["fix unfed"]);
    expect(said(wired(pulled))).toEqual([]);
  });

  it("below the window it cannot start, whatever hangs on it", () => expect(said(board(6))).toEqual(["fix below"]));

  it("a sag below the window drops it out", () => {
    const sagging = must(board(7.4), { type: "updatePart", id: "pack", changes: { internalOhm: typical(0.5) } });
    expect(said(sagging)).toEqual(["fix sag"]);
  });

  it("two sources on one 5 V node are a conflict", () => {
    const twice = wired(board(9));
    expect(of(twice, "logic-side").find(({ id }) => id.includes("twice"))).toMatchObject({ severity: "stop" });
    const pulled = must(twice, of(twice, "logic-side").find(({ id }) => id.includes("twice"))?.remedies[0]?.command ?? { type: "rename" });
    expect(said(pulled)).toEqual([]);
  });

  it("the motor supply on the logic terminal is a stop, a regulator's 5 V is not", () => {
    const wire = { role: "supply" as const, to: at("drive.5v"), parallel: 1, insulation: "pvc80", gauge: "20 AWG", lengthM: typical(0.2) };
    const own = driven({ logic: "own input", logicV: typical(5) });
    expect(said(must(own, { type: "addWire", wire: { ...wire, from: at("main.out") } }))).toEqual(["stop overfed"]);
    expect(said(must(five(own), { type: "addWire", wire: { ...wire, from: at("buck.out+") } }))).toEqual([]);
  });

  it("a duty cap does not make a driver survive a stall: it is the program's promise", () => {
    const weak = { continuousA: typical(10), peakA: typical(20) };
    const stall = (drive: Partial<PartOf<"driver">>) => ofDrive("driver-current", drive).filter(({ id }) => id.includes("stall"));
    expect(stall({ ...weak, dutyCap: typical(0.3) })).toEqual(stall(weak));
  });

  it("an own 5 V input without a wire never switches", () => {
    expect(said(driven({ logic: "own input" }))).toEqual(["fix unfed"]);
    expect(said(driven({ logic: "controller" }))).toEqual(["fix unfed"]);
  });

  const feeding = (machine: Machine, amps: number) =>
    part(
      machine,
      "load",
      "brain",
      {
        loadKind: "board",
        nominalV: typical(5),
        inputMinV: typical(4.5),
        inputMaxV: typical(5.5),
        cells: { m1: { state: "amps", amps: typical(amps) } },
      },
      { from: "drive.5v", back: "drive.in-", wire: { gauge: "22 AWG", lengthM: typical(0.1) } },
    );

  it("its terminal gives only so much, and a linear one overheats before that at a high supply", () => {
    expect(said(feeding(board(9), 0.15))).toEqual([]);
    expect(said(feeding(board(9), 0.4))).toContain("fix output");
    expect(said(feeding(board(11.4, { kelvinPerWatt: typical(90) }), 0.15))).toContain("fix heat");
    expect(said(feeding(board(11.4, { kelvinPerWatt: undefined }), 0.15))).toContain("ask heat");
    expect(said(feeding(board(9, { outputA: undefined }), 0.1))).toContain("ask output");
  });

  it("what hangs on it is a rail of its own, and its current comes through the driver's feed", () => {
    const machine = feeding(board(9), 0.15);
    const { figures, analysis } = analyse(machine);
    expect(figures.ledger.rowOf.get("brain")?.rail?.origin).toBe("drive");
    expect(analysis.parts.drive?.outA?.[0]).toBeCloseTo(0.17, 6);
    // Linear: what goes out comes in.
    expect(analysis.parts.drive?.amps[0]).toBeCloseTo(1 + 0.02 + 0.17, 6);
    expect(analysis.parts.drive?.lossW?.[0]).toBeCloseTo(
      ((analysis.parts.drive?.volts[0] ?? 0) - (analysis.parts.drive?.outV?.[0] ?? 0)) * 0.17,
      6,
    );
  });
});

describe("what is not known is never called clear", () => {
  const without = (machine: Machine, changes: Record<string, unknown>) => must(machine, { type: "updatePart", id: "pack", changes });

  it("a limit above what the driver survives is not planned on", () => {
    const stalled = driven({ continuousA: typical(10), peakA: typical(15), limitA: typical(18) }, { cells: { m1: { state: "stall" } } });
    expect(analyse(stalled).analysis.parts.motor?.amps[0] ?? 0).toBeGreaterThan(20);
    const real = driven({ continuousA: typical(10), peakA: typical(20), limitA: typical(18) }, { cells: { m1: { state: "stall" } } });
    expect(analyse(real).analysis.parts.motor?.amps[0] ?? 0).toBeCloseTo(18, 6);
  });

  it("a pack without its full voltage still shows a certain mismatch, and a regulator on it is asked about", () => {
    expect(of(without(driven({}, { nominalV: typical(12) }), { fullV: undefined }), "rail-mismatch")[0]?.severity).toBe("fix");
    const regulated = driven({
      logic: "onboard",
      onboard: { outputV: typical(5), inputMinV: typical(7), inputMaxV: typical(30), outputA: typical(1), type: "buck", jumper: "in" },
    });
    expect(of(regulated, "logic-side")).toEqual([]);
    for (const missing of ["fullV", "lowV"]) {
      const machine = without(regulated, { [missing]: undefined });
      expect(of(machine, "logic-side").map(({ severity }) => severity)).toEqual(["ask"]);
      expect(analyse(machine).analysis.status.drive).toBe("ask");
    }
  });
});

describe("boards", () => {
  const brain = (over: Partial<PartOf<"load">> = {}) =>
    part(
      driven({}, {}, 9),
      "load",
      "brain",
      {
        loadKind: "board",
        nominalV: typical(9),
        inputMinV: typical(7),
        inputMaxV: typical(12),
        cells: { m1: { state: "amps", amps: typical(0.05) } },
        ...over,
      },
      { from: "main.out", back: "pack.-", wire: { gauge: "16 AWG", lengthM: typical(0.2) } },
    );
  const onPin = (machine: Machine, terminal: string, over: Partial<PartOf<"load">>) =>
    part(
      machine,
      "load",
      "small",
      { nominalV: typical(9), cells: { m1: { state: "amps", amps: typical(0.01) } }, ...over },
      { from: `brain.${terminal}`, back: "brain.-", wire: { gauge: "24 AWG", lengthM: typical(0.1) } },
    );

  it("no motor runs from a signal pin, and nothing above what the pin gives", () => {
    expect(of(onPin(brain(), "pin", { loadKind: "motor" }), "board-pin")[0]?.severity).toBe("stop");
    expect(of(onPin(brain(), "pin", { loadKind: "sensor" }), "board-pin")).toEqual([]);
    const hungry = { loadKind: "sensor" as const, cells: { m1: { state: "amps" as const, amps: typical(0.05) } } };
    expect(of(onPin(brain(), "pin", hungry), "board-pin")).toHaveLength(1);
    expect(of(onPin(brain({ pinA: typical(0.1) }), "pin", hungry), "board-pin")).toEqual([]);
  });

  it("what hangs on a board's pins flows through the board's own feed", () => {
    const { wires } = analyse(onPin(brain(), "5v", { loadKind: "sensor" })).analysis;
    const feed = Object.values(wires).find((wire) => Math.abs((wire.amps[0] ?? 0) - 0.06) < 1e-6);
    expect(feed).toBeDefined();
  });

  it("a USB port beside the board's regulator is a conflict, not a reserve", () => {
    const own: Onboard = { ...onboard, jumper: "fixed" };
    let machine = brain({ onboard: own });
    machine = part(machine, "supply", "port", { outputV: typical(5), ratedA: typical(0.5), limitA: typical(0.5) });
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: "supply",
        from: at("port.+"),
        to: at("brain.5v"),
        parallel: 1,
        insulation: "pvc80",
        gauge: "24 AWG",
        lengthM: typical(1),
      },
    });
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: "return",
        from: at("brain.-"),
        to: at("port.-"),
        parallel: 1,
        insulation: "pvc80",
        gauge: "24 AWG",
        lengthM: typical(1),
      },
    });
    expect(of(machine, "logic-side").map(({ severity }) => severity)).toContain("stop");
  });
});

describe("settings and ends", () => {
  const stepper = (setA: number, scale: "rms" | "peak") =>
    driven({}, { loadKind: "stepper", behaviour: "power", stepper: { ratedA: typical(1.7), setA: typical(setA), scale } });
  it("a setpoint counts on its own scale, and the remedy lowers it there", () => {
    expect(of(stepper(2.2, "peak"), "stepper-setting")).toEqual([]);
    expect(of(stepper(2.2, "rms"), "stepper-setting")[0]?.severity).toBe("fix");
    expect(of(stepper(2.6, "peak"), "stepper-setting")[0]?.severity).toBe("fix");
    expect(of(stepper(1.68, "rms"), "stepper-setting")[0]?.severity).toBe("watch");
    expect(afterRemedy(stepper(2.6, "peak"), "stepper-setting")).toEqual([]);
    // The phases carry it even where nobody knows what the supply draws meanwhile.
    const unknown = (setA: number) =>
      driven(
        { continuousA: typical(1.5), peakA: typical(2) },
        {
          loadKind: "stepper",
          behaviour: "power",
          levels: {},
          cells: { m1: { state: "idle" } },
          stepper: { ratedA: typical(4), setA: typical(setA), scale: "rms" },
        },
      );
    expect(of(unknown(1.8), "driver-current").map(({ severity }) => severity)).toContain("fix");
    expect(of(unknown(1.2), "driver-current").map(({ severity }) => severity)).not.toContain("fix");
  });

  it("an actuator without end switches must have a mode in which it stalls", () => {
    const actuator = (over: Partial<PartOf<"load">>) => of(driven({}, { loadKind: "actuator", ...over }), "end-stop")[0]?.severity;
    expect(actuator({})).toBe("ask");
    expect(actuator({ endSwitches: true })).toBeUndefined();
    expect(actuator({ endSwitches: false })).toBe("fix");
    expect(actuator({ endSwitches: false, cells: { m1: { state: "stall" } } })).toBeUndefined();
  });
});

describe("estimates", () => {
  const unsure = (high: number, drive: Partial<PartOf<"driver">> = {}) =>
    ofDrive("estimate", drive, { levels: { run: { ...typical(6), low: 5, high }, stall: typical(25) } });
  it("an estimate matters where something fits at its value and not at the top of its range", () => {
    expect(unsure(8, { continuousA: typical(7) })[0]).toMatchObject({ severity: "ask" });
    expect(unsure(8, { continuousA: typical(9) })).toEqual([]);
    // Where it does not fit anyway, that is said instead.
    expect(unsure(8, { continuousA: typical(5) })).toEqual([]);
  });
  it("a bare guess counts half as much again, a measured figure nothing", () => {
    const level = (provenance: "guess" | "measured") =>
      ofDrive("estimate", { continuousA: typical(7) }, { levels: { run: { value: 6, provenance }, stall: typical(25) } });
    expect(level("guess")).toHaveLength(1);
    expect(level("measured")).toEqual([]);
  });
  it("a state without its figure asks for that figure and leaves everything upstream a least value", () => {
    const machine = driven({}, { levels: { run: typical(6) }, cells: { m1: { state: "stall" } } });
    expect(of(machine, "missing-figure").some(({ id }) => id.includes("level-stall"))).toBe(true);
    expect(analyse(machine).analysis.modes[0]?.atLeast).toBe(true);
  });
});
