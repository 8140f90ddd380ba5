import { say } from "../../quantity/format";
import { LOGIC_CLASSES, MOTOR_CLASSES } from "../../reference/classes";
import { amplifierCurrent, currentForPower, heaterOhm, MUSIC_SHARE } from "../others";
import { rmsOfPeak, runningCurrent, standstillCurrent } from "../stepper";
import { type Method, num, type Outcome, text } from "./types";

const METER = "Put a meter in its supply wire while it does its work.";

/** A stepper by its driver's setting. */
export const stepper: Method = {
  id: "stepperSetting",
  title: "motor and driver setting",
  kinds: ["stepper"],
  provenance: "typical",
  error: { low: 0.15, high: 0.15 },
  better: METER,
  source:
    "Handbook motors-and-drivers section 3: supply current from copper loss, driver loss and shaft power. Check values CV-25 to CV-27.",
  caution: "Never plug or unplug a stepper while it is powered: the interrupted current arcs and can destroy the driver.",
  fields: [
    {
      key: "setA",
      label: "Driver set to",
      dimension: "current",
      initial: (load) => load.stepper?.setA?.value,
      min: 0.01,
      max: 30,
      spread: 0.1,
      measure: "Measure the setpoint at the driver's test point.",
    },
    {
      key: "scale",
      label: "That scale shows",
      dimension: "count",
      options: [
        { value: "rms", label: "r.m.s. amps" },
        { value: "peak", label: "peak amps" },
      ],
      initial: "peak",
    },
    {
      key: "phaseOhm",
      label: "Resistance of one phase",
      dimension: "resistance",
      initial: (load) => load.stepper?.phaseOhm?.value ?? 1.5,
      min: 0.01,
      spread: 0.1,
      measure: "Read the ohms of one phase at the motor's plug.",
    },
    {
      key: "driverOhm",
      label: "Driver switches, both",
      dimension: "resistance",
      initial: 0.45,
      optional: true,
      min: 0,
      spread: 0.3,
      measure: "Take it from the driver's sheet.",
    },
    {
      key: "driverW",
      label: "Driver's own power",
      dimension: "power",
      initial: 0.5,
      optional: true,
      spread: 0.5,
      measure: "Read the amps with the motor unplugged before power-up.",
    },
    { key: "hold", label: "Held at, of the setting", dimension: "percent", initial: 50, min: 1, max: 100 },
    {
      key: "torqueNm",
      label: "Torque at speed",
      dimension: "torque",
      initial: 0.1,
      optional: true,
      min: 0,
      spread: 0.4,
      measure: "Pull on a lever with a spring scale while it runs.",
    },
    {
      key: "rpm",
      label: "Turns a minute",
      dimension: "speed",
      initial: 300,
      optional: true,
      min: 0,
      spread: 0.1,
      measure: "Count turns for a minute.",
    },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const supplyV = load.nominalV.value;
    const set = num(inputs, "setA");
    const phaseA = text(inputs, "scale") === "peak" ? rmsOfPeak(set) : set;
    const chopper = {
      phaseA,
      phaseOhm: num(inputs, "phaseOhm"),
      driverOhm: num(inputs, "driverOhm"),
      driverW: num(inputs, "driverW"),
      supplyV,
    };
    const held = { ...chopper, phaseA: (phaseA * num(inputs, "hold")) / 100 };
    const [torque, rpm] = [num(inputs, "torqueNm"), num(inputs, "rpm")];
    const run = runningCurrent(chopper, torque, rpm);
    const idle = standstillCurrent(held);
    const ohms = say(chopper.phaseOhm + chopper.driverOhm, "resistance");
    return [
      {
        level: "idle",
        value: idle,
        formula: "I = (2 · I_hold² · (R + R_on) + P_q) / U",
        numbers: `(2 × ${say(held.phaseA, "current")}² × ${ohms} + ${say(chopper.driverW, "power")}) / ${say(supplyV, "voltage")} = ${say(idle, "current")}`,
      },
      {
        level: "run",
        value: run,
        formula: "I = (2 · I_rms² · (R + R_on) + P_q + T · ω) / U",
        numbers: `(2 × ${say(phaseA, "current")}² × ${ohms} + ${say(chopper.driverW, "power")} + ${say((torque * rpm * 2 * Math.PI) / 60, "power")}) / ${say(supplyV, "voltage")} = ${say(run, "current")}`,
      },
    ];
  },
  notes: () => [
    "Supply current is not phase current: the chopper turns the supply's volts into current. Large frames add 5-20 W of iron loss at speed (from memory).",
  ],
};

/** A stepper by its class. */
export const stepperClass: Method = {
  id: "stepperFrame",
  title: "its frame size",
  kinds: ["stepper"],
  provenance: "typical",
  error: { low: 0.3, high: 0.5 },
  better: METER,
  source: "Class table of the handbook (motor-classes), from memory, with 80 % setting; standstill from copper loss.",
  fields: [
    {
      key: "class",
      label: "Most like",
      dimension: "count",
      options: MOTOR_CLASSES.filter(({ type }) => type === "stepper").map(({ id, name }) => ({ value: id, label: name })),
    },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const found = MOTOR_CLASSES.find(({ id }) => id === text(inputs, "class"));
    if (!found?.ratedA || !found.windingOhm) return [];
    const phaseA = 0.8 * found.ratedA;
    const chopper = { phaseA, phaseOhm: found.windingOhm, driverOhm: 0.45, driverW: 0.5, supplyV: load.nominalV.value };
    const build = standstillCurrent(chopper);
    const idle = standstillCurrent({ ...chopper, phaseA: phaseA / 2 });
    return [
      {
        level: "idle",
        value: idle,
        formula: "I = (2 · I_hold² · (R + R_on) + P_q) / U",
        numbers: `held at half of ${say(phaseA, "current")}: ${say(idle, "current")}`,
      },
      {
        level: "run",
        value: Math.max(build, 0.6 * phaseA),
        formula: "I = the larger of standstill and 0.6 × phase current (common practice, no source)",
        numbers: `${say(build, "current")} or 0.6 × ${say(phaseA, "current")}`,
      },
    ];
  },
};

/** A brushless motor by its drive's limits. */
export const brushless: Method = {
  id: "busLimit",
  title: "its drive's bus limit",
  kinds: ["brushless"],
  provenance: "datasheet",
  error: { low: 0.05, high: 0.1 },
  better: "Read the bus amps with a clamp meter while it accelerates.",
  source:
    "Handbook motors-and-drivers section 4: the drive's bus limit is the number for supply and fuse; the phase limit for the phase wires.",
  fields: [
    {
      key: "busLimitA",
      label: "Bus limit of its drive",
      dimension: "current",
      initial: (load) => load.brushless?.busLimitA?.value,
      min: 0.1,
      spread: 0.05,
      measure: "Read the limit in the drive's settings.",
    },
    { key: "powerW", label: "Rated power", dimension: "power", min: 0.1, spread: 0.1, measure: METER },
    { key: "efficiency", label: "Efficiency", dimension: "percent", initial: 80, min: 20, max: 98, spread: 0.08, measure: METER },
    {
      key: "freeA",
      label: "It draws, turning free",
      dimension: "current",
      initial: 0.5,
      min: 0.001,
      spread: 0.3,
      measure: "Read the bus amps turning free.",
    },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const limit = num(inputs, "busLimitA");
    const share = num(inputs, "efficiency") / 100;
    const run = Math.min(limit, currentForPower(num(inputs, "powerW"), load.nominalV.value, share));
    return [
      { level: "idle", value: num(inputs, "freeA"), formula: "I_0 = reading turning free", numbers: say(num(inputs, "freeA"), "current") },
      {
        level: "run",
        value: run,
        formula: "I = P / (η · U), at most the limit",
        numbers: `${say(num(inputs, "powerW"), "power")} / (${share} × ${say(load.nominalV.value, "voltage")}), limit ${say(limit, "current")} = ${say(run, "current")}`,
      },
      { level: "start", value: limit, formula: "I_start = bus limit", numbers: say(limit, "current") },
    ];
  },
};

/** A heater by watts or ohms. */
export const heater: Method = {
  id: "heaterRating",
  title: "rated watts and volts",
  kinds: ["heater", "light"],
  provenance: "datasheet",
  error: { low: 0.1, high: 0.1 },
  better: "Read its cold resistance with a meter.",
  source: "Ohm's law: R = U² / P; heaters are made to ± 10 % (from memory). Check value CV-38.",
  fields: [
    { key: "powerW", label: "Rated power", dimension: "power", min: 0.01, spread: 0.05, measure: "Read its amps at its own voltage." },
    { key: "ratedV", label: "at", dimension: "voltage", initial: (load) => load.nominalV.value, min: 0.5 },
    {
      key: "cold",
      label: "Draws when cold, times",
      dimension: "ratio",
      initial: 1,
      min: 1,
      max: 15,
      spread: 0.2,
      hint: "Plain wire 1, self-regulating element 2-3, filament lamp 10-15",
      measure: "Read its cold resistance.",
    },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const ohm = heaterOhm(num(inputs, "powerW"), num(inputs, "ratedV"));
    const run = load.nominalV.value / ohm;
    const cold = num(inputs, "cold");
    return [
      {
        level: "run",
        value: run,
        formula: "R = U_r² / P;  I = U / R",
        numbers: `${say(ohm, "resistance")};  ${say(load.nominalV.value, "voltage")} / ${say(ohm, "resistance")} = ${say(run, "current")}`,
      },
      {
        level: "start",
        value: run * cold,
        formula: "I_cold = I × cold factor",
        numbers: `${say(run, "current")} × ${cold} = ${say(run * cold, "current")}`,
      },
    ];
  },
};

/** An amplifier by its watts. */
export const amplifier: Method = {
  id: "soundPower",
  title: "its sound power",
  kinds: ["sound"],
  provenance: "typical",
  error: { low: 0.1, high: 0.15 },
  better: METER,
  source: "I = P / (η · U); music averages an eighth of the sine power (test condition of IEC 62368-1, from memory). Check value CV-40.",
  fields: [
    { key: "powerW", label: "Power of one channel", dimension: "power", min: 0.01, spread: 0.1, measure: METER },
    { key: "channels", label: "Channels", dimension: "count", initial: 2, min: 1, max: 16 },
    {
      key: "efficiency",
      label: "Efficiency",
      dimension: "percent",
      initial: 85,
      min: 10,
      max: 98,
      spread: 0.08,
      hint: "Class D 85-90 %, class AB 50-60 % (from memory)",
      measure: METER,
    },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const power = num(inputs, "powerW") * num(inputs, "channels");
    const peak = amplifierCurrent(power, num(inputs, "efficiency") / 100, load.nominalV.value);
    return [
      { level: "idle", value: 0.02, formula: "typical without sound", numbers: say(0.02, "current") },
      {
        level: "run",
        value: peak * MUSIC_SHARE,
        formula: "I = (P / 8) / (η · U)",
        numbers: `music: ${say(peak * MUSIC_SHARE, "current")}`,
      },
      {
        level: "start",
        value: peak,
        formula: "I = P / (η · U)",
        numbers: `${say(power, "power")} / (${num(inputs, "efficiency") / 100} × ${say(load.nominalV.value, "voltage")}) = ${say(peak, "current")}`,
      },
    ];
  },
};

/** Light strips by their pixels. */
export const pixels: Method = {
  id: "pixels",
  title: "its pixels",
  kinds: ["light"],
  provenance: "typical",
  error: { low: 0.3, high: 0.05 },
  better: "Set every pixel to full white and read the amps.",
  source: "60 mA a pixel at full white nominal, 35-50 mA real (common practice, no source). Check value CV-40.",
  fields: [
    { key: "count", label: "Pixels", dimension: "count", min: 1, max: 5000 },
    {
      key: "eachA",
      label: "One at full white",
      dimension: "current",
      initial: 0.06,
      min: 0.001,
      max: 1,
      spread: 0.1,
      measure: "Light ten pixels white and divide the amps by ten.",
    },
    { key: "share", label: "Lit at most, of full white", dimension: "percent", initial: 100, min: 1, max: 100 },
  ],
  outcomes: (inputs): Outcome[] => {
    const full = num(inputs, "count") * num(inputs, "eachA");
    const share = num(inputs, "share") / 100;
    return [
      {
        level: "idle",
        value: num(inputs, "count") * 0.001,
        formula: "1 mA each when dark",
        numbers: say(num(inputs, "count") * 0.001, "current"),
      },
      {
        level: "run",
        value: full * share,
        formula: "I = n · I_white · share",
        numbers: `${num(inputs, "count")} × ${say(num(inputs, "eachA"), "current")} × ${share} = ${say(full * share, "current")}`,
      },
      { level: "start", value: full, formula: "I = n · I_white", numbers: say(full, "current") },
    ];
  },
};

/** A coil by watts or ohms. */
export const coil: Method = {
  id: "coil",
  title: "its coil",
  kinds: ["coil"],
  provenance: "measured",
  error: { low: 0.05, high: 0.05 },
  better: METER,
  source: "Ohm's law; economisers hold with 30-50 % of the pull-in current (handbook motors-and-drivers section 6, from memory).",
  fields: [
    {
      key: "ohm",
      label: "Coil resistance, cold",
      dimension: "resistance",
      min: 0.1,
      spread: 0.05,
      measure: "Read the coil with an ohmmeter.",
    },
    { key: "hold", label: "Held with, of pull-in", dimension: "percent", initial: 100, min: 5, max: 100, spread: 0.1, measure: METER },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const pull = load.nominalV.value / num(inputs, "ohm");
    return [
      {
        level: "run",
        value: (pull * num(inputs, "hold")) / 100,
        formula: "I_hold = share × U / R",
        numbers: `${num(inputs, "hold")} % of ${say(pull, "current")}`,
      },
      {
        level: "start",
        value: pull,
        formula: "I_pull = U / R",
        numbers: `${say(load.nominalV.value, "voltage")} / ${say(num(inputs, "ohm"), "resistance")} = ${say(pull, "current")}`,
      },
    ];
  },
};

/** A board by its class. */
export const logicClass: Method = {
  id: "logicClass",
  title: "what sort it is",
  kinds: ["board", "computer", "sensor", "radio", "display", "fan", "coil"],
  provenance: "typical",
  error: { low: 0.3, high: 0.3 },
  better: METER,
  source: "Logic-load table of the handbook (sources-and-regulators section 7), from memory.",
  fields: [
    { key: "class", label: "Most like", dimension: "count", options: LOGIC_CLASSES.map(({ id, name }) => ({ value: id, label: name })) },
  ],
  outcomes: (inputs, load): Outcome[] => {
    const found = LOGIC_CLASSES.find(({ id }) => id === text(inputs, "class"));
    if (!found) return [];
    // Boards with converters take the same power at another voltage; coils and fans are only right at their own.
    const scale = load.behaviour === "power" ? found.volts / load.nominalV.value : 1;
    const row = (level: Outcome["level"], amps: number): Outcome => ({
      level,
      value: amps * scale,
      formula: "from the table",
      numbers: `${say(amps, "current")} at ${say(found.volts, "voltage")}`,
    });
    return [...(found.idleA > 0 ? [row("idle", found.idleA)] : []), row("run", found.runA), row("start", found.peakA)];
  },
};
