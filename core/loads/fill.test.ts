import { describe, expect, it } from "vitest";
import { driven, must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { analyseFully } from "../analysis/fully";
import { replans } from "../choosing/replan";
import { bridgeChanges } from "../drivers/bridge-typical";
import { newMachine } from "../machine/defaults";
import { datasheet, measured, typical } from "../machine/figure";
import { LEVELS } from "../machine/load-schema";
import type { Load, Machine } from "../machine/schema";
import { parseCell } from "../machine/typed";
import { LOAD_KINDS } from "../reference/load-kinds";
import { levelsCommand } from "./fill";
import { PRESETS, presetCommand } from "./presets";
import { sidesOf } from "./sides";
import { levelWord } from "./words";

const loadIn = (machine: Machine, id: string): Load => {
  const found = machine.parts.find((each) => each.id === id);
  if (found?.kind !== "load") throw new Error(id);
  return found;
};

/** Motors of one make by name, each on a driver of two channels, in the order they are given. */
function motors(names: readonly string[], stalls: readonly number[] = []): Machine {
  let machine = newMachine("Sides");
  machine = part(machine, "pack", "pack", { openCircuitV: typical(24) });
  names.forEach((name, i) => {
    const driver = `drive-${Math.floor(i / 2)}`;
    if (i % 2 === 0) machine = part(machine, "driver", driver, { channels: 2 }, { from: "pack.+", back: "pack.-" });
    const levels = { run: datasheet(5), stall: datasheet(stalls[i] ?? 30) };
    machine = part(
      machine,
      "load",
      `m-${i}`,
      { nominalV: datasheet(24), levels },
      { from: `${driver}.${(i % 2) + 1}a`, back: `${driver}.${(i % 2) + 1}b` },
    );
    machine = must(machine, { type: "updatePart", id: `m-${i}`, changes: { name } });
  });
  return machine;
}

describe("driven on two sides", () => {
  const preset = PRESETS.find(({ id }) => id === "driven-sides");
  const jam = (machine: Machine) => {
    const command = preset && presetCommand(machine, preset);
    if (!command) throw new Error("does not fit");
    const after = must(machine, command);
    const mode = (name: string) => after.modes.find((each) => each.name === name)?.id ?? "";
    const of = (name: string) => after.parts.flatMap((each) => (each.kind === "load" ? [each.cells[mode(name)]?.state ?? "?"] : []));
    return { jammed: of("One side jammed"), start: of("Both start") };
  };

  it.each([
    ["two", ["Paddle left", "Paddle right"], ["stall", "run"]],
    ["four", ["Left front", "Right front", "Left rear", "Right rear"], ["stall", "run", "stall", "run"]],
    ["four that share drivers by side", ["M1", "M2", "M3", "M4"], ["stall", "stall", "run", "run"]],
    [
      "six",
      ["L1", "L2", "L3", "R1", "R2", "R3"].map((name) => `${name.startsWith("L") ? "Left" : "Right"} ${name}`),
      ["stall", "stall", "stall", "run", "run", "run"],
    ],
    ["six without a word", ["M1", "M2", "M3", "M4", "M5", "M6"], ["stall", "stall", "stall", "run", "run", "run"]],
  ])("pairs by side for %s motors: all start, one side jams", (_, names, jammed) => {
    const found = jam(motors(names));
    expect(found.jammed).toEqual(jammed);
    expect(found.start).toEqual(names.map(() => "start"));
  });

  it("takes a tool of another make for no drive, and a row of four pieces for both sides", () => {
    const four = motors(["M1", "M2", "M3", "M4", "Brush"], [30, 30, 30, 30, 9]);
    expect(sidesOf(four).has("m-4")).toBe(false);
    expect(jam(four).jammed).toEqual(["stall", "stall", "run", "run", "run"]);
    const row = must(motors(["Wheels"]), { type: "updatePart", id: "m-0", changes: { count: 4 } });
    const command = preset && presetCommand(row, preset);
    const after = command ? must(row, command) : row;
    const mode = after.modes.find(({ name }) => name === "One side jammed");
    expect(loadIn(after, "m-0").cells[mode?.id ?? ""]).toEqual({ state: "stall", pieces: 2 });
  });
});

describe("figures that are typed", () => {
  const bare = driven({}, { levels: undefined, cells: {} } as Partial<Load>);

  it("count in every mode that had none, and make a mode in which the motor is held", () => {
    const two = must(must(bare, { type: "addMode", name: "Idle", lastsS: null }), {
      type: "setCell",
      loadId: "motor",
      modeId: "m2",
      cell: { state: "off" },
    });
    const run = must(two, levelsCommand(two, loadIn(two, "motor"), { run: datasheet(6) }));
    expect(loadIn(run, "motor").cells).toEqual({ m1: { state: "run", percent: 100 }, m2: { state: "off" } });
    const held = must(run, levelsCommand(run, loadIn(run, "motor"), { run: datasheet(6), stall: datasheet(25) }));
    const mode = held.modes.find(({ name }) => name === "Held");
    expect(mode?.lastsS).toBe(2);
    expect(loadIn(held, "motor").cells[mode?.id ?? ""]).toEqual({ state: "stall" });
    expect(loadIn(held, "motor").cells.m1).toEqual({ state: "run", percent: 100 });
    // Again it adds nothing: a mode plans the stall.
    const again = must(held, levelsCommand(held, loadIn(held, "motor"), { run: datasheet(7), stall: datasheet(26) }));
    expect(again.modes).toHaveLength(held.modes.length);
  });

  it("leave what the builder entered for a mode as it is", () => {
    const typed = must(bare, { type: "setCell", loadId: "motor", modeId: "m1", cell: { state: "amps", amps: measured(2) } });
    const after = must(typed, levelsCommand(typed, loadIn(typed, "motor"), { run: datasheet(6) }));
    expect(loadIn(after, "motor").cells.m1).toEqual({ state: "amps", amps: measured(2) });
  });
});

describe("the kind of a bridge", () => {
  it("sets what it usually keeps, and leaves what was measured or read", () => {
    const driver = driven().parts.find(({ kind }) => kind === "driver");
    if (driver?.kind !== "driver") throw new Error("no driver");
    expect(bridgeChanges(driver, "bipolar")).toMatchObject({ bridge: "bipolar", bridgeV: { value: 1.4, provenance: "typical" } });
    expect(bridgeChanges({ ...driver, bridgeV: typical(1.4) }, "mosfet")).toMatchObject({ bridge: "mosfet", bridgeV: undefined });
    const known = bridgeChanges({ ...driver, bridgeV: measured(1.1), bridgeOhm: datasheet(0.3) }, "bipolar");
    expect(known).toEqual({ bridge: "bipolar" });
  });

  it("costs a motor its volts at once", () => {
    const before = driven();
    const driver = before.parts.find(({ kind }) => kind === "driver");
    if (driver?.kind !== "driver") throw new Error("no driver");
    const after = must(before, { type: "updatePart", id: "drive", changes: bridgeChanges(driver, "bipolar") });
    const volts = (machine: Machine) => analyse(machine).figures.parts.motor?.volts[0] ?? 0;
    expect(volts(before) - volts(after)).toBeGreaterThan(1.4);
  });
});

describe("another main voltage", () => {
  it("leaves the windings of steppers as they are: their drivers chop", () => {
    let machine = driven();
    machine = part(machine, "driver", "chopper", { channels: 1, continuousA: typical(3) }, { from: "main.out", back: "pack.-" });
    machine = part(
      machine,
      "load",
      "axis",
      { loadKind: "stepper", nominalV: typical(24), levels: { run: typical(1.2) }, cells: { m1: { state: "run", percent: 100 } } },
      { from: "chopper.1a", back: "chopper.1b" },
    );
    const at48 = replans(analyse(machine).figures)?.find(({ volts }) => volts === 48);
    expect(at48?.rewound).toEqual(["motor"]);
  });
});

describe("a heater on too high volts", () => {
  it("is not cured by a larger fuse", () => {
    const hot = (volts: number) =>
      must(simple({ amps: 14, behaviour: "resistance", fuse: { family: "blade_regular_32v", ratingA: 15 } }), {
        type: "updatePart",
        id: "motor",
        changes: { loadKind: "heater", nominalV: typical(volts) },
      });
    const fuses = (machine: Machine) => analyse(machine).analysis.verdicts.filter(({ rule }) => rule === "fuse-too-small");
    const right = fuses(hot(12));
    expect(right[0]?.remedies.length).toBeGreaterThan(0);
    const wrong = fuses(hot(6));
    expect(wrong.length).toBeGreaterThan(0);
    for (const { remedies, cause } of wrong) {
      expect(remedies).toEqual([]);
      expect(cause).toBe("motor");
    }
  });
});

describe("what is only missing", () => {
  it("is asked for and never a Stop: how strong a short is, without the pack's resistance or a wire's size", () => {
    const strong = must(simple({ internalOhm: 0.004, gauge: "4 AWG", metres: 0.1 }), {
      type: "setFeed",
      id: "w1",
      changes: { gauge: "1/0 AWG", lengthM: measured(0.1) },
    });
    const said = (machine: Machine) => analyseFully(machine).analysis.verdicts.filter(({ rule }) => rule === "breaking-capacity");
    expect(said(strong).map(({ severity }) => severity)).toContain("stop");
    for (const unknown of [
      must(strong, { type: "updatePart", id: "pack", changes: { internalOhm: undefined } }),
      must(strong, { type: "setFeed", id: "w1", changes: { gauge: undefined } }),
    ]) {
      const found = said(unknown);
      expect(found.map(({ severity }) => severity)).not.toContain("stop");
      expect(found.map(({ severity }) => severity)).toContain("ask");
    }
  });
});

describe("the words of the screen", () => {
  it("can be typed where they stand: every level of every kind by its own word", () => {
    for (const kind of LOAD_KINDS)
      for (const level of LEVELS) {
        const word = levelWord(kind, level);
        if (word === null) continue;
        const cell = parseCell(word, 12);
        expect(cell.ok && cell.value?.state, `${kind}: ${word}`).toBe(level);
      }
  });
});
