import type { Load } from "../../machine/schema";
import { say } from "../../quantity/format";
import { currentForForce, GRAVITY, motorConstant, pivotForceTracks, pivotForceWheels, straightForce } from "../drive";
import { startTimeConstant } from "../motor";
import { type Inputs, type KnownField, type Method, num, text } from "./types";

const stallOf = (load: Load) => load.levels?.stall?.value;
const idleOf = (load: Load) => load.levels?.idle?.value;

const TRAIN: readonly KnownField[] = [
  {
    key: "gear",
    label: "Gear ratio",
    dimension: "ratio",
    hint: "Motor turns for one turn of the wheel or drum.",
    initial: 1,
    min: 0.01,
    spread: 0.02,
    measure: "Count motor turns for one turn of the wheel.",
  },
  {
    key: "efficiency",
    label: "Gear efficiency",
    dimension: "percent",
    initial: 70,
    min: 5,
    max: 100,
    spread: 0.15,
    measure: "Drive the machine on the level and read the amps.",
  },
  {
    key: "noLoadRpm",
    label: "Motor rpm, free",
    dimension: "speed",
    min: 1,
    spread: 0.05,
    measure: "Read the free speed at rated volts.",
    hint: "Of the motor itself, before the gear.",
  },
  {
    key: "noLoadA",
    label: "Amps, free",
    dimension: "current",
    initial: idleOf,
    min: 0.0001,
    spread: 0.1,
    measure: "Read the amps turning free.",
  },
  {
    key: "stallA",
    label: "Stall amps",
    dimension: "current",
    initial: stallOf,
    min: 0.001,
    spread: 0.2,
    measure: "Hold it still at a low voltage: gives the winding's resistance.",
  },
];

/** Said where the load asks more than the motor has. */
function beyondStall(amps: number, stallA: number): string[] {
  return amps >= stallA
    ? [`That is more than its stall of ${say(stallA, "current")}: it cannot move this. Gear it down or take a stronger motor.`]
    : [];
}

function trainOf(inputs: Inputs, load: Load) {
  const volts = load.nominalV.value;
  const noLoadA = num(inputs, "noLoadA");
  const k = motorConstant(volts, num(inputs, "noLoadRpm"), noLoadA, volts / num(inputs, "stallA"));
  return { radiusM: num(inputs, "radiusM"), gear: num(inputs, "gear"), efficiency: num(inputs, "efficiency") / 100, k, noLoadA };
}

/** Force (N) that one motor has to bring at the rim. */
function forceEach(inputs: Inputs): number {
  const ground = {
    massKg: num(inputs, "massKg"),
    slopeDeg: num(inputs, "slopeDeg"),
    crr: num(inputs, "crr"),
    acceleration: num(inputs, "acceleration"),
  };
  const motors = Math.max(1, num(inputs, "motors"));
  const straight = straightForce(ground) / motors;
  const perSide = Math.max(1, motors / 2);
  const flat = [ground.massKg, ground.crr] as const;
  switch (text(inputs, "turning")) {
    case "wheels":
      return pivotForceWheels(...flat, num(inputs, "friction"), num(inputs, "wheelbase"), num(inputs, "track")) / perSide;
    case "tracks":
      return pivotForceTracks(...flat, num(inputs, "friction"), num(inputs, "wheelbase"), num(inputs, "track")) / perSide;
    case "factor":
      return straight * num(inputs, "factor");
    default:
      return straight;
  }
}

const PIVOT = ["wheels", "tracks"];

/** A motor by the wheel it drives. */
export const wheel: Method = {
  id: "wheel",
  title: "its wheel or track",
  kinds: ["motor"],
  provenance: "typical",
  error: { low: 0.1, high: 0.15 },
  better: "Drive it where it will work and read the amps with a clamp meter.",
  source:
    "Handbook motors-and-drivers section 1: rolling, slope and turning resistance (Wong, from memory; friction model derived). Check values CV-11 to CV-14.",
  fields: [
    { key: "massKg", label: "Machine weighs", dimension: "mass", min: 0.01, spread: 0.1, measure: "Weigh the machine with its load." },
    { key: "motors", label: "Motors driving", dimension: "count", initial: 2, min: 1, max: 20 },
    {
      key: "slopeDeg",
      label: "Steepest slope",
      dimension: "angle",
      initial: 5,
      optional: true,
      max: 60,
      spread: 0.15,
      measure: "Measure the slope you really drive on.",
    },
    {
      key: "crr",
      label: "Rolling resistance",
      dimension: "ratio",
      initial: 0.05,
      min: 0.001,
      max: 0.5,
      spread: 0.4,
      hint: "Hard floor 0.02, carpet 0.05, short grass 0.08, gravel 0.06, dry sand 0.2 (from memory)",
      measure: "Pull the machine with a spring scale on its real ground: newtons over its weight.",
    },
    {
      key: "acceleration",
      label: "Speeds up, m/s²",
      dimension: "ratio",
      initial: 0,
      optional: true,
      min: 0,
      max: 10,
      spread: 0.2,
      measure: "Time how fast it gets to speed.",
    },
    {
      key: "radiusM",
      label: "Wheel radius",
      dimension: "length",
      min: 0.002,
      max: 2,
      spread: 0.03,
      measure: "Measure from axle to ground.",
    },
    {
      key: "turning",
      label: "It turns by",
      dimension: "count",
      initial: "straight",
      options: [
        { value: "straight", label: "steering; the sides run alike" },
        { value: "wheels", label: "four wheels turned on the spot" },
        { value: "tracks", label: "tracks turned on the spot" },
        { value: "factor", label: "the spot turn, by a plain factor" },
      ],
    },
    {
      key: "factor",
      label: "Factor over straight",
      dimension: "ratio",
      initial: 4,
      min: 1,
      max: 20,
      spread: 0.5,
      when: { key: "turning", is: ["factor"] },
      hint: "2-4 is common practice, and far too low for grippy wheels on a hard floor.",
      measure: "Measure the wheelbase, track width and grip, and use the model instead.",
    },
    {
      key: "friction",
      label: "Grip sideways",
      dimension: "ratio",
      initial: 0.8,
      min: 0.05,
      max: 1.5,
      spread: 0.2,
      when: { key: "turning", is: PIVOT },
      measure: "Drag the machine sideways with a spring scale: newtons over its weight.",
    },
    {
      key: "wheelbase",
      label: "Wheelbase",
      dimension: "length",
      when: { key: "turning", is: PIVOT },
      spread: 0.03,
      measure: "Measure between the axles.",
    },
    {
      key: "track",
      label: "Between sides",
      dimension: "length",
      when: { key: "turning", is: PIVOT },
      spread: 0.03,
      measure: "Measure between the wheel middles.",
    },
    ...TRAIN,
  ],
  outcomes: (inputs, load) => {
    const train = trainOf(inputs, load);
    const force = forceEach(inputs);
    const value = currentForForce(force, train);
    return [
      {
        level: "run",
        value,
        formula: "I = I_0 + F · r / (N · η · k);  k = (U − I_0 · R) / ω_0",
        numbers: `${say(train.noLoadA, "current")} + ${force.toFixed(1)} N × ${say(train.radiusM, "length")} / (${train.gear} × ${train.efficiency} × ${train.k.toPrecision(3)} N·m/A) = ${say(value, "current")}`,
      },
    ];
  },
  notes: (inputs, load) => {
    const train = trainOf(inputs, load);
    const motors = Math.max(1, num(inputs, "motors"));
    const grip = num(inputs, "friction") || 0.8;
    const slip = currentForForce((grip * num(inputs, "massKg") * GRAVITY) / motors, train);
    const stall = num(inputs, "stallA");
    const tau = startTimeConstant({
      rotorInertia: 0,
      massKg: num(inputs, "massKg") / motors,
      radiusM: train.radiusM,
      gear: train.gear,
      ohm: load.nominalV.value / stall,
      k: train.k,
    });
    return [
      ...beyondStall(currentForForce(forceEach(inputs), train), stall),
      `Getting up to speed, its start current dies away within about ${say(tau, "time")} (τ = J · R / k², the machine's mass alone).`,
      slip < stall
        ? `At a grip of ${grip} its wheels slip at ${say(slip, "current")}, before the motor stalls on open ground. Jammed against a kerb it still stalls.`
        : `At a grip of ${grip} the motor stalls before its wheels slip.`,
    ];
  },
};

/** A motor by what it lifts. */
export const lift: Method = {
  id: "lift",
  title: "what it lifts",
  kinds: ["motor", "actuator"],
  provenance: "typical",
  error: { low: 0.1, high: 0.15 },
  better: "Lift the real load and read the amps with a clamp meter.",
  source: "Handbook motors-and-drivers section 1: F = m · g on a drum, through the gear.",
  caution: "A hanging load comes down when power goes: a holding brake or a self-locking gear is part of the plan.",
  fields: [
    {
      key: "massKg",
      label: "Mass it lifts",
      dimension: "mass",
      min: 0.001,
      spread: 0.1,
      measure: "Weigh what it lifts, hook and rope included.",
    },
    {
      key: "radiusM",
      label: "Drum or pinion radius",
      dimension: "length",
      min: 0.0005,
      max: 2,
      spread: 0.05,
      measure: "Measure the drum with the rope on it.",
    },
    ...TRAIN,
  ],
  outcomes: (inputs, load) => {
    const train = trainOf(inputs, load);
    const force = num(inputs, "massKg") * GRAVITY;
    const value = currentForForce(force, train);
    return [
      {
        level: "run",
        value,
        formula: "I = I_0 + m · g · r / (N · η · k)",
        numbers: `${say(train.noLoadA, "current")} + ${force.toFixed(1)} N × ${say(train.radiusM, "length")} / (${train.gear} × ${train.efficiency} × ${train.k.toPrecision(3)} N·m/A) = ${say(value, "current")}`,
      },
    ];
  },
  notes: (inputs, load) => beyondStall(currentForForce(num(inputs, "massKg") * GRAVITY, trainOf(inputs, load)), num(inputs, "stallA")),
};
