import { describe, expect, it } from "vitest";
import { bridgeDrop, bridgeHeat, HOT_MOSFET, linearHeat, stallClass, thermalLimit } from "@/core/drivers/bridge";
import { deliverableAt } from "@/core/drivers/deliverable";
import { capacitorRms, capFailure, dutyCap, pulsedRms } from "@/core/drivers/pwm";
import { solveMachine } from "@/core/figures/solved";
import { crossoverDuty, phaseRms, stalledBusCurrent } from "@/core/loads/brushless";
import { estimate } from "@/core/loads/draw";
import { currentForForce, motorConstant, pivotForceTracks, pivotForceWheels, straightForce } from "@/core/loads/drive";
import { heatingCurrent, meanCurrent, rmsCurrent } from "@/core/loads/duty";
import { methodById, whatIsKnown } from "@/core/loads/know";
import {
  atTorque,
  inrushAt,
  lockedRotorOhm,
  pluggingCurrent,
  speedRatio,
  stallCurrent,
  startLetThrough,
  startTimeConstant,
  terminalOhm,
  twoPointModel,
  windingFactor,
} from "@/core/loads/motor";
import { amplifierCurrent, currentForPower, heaterOhm } from "@/core/loads/others";
import { rmsOfPeak, runningCurrent, SIMULTANEITY, standstillCurrent, supplyGuideV } from "@/core/loads/stepper";
import { newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Driver, Load } from "@/core/machine/schema";
import { parseQuantity } from "@/core/quantity/parse";
import { must, part, simple } from "../support/small";

/**
 * Check values of the handbook (motors-and-drivers, section 12), each with the source it names. "mem": the handbook quotes
 * the book from memory; "derived": follows from the equation; "practice": common practice, no source.
 * T1 Fitzgerald, Kingsley & Umans, Electric Machinery. T2 Hughes & Drury, Electric Motors and Drives. T3 Mohan, Undeland &
 * Robbins, Power Electronics. T4 Acarnley, Stepping Motors. T5 Wong, Theory of Ground Vehicles.
 */
const within = (value: number, expected: number, share = 0.005) => {
  expect(value).toBeGreaterThan(expected * (1 - share));
  expect(value).toBeLessThan(expected * (1 + share));
};
const comp = { volts: 12, noLoadA: 2.7, noLoadRpm: 5330, stallA: 131, stallTorque: 2.41 };

describe("brushed motors", () => {
  it("CV-01 stall is volts over ohms (T1, mem)", () => within(stallCurrent(12, 2.4), 5));

  it("CV-02 two points give resistance and both constants (T1, T2, mem)", () => {
    const model = twoPointModel(comp);
    within(model.ohm, 0.0916);
    within(model.ke, 0.02106);
    within(model.kt, 0.01878);
  });

  it("CV-03 current and speed at a torque (T2, mem)", () => {
    const { amps, rpm } = atTorque(comp, 0.6);
    within(amps, 34.64);
    within(rpm, 4003);
  });

  it("CV-04 most power and best efficiency (derived)", () => {
    const model = twoPointModel(comp);
    within(model.maxPowerW, 336.3);
    within(model.maxEfficiency, 0.7335);
    within(model.bestA, 18.81);
  });

  it("CV-05 rated current from watts (T2, mem; efficiency practice)", () => within(currentForPower(250, 24, 0.78), 13.35));

  it("CV-06 locked rotor at low voltage (derived)", () => {
    const ohm = lockedRotorOhm(3, 4.2, 0.5, 0.05);
    within(ohm, 0.5452);
    within(stallCurrent(12, ohm, 0.5), 21.09);
  });

  it("CV-07 terminal resistance over shaft positions (derived)", () => {
    const ohm = terminalOhm([0.62, 0.58, 0.66, 0.6, 0.64], 0.08);
    within(ohm, 0.54);
    within(stallCurrent(12, ohm), 22.22);
  });

  it("CV-08 a hot winding stalls lower (IEC 60028, mem)", () => {
    within(windingFactor(100), 1.314);
    within(1 / windingFactor(100), 0.7608);
  });

  it("CV-10 the whole loop limits a stall, solved as a network (derived)", () => {
    // 25.2 V behind 30 mΩ, wires of 60 mΩ in all, driver 20 mΩ, motor 0.22 Ω without brush drop: 25.2/0.33 = 76.36 A.
    let machine = must(simple(), { type: "removePart", id: "motor" });
    machine = must(machine, { type: "removePart", id: "main" });
    machine = must(machine, {
      type: "updatePart",
      id: "pack",
      changes: { openCircuitV: typical(25.2), internalOhm: typical(0.03), lowV: typical(25.2), fullV: typical(25.2) },
    });
    const wire = { lengthM: typical(0.001), gauge: "4/0 AWG" };
    machine = part(
      machine,
      "driver",
      "drive",
      { bridgeOhm: typical(0.02), ownA: typical(0), bridgeV: typical(1) },
      { from: "pack.+", back: "pack.-", wire },
    );
    machine = must(machine, { type: "setSettings", changes: { jointOhm: 0.06 / 8 } });
    machine = part(
      machine,
      "load",
      "motor",
      { nominalV: typical(22), levels: { stall: typical(100) }, cells: { m1: { state: "stall" } } },
      { from: "drive.1a", back: "drive.1b", wire },
    );
    const solved = solveMachine(machine);
    const load = solved.circuit.loads.findIndex(({ id, role }) => id === "motor" && role === "load");
    within(solved.planned[0]?.loadA[load] ?? 0, 73.33);
  });

  it("CV-15 start: time constant, current on the way, let-through (T1, mem, and derived)", () => {
    const tau = startTimeConstant({ rotorInertia: 1e-5, massKg: 10, radiusM: 0.06, gear: 30, ohm: 0.5, k: 0.02 });
    within(tau, 0.0625, 0.01);
    within(inrushAt(24, tau, 0.1), 4.846, 0.01);
    within(startLetThrough(24, tau), 18, 0.01);
  });

  it("CV-45 an under-voltage motor is slower, and stalls lower (T1, mem)", () => {
    within(speedRatio(9, 12, 2.4, 0.3), 0.734);
    within(speedRatio(9, 12, 2.4, 1.5), 0.6429);
    within(stallCurrent(9, 2.4), 3.75);
  });

  it("CV-46 an over-voltage motor needs a duty cap, and what fails without it (derived)", () => {
    within(dutyCap(6, 16.8), 0.3571);
    within(capFailure(6, 16.8).current, 2.8);
    within(capFailure(6, 16.8).heat, 7.84);
  });

  it("CV-47 plugging adds back-EMF to the supply (T1, mem)", () => {
    // 24 V, back-EMF 23 V, 0.30 Ω: stall 80 A; the running current that leaves 23 V of back-EMF is 1 V / 0.3 Ω.
    within(pluggingCurrent(stallCurrent(24, 0.3), 1 / 0.3), 156.7);
  });
});

describe("what it drives", () => {
  const ground = { massKg: 20, slopeDeg: 10, crr: 0.03 };
  const train = { radiusM: 0.06, gear: 30, efficiency: 0.7, k: 0.02, noLoadA: 0.3 };

  it("CV-11 up a slope (T5, mem, and derived)", () => {
    const force = straightForce(ground);
    within(force, 39.87);
    within(currentForForce(force / 2, train), 3.148);
  });

  it("CV-12 four wheels turned on the spot (derived)", () => {
    const force = pivotForceWheels(20, 0.03, 0.6, 0.32, 0.4);
    within(force, 39.71, 0.01);
    within(force / (straightForce({ ...ground, slopeDeg: 0 }) / 2), 13.49, 0.01);
    within(currentForForce(force, train), 5.973, 0.01);
  });

  it("CV-13 tracks turned on the spot (T5 turning moment, mem)", () => {
    within(pivotForceTracks(20, 0.03, 0.5, 0.32, 0.4), 22.56, 0.01);
  });

  it("CV-14 where the wheels slip (derived)", () => within(currentForForce((0.7 * 20 * 9.81) / 2, train), 10.11, 0.01));

  it("a bare motor's constant from its no-load speed is that of its two points (CV-02)", () => {
    within(motorConstant(12, 5330, 2.7, 12 / 131), 0.02106);
  });
});

describe("pulses, bridges and regulators", () => {
  /** One motor on one channel of a perfect source: amps of motor and bus as the network has them. */
  const onChannel = (drive: Partial<Driver>, motor: Partial<Load>, volts = 24) => {
    let machine = must(simple(), { type: "removePart", id: "motor" });
    machine = must(machine, { type: "removePart", id: "main" });
    machine = must(machine, { type: "setSettings", changes: { jointOhm: 1e-5 } });
    const perfect = { openCircuitV: typical(volts), lowV: typical(volts), fullV: typical(volts), internalOhm: typical(1e-6) };
    machine = must(machine, { type: "updatePart", id: "pack", changes: perfect });
    const wire = { lengthM: typical(0.001), gauge: "4/0 AWG" };
    machine = part(
      machine,
      "driver",
      "drive",
      { bridgeOhm: typical(1e-6), ownA: typical(0), ...drive },
      { from: "pack.+", back: "pack.-", wire },
    );
    machine = part(machine, "load", "motor", { nominalV: typical(volts), ...motor }, { from: "drive.1a", back: "drive.1b", wire });
    const { circuit, planned } = solveMachine(machine);
    const load = circuit.loads.findIndex(({ id, role }) => id === "motor" && role === "load");
    return { motorA: planned[0]?.loadA[load] ?? 0, busA: planned[0]?.emfA[0] ?? 0 };
  };

  it("CV-16 motor, bus and capacitor carry three different currents (T3, mem)", () => {
    const { motorA, busA } = onChannel({}, { levels: { run: typical(40) }, cells: { m1: { state: "run", percent: 100, duty: 0.25 } } });
    within(motorA, 40);
    within(busA, 10);
    within(capacitorRms(40, 0.25), 17.32);
    within(pulsedRms(40, 0.25), 20);
  });

  it("CV-17 stalled at a duty (derived)", () => {
    const { motorA, busA } = onChannel({}, { levels: { stall: typical(80) }, cells: { m1: { state: "stall", duty: 0.4 } } });
    within(motorA, 32);
    within(busA, 12.8);
  });

  it("CV-18 stalled at a current limit (derived)", () => {
    const { motorA, busA } = onChannel({ limitA: typical(50) }, { levels: { stall: typical(120) }, cells: { m1: { state: "stall" } } });
    within(motorA, 50);
    within(busA, 20.83);
    within(busA / motorA, 0.4167);
  });

  const bipolar = { dropV: 1.4, ohm: 1.15 };
  it("CV-20 what a bipolar bridge keeps (derived; drop from memory)", () => {
    within(12 - bridgeDrop(bipolar, 1), 9.45, 0.01);
    within(bridgeHeat(bipolar, 1), 2.55, 0.01);
    const motor = newPart("load", "p1", "Motor", { nominalV: typical(12), levels: { stall: typical(5) } });
    within(deliverableAt(motor, bipolar, 12, 0) ?? 0, 2.986, 0.01);
  });

  it("CV-21 what it carries bare: one channel, both (derived; 35 K/W from memory)", () => {
    within(thermalLimit(bipolar, 105, 35, 1), 1.117, 0.02);
    within(thermalLimit(bipolar, 105, 35, 2), 0.6855, 0.02);
  });

  it("CV-22 a hot MOSFET bridge (derived; 1.6 practice)", () => within(bridgeHeat({ dropV: 0, ohm: 0.018 * HOT_MOSFET }, 12), 4.147, 0.01));

  it("CV-23 heat of a linear regulator (derived)", () => {
    within(linearHeat(12, 5, 0.3), 2.1);
    within(linearHeat(24, 5, 0.3), 5.7);
  });

  it("CV-24 what a driver does with a stall (derived rule)", () => {
    expect([10, 22, 45].map((stall) => stallClass(stall, 12, 30, undefined))).toEqual(["carries", "brief", "refused"]);
    expect(stallClass(45, 12, 30, 25)).toBe("limited");
    expect(stallClass(45, 12, 30, 43)).toBe("refused");
  });
});

describe("steppers and brushless", () => {
  const chopper = { phaseA: 1.7, phaseOhm: 1.5, driverOhm: 0.5, driverW: 0.5, supplyV: 24 };
  it("CV-25 supply current at standstill (derived)", () => within(standstillCurrent(chopper), 0.5025, 0.01));
  it("CV-26 and running (derived)", () => within(runningCurrent(chopper, 0.2, 600), 1.026, 0.01));
  it("CV-27 as a share of the phase current (derived; T4, mem)", () => {
    const ideal = { phaseA: 1.7, phaseOhm: 1.5, driverOhm: 0, driverW: 0, supplyV: 24 };
    within(standstillCurrent(ideal) / 1.7, 0.2125);
  });
  it("CV-28 supply guide from inductance (practice)", () => within(supplyGuideV(3.2), 57.24));
  it("CV-30 peak and r.m.s. settings (derived)", () => within(rmsOfPeak(1.923), 1.36));
  it("CV-32 the simultaneity school of four axes (practice)", () => within(4 * 2 * 0.6 * SIMULTANEITY, 3.36));
  it("CV-33 where bus and phase limits cross (derived)", () => within(crossoverDuty(20, 60), 0.3333));
  it("CV-34 phase wires, six-step and sine (T3, mem)", () => {
    within(phaseRms(60, "six-step"), 48.99);
    within(phaseRms(60, "sine"), 42.43);
  });
  it("CV-35 a stalled field-oriented drive takes little from the bus (derived)", () => within(stalledBusCurrent(60, 0.1, 48), 11.25));
});

describe("other loads and duty", () => {
  it("CV-36 a group of servos with three held still (derived)", () => {
    const servos = newPart("load", "p1", "Servos", {
      loadKind: "servo",
      count: 12,
      nominalV: typical(6),
      levels: { run: typical(0.2), stall: typical(1) },
    });
    within(estimate(servos, { state: "stall", pieces: 3 }).nominalA, 4.8);
    within(estimate(servos, { state: "stall" }).nominalA, 12);
  });
  it("CV-49 two of six motors held still (exact)", () => {
    const six = newPart("load", "p1", "Motors", { count: 6, nominalV: typical(24), levels: { run: typical(4), stall: typical(20) } });
    expect(estimate(six, { state: "stall", pieces: 2 }).nominalA).toBe(56);
    expect(estimate(six, { state: "stall" }).nominalA).toBe(120);
  });
  it("CV-38 a heater above its voltage (derived)", () => {
    within(heaterOhm(40, 12), 3.6);
    within(14.4 / heaterOhm(40, 12), 4);
  });
  it("CV-39 a converter's input as its source sags (derived)", () => {
    within(currentForPower(20, 12.6, 0.9), 1.764);
    within(currentForPower(20, 10, 0.9), 2.222);
  });
  it("CV-40 pixels and an amplifier (derived; 60 mA and an eighth practice)", () => {
    const strip = newPart("load", "p1", "Strip", { loadKind: "light", nominalV: typical(5) });
    const pixels = methodById("pixels");
    const lit = pixels && whatIsKnown(pixels, { count: 300, eachA: 0.06, share: 100 }, strip);
    within(lit?.estimates.find(({ level }) => level === "run")?.value ?? 0, 18);
    within(amplifierCurrent(100, 0.88, 24), 4.735);
  });
  it("CV-41 r.m.s. and mean of a cycle (T2, mem)", () => {
    const steps = [
      { amps: 40, seconds: 2 },
      { amps: 12, seconds: 20 },
      { amps: 0, seconds: 8 },
    ];
    within(rmsCurrent(steps), 14.24);
    within(meanCurrent(steps), 10.67);
  });
  it("CV-42 intermittent duty: how much more a rested winding bears (derived; IEC 60034-1 S3)", () => {
    const steps = [
      { amps: 1, seconds: 60 },
      { amps: 0, seconds: 240 },
    ];
    within(1 / heatingCurrent(steps, 600), 2.033);
  });
  it("CV-43 short-time duty from cold (derived; IEC 60034-1 S2)", () => {
    within(1 / heatingCurrent([{ amps: 1, seconds: 120 }], 600, false), 2.349);
  });
  it.each([
    [0.25, [0.1, 4], [0.2, 8], [0.5, 19], [1, 40]],
    [0.1, [0.1, 5], [0.2, 9], [0.5, 24], [1, 51]],
  ])("how far the true rise passes the r.m.s. at %d on-time (handbook section 7, derived)", (on, ...rows) => {
    for (const [cycle = 0, percent = 0] of rows) {
      const steps = [
        { amps: 1, seconds: on * cycle },
        { amps: 0, seconds: (1 - on) * cycle },
      ];
      const rise = (heatingCurrent(steps, 1) / rmsCurrent(steps)) ** 2;
      expect(Math.round((rise - 1) * 100)).toBeGreaterThanOrEqual(percent - 1);
      expect(Math.round((rise - 1) * 100)).toBeLessThanOrEqual(percent + 1);
    }
  });
  it("kg·cm are the kilogram-force centimetres of servo sheets (standard gravity, 9.80665 m/s²)", () => {
    expect(parseQuantity("20 kg.cm", "torque")).toMatchObject({ ok: true });
    const parsed = parseQuantity("20 kg.cm", "torque");
    if (parsed.ok) within(parsed.value, 1.96133, 1e-4);
  });
});
