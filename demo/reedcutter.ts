import { datasheet, measured, typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { blade, cells, knowing, Plan, plug } from "./plan";
import { talk } from "./reedcutter-links";

/**
 * A pond-weed barge, invented. As first drawn it holds mistakes a builder really makes; `fixed` is its corrected twin.
 */
export function reedcutter(fixed: boolean): Machine {
  const plan = new Plan(
    fixed ? "Reedcutter, corrected" : "Reedcutter",
    fixed
      ? "The barge after its verdicts were settled."
      : "A pond-weed barge on a 24 V pack: two paddles, cutter bar, conveyor, lift. As first drawn.",
    [
      ["parked", "Parked", null],
      ["cruise", "Cruise", null],
      ["start", "Start both", 0.8],
      ["jam", "Blade jammed", 4],
      ["lift", "Lift", 20],
      ["stopped", "Stopped", null],
    ],
    {
      ambientC: 40,
      bundle: 3,
      wantedRunS: 7200,
      coldestC: 5,
      schools: { fuseLoadFactor: "75 %", driverFeeds: "each fused", stop: "opens power", chassis: "bonded once" },
    },
  );
  const all = (text: string) => ({ parked: text, cruise: text, start: text, jam: text, lift: text, stopped: text });
  const motor = (cruise: string, start: string, jam: string, lift: string) =>
    cells({ parked: "off", cruise, start, jam, lift, stopped: "off" });

  // 8 cells of lithium iron phosphate: 80 mΩ·Ah a cell and 4 mΩ for links and management, typical.
  plan.add("pack", "pack", "Pack", {
    note: `8 cells LFP, ${fixed ? 105 : 60} Ah, management board 100 A`,
    openCircuitV: typical(26.4),
    fullV: datasheet(29.2),
    lowV: typical(25.6),
    internalOhm: measured(fixed ? 0.0102 : 0.0145),
    capacityAh: datasheet(fixed ? 105 : 60),
    continuousA: datasheet(100),
    peakA: datasheet(150),
    chemistry: "lifepo4_energy",
    series: 8,
    parallel: 1,
    plannedCharge: typical(0.65),
    lowCharge: typical(0.2),
    cutoffV: datasheet(22.4),
    cutoffS: datasheet(2),
    massKg: datasheet(fixed ? 22 : 13.5),
    ...(fixed ? { management: "inside" as const } : {}),
  });
  // An afternoon on the pond: out, cutting with a jam now and then, the lift, and back.
  plan.do({
    type: "setMission",
    mission: {
      repeats: true,
      steps: [
        { mode: "start", seconds: 0.8 },
        { mode: "cruise", seconds: 420 },
        { mode: "jam", seconds: 4 },
        { mode: "cruise", seconds: 300 },
        { mode: "lift", seconds: 20 },
        { mode: "parked", seconds: 120 },
      ],
    },
  });
  plan.add(
    "fuse",
    "main-fuse",
    "Main fuse",
    { fuse: { family: fixed ? "cube_single_bolt" : "strip_m5_58v", ratingA: 80 } },
    { from: "pack.+", gauge: "4 AWG", m: fixed ? 0.15 : 0.3, bundle: 1 },
  );
  plan.add(
    "switch",
    "main-switch",
    "Main switch",
    { contactOhm: typical(2e-4), ratedA: datasheet(150) },
    { from: "main-fuse.out", gauge: "4 AWG", m: 0.3, bundle: 1 },
  );
  const rated = fixed ? { ratedA: datasheet(150) } : {};
  plan.add("bar", "bar-p0", "Bar P0", { note: "always on", ...rated }, { from: "main-switch.out", gauge: "4 AWG", m: 0.2, bundle: 1 });
  plan.add(
    "switch",
    "stop",
    "Stop contactor",
    {
      contactOhm: typical(3e-4),
      ratedA: datasheet(125),
      openIn: ["stopped"],
      note: "coil from the stop loop",
      device: "contactor",
      stop: { devices: 3, normallyClosed: true, deliberateReset: fixed },
      ...(fixed
        ? {
            breakA: datasheet(250),
            breakV: datasheet(48),
            makeA: datasheet(150),
            clamp: "clamp" as const,
            prechargeOhm: datasheet(3.3),
            prechargeS: datasheet(1),
            prechargeJ: datasheet(20),
          }
        : {}),
    },
    { from: "bar-p0", gauge: "4 AWG", m: 0.2, bundle: 1 },
  );
  plan.add("bar", "bar-p1", "Bar P1", { note: "motors", ...rated }, { from: "stop.out", gauge: "4 AWG", m: 0.4, bundle: 1 });
  plan.add(
    "bar",
    "bar-n1",
    "Bar N1",
    { side: "negative", note: "beside the pack", ...rated },
    { back: "pack.-", gauge: "4 AWG", m: 0.4, bundle: 1 },
  );
  plan.add(
    "bar",
    "bar-n2",
    "Bar N2",
    { side: "negative", note: "aft panel", ...rated },
    { back: "bar-n1", gauge: fixed ? "6 AWG" : "14 AWG", m: 1.6 },
  );

  const paddleFuse = fixed ? { family: "strip_m8_32v" as const, ratingA: 40 } : blade(30);
  const drive = {
    inputMinV: datasheet(10),
    inputMaxV: datasheet(40),
    bridge: "mosfet" as const,
    bridgeOhm: typical(0.012),
    ownA: measured(0.08),
  };
  for (const [side, back, m, rated] of [
    ["left", "bar-n1", 1.8, 13.1],
    ["right", "bar-n1", 2.1, 13.4],
  ] as const) {
    plan.add(
      "driver",
      `drive-${side}`,
      `Paddle ${side} driver`,
      {
        ...drive,
        ...(fixed ? { limitA: datasheet(46), inputF: datasheet(2200e-6) } : { inputMaxV: datasheet(32) }),
        headlineA: datasheet(60),
        continuousA: datasheet(30),
        peakA: datasheet(60),
        peakS: datasheet(1),
      },
      {
        from: "bar-p1",
        back,
        gauge: fixed ? "8 AWG" : "14 AWG",
        m,
        fuse: paddleFuse,
        shared: fixed ? plug("key90", "A24") : plug(side === "left" ? "key60" : "key30"),
      },
    );
    plan.add(
      "load",
      `paddle-${side}`,
      `Paddle ${side}`,
      {
        loadKind: "motor",
        note: "250 W gearmotor",
        nominalV: datasheet(24),
        levels: { idle: measured(1.1), run: measured(rated), stall: datasheet(46) },
        motor: { noLoadRpm: datasheet(180), stallTorqueNm: datasheet(48), startS: typical(0.15) },
        // Paddles stop in water by themselves: little comes back.
        ...(fixed ? { brakingJ: typical(0.4) } : {}),
        cells: motor("run 70 %", "start", "run 70 %", "idle"),
      },
      { from: `drive-${side}.1a`, back: `drive-${side}.1b`, gauge: fixed ? "8 AWG" : "12 AWG", m: 0.4 },
    );
  }
  plan.add(
    "driver",
    "drive-cutter",
    "Cutter driver",
    {
      ...drive,
      headlineA: datasheet(40),
      continuousA: datasheet(20),
      heatsinkA: datasheet(28),
      cooling: fixed ? "heatsink" : "none",
      peakA: datasheet(40),
      peakS: datasheet(5),
      ...(fixed ? { limitA: datasheet(28), inputF: datasheet(1000e-6) } : {}),
    },
    {
      from: "bar-p1",
      shared: fixed ? plug("key90", "A24") : plug("key30"),
      back: fixed ? "bar-n1" : "bar-n2",
      gauge: fixed ? "8 AWG" : "16 AWG",
      m: 2.6,
      bundle: 5,
      fuse: blade(fixed ? 30 : 25),
    },
  );
  plan.add(
    "load",
    "cutter",
    "Cutter bar",
    {
      loadKind: "motor",
      note: "180 W gearmotor",
      nominalV: datasheet(24),
      levels: {
        run: measured(7.6),
        ...knowing("lockedRotor", { testV: 4, testA: 4.5, brushV: 0.5, leadOhm: 0.02 }, { nominalV: datasheet(24) }),
      },
      ...(fixed ? { brakingJ: typical(0.2) } : {}),
      cells: motor("run 80 %", "run 80 %", "stall", "off"),
    },
    { from: "drive-cutter.1a", back: "drive-cutter.1b", gauge: fixed ? "10 AWG" : "14 AWG", m: 0.5, bundle: 2 },
  );
  plan.add(
    "driver",
    "drive-conveyor",
    "Conveyor driver",
    {
      ...drive,
      headlineA: datasheet(40),
      continuousA: datasheet(20),
      peakA: datasheet(40),
      logic: "own input",
      logicV: datasheet(5),
      logicA: typical(0.02),
      ...(fixed ? { limitA: datasheet(15), inputF: datasheet(1000e-6) } : {}),
    },
    {
      from: "bar-p1",
      back: "bar-n2",
      gauge: fixed ? "14 AWG" : "16 AWG",
      m: 1.2,
      fuse: blade(15),
      shared: fixed ? plug("key60", "A24") : plug("key60"),
    },
  );
  plan.add(
    "load",
    "conveyor",
    "Conveyor",
    {
      loadKind: "motor",
      note: "120 W gearmotor",
      nominalV: datasheet(24),
      levels: knowing("ratedPower", { powerW: 120, meant: "input", group: "worm" }, { nominalV: datasheet(24) }),
      // A worm does not run backwards.
      ...(fixed ? { brakingJ: datasheet(0) } : {}),
      cells: motor("run 75 %", "run 75 %", "run 90 %", "off"),
    },
    { from: "drive-conveyor.1a", back: "drive-conveyor.1b", gauge: "14 AWG", m: 0.6 },
  );
  plan.add(
    "driver",
    "drive-lift",
    "Lift driver",
    {
      ...drive,
      headlineA: datasheet(20),
      continuousA: datasheet(10),
      peakA: datasheet(20),
      ownA: measured(0.05),
      ...(fixed ? { inputF: datasheet(470e-6) } : {}),
    },
    {
      from: "bar-p1",
      back: "bar-n2",
      gauge: fixed ? "14 AWG" : "18 AWG",
      m: 1.6,
      fuse: blade(fixed ? 15 : 7.5),
      shared: fixed ? { moves: true, strand: "fine", relief: true } : { moves: true, strand: "stranded", relief: true },
    },
  );
  plan.add(
    "load",
    "lift",
    "Lift actuator",
    {
      loadKind: "actuator",
      note: "150 mm stroke",
      nominalV: datasheet(24),
      ...(fixed ? { endSwitches: true } : {}),
      levels: { idle: datasheet(1), run: datasheet(4.6), stall: datasheet(8.2) },
      cells: motor("off", "off", "off", "stall"),
    },
    { from: "drive-lift.1a", back: "drive-lift.1b", gauge: fixed ? "14 AWG" : "16 AWG", m: 0.8 },
  );

  const buck = { efficiency: typical(0.9), outputOhm: typical(0.008), quiescentA: typical(0.015) };
  plan.add(
    "converter",
    "buck-12",
    "Buck 12 V",
    {
      ...buck,
      outputV: datasheet(12),
      ratedA: datasheet(5),
      limitA: datasheet(7),
      inputMinV: datasheet(15),
      inputMaxV: datasheet(fixed ? 36 : 28),
    },
    { from: "bar-p0", back: "bar-n1", gauge: "18 AWG", m: 0.5, fuse: blade(5) },
  );
  plan.add(
    "load",
    "pump",
    "Bilge pump",
    {
      loadKind: "pump",
      nominalV: datasheet(12),
      levels: { run: datasheet(2.1), stall: datasheet(3.9) },
      cells: cells(all("run")),
    },
    {
      from: "buck-12.out+",
      back: "buck-12.out-",
      gauge: fixed ? "16 AWG" : "18 AWG",
      m: 2.4,
      shared: fixed ? plug("auto28", "B12") : plug("key60"),
    },
  );
  plan.add(
    "load",
    "horn",
    "Horn amplifier",
    {
      loadKind: "sound",
      note: "20 W",
      nominalV: datasheet(12),
      behaviour: "power",
      inputMinV: datasheet(9),
      inputMaxV: datasheet(15),
      levels: knowing("soundPower", { powerW: 20, channels: 1, efficiency: 85 }, { nominalV: datasheet(12) }),
      ...(fixed ? { filterMh: datasheet(0.1), filterF: datasheet(470e-6), filterOhm: measured(0.06) } : {}),
      cells: cells({ ...all("idle"), jam: "peak" }),
    },
    { from: "buck-12.out+", back: "buck-12.out-", gauge: fixed ? "18 AWG" : "20 AWG", m: 0.9 },
  );
  plan.add(
    "load",
    "deck-light",
    "Deck lights",
    { loadKind: "light", count: 4, nominalV: datasheet(12), behaviour: "resistance", cells: cells({ ...all("0.8d"), parked: "off" }) },
    { from: "buck-12.out+", back: "buck-12.out-", gauge: "18 AWG", m: 2.0 },
  );

  plan.add(
    "converter",
    "buck-6",
    "Buck 6 V",
    { ...buck, outputV: datasheet(6), ratedA: datasheet(8), limitA: datasheet(10), inputMinV: datasheet(9), inputMaxV: datasheet(32) },
    { from: "bar-p0", back: "bar-n1", gauge: "18 AWG", m: 0.5, fuse: blade(5) },
  );
  for (const [side, m] of [
    ["left", 1.4],
    ["right", 1.7],
  ] as const) {
    const servo = cells({ parked: "idle", cruise: "run", start: "stall", jam: "run", lift: "idle", stopped: "idle" });
    if (fixed) servo.start = { state: "stall", measured: measured(1.3) };
    else delete servo.start;
    plan.add(
      "load",
      `rudder-${side}`,
      `Rudder servo ${side}`,
      {
        loadKind: "servo",
        nominalV: datasheet(6),
        levels: knowing("motorClass", { class: "servo_std" }, { nominalV: datasheet(6) }),
        cells: servo,
      },
      { from: "buck-6.out+", back: fixed ? "buck-6.out-" : "bar-n2", gauge: fixed ? "16 AWG" : "22 AWG", m },
    );
  }

  plan.add(
    "converter",
    "buck-5",
    "Buck 5 V",
    {
      ...buck,
      efficiency: typical(0.88),
      lossW: typical(0.17),
      lossV: typical(0.25),
      lossOhm: typical(0.04),
      lossAtV: typical(24),
      printedA: datasheet(8),
      outputV: measured(5.1),
      ratedA: datasheet(5),
      limitA: datasheet(6.5),
      inputMinV: datasheet(7),
      inputMaxV: datasheet(36),
    },
    { from: "bar-p0", back: "bar-n1", gauge: fixed ? "18 AWG" : "20 AWG", m: 0.4, ...(fixed ? { fuse: blade(3) } : {}) },
  );
  const board = { behaviour: "power" as const, nominalV: datasheet(5), loadKind: "board" as const };
  plan.add(
    "load",
    "controller",
    "Controller",
    { ...board, inputMinV: measured(4.2), inputMaxV: datasheet(5.5), cells: cells(all("0.18m")) },
    {
      from: "buck-5.out+",
      back: fixed ? "buck-5.out-" : "bar-n2",
      gauge: fixed ? "18 AWG" : "22 AWG",
      m: 0.2,
      ...(fixed ? {} : { backM: 1.1 }),
    },
  );
  plan.add(
    "load",
    "computer",
    "Computer",
    {
      ...board,
      loadKind: "computer",
      inputMinV: datasheet(4.75),
      inputMaxV: datasheet(5.5),
      levels: { idle: measured(0.9), run: measured(1.6), start: typical(2.6) },
      cells: cells({ ...all("run"), parked: "idle", jam: "peak" }),
    },
    { from: "buck-5.out+", back: "buck-5.out-", gauge: fixed ? "16 AWG" : "20 AWG", m: 0.3 },
  );
  plan.add(
    "load",
    "camera",
    "Camera",
    { ...board, inputMinV: datasheet(4.6), inputMaxV: datasheet(5.5), cells: cells({ ...all("0.45d"), parked: "off", stopped: "0.45d" }) },
    { from: "buck-5.out+", back: "buck-5.out-", gauge: fixed ? "16 AWG" : "26 AWG", m: 1.9, bundle: 1 },
  );
  plan.add(
    "load",
    "radio",
    "Radio",
    { ...board, loadKind: "radio", behaviour: "current", cells: cells(all("0.15t")) },
    { from: "buck-5.out+", back: "buck-5.out-", gauge: fixed ? "18 AWG" : "24 AWG", m: 0.6, bundle: 1 },
  );
  plan.add(
    "load",
    "level",
    "Level sensor",
    { ...board, loadKind: "sensor", behaviour: "current", cells: cells(all("0.03d")) },
    { from: "buck-5.out+", ...(fixed ? { back: "buck-5.out-" } : {}), gauge: fixed ? "18 AWG" : "24 AWG", m: 1.2, bundle: 1 },
  );
  plan.add(
    "load",
    "lift-sense",
    "Lift position",
    { ...board, loadKind: "sensor", senses: "analogue", note: "10 kΩ potentiometer", behaviour: "current", cells: cells(all("0.005d")) },
    {
      from: "buck-5.out+",
      back: fixed ? "controller.-" : "drive-lift.in-",
      gauge: fixed ? "20 AWG" : "24 AWG",
      m: 1.5,
      bundle: 1,
    },
  );
  plan.add(
    "load",
    "beacon",
    "Beacon light",
    { loadKind: "light", nominalV: datasheet(12), cells: cells({ ...all("0.3d"), parked: "off" }) },
    { from: "buck-12.out+", back: "buck-12.out-", gauge: "18 AWG", m: 1.8 },
  );
  plan.add(
    "load",
    "fan",
    "Driver box fan",
    { loadKind: "fan", nominalV: datasheet(12), cells: cells({ ...all("0.15d"), parked: "off", start: "0.3g" }) },
    { from: "buck-12.out+", back: "buck-12.out-", gauge: "18 AWG", m: 0.7 },
  );
  if (fixed) plan.lay("supply", "buck-5.out+", "drive-conveyor.5v", "18 AWG", 0.6);
  talk(plan, fixed);
  if (fixed) plan.labelAll();
  return plan.machine;
}
