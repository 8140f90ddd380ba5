import { say } from "../../quantity/format";
import { CLASS_SPREAD, MOTOR_CLASSES } from "../../reference/classes";
import { lockedRotorOhm, stallCurrent, terminalOhm } from "../motor";
import { currentForPower } from "../others";
import { list, type Method, num, text } from "./types";

const MOTORS = ["motor", "pump", "fan", "actuator", "servo"] as const;

/** Efficiency and stall multiple by class of motor (handbook motors-and-drivers section 1, from memory). */
const RATED_CLASSES = [
  { value: "toy", label: "toy, micro or small plastic gearmotor", efficiency: [0.15, 0.5], stall: [3, 6] },
  { value: "metal", label: "25-42 mm metal gearmotor", efficiency: [0.35, 0.6], stall: [4, 8] },
  { value: "can", label: "can or drill-type motor", efficiency: [0.55, 0.75], stall: [5, 10] },
  { value: "worm", label: "wiper or window-lift type (worm)", efficiency: [0.2, 0.4], stall: [3, 6] },
  { value: "scooter", label: "scooter-type, 250-500 W", efficiency: [0.75, 0.8], stall: [5, 9] },
  { value: "chair", label: "wheelchair-type gearmotor", efficiency: [0.65, 0.78], stall: [6, 12] },
  { value: "actuator", label: "linear actuator", efficiency: [0.15, 0.35], stall: [2, 5] },
  { value: "winch", label: "winch or trolling type", efficiency: [0.4, 0.7], stall: [3, 5] },
] as const;

const LOCKED =
  "Hold the shaft still and feed 10-25 % of its volts for less than 2 s; read volts at its terminals and amps, at four shaft positions.";

/** A motor by a test with its shaft held, at low volts. */
export const lockedRotor: Method = {
  id: "lockedRotor",
  title: "held still at low volts",
  kinds: MOTORS,
  provenance: "measured",
  error: { low: 0.08, high: 0.08 },
  better: "Measure the stall on the machine itself with a clamp meter, for less than 2 s.",
  source: "Handbook motors-and-drivers section 1, method 2 (± 10 %), check value CV-06.",
  caution:
    "Clamp the motor, keep fingers clear, and let the current flow for less than two seconds: a stalled winding heats by tens of degrees a second.",
  fields: [
    {
      key: "testV",
      label: "Volts at its terminals",
      dimension: "voltage",
      min: 0.05,
      spread: 0.02,
      measure: "Read the volts right at the motor's terminals, not at the bench supply.",
    },
    {
      key: "testA",
      label: "it drew, held still",
      dimension: "current",
      min: 0.001,
      spread: 0.03,
      measure: "Read the amps at four shaft positions and take the mean.",
    },
    {
      key: "brushV",
      label: "Lost in the brushes",
      dimension: "voltage",
      initial: 0.5,
      optional: true,
      max: 3,
      spread: 0.5,
      measure: "Repeat at twice the test voltage: two points give the brush drop.",
    },
    {
      key: "leadOhm",
      label: "Lead resistance",
      dimension: "resistance",
      initial: 0.02,
      optional: true,
      min: 0,
      spread: 0.3,
      measure: "Short the test leads and read their resistance.",
    },
  ],
  outcomes: (inputs, load) => {
    const volts = load.nominalV.value;
    const brushV = num(inputs, "brushV");
    const ohm = lockedRotorOhm(num(inputs, "testV"), num(inputs, "testA"), brushV, num(inputs, "leadOhm"));
    const value = ohm > 0 ? stallCurrent(volts, ohm, brushV) : Number.NaN;
    return [
      {
        level: "stall",
        value,
        formula: "R = (U_test − U_b) / I_test − R_lead;  I_stall = (U − U_b) / R",
        numbers: `(${say(num(inputs, "testV"), "voltage")} − ${say(brushV, "voltage")}) / ${say(num(inputs, "testA"), "current")} − ${say(num(inputs, "leadOhm"), "resistance")} = ${say(ohm, "resistance")};  (${say(volts, "voltage")} − ${say(brushV, "voltage")}) / ${say(ohm, "resistance")} = ${say(value, "current")}`,
      },
    ];
  },
};

/** A motor by the ohms at its terminals. */
export const terminals: Method = {
  id: "terminalOhm",
  title: "ohms at its terminals",
  kinds: MOTORS,
  provenance: "measured",
  error: { low: 0.05, high: 0.3 },
  better: LOCKED,
  source:
    "Handbook motors-and-drivers section 1, method 4: a meter's milliamps read the brush film too, so the true stall is up to 30 % higher. Check value CV-07.",
  fields: [
    {
      key: "readings",
      label: "Ohms, at five or more shaft positions",
      dimension: "resistance",
      readings: true,
      hint: "For example 0.62 0.58 0.66 0.60 0.64",
      spread: 0.05,
      measure: "Turn the shaft a little and read again; five or more positions.",
    },
    {
      key: "leadOhm",
      label: "Lead resistance",
      dimension: "resistance",
      initial: 0.1,
      optional: true,
      min: 0,
      spread: 0.2,
      measure: "Touch the meter's leads together and read that too.",
    },
  ],
  outcomes: (inputs, load) => {
    const volts = load.nominalV.value;
    const readings = list(inputs, "readings");
    const ohm = terminalOhm(readings, num(inputs, "leadOhm"));
    const value = ohm > 0 ? stallCurrent(volts, ohm) : Number.NaN;
    return [
      {
        level: "stall",
        value,
        formula: "R = mean of readings − R_lead;  I_stall = U / R",
        numbers: `${say(ohm + num(inputs, "leadOhm"), "resistance")} − ${say(num(inputs, "leadOhm"), "resistance")} = ${say(ohm, "resistance")};  ${say(volts, "voltage")} / ${say(ohm, "resistance")} = ${say(value, "current")}`,
      },
    ];
  },
  notes: (inputs) => {
    const readings = list(inputs, "readings");
    const mean = readings.reduce((sum, each) => sum + each, 0) / readings.length;
    const odd = readings.some((each) => Math.abs(each - mean) > 0.15 * mean);
    return [
      ...(odd ? ["Readings differ by more than 15 %: one commutator bar may be open, or the brushes sit badly."] : []),
      ...(readings.length < 5 ? ["Fewer than five shaft positions: the mean is less sure than it looks."] : []),
    ];
  },
};

/** A motor by its rated watts. */
export const ratedPower: Method = {
  id: "ratedPower",
  title: "its watts and volts",
  kinds: ["motor", "pump", "fan", "actuator"],
  provenance: "typical",
  error: { low: 0, high: 0 },
  better: LOCKED,
  source: "Handbook motors-and-drivers section 1: I = P / (η · U); efficiency and stall multiple by class, from memory. Check value CV-05.",
  fields: [
    {
      key: "powerW",
      label: "Rated power",
      dimension: "power",
      min: 0.01,
      spread: 0.1,
      measure: "Read amps and volts while it does its rated work.",
    },
    {
      key: "meant",
      label: "The watts are",
      dimension: "count",
      options: [
        { value: "shaft", label: "at the shaft" },
        { value: "input", label: "taken from the supply" },
      ],
      initial: "shaft",
    },
    {
      key: "group",
      label: "What sort of motor",
      dimension: "count",
      options: RATED_CLASSES.map(({ value, label }) => ({ value, label })),
      initial: "metal",
    },
  ],
  outcomes: (inputs, load) => {
    const group = RATED_CLASSES.find(({ value }) => value === text(inputs, "group")) ?? RATED_CLASSES[1];
    const volts = load.nominalV.value;
    const power = num(inputs, "powerW");
    const shaft = text(inputs, "meant") !== "input";
    const [worst, best] = shaft ? group.efficiency : [1, 1];
    const middle = Math.sqrt(worst * best);
    const run = currentForPower(power, volts, middle);
    const [least, most] = group.stall;
    const times = Math.sqrt(least * most);
    return [
      {
        level: "run",
        value: run,
        low: currentForPower(power, volts, best),
        high: currentForPower(power, volts, worst),
        formula: shaft ? "I = P / (η · U)" : "I = P / U",
        numbers: `${say(power, "power")} / (${middle.toFixed(2)} × ${say(volts, "voltage")}) = ${say(run, "current")}`,
      },
      {
        level: "stall",
        value: run * times,
        low: currentForPower(power, volts, best) * least,
        high: currentForPower(power, volts, worst) * most,
        formula: "I_stall = I_rated × stall multiple of the class",
        numbers: `${say(run, "current")} × ${times.toFixed(1)} = ${say(run * times, "current")}`,
      },
    ];
  },
};

/** A motor by what it draws turning free. */
export const noLoad: Method = {
  id: "noLoad",
  title: "running free",
  kinds: MOTORS,
  provenance: "measured",
  error: { low: 0.05, high: 0.1 },
  better: "Read it again warm, in both directions: they should agree within 10 %.",
  source: "Handbook motors-and-drivers section 1: no-load current is nearly constant over voltage.",
  fields: [
    {
      key: "freeA",
      label: "It draws, turning free",
      dimension: "current",
      min: 0.0001,
      spread: 0.05,
      measure: "Read the amps with nothing on the shaft, in both directions.",
    },
  ],
  outcomes: (inputs) => [
    {
      level: "idle",
      value: num(inputs, "freeA"),
      formula: "I_0 = reading with nothing on the shaft",
      numbers: say(num(inputs, "freeA"), "current"),
    },
  ],
};

/** A motor by its class. */
export const motorClass: Method = {
  id: "motorClass",
  title: "what sort it is",
  kinds: ["motor", "actuator", "pump", "fan", "servo", "brushless"],
  provenance: "typical",
  error: { low: 0, high: 0 },
  better: LOCKED,
  source: "Class table of the handbook (motor-classes), from memory: a last resort, not yours.",
  fields: [
    {
      key: "class",
      label: "Most like",
      dimension: "count",
      options: MOTOR_CLASSES.filter(({ type }) => type !== "stepper").map(({ id, name }) => ({ value: id, label: name })),
    },
  ],
  outcomes: (inputs, load) => {
    const found = MOTOR_CLASSES.find(({ id }) => id === text(inputs, "class"));
    if (!found) return [];
    const volts = load.nominalV.value;
    const scale = volts / found.nominalV;
    const spread = CLASS_SPREAD[found.certainty];
    const around = (value: number) => ({ low: value / (1 + spread), high: value * (1 + spread) });
    const made: ReturnType<Method["outcomes"]> = [];
    const servo = found.type === "hobby_servo";
    const idle = servo ? found.idleA : found.noLoadA;
    const run = servo ? found.noLoadA : found.ratedA;
    if (idle !== null)
      made.push({ level: "idle", value: idle, ...around(idle), formula: "from the class table", numbers: say(idle, "current") });
    if (run !== null)
      made.push({ level: "run", value: run, ...around(run), formula: "from the class table", numbers: say(run, "current") });
    if (found.stallA !== null) {
      made.push({
        level: "stall",
        value: found.stallA * scale,
        low: (found.stallMinA ?? found.stallA) * scale,
        high: (found.stallMaxA ?? found.stallA) * scale,
        formula: "I_stall = class figure × U / U_class",
        numbers: `${say(found.stallA, "current")} × ${say(volts, "voltage")} / ${say(found.nominalV, "voltage")} = ${say(found.stallA * scale, "current")}`,
      });
    }
    if (found.busLimitA !== null)
      made.push({
        level: "start",
        value: found.busLimitA,
        ...around(found.busLimitA),
        formula: "bus limit of the usual drive",
        numbers: say(found.busLimitA, "current"),
      });
    return made;
  },
  notes: (inputs) => {
    const found = MOTOR_CLASSES.find(({ id }) => id === text(inputs, "class"));
    return found ? [found.notes.replace(/^typical; /, "").replace(/^./, (first) => first.toUpperCase())] : [];
  },
};
