import { describe, expect, it } from "vitest";
import { newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { LevelName } from "@/core/machine/load-schema";
import type { Load } from "@/core/machine/schema";
import { LOGIC_CLASSES, MOTOR_CLASSES } from "@/core/reference/classes";
import { methodById, whatIsKnown } from "../know";
import type { Inputs } from "./types";

/** What a method says of a load, by level. */
function says(id: string, inputs: Inputs, over: Partial<Load>): Partial<Record<LevelName, { value: number; low: number; high: number }>> {
  const method = methodById(id);
  const known = method && whatIsKnown(method, inputs, newPart("load", "p1", "Load", over));
  if (!known) throw new Error(`${id} says nothing`);
  return Object.fromEntries(known.estimates.map(({ level, value, low, high }) => [level, { value, low, high }]));
}

const notes = (id: string, inputs: Inputs, over: Partial<Load>): string => {
  const method = methodById(id);
  return (method && whatIsKnown(method, inputs, newPart("load", "p1", "Load", over))?.notes.join(" ")) ?? "";
};

describe("classes, a last resort", () => {
  it.each(MOTOR_CLASSES.filter(({ type }) => type !== "stepper").map((row) => [row.id, row] as const))(
    "%s: at its own volts the table's figures, stall between its least and most",
    (id, row) => {
      const found = says("motorClass", { class: id }, { nominalV: typical(row.nominalV) });
      if (row.stallA !== null) {
        expect(found.stall?.value).toBeCloseTo(row.stallA, 9);
        expect(found.stall?.low ?? 0).toBeLessThanOrEqual((row.stallMinA ?? row.stallA) + 1e-9);
        expect(found.stall?.high ?? 0).toBeGreaterThanOrEqual((row.stallMaxA ?? row.stallA) - 1e-9);
      }
      const run = row.type === "hobby_servo" ? row.noLoadA : row.ratedA;
      if (run !== null) expect(found.run?.value).toBeCloseTo(run, 9);
    },
  );

  it.each(MOTOR_CLASSES.filter(({ type }) => type === "stepper").map((row) => [row.id, row] as const))(
    "%s: standing draws what its windings burn, running at least 0.6 of its phase current",
    (id, row) => {
      const phaseA = 0.8 * (row.ratedA ?? Number.NaN);
      for (const volts of [5, 12, 48]) {
        // 2·I²·(R + R_on) + P_q, with 0.45 Ω and 0.5 W as the method has them.
        const stands = (2 * phaseA ** 2 * ((row.windingOhm ?? Number.NaN) + 0.45) + 0.5) / volts;
        const found = says("stepperFrame", { class: id }, { loadKind: "stepper", nominalV: typical(volts) });
        expect(found.run?.value).toBeCloseTo(Math.max(stands, 0.6 * phaseA), 9);
      }
    },
  );

  it("a motor on half its class's volts stalls at half, and runs at the same current", () => {
    const full = says("motorClass", { class: "gm37" }, { nominalV: typical(12) });
    const half = says("motorClass", { class: "gm37" }, { nominalV: typical(6) });
    expect(half.stall?.value).toBeCloseTo((full.stall?.value ?? 0) / 2, 9);
    expect(half.run?.value).toBeCloseTo(full.run?.value ?? 0, 9);
  });

  it.each(LOGIC_CLASSES.map((row) => [row.id, row] as const))("%s: idle below typical below peak", (id, row) => {
    const found = says(
      "logicClass",
      { class: id },
      { loadKind: row.kinds[0] ?? "board", nominalV: typical(row.volts), behaviour: "current" },
    );
    expect(found.run?.value).toBeCloseTo(row.runA, 9);
    expect(found.start?.value ?? 0).toBeGreaterThanOrEqual(found.run?.value ?? 0);
    expect(found.idle?.value ?? 0).toBeLessThanOrEqual(found.run?.value ?? 0);
  });

  it("a board takes the same power at another voltage, a coil only its own current", () => {
    const board = { loadKind: "computer" as const, nominalV: typical(10) };
    expect(says("logicClass", { class: "computer4" }, { ...board, behaviour: "power" }).run?.value).toBeCloseTo(0.5, 9);
    expect(
      says("logicClass", { class: "relay12" }, { loadKind: "coil", nominalV: typical(10), behaviour: "resistance" }).run?.value,
    ).toBeCloseTo(0.16, 9);
  });
});

describe("what other loads are told by", () => {
  it("rated watts: shaft watts ask more current than input watts, and the stall is a multiple with a wide range", () => {
    const shaft = says("ratedPower", { powerW: 60, meant: "shaft", group: "can" }, { nominalV: typical(12) });
    const input = says("ratedPower", { powerW: 60, meant: "input", group: "can" }, { nominalV: typical(12) });
    expect(input.run?.value).toBeCloseTo(5, 9);
    expect(shaft.run?.value ?? 0).toBeGreaterThan(input.run?.value ?? 0);
    expect((shaft.stall?.high ?? 0) / (shaft.stall?.low ?? 1)).toBeGreaterThan(2);
  });

  it("terminal ohms read high, so the stall may be more but hardly less; uneven or few readings are said", () => {
    const found = says("terminalOhm", { readings: [1, 1, 1, 1, 1], leadOhm: 0.1 }, { nominalV: typical(9) });
    expect(found.stall?.value).toBeCloseTo(10, 9);
    expect((found.stall?.high ?? 0) - 10).toBeGreaterThan(10 - (found.stall?.low ?? 0));
    expect(notes("terminalOhm", { readings: [1, 1.6, 1, 0.9, 1], leadOhm: 0 }, { nominalV: typical(9) })).toContain("commutator");
    expect(notes("terminalOhm", { readings: [1, 1], leadOhm: 0 }, { nominalV: typical(9) })).toContain("five");
  });

  it("a stepper's hold reduction goes with the square, and a peak scale asks half the heat of an r.m.s. one", () => {
    const base = { setA: 2, scale: "rms", phaseOhm: 1.5, driverOhm: 0.5, driverW: 0, hold: 100, torqueNm: 0, rpm: 0 };
    const load = { loadKind: "stepper" as const, nominalV: typical(24) };
    const full = says("stepperSetting", base, load);
    expect(full.idle?.value).toBeCloseTo(full.run?.value ?? 0, 9);
    expect(says("stepperSetting", { ...base, hold: 50 }, load).idle?.value).toBeCloseTo((full.idle?.value ?? 0) / 4, 9);
    expect(says("stepperSetting", { ...base, scale: "peak" }, load).run?.value).toBeCloseTo((full.run?.value ?? 0) / 2, 9);
    expect(says("stepperSetting", { ...base, torqueNm: 0.5, rpm: 600 }, load).run?.value ?? 0).toBeGreaterThan(full.run?.value ?? 0);
  });

  it("a brushless drive never takes more than its bus limit, however large its motor", () => {
    const load = { loadKind: "brushless" as const, nominalV: typical(36) };
    const drive = { busLimitA: 10, powerW: 2000, efficiency: 80, freeA: 0.5 };
    expect(says("busLimit", drive, load).run?.value).toBeCloseTo(10, 9);
    expect(says("busLimit", { ...drive, powerW: 144 }, load).run?.value).toBeCloseTo(5, 9);
    expect(says("busLimit", drive, load).start?.value).toBeCloseTo(10, 9);
  });

  it("heaters and lamps: their own resistance at our volts, and more when cold", () => {
    const found = says("heaterRating", { powerW: 48, ratedV: 12, cold: 10 }, { loadKind: "light", nominalV: typical(24) });
    expect(found.run?.value).toBeCloseTo(8, 9);
    expect(found.start?.value).toBeCloseTo(80, 9);
  });

  it("pixels, music and coils", () => {
    const strip = says("pixels", { count: 100, eachA: 0.06, share: 25 }, { loadKind: "light", nominalV: typical(5) });
    expect([strip.idle?.value, strip.run?.value, strip.start?.value]).toEqual([0.1, 1.5, 6].map((amps) => expect.closeTo(amps, 9)));
    const sound = says("soundPower", { powerW: 20, channels: 2, efficiency: 80 }, { loadKind: "sound", nominalV: typical(25) });
    expect(sound.start?.value).toBeCloseTo(2, 9);
    expect(sound.run?.value).toBeCloseTo(0.25, 9);
    const coil = says("coil", { ohm: 60, hold: 30 }, { loadKind: "coil", nominalV: typical(12) });
    expect(coil.start?.value).toBeCloseTo(0.2, 9);
    expect(coil.run?.value).toBeCloseTo(0.06, 9);
  });
});

describe("what is driven", () => {
  const train = { gear: 30, efficiency: 70, noLoadRpm: 5000, noLoadA: 0.5, stallA: 30, radiusM: 0.06 };
  const wheels = {
    ...train,
    massKg: 20,
    motors: 2,
    slopeDeg: 5,
    crr: 0.03,
    acceleration: 0,
    turning: "straight",
    friction: 0.8,
    wheelbase: 0.3,
    track: 0.4,
    factor: 4,
  };
  const load = { nominalV: typical(12) };

  it("more motors share the work, speeding up adds to it, a spot turn costs most on grippy wheels", () => {
    const run = (change: Inputs) => says("wheel", { ...wheels, ...change }, load).run?.value ?? 0;
    expect(run({ motors: 4 })).toBeLessThan(run({}));
    expect(run({ acceleration: 1 })).toBeGreaterThan(run({}));
    expect(run({ slopeDeg: 0, turning: "wheels" })).toBeGreaterThan(run({ slopeDeg: 0, turning: "factor" }));
    expect(run({ slopeDeg: 0, turning: "wheels", friction: 0.2 })).toBeLessThan(run({ slopeDeg: 0, turning: "wheels" }));
  });

  it("says where wheels slip before the motor stalls, and where the motor cannot do it at all", () => {
    expect(notes("wheel", wheels, load)).toContain("slip");
    expect(notes("wheel", { ...wheels, gear: 1, massKg: 200 }, load)).toContain("cannot move");
    expect(notes("lift", { ...train, massKg: 500 }, load)).toContain("cannot move");
    expect(notes("lift", { ...train, massKg: 1 }, load)).toBe("");
  });

  it("a lift's current goes with its mass above the free current", () => {
    const at = (massKg: number) => (says("lift", { ...train, massKg }, load).run?.value ?? 0) - train.noLoadA;
    expect(at(10)).toBeCloseTo(2 * at(5), 9);
  });
});
