import { datasheet as d, measured as m, typical as t } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { cells, Plan, plug } from "@/demo/plan";
import { fromBars } from "./feed";

/**
 * A tide organ on a jetty, invented: two lithium batteries behind diodes in parallel, a boosted rail, a linear regulator, a
 * relay bridge and a low-side driver, building wire in the cold, plugs on what is taken indoors, a mission over the day.
 */
export function organ(): Machine {
  const plan = new Plan(
    "Tide organ",
    "Two 12 V lithium batteries behind diodes, a 36 V boost for a bellows drive, valves on a low-side driver.",
    [
      ["rest", "Rest", null],
      ["fill", "Filling", 240],
      ["sing", "Singing", null],
      ["gale", "Gale", 5],
    ],
    { ambientC: 32, bundle: 1, coldestC: -15, schools: { fuseLoadFactor: "80 %", ampacity: "building" } },
  );
  const battery = {
    openCircuitV: t(13.2),
    fullV: d(14.6),
    lowV: t(12.8),
    internalOhm: m(0.008),
    capacityAh: d(60),
    continuousA: d(60),
    peakA: d(120),
    chemistry: "lifepo4_energy" as const,
    series: 4,
    management: "inside" as const,
    plannedCharge: t(0.7),
    lowCharge: t(0.2),
    diode: true,
  };
  const thick = { gauge: "6 AWG", insulation: "pvc105" };
  plan.add("pack", "port", "Battery port", battery);
  plan.add("pack", "starboard", "Battery starboard", battery);
  plan.add(
    "bar",
    "plus",
    "Plus bar",
    { ratedA: d(150) },
    { from: "port.+", m: 0.15, ...thick, fuse: { family: "cube_single_bolt", ratingA: 50 } },
  );
  plan.add("bar", "minus", "Minus bar", { side: "negative", ratedA: d(150) }, { back: "port.-", m: 0.3, ...thick });
  const fuse = { family: "cube_single_bolt" as const, ratingA: 50 };
  plan.lay("supply", "starboard.+", "plus", "6 AWG", 0.15, { insulation: "pvc105", fuse });
  plan.lay("return", "minus", "starboard.-", "6 AWG", 0.3, { insulation: "pvc105" });
  const feed = fromBars("plus", "minus", "pvc105");
  plan.add(
    "converter",
    "boost",
    "Boost 36 V",
    {
      topology: "boost",
      isolated: false,
      outputV: d(36),
      efficiency: t(0.92),
      outputOhm: t(0.03),
      ratedA: d(6),
      limitA: d(8),
      inputMinV: d(10),
      inputMaxV: d(32),
    },
    { ...feed("8 AWG", 0.8, 30), fuse: { family: "class_t", ratingA: 30 } },
  );
  plan.add(
    "load",
    "bellows",
    "Bellows drive",
    {
      loadKind: "brushless",
      behaviour: "power",
      nominalV: d(36),
      inputMinV: d(20),
      inputMaxV: d(60),
      brakingJ: t(0),
      brushless: { drive: "sine", busLimitA: d(5), phaseLimitA: d(12) },
      phaseLead: { gauge: "12 AWG", insulation: "pvc105", lengthM: m(1) },
      levels: { idle: t(0.1), run: m(3), start: d(4.8) },
      cells: cells({ rest: "off", fill: "run", sing: "idle", gale: "peak" }),
    },
    { from: "boost.out+", back: "boost.out-", gauge: "12 AWG", insulation: "pvc105", m: 1.5 },
  );
  plan.add(
    "driver",
    "pipes",
    "Pipe driver",
    {
      bridge: "low side",
      channels: 4,
      continuousA: d(3),
      peakA: d(6),
      inputMinV: d(8),
      inputMaxV: d(30),
      bridgeOhm: t(0.05),
      freewheel: "fitted",
      ownA: m(0.02),
    },
    feed("12 AWG", 2, 10),
  );
  for (const i of [1, 2, 3])
    plan.add(
      "load",
      `pipe-${i}`,
      `Pipe valve ${i}`,
      {
        loadKind: "coil",
        behaviour: "resistance",
        nominalV: d(12),
        cells: cells({ rest: "off", fill: "off", sing: "1.1d", gale: "1.1d" }),
      },
      { from: `pipes.${i}a`, back: `pipes.${i}b`, gauge: "14 AWG", insulation: "pvc105", m: 2.5 },
    );
  plan.add(
    "load",
    "sump",
    "Sump pump",
    {
      loadKind: "pump",
      nominalV: d(12),
      levels: { run: m(3), stall: d(8) },
      cells: cells({ rest: "off", fill: "off", sing: "off", gale: "run" }),
    },
    { ...feed("12 AWG", 2.5, 7.5), shared: plug("auto28", "A24") },
  );
  plan.add(
    "load",
    "beacon",
    "Beacon",
    {
      loadKind: "light",
      behaviour: "resistance",
      nominalV: d(12),
      cells: cells({ rest: "0.4d", fill: "0.4d", sing: "0.4d", gale: "0.4d" }),
    },
    feed("14 AWG", 4, 2),
  );
  plan.add(
    "converter",
    "five",
    "Linear 5 V",
    {
      topology: "linear",
      isolated: false,
      outputV: d(5),
      efficiency: t(0.4),
      dropoutV: d(1.5),
      outputOhm: t(0.01),
      ratedA: d(1),
      limitA: d(1.5),
      inputMinV: d(7),
      inputMaxV: d(25),
      kelvinPerWatt: d(12),
      junctionMaxC: d(125),
      quiescentA: d(0.005),
    },
    feed("14 AWG", 0.5, 2),
  );
  const at5 = (metres: number) => ({ from: "five.out+", back: "five.out-", gauge: "14 AWG", insulation: "pvc105", m: metres });
  plan.add(
    "load",
    "tide",
    "Tide board",
    {
      loadKind: "board",
      behaviour: "current",
      nominalV: d(5),
      inputMinV: d(4.5),
      inputMaxV: d(5.5),
      cells: cells({ rest: "0.08m", fill: "0.12m", sing: "0.15m", gale: "0.15m" }),
    },
    at5(0.3),
  );
  plan.add(
    "load",
    "float",
    "Float sensor",
    { loadKind: "sensor", nominalV: d(5), senses: "other", cells: cells({ rest: "0.01d", fill: "0.01d", sing: "0.01d", gale: "0.01d" }) },
    at5(3),
  );
  plan.labelAll();
  plan.do({
    type: "setMission",
    mission: {
      steps: [
        { mode: "rest", seconds: 3600 },
        { mode: "fill", seconds: 240 },
        { mode: "sing", seconds: 1200 },
      ],
      repeats: true,
    },
  });
  return plan.machine;
}
