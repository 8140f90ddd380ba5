import { datasheet as d, measured as m, typical as t } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { cells, Plan, plug } from "@/demo/plan";
import { fromBars } from "./feed";

/** A sluice in a mill race, invented: two lead blocks in series, valves, a trace heater, lamps, a pump straight on the rail. */
export function sluice(): Machine {
  const plan = new Plan(
    "Sluice",
    "Two 12 V blocks in series, a gate motor, two valves, a heater.",
    [
      ["watch", "Watching", null],
      ["move", "Moving", 40],
      ["frost", "Frost", null],
    ],
    { ambientC: 30, bundle: 1, coldestC: -10, schools: { fuseLoadFactor: "75 %", ampacity: "boat" } },
  );
  const block = {
    openCircuitV: t(12.6),
    fullV: d(14.4),
    lowV: t(12.0),
    internalOhm: m(0.012),
    capacityAh: d(40),
    continuousA: d(40),
    peakA: d(120),
    chemistry: "lead_agm" as const,
    series: 6,
    plannedCharge: t(0.75),
    lowCharge: t(0.4),
  };
  plan.add("pack", "upper", "Upper block", block);
  plan.add("pack", "lower", "Lower block", block);
  plan.lay("return", "upper.-", "lower.+", "6 AWG", 0.25, { insulation: "pvc105" });
  const thick = { gauge: "6 AWG", insulation: "pvc105" };
  plan.add("fuse", "main", "Main fuse", { fuse: { family: "cube_single_bolt", ratingA: 60 } }, { from: "upper.+", m: 0.15, ...thick });
  plan.add(
    "switch",
    "isolator",
    "Isolator",
    { ratedA: d(100), contactOhm: t(3e-4), device: "isolator", breakA: d(100), breakV: d(48) },
    { from: "main.out", m: 0.3, ...thick },
  );
  plan.add("bar", "plus", "Plus bar", { ratedA: d(100) }, { from: "isolator.out", m: 0.2, ...thick });
  plan.add("bar", "minus", "Minus bar", { side: "negative", ratedA: d(100) }, { back: "lower.-", m: 0.3, ...thick });
  const feed = fromBars("plus", "minus", "pvc105");
  plan.add(
    "driver",
    "gate-drive",
    "Gate driver",
    {
      continuousA: d(20),
      peakA: d(40),
      peakS: d(5),
      limitA: d(25),
      inputMinV: d(9),
      inputMaxV: d(40),
      bridgeOhm: t(0.015),
      ownA: m(0.05),
      inputF: d(470e-6),
    },
    feed("12 AWG", 1.2, 20),
  );
  plan.add(
    "load",
    "gate",
    "Gate actuator",
    {
      loadKind: "actuator",
      nominalV: d(24),
      endSwitches: true,
      levels: { idle: t(0.8), run: m(7), stall: d(22) },
      cells: cells({ watch: "off", move: "run", frost: "off" }),
    },
    { from: "gate-drive.1a", back: "gate-drive.1b", gauge: "10 AWG", insulation: "pvc105", m: 2 },
  );
  for (const i of [1, 2])
    plan.add(
      "load",
      `valve-${i}`,
      `Valve ${i}`,
      { loadKind: "coil", behaviour: "resistance", nominalV: d(24), cells: cells({ watch: "0.4d", move: "0.8d", frost: "0.4d" }) },
      feed("16 AWG", 2.5, 3),
    );
  plan.add(
    "load",
    "heater",
    "Trace heater",
    { loadKind: "heater", behaviour: "resistance", nominalV: d(24), cells: cells({ watch: "off", move: "off", frost: "5d" }) },
    feed("14 AWG", 2, 10),
  );
  plan.add(
    "load",
    "lamp",
    "Work lamp",
    { loadKind: "light", behaviour: "resistance", nominalV: d(24), cells: cells({ watch: "off", move: "1.2d", frost: "off" }) },
    feed("16 AWG", 3, 3),
  );
  plan.add(
    "load",
    "pump",
    "Drain pump",
    { loadKind: "pump", nominalV: d(24), levels: { run: m(2.2), stall: d(9) }, cells: cells({ watch: "run", move: "run", frost: "run" }) },
    feed("14 AWG", 3, 5),
  );
  plan.add(
    "converter",
    "logic",
    "Logic buck",
    {
      topology: "buck",
      isolated: false,
      outputV: m(5.05),
      efficiency: t(0.87),
      outputOhm: t(0.01),
      ratedA: d(3),
      limitA: d(4),
      inputMinV: d(8),
      inputMaxV: d(40),
    },
    feed("16 AWG", 0.5, 3),
  );
  plan.add(
    "load",
    "controller",
    "Controller",
    {
      loadKind: "board",
      behaviour: "power",
      nominalV: d(5),
      inputMinV: d(4.5),
      inputMaxV: d(5.5),
      cells: cells({ watch: "0.2m", move: "0.25m", frost: "0.2m" }),
    },
    { from: "logic.out+", back: "logic.out-", gauge: "18 AWG", insulation: "pvc105", m: 0.4 },
  );
  plan.add(
    "load",
    "depth",
    "Depth sensor",
    { loadKind: "sensor", nominalV: d(5), senses: "other", cells: cells({ watch: "0.02d", move: "0.02d", frost: "0.02d" }) },
    { from: "logic.out+", back: "logic.out-", gauge: "18 AWG", insulation: "pvc105", m: 2 },
  );
  plan.labelAll();
  return plan.machine;
}

/** A kite winder, invented: twelve lithium cells, a brushless winch with a brake clamp, a stepper guide, an isolated radio rail. */
export function winder(): Machine {
  const plan = new Plan(
    "Kite winder",
    "44 V lithium, a brushless winch, a stepper, 12 V and 5 V rails.",
    [
      ["boot", "Starting up", null],
      ["hold", "Holding", null],
      ["wind", "Winding", null],
      ["gust", "Gust", 3],
    ],
    { ambientC: 25, bundle: 1, coldestC: 5, schools: { fuseLoadFactor: "80 %", ampacity: "heat balance" } },
  );
  plan.add("pack", "pack", "Pack", {
    openCircuitV: t(44.4),
    fullV: d(50.4),
    lowV: t(42),
    internalOhm: m(0.045),
    capacityAh: d(16),
    continuousA: d(48),
    peakA: d(96),
    chemistry: "nmc_energy",
    series: 12,
    parallel: 5,
    management: "inside",
    plannedCharge: t(0.55),
    lowCharge: t(0.25),
  });
  const thick = { gauge: "8 AWG", insulation: "sil200" };
  plan.add("fuse", "main", "Main fuse", { fuse: { family: "cube_single_bolt", ratingA: 50 } }, { from: "pack.+", m: 0.12, ...thick });
  plan.add(
    "switch",
    "main-switch",
    "Main contactor",
    {
      ratedA: d(80),
      contactOhm: t(4e-4),
      device: "contactor",
      breakA: d(120),
      breakV: d(80),
      makeA: d(100),
      prechargeOhm: d(47),
      prechargeS: d(1),
      prechargeJ: d(20),
      clamp: "clamp",
      stop: { devices: 2, normallyClosed: true, deliberateReset: true },
    },
    { from: "main.out", m: 0.3, ...thick },
  );
  plan.add(
    "bar",
    "plus",
    "Plus bar",
    { ratedA: d(100), brakeOnV: d(53), brakeOhm: d(4), brakePulseJ: d(400) },
    { from: "main-switch.out", m: 0.2, ...thick },
  );
  plan.add("bar", "minus", "Minus bar", { side: "negative", ratedA: d(100) }, { back: "pack.-", m: 0.3, ...thick });
  plan.add(
    "load",
    "winch",
    "Winch drive",
    {
      loadKind: "brushless",
      behaviour: "power",
      nominalV: d(44),
      inputMinV: d(30),
      inputMaxV: d(60),
      inputF: d(1000e-6),
      brakingJ: t(250),
      brushless: { drive: "sine", busLimitA: d(30) },
      levels: { idle: t(0.3), run: m(12), start: d(26) },
      cells: cells({ boot: "off", hold: "idle", wind: "run", gust: "peak" }),
    },
    { from: "plus", back: "minus", gauge: "10 AWG", insulation: "sil200", m: 0.8, fuse: { family: "blade_regular_58v", ratingA: 30 } },
  );
  plan.add(
    "load",
    "guide",
    "Guide stepper",
    {
      loadKind: "stepper",
      behaviour: "power",
      nominalV: d(44),
      inputMinV: d(20),
      inputMaxV: d(60),
      stepper: { ratedA: d(2), setA: m(1.6), scale: "rms", phaseOhm: d(1.2), phaseMh: d(2.5) },
      levels: { idle: t(0.15), run: t(0.5) },
      cells: cells({ boot: "off", hold: "hold", wind: "run", gust: "hold" }),
    },
    { from: "plus", back: "minus", gauge: "18 AWG", insulation: "sil200", m: 0.9, fuse: { family: "blade_regular_58v", ratingA: 3 } },
  );
  const buck = { topology: "buck" as const, efficiency: t(0.9), outputOhm: t(0.01), inputMinV: d(18), inputMaxV: d(60) };
  plan.add(
    "converter",
    "twelve",
    "Buck 12 V",
    { ...buck, isolated: false, outputV: d(12), ratedA: d(5), limitA: d(6.5) },
    { from: "main.out", back: "minus", gauge: "16 AWG", insulation: "sil200", m: 0.6, fuse: { family: "blade_regular_58v", ratingA: 3 } },
  );
  const at12 = (metres: number, gauge = "16 AWG") => ({ from: "twelve.out+", back: "twelve.out-", gauge, insulation: "sil200", m: metres });
  plan.add(
    "load",
    "fan",
    "Fan",
    { loadKind: "fan", nominalV: d(12), cells: cells({ boot: "off", hold: "off", wind: "0.3d", gust: "0.3d" }) },
    at12(0.6),
  );
  plan.add(
    "load",
    "lamp",
    "Mast lamp",
    { loadKind: "light", nominalV: d(12), cells: cells({ boot: "0.5d", hold: "0.5d", wind: "0.5d", gust: "0.5d" }) },
    { ...at12(3), shared: plug("auto28", "B12") },
  );
  plan.add(
    "converter",
    "five",
    "Isolated 5 V",
    { ...buck, topology: "buck-boost", inputMinV: d(9), inputMaxV: d(18), isolated: true, outputV: d(5.05), ratedA: d(3), limitA: d(4) },
    at12(0.4),
  );
  const at5 = (metres: number) => ({ from: "five.out+", back: "five.out-", gauge: "18 AWG", insulation: "sil200", m: metres });
  plan.add(
    "load",
    "brain",
    "Computer",
    {
      loadKind: "computer",
      behaviour: "power",
      nominalV: d(5),
      inputMinV: d(4.75),
      inputMaxV: d(5.5),
      cells: cells({ boot: "0.8m", hold: "0.8m", wind: "1.2m", gust: "1.2m" }),
    },
    at5(0.3),
  );
  plan.add(
    "load",
    "servo",
    "Brake servo",
    {
      loadKind: "servo",
      nominalV: d(5),
      levels: { idle: t(0.05), run: t(0.3), stall: m(0.9) },
      cells: cells({ boot: "off", hold: "idle", wind: "idle", gust: "stall" }),
    },
    at5(0.5),
  );
  plan.add(
    "load",
    "radio",
    "Radio",
    { loadKind: "radio", nominalV: d(5), cells: cells({ boot: "0.1t", hold: "0.1t", wind: "0.1t", gust: "0.1t" }) },
    at5(0.5),
  );
  plan.labelAll();
  return plan.machine;
}
