/**
 * Input and output levels of logic families, and what links between boards tolerate (handbook grounding section 4).
 * Marked "from memory" where the handbook says to verify: shown to users as typical.
 */
export const LOGIC_IDS = [
  "ttl5",
  "lvttl33",
  "lvcmos33",
  "mcu33",
  "cmos5",
  "cmos5_ttl_in",
  "cmos5_ratio_in",
  "collector5",
  "plc24_3",
  "plc24_1",
  "rs232",
] as const;
export type LogicId = (typeof LOGIC_IDS)[number];

export interface LogicFamily {
  readonly id: LogicId;
  readonly name: string;
  /** For narrow columns. */
  readonly short: string;
  /** Supply of its driver, V: what a line held high is fed from. */
  readonly supplyV: number;
  /** Highest low and lowest high a driver of the family gives, V; null: inputs only. */
  readonly out: { readonly low: number; readonly high: number } | null;
  /** Highest volts still read as low and lowest read as high, V; null: outputs only. */
  readonly input: { readonly low: number; readonly high: number } | null;
  readonly source: string;
  readonly fromMemory: boolean;
  /** Most inputs of it bear only a few tenths of a volt below their own ground. */
  readonly clamps: boolean;
}

export const LOGIC_FAMILIES: Readonly<Record<LogicId, LogicFamily>> = {
  ttl5: {
    id: "ttl5",
    name: "5 V TTL",
    short: "5 V TTL",
    supplyV: 5,
    out: { low: 0.4, high: 2.4 },
    input: { low: 0.8, high: 2.0 },
    source: "classic TTL data sheets",
    fromMemory: true,
    clamps: true,
  },
  lvttl33: {
    id: "lvttl33",
    name: "3.3 V LVTTL",
    short: "3.3 V LVTTL",
    supplyV: 3.3,
    out: { low: 0.4, high: 2.4 },
    input: { low: 0.8, high: 2.0 },
    source: "JESD8C, 2 mA load",
    fromMemory: true,
    clamps: true,
  },
  lvcmos33: {
    id: "lvcmos33",
    name: "3.3 V LVCMOS, light load",
    short: "3.3 V LVCMOS",
    supplyV: 3.3,
    out: { low: 0.2, high: 2.8 },
    input: { low: 0.8, high: 2.0 },
    source: "JESD8C at 3.0 V, 100 µA load",
    fromMemory: true,
    clamps: true,
  },
  mcu33: {
    id: "mcu33",
    name: "3.3 V microcontroller (0.3 and 0.7 of its supply)",
    short: "3.3 V controller",
    supplyV: 3.3,
    out: { low: 0.4, high: 2.9 },
    input: { low: 0.99, high: 2.31 },
    source: "typical data sheets",
    fromMemory: true,
    clamps: true,
  },
  cmos5: {
    id: "cmos5",
    name: "5 V CMOS",
    short: "5 V CMOS",
    supplyV: 5,
    out: { low: 0.33, high: 3.84 },
    input: { low: 1.35, high: 3.15 },
    source: "JESD7 at 4.5 V, 4 mA, 85 °C",
    fromMemory: true,
    clamps: true,
  },
  cmos5_ttl_in: {
    id: "cmos5_ttl_in",
    name: "5 V CMOS with TTL-level input",
    short: "5 V, TTL levels",
    supplyV: 5,
    out: { low: 0.33, high: 3.84 },
    input: { low: 0.8, high: 2.0 },
    source: "JESD7",
    fromMemory: true,
    clamps: true,
  },
  cmos5_ratio_in: {
    id: "cmos5_ratio_in",
    name: "5 V input at 0.3 and 0.7 of its supply (many light strips)",
    short: "5 V, 0.7 of supply",
    supplyV: 5,
    out: null,
    input: { low: 1.5, high: 3.5 },
    source: "0.3 and 0.7 of 5 V, typical data sheets",
    fromMemory: true,
    clamps: true,
  },
  collector5: {
    id: "collector5",
    name: "open collector pulled up to 5 V (encoders, hall sensors)",
    short: "open collector",
    supplyV: 5,
    out: { low: 0.4, high: 5.0 },
    input: null,
    source: "derived: saturation 0.4 V, pull-up to 5 V",
    fromMemory: true,
    clamps: true,
  },
  plc24_3: {
    id: "plc24_3",
    name: "24 V digital, type 3 input",
    short: "24 V type 3",
    supplyV: 24,
    out: { low: 0, high: 17.4 },
    input: { low: 5, high: 11 },
    source: "IEC 61131-2; 24 V less 15 %, output drop 3 V",
    fromMemory: true,
    clamps: false,
  },
  plc24_1: {
    id: "plc24_1",
    name: "24 V digital, type 1 input",
    short: "24 V type 1",
    supplyV: 24,
    out: { low: 0, high: 17.4 },
    input: { low: 5, high: 15 },
    source: "IEC 61131-2; 24 V less 15 %, output drop 3 V",
    fromMemory: true,
    clamps: false,
  },
  rs232: {
    id: "rs232",
    name: "±5 V serial (TIA-232-F)",
    short: "±5 V serial",
    supplyV: 5,
    out: { low: -5, high: 5 },
    input: { low: -3, high: 3 },
    source: "TIA-232-F: driver ±5 V, receiver ±3 V",
    fromMemory: true,
    clamps: false,
  },
};

/** What a link tolerates without levels of a family, by kind: ground of the sender above and below the receiver's, V. */
export interface CommonMode {
  readonly above: number;
  readonly below: number;
  readonly source: string;
  readonly fromMemory: boolean;
  readonly clamps: boolean;
}

/** Share of the bus supply that stays below and above as noise margin (UM10204 input level table). */
const I2C_LOW = 0.1;
const I2C_HIGH = 0.2;

/** Margins of an I²C bus by its supply, V. */
export function i2cMargins(supplyV: number): CommonMode {
  return {
    above: I2C_LOW * supplyV,
    below: I2C_HIGH * supplyV,
    source: "I²C-bus specification UM10204: noise margins 0.1 and 0.2 of the bus supply",
    fromMemory: false,
    clamps: true,
  };
}

/** A receiver for −7 to +12 V with a driver of 0 to 5 V leaves 7 V either way. */
export const RS485: CommonMode = {
  above: 7,
  below: 7,
  source: "TIA-485-A: −7 to +12 V at the receiver, less a 0 to 5 V driver",
  fromMemory: false,
  clamps: false,
};
/** −2 to +7 V on the bus with CAN_L ≥ 0.5 V and CAN_H ≤ 4.5 V. */
export const CAN: CommonMode = {
  above: 2.5,
  below: 2.5,
  source: "ISO 11898-2, older editions: −2 to +7 V on the bus; receivers after 2016 bear more",
  fromMemory: false,
  clamps: false,
};
export const USB: CommonMode = {
  above: 0.25,
  below: 0.3,
  source: "USB 2.0 chapter 7, high-speed receiver",
  fromMemory: true,
  clamps: false,
};

/** V_IL − V_OL and V_OH − V_IH of a sender and a receiver, V; null where one cannot send or the other not receive. */
export function noiseMargins(sender: LogicFamily, receiver: LogicFamily): { low: number; high: number } | null {
  if (!sender.out || !receiver.input) return null;
  return { low: receiver.input.low - sender.out.low, high: sender.out.high - receiver.input.high };
}
