import { datasheet as d, measured as m, typical as t } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { cells, Plan } from "@/demo/plan";
import { fromBars } from "./feed";

/**
 * A shadow theatre, invented: two supplies and a standby battery behind a diode, one driver with four channels, a group of
 * solenoids with leads of their own, a sensor and a lamp on a board's own 5 V, links between boards.
 */
export function stage(): Machine {
  const plan = new Plan(
    "Shadow stage",
    "24 V and 5 V supplies, a standby battery, curtains on one driver of four channels, sixteen solenoids.",
    [
      ["dark", "Dark", null],
      ["play", "Playing", null],
      ["change", "Scene change", 12],
      ["storm", "Storm", 2],
      ["blackout", "Mains gone", null],
    ],
    { ambientC: 28, bundle: 1, schools: { fuseLoadFactor: "75 %", stop: "opens power" } },
  );
  plan.add("supply", "big", "Supply 24 V", {
    outputV: m(24.1),
    outputOhm: t(0.008),
    ratedA: d(25),
    limitA: d(28),
    make: "enclosed",
    overload: "constant current",
    diode: true,
  });
  plan.add("pack", "standby", "Standby battery", {
    openCircuitV: t(20),
    fullV: d(21.9),
    lowV: t(19.2),
    internalOhm: m(0.02),
    capacityAh: d(12),
    continuousA: d(30),
    peakA: d(60),
    chemistry: "lifepo4_energy",
    series: 6,
    management: "inside",
    plannedCharge: t(0.9),
    lowCharge: t(0.2),
    diode: true,
  });
  const thick = { gauge: "8 AWG", insulation: "sil200" };
  plan.add(
    "fuse",
    "standby-fuse",
    "Standby fuse",
    { fuse: { family: "cube_single_bolt", ratingA: 40 } },
    {
      from: "standby.+",
      m: 0.12,
      ...thick,
    },
  );
  plan.add(
    "switch",
    "mains-relay",
    "Mains relay",
    { ratedA: d(60), contactOhm: t(4e-4), device: "relay", breakA: d(60), breakV: d(48), openIn: ["blackout"] },
    { from: "big.+", m: 0.2, ...thick },
  );
  plan.add(
    "switch",
    "stop",
    "Stop contactor",
    {
      ratedA: d(60),
      contactOhm: t(4e-4),
      device: "contactor",
      breakA: d(80),
      breakV: d(48),
      makeA: d(120),
      clamp: "clamp",
      stop: { devices: 2, normallyClosed: true, deliberateReset: true },
    },
    { from: "mains-relay.out", m: 0.2, ...thick },
  );
  plan.add("bar", "plus", "Plus bar", { ratedA: d(80) }, { from: "stop.out", m: 0.3, ...thick });
  plan.add("bar", "minus", "Minus bar", { side: "negative", ratedA: d(80) }, { back: "big.-", m: 0.3, ...thick });
  plan.lay("supply", "standby-fuse.out", "stop.in", "8 AWG", 0.3, { insulation: "sil200" });
  plan.lay("return", "minus", "standby.-", "8 AWG", 0.3, { insulation: "sil200" });
  const feed = fromBars("plus", "minus", "sil200");
  plan.add(
    "driver",
    "curtains",
    "Curtain driver",
    {
      channels: 4,
      continuousA: d(6),
      peakA: d(12),
      peakS: d(3),
      totalA: d(16),
      limitA: d(8),
      inputMinV: d(8),
      inputMaxV: d(36),
      bridgeOhm: t(0.04),
      ownA: m(0.04),
      inputF: d(220e-6),
      freewheel: "inside",
    },
    feed("14 AWG", 1.2, 15),
  );
  for (const [i, name] of [
    [1, "Curtain left"],
    [2, "Curtain right"],
    [3, "Screen hoist"],
  ] as const)
    plan.add(
      "load",
      `motor-${i}`,
      name,
      {
        loadKind: "motor",
        nominalV: d(24),
        brakingJ: t(0),
        levels: { idle: t(0.4), run: m(2.4), stall: d(7.5) },
        cells: cells({ dark: "off", play: i === 3 ? "run" : "off", change: "run", storm: "off", blackout: "off" }),
      },
      { from: `curtains.${i}a`, back: `curtains.${i}b`, gauge: "16 AWG", insulation: "sil200", m: 2 },
    );
  plan.add(
    "load",
    "turntable",
    "Turntable stepper",
    {
      loadKind: "stepper",
      behaviour: "power",
      nominalV: d(24),
      inputMinV: d(12),
      inputMaxV: d(40),
      stepper: { ratedA: d(2.8), setA: m(2.2), scale: "rms", phaseOhm: d(0.9), phaseMh: d(2.2) },
      phaseLead: { gauge: "18 AWG", insulation: "sil200", lengthM: m(1.5) },
      levels: { idle: t(0.2), run: t(0.9) },
      cells: cells({ dark: "off", play: "hold", change: "run", storm: "hold", blackout: "hold" }),
    },
    feed("18 AWG", 1, 3),
  );
  plan.add(
    "load",
    "rain",
    "Rain solenoids",
    {
      loadKind: "coil",
      count: 16,
      behaviour: "resistance",
      nominalV: d(24),
      ownLead: { gauge: "18 AWG", insulation: "sil200", lengthM: m(0.6) },
      cells: cells({ dark: "off", play: "off", change: "off", storm: "5.6d", blackout: "off" }),
    },
    feed("14 AWG", 2, 10),
  );
  plan.add(
    "load",
    "wash",
    "Wash lights",
    {
      loadKind: "light",
      behaviour: "resistance",
      nominalV: d(24),
      cells: cells({ dark: "off", play: "3d", change: "3d", storm: "4d", blackout: "3d" }),
    },
    feed("14 AWG", 4, 7.5),
  );
  plan.add(
    "load",
    "fan",
    "Fog fan",
    {
      loadKind: "fan",
      nominalV: d(24),
      levels: { run: m(0.6), stall: d(1.4) },
      cells: cells({ dark: "off", play: "off", change: "run", storm: "run", blackout: "off" }),
    },
    feed("18 AWG", 3, 2),
  );
  plan.add("supply", "small", "Supply 5 V", {
    outputV: m(5.1),
    outputOhm: t(0.008),
    ratedA: d(8),
    limitA: d(9),
    make: "enclosed",
    overload: "hiccup",
  });
  plan.add("bar", "plus5", "5 V bar", { ratedA: d(30) }, { from: "small.+", gauge: "14 AWG", insulation: "sil200", m: 0.2 });
  plan.add(
    "bar",
    "minus5",
    "0 V bar",
    { side: "negative", ratedA: d(30) },
    { back: "small.-", gauge: "14 AWG", insulation: "sil200", m: 0.2 },
  );
  plan.lay("return", "minus5", "minus", "12 AWG", 0.3);
  const at5 = fromBars("plus5", "minus5", "sil200");
  plan.add(
    "load",
    "cue",
    "Cue computer",
    {
      loadKind: "computer",
      behaviour: "power",
      nominalV: d(5),
      inputMinV: d(4.7),
      inputMaxV: d(5.5),
      cells: cells({ dark: "0.9m", play: "1.4m", change: "1.4m", storm: "1.6m", blackout: "off" }),
    },
    at5("16 AWG", 0.5, 3),
  );
  plan.add(
    "load",
    "board",
    "Prompt board",
    {
      loadKind: "board",
      behaviour: "power",
      nominalV: d(5),
      inputMinV: d(4.5),
      inputMaxV: d(5.5),
      pinA: d(0.02),
      cells: cells({ dark: "0.1m", play: "0.15m", change: "0.2m", storm: "0.2m", blackout: "off" }),
    },
    at5("18 AWG", 0.5, 2),
  );
  plan.add(
    "load",
    "flags",
    "Flag servos",
    {
      loadKind: "servo",
      count: 3,
      nominalV: d(5),
      levels: { idle: t(0.02), run: t(0.25), stall: m(0.8) },
      cells: cells({ dark: "off", play: "idle", change: "run", storm: "stall", blackout: "off" }, 3),
    },
    at5("16 AWG", 1, 4),
  );
  plan.add(
    "load",
    "eye",
    "Light gate",
    {
      loadKind: "sensor",
      nominalV: d(5),
      senses: "other",
      cells: cells({ dark: "0.02d", play: "0.02d", change: "0.02d", storm: "0.02d", blackout: "off" }),
    },
    at5("18 AWG", 1.5, 1),
  );
  plan.labelAll();
  plan.signal({ id: "s-cue", from: "cue", to: "board", kind: "serial", sender: "lvttl33", receiver: "lvttl33" });
  return plan.machine;
}
