import rows from "./data/logic.json";

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
/** A logic family. */
export type LogicId = (typeof LOGIC_IDS)[number];

/** Levels of a logic family, V. */
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

/** Logic families by id. */
export const LOGIC_FAMILIES = Object.fromEntries(
  (rows as readonly (Omit<LogicFamily, "fromMemory"> & { certainty: string })[]).map(({ certainty, ...row }) => [
    row.id,
    { ...row, fromMemory: certainty === "from memory" },
  ]),
) as Readonly<Record<LogicId, LogicFamily>>;

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
/** What a USB link bears between its grounds. */
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
