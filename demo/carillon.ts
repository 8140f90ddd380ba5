import { datasheet, measured, typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { blade, cells, knowing, Plan } from "./plan";

/** A street-organ automaton fed by two DC supplies, invented. No battery: the supplies' own limits matter instead. */
export function carillon(fixed: boolean): Machine {
  const plan = new Plan(
    fixed ? "Carillon, corrected" : "Carillon",
    fixed
      ? "The street organ after its verdicts were settled."
      : "A street-organ automaton on a 24 V and a 5 V supply: six steppers, ten servos, blower, lights, sound. Mains wiring is not part of this plan.",
    [
      ["idle", "Idle", null],
      ["melody", "Melody", null],
      ["tutti", "Tutti", 30],
      ["home", "Homing", 6],
    ],
    { ambientC: 35, bundle: 2 },
  );
  plan.add("supply", "supply-24", "Supply 24 V", {
    note: fixed ? "enclosed, 360 W" : "enclosed, 240 W",
    outputV: measured(24.1),
    outputOhm: typical(0.012),
    ratedA: datasheet(fixed ? 15 : 10),
    ...(fixed ? { limitA: datasheet(18) } : {}),
    make: "enclosed",
    overload: "hiccup",
    derateFromC: datasheet(50),
    derateShare: datasheet(0.025),
  });
  plan.add(
    "switch",
    "stop-24",
    "Stop contact",
    { ratedA: datasheet(16), contactOhm: typical(2e-3) },
    { from: "supply-24.+", gauge: "12 AWG", m: 0.3, bundle: 1 },
  );
  plan.add("bar", "bar-24", "Bar 24 V", {}, { from: "stop-24.out", gauge: "12 AWG", m: 0.4, bundle: 1 });
  plan.add("bar", "bar-0", "Bar 0 V", { side: "negative" }, { back: "supply-24.-", gauge: fixed ? "10 AWG" : "12 AWG", m: 0.4, bundle: 1 });
  const step = {
    loadKind: "stepper" as const,
    behaviour: "power" as const,
    nominalV: datasheet(24),
    inputMinV: datasheet(12),
    inputMaxV: datasheet(36),
  };
  for (let i = 1; i <= 6; i++) {
    const set = !fixed && i === 1 ? 2.6 : 2;
    const setting = { setA: set, scale: "peak", phaseOhm: 1.5, driverOhm: 0.45, driverW: 0.5, hold: 60, torqueNm: 0.2, rpm: 450 };
    plan.add(
      "load",
      `stepper-${i}`,
      `Stepper drive ${i}`,
      {
        ...step,
        note: "with motor, 1.7 A a phase",
        phaseLead: { gauge: "22 AWG", insulation: "pvc80", lengthM: measured(0.9) },
        stepper: { ratedA: datasheet(1.7), setA: measured(set), scale: "peak", phaseOhm: datasheet(1.5), phaseMh: datasheet(2.8) },
        levels: knowing("stepperSetting", setting, { nominalV: datasheet(24), loadKind: "stepper" }),
        cells: cells({ idle: "hold", melody: `run ${55 + i * 4} %`, tutti: "run", home: "run 105 %" }),
      },
      { from: "bar-24", back: "bar-0", gauge: "18 AWG", m: 0.6 + i * 0.25, fuse: blade(i === 6 && !fixed ? 20 : 3) },
    );
  }
  plan.add(
    "load",
    "blower",
    "Blower",
    { loadKind: "fan", nominalV: datasheet(24), cells: cells({ idle: "off", melody: "2.6m", tutti: "3.4m", home: "off" }) },
    { from: "bar-24", back: "bar-0", gauge: fixed ? "16 AWG" : "18 AWG", m: 1.8, fuse: blade(fixed ? 5 : 3) },
  );
  plan.add(
    "load",
    "lights",
    "Chase lights",
    {
      loadKind: "light",
      count: 24,
      behaviour: "resistance",
      nominalV: datasheet(24),
      cells: cells({ idle: "0.2d", melody: "0.8d", tutti: "1.4d", home: "0.2d" }),
    },
    { from: "bar-24", back: "bar-0", gauge: "18 AWG", m: 2.2, fuse: blade(3) },
  );
  plan.add(
    "load",
    "amplifier",
    "Amplifier",
    {
      loadKind: "sound",
      note: "2 × 20 W",
      behaviour: "power",
      nominalV: datasheet(24),
      inputMinV: datasheet(10),
      inputMaxV: datasheet(26),
      ...(fixed ? { filterMh: datasheet(0.22), filterF: datasheet(1e-3), filterOhm: measured(0.08) } : {}),
      cells: cells({ idle: "0.05d", melody: "0.4t", tutti: fixed ? "0.9m" : "1.8t", home: "0.05d" }),
    },
    { from: "bar-24", back: "bar-0", gauge: "18 AWG", m: 0.9, fuse: blade(3) },
  );

  plan.add("supply", "supply-5", "Supply 5 V", {
    note: "enclosed, 100 W",
    outputV: measured(fixed ? 5.2 : 5.05),
    outputOhm: typical(0.004),
    ratedA: datasheet(20),
    limitA: datasheet(23),
    make: "enclosed",
    overload: "constant current",
  });
  plan.add("bar", "bar-5", "Bar 5 V", {}, { from: "supply-5.+", gauge: fixed ? "10 AWG" : "14 AWG", m: fixed ? 0.25 : 0.8, bundle: 1 });
  plan.add(
    "bar",
    "bar-5n",
    "Bar 5 V return",
    { side: "negative" },
    { back: "supply-5.-", gauge: fixed ? "10 AWG" : "14 AWG", m: fixed ? 0.25 : 0.8, bundle: 1 },
  );
  // The mistake: two supplies whose minus sides never meet.
  if (fixed) plan.lay("return", "bar-5n", "bar-0", "10 AWG", 0.3);
  for (let i = 1; i <= 5; i++) {
    const servos = cells({ idle: "idle", melody: "run", tutti: "stall", home: "stall 1" }, 2);
    if (!fixed && i === 5) delete servos.tutti;
    plan.add(
      "load",
      `servos-${i}`,
      `Figure ${i} servos`,
      {
        loadKind: "servo",
        count: 2,
        nominalV: datasheet(5),
        inputMinV: datasheet(4.5),
        inputMaxV: datasheet(6),
        levels: { idle: typical(0.02), run: typical(0.45), stall: measured(1.1) },
        cells: servos,
      },
      { from: "bar-5", back: "bar-5n", gauge: fixed ? "14 AWG" : "22 AWG", m: 0.7 + i * 0.2, ...(fixed ? { fuse: blade(5) } : {}) },
    );
  }
  plan.add(
    "load",
    "player",
    "Player board",
    {
      loadKind: "board",
      behaviour: "power",
      nominalV: datasheet(5),
      inputMinV: datasheet(4.75),
      inputMaxV: datasheet(5.5),
      cells: cells({ idle: "0.5m", melody: "0.7m", tutti: "0.8m", home: "0.6m" }),
    },
    { from: "bar-5", back: "bar-5n", gauge: fixed ? "16 AWG" : "24 AWG", m: fixed ? 0.4 : 0.9, ...(fixed ? { fuse: blade(2) } : {}) },
  );
  for (const i of [1, 6])
    plan.signal({ id: `s-step-${i}`, from: "player", to: `stepper-${i}`, kind: "logic", sender: "cmos5", receiver: "cmos5_ttl_in" });
  plan.signal({ id: "s-servos", from: "player", to: "servos-5", kind: "pulse", sender: "cmos5", receiver: "ttl5" });
  plan.signal({ id: "s-sound", from: "player", to: "amplifier", kind: fixed ? "opto" : "audio", shieldLifted: true });
  return plan.machine;
}
