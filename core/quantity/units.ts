/** The physical dimensions a builder types into the plan, with the units people write for each. SI inside. */
export type Dimension =
  | "current"
  | "voltage"
  | "resistance"
  | "length"
  | "power"
  | "capacity"
  | "time"
  | "temperature"
  | "percent"
  | "count"
  | "mass"
  | "torque"
  | "speed"
  | "inductance"
  | "angle"
  | "capacitance"
  | "energy"
  | "ratio"
  | "section";

interface DimensionInfo {
  /** What the builder calls it, for messages. */
  readonly label: string;
  /** SI unit written when a bare number is typed. */
  readonly unit: string;
  readonly example: string;
  /** Factor to SI for each accepted spelling; keys are lower case except where case tells units apart. */
  readonly units: Readonly<Record<string, number>>;
  readonly min: number;
  readonly max: number;
}

/** Factors to SI. `min`/`max` bound what this tool plans: 3-60 V machines up to a few hundred amps. */
export const DIMENSIONS: Readonly<Record<Dimension, DimensionInfo>> = {
  current: {
    label: "current",
    unit: "A",
    example: "2.3 A or 800 mA",
    units: { a: 1, amp: 1, amps: 1, ma: 1e-3, ua: 1e-6, µa: 1e-6, ka: 1e3 },
    min: 0,
    max: 2000,
  },
  voltage: {
    label: "voltage",
    unit: "V",
    example: "24 V",
    units: { v: 1, volt: 1, volts: 1, mv: 1e-3 },
    min: 0,
    max: 120,
  },
  resistance: {
    label: "resistance",
    unit: "Ω",
    example: "12 mΩ or 0.5 ohm",
    units: {
      Ω: 1,
      ohm: 1,
      ohms: 1,
      r: 1,
      mΩ: 1e-3,
      mohm: 1e-3,
      milliohm: 1e-3,
      uΩ: 1e-6,
      µΩ: 1e-6,
      uohm: 1e-6,
      kΩ: 1e3,
      kohm: 1e3,
      k: 1e3,
      Mohm: 1e6,
      MΩ: 1e6,
    },
    min: 1e-6,
    max: 1e6,
  },
  length: {
    label: "length",
    unit: "m",
    example: "1.8 m or 3 ft",
    units: {
      m: 1,
      cm: 1e-2,
      mm: 1e-3,
      ft: 0.3048,
      feet: 0.3048,
      foot: 0.3048,
      "'": 0.3048,
      in: 0.0254,
      inch: 0.0254,
      inches: 0.0254,
      '"': 0.0254,
    },
    min: 0.001,
    max: 200,
  },
  power: {
    label: "power",
    unit: "W",
    example: "250 W",
    units: { w: 1, watt: 1, watts: 1, mw: 1e-3, kw: 1e3 },
    min: 0,
    max: 50000,
  },
  capacity: {
    label: "capacity",
    unit: "Ah",
    example: "60 Ah or 2600 mAh",
    units: { ah: 1, mah: 1e-3 },
    min: 0.01,
    max: 5000,
  },
  time: {
    label: "time",
    unit: "s",
    example: "0.8 s or 5 min",
    units: {
      s: 1,
      sec: 1,
      ms: 1e-3,
      min: 60,
      h: 3600,
      hour: 3600,
      hours: 3600,
    },
    min: 0.001,
    max: 864000,
  },
  temperature: {
    label: "temperature",
    unit: "°C",
    example: "40 °C",
    units: { c: 1, "°c": 1, deg: 1, degc: 1 },
    min: -40,
    max: 120,
  },
  percent: {
    label: "share",
    unit: "%",
    example: "90 %",
    units: { "%": 1, percent: 1 },
    min: 0,
    max: 100,
  },
  count: {
    label: "number",
    unit: "",
    example: "3",
    units: { pcs: 1, pieces: 1, x: 1 },
    min: 0,
    max: 1000,
  },
  mass: {
    label: "mass",
    unit: "kg",
    example: "20 kg or 350 g",
    units: { kg: 1, g: 1e-3, lb: 0.45359237, lbs: 0.45359237 },
    min: 0.0001,
    max: 100000,
  },
  torque: {
    label: "torque",
    unit: "N·m",
    example: "2.4 Nm or 20 kg.cm",
    units: { nm: 1, n·m: 1, "n.m": 1, ncm: 0.01, mnm: 1e-3, "kg.cm": 0.0980665, kg·cm: 0.0980665, kgcm: 0.0980665 },
    min: 0,
    max: 5000,
  },
  speed: {
    label: "speed",
    unit: "rpm",
    example: "5300 rpm",
    units: { rpm: 1, "1/min": 1, "rad/s": 9.549296585513721 },
    min: 0,
    max: 100000,
  },
  inductance: {
    label: "inductance",
    unit: "mH",
    example: "3.2 mH",
    units: { mh: 1, uh: 1e-3, µh: 1e-3, h: 1e3 },
    min: 0.001,
    max: 1000,
  },
  capacitance: {
    label: "capacitance",
    unit: "F",
    example: "1000 µF or 4.7 mF",
    units: { f: 1, mf: 1e-3, uf: 1e-6, µf: 1e-6, nf: 1e-9 },
    min: 1e-9,
    max: 1000,
  },
  energy: { label: "energy", unit: "J", example: "540 J", units: { j: 1, kj: 1e3, mj: 1e-3, wh: 3600, ws: 1 }, min: 0, max: 1e6 },
  angle: { label: "angle", unit: "°", example: "10°", units: { "°": 1, deg: 1 }, min: 0, max: 90 },
  // Copper is sold, tabled and said in mm² everywhere: the one dimension that is not kept in its SI unit.
  section: {
    label: "section",
    unit: "mm²",
    example: "30 mm² or 3 cm²",
    units: { "mm²": 1, mm2: 1, sqmm: 1, "cm²": 100, cm2: 100 },
    min: 0.01,
    max: 10000,
  },
  ratio: { label: "number", unit: "", example: "30", units: {}, min: 0, max: 100000 },
};
