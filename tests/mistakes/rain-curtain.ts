import { datasheet as d, measured as m, typical as t } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { cells, Plan, plug } from "@/demo/plan";

/** A rain curtain, invented: 48 V with a precharged contactor and its coil, a box of two outputs, a frame bonded once, links. */
export function rainCurtain(): Machine {
  const plan = new Plan(
    "Rain curtain",
    "48 V lithium, two pumps behind one contactor, steppers on a shared driver, 12 V and 5 V from converters.",
    [
      ["wait", "Waiting", null],
      ["arm", "Armed", null],
      ["pour", "Pouring", null],
      ["sweep", "Sweeping", 25],
    ],
    {
      ambientC: 27,
      bundle: 1,
      coldestC: 5,
      schools: { fuseLoadFactor: "80 %", ampacity: "heat balance", stop: "opens power", chassis: "bonded once" },
    },
  );
  plan.add("pack", "pack", "Main pack", {
    openCircuitV: t(52),
    fullV: d(54.6),
    lowV: t(47),
    internalOhm: m(0.05),
    capacityAh: d(20),
    continuousA: d(60),
    peakA: d(120),
    chemistry: "nmc_energy",
    series: 13,
    parallel: 6,
    management: "inside",
    plannedCharge: t(0.8),
    lowCharge: t(0.2),
  });
  const thick = { gauge: "6 AWG", insulation: "sil200" };
  plan.add("fuse", "main", "Main fuse", { fuse: { family: "cube_single_bolt", ratingA: 60 } }, { from: "pack.+", m: 0.12, ...thick });
  plan.add("bar", "hot", "Always on", { ratedA: d(100) }, { from: "main.out", m: 0.15, ...thick });
  plan.add("bar", "minus", "Minus bar", { side: "negative", ratedA: d(100) }, { back: "pack.-", m: 0.25, ...thick });
  plan.add(
    "switch",
    "contactor",
    "Pump contactor",
    {
      ratedA: d(100),
      contactOhm: t(3e-4),
      device: "contactor",
      breakA: d(100),
      breakV: d(80),
      makeA: d(150),
      clamp: "clamp",
      coilOhm: d(24),
      pickUpV: d(8.5),
      dropOutV: d(2),
      prechargeOhm: d(68),
      prechargeS: d(1),
      prechargeJ: d(30),
      openIn: ["wait"],
      stop: { devices: 2, normallyClosed: true, deliberateReset: true },
    },
    { from: "hot", m: 0.2, ...thick },
  );
  plan.add(
    "bar",
    "power",
    "Power bar",
    { ratedA: d(100), brakeOnV: d(57), brakeOhm: d(5), brakePulseJ: d(200) },
    { from: "contactor.out", m: 0.2, ...thick },
  );
  const feed = (from: string, gauge: string, metres: number, ratingA: number) => ({
    from,
    back: "minus",
    gauge,
    insulation: "sil200",
    m: metres,
    fuse: { family: "blade_regular_58v" as const, ratingA },
  });
  for (const i of [1, 2])
    plan.add(
      "load",
      `pump-${i}`,
      `Pump ${i} drive`,
      {
        loadKind: "brushless",
        behaviour: "power",
        nominalV: d(48),
        inputMinV: d(36),
        inputMaxV: d(65),
        inputF: d(470e-6),
        brakingJ: t(20),
        brushless: { drive: "sine", busLimitA: d(15), phaseLimitA: d(25) },
        phaseLead: { gauge: "12 AWG", insulation: "sil200", lengthM: m(1.2) },
        levels: { idle: t(0.2), run: m(8), start: d(12) },
        cells: cells({ wait: "off", arm: "off", pour: "run", sweep: "peak" }),
      },
      { ...feed("power", "12 AWG", 1, 20), shared: plug("key60", "P48") },
    );
  plan.add(
    "driver",
    "sweeper",
    "Sweep driver",
    {
      channels: 2,
      continuousA: d(4),
      peakA: d(6),
      limitA: d(3.5),
      inputMinV: d(18),
      inputMaxV: d(75),
      bridgeOhm: t(0.2),
      ownA: m(0.03),
      inputF: d(100e-6),
      freewheel: "inside",
    },
    feed("power", "16 AWG", 0.8, 7.5),
  );
  for (const i of [1, 2])
    plan.add(
      "load",
      `sweep-${i}`,
      `Sweep motor ${i}`,
      {
        loadKind: "motor",
        nominalV: d(48),
        brakingJ: t(0),
        levels: { idle: t(0.2), run: m(1.2), stall: d(3.2) },
        cells: cells({ wait: "off", arm: "off", pour: "off", sweep: "run" }),
      },
      { from: `sweeper.${i}a`, back: `sweeper.${i}b`, gauge: "18 AWG", insulation: "sil200", m: 2.2 },
    );
  const buck = { topology: "buck" as const, isolated: false, efficiency: t(0.9), outputOhm: t(0.01), inputMinV: d(18), inputMaxV: d(75) };
  plan.add("converter", "twelve", "Buck 12 V", { ...buck, outputV: d(12), ratedA: d(8), limitA: d(10) }, feed("hot", "16 AWG", 0.5, 4));
  const at12 = (metres: number, gauge = "14 AWG") => ({ from: "twelve.out+", back: "twelve.out-", gauge, insulation: "sil200", m: metres });
  plan.lay("supply", "twelve.out+", "contactor.c+", "18 AWG", 0.6);
  plan.lay("return", "contactor.c-", "twelve.out-", "18 AWG", 0.6);
  plan.add(
    "load",
    "mist",
    "Mist lights",
    { loadKind: "light", behaviour: "resistance", nominalV: d(12), cells: cells({ wait: "off", arm: "off", pour: "2d", sweep: "2d" }) },
    at12(3),
  );
  plan.add(
    "converter",
    "five",
    "Buck 5 V",
    { ...buck, outputV: d(5.05), ratedA: d(4), limitA: d(5), inputMinV: d(7), inputMaxV: d(36) },
    at12(0.4, "14 AWG"),
  );
  const at5 = (metres: number) => ({ from: "five.out+", back: "five.out-", gauge: "16 AWG", insulation: "sil200", m: metres });
  plan.add(
    "load",
    "cloud",
    "Cloud controller",
    {
      loadKind: "board",
      behaviour: "power",
      nominalV: d(5),
      inputMinV: d(4.6),
      inputMaxV: d(5.5),
      pinA: d(0.02),
      cells: cells({ wait: "0.2m", arm: "0.2m", pour: "0.3m", sweep: "0.3m" }),
    },
    at5(0.3),
  );
  plan.add(
    "load",
    "gauge",
    "Rain gauge",
    { loadKind: "sensor", nominalV: d(5), senses: "other", cells: cells({ wait: "0.02d", arm: "0.02d", pour: "0.02d", sweep: "0.02d" }) },
    at5(2),
  );
  plan.labelAll();
  plan.signal({ id: "s-gauge", from: "gauge", to: "cloud", kind: "logic", sender: "cmos5", receiver: "cmos5" });
  return plan.machine;
}
