/**
 * What readings are taken with and how far they may be off (handbook grounding section 10 and uncertainty section 4; assumed
 * specifications of the usual classes, common practice, no source).
 */

/** What can be read at a machine. */
export const QUANTITIES = ["volts", "amps", "ohms", "celsius", "seconds", "rating", "yes"] as const;
/** One of them. */
export type ReadQuantity = (typeof QUANTITIES)[number];

/** SI unit of what is read; a yes has none. */
export const QUANTITY_UNITS: Readonly<Record<ReadQuantity, string>> = {
  volts: "V",
  amps: "A",
  ohms: "Ω",
  celsius: "°C",
  seconds: "s",
  rating: "A",
  yes: "",
};

/** One way an instrument reads: share of the reading, digits of the last place, and its ranges. */
interface Accuracy {
  readonly gain: number;
  readonly digits: number;
  /** Ranges by their top, each with its last place; the last one is the largest. */
  readonly ranges: readonly { readonly top: number; readonly step: number }[];
  /** Added whatever it reads: leads, offset. */
  readonly plus: number;
}

/** An instrument, as people own them. */
export interface Instrument {
  readonly id: InstrumentId;
  readonly name: string;
  /** What it does to the circuit or how it goes wrong, in a sentence. */
  readonly trap: string;
  readonly reads: Partial<Readonly<Record<ReadQuantity, Accuracy>>>;
}

/** Instruments by class; the simulated bench stands in for any of them. */
export const INSTRUMENT_IDS = ["pocket", "hand", "bench", "clamp", "fine-clamp", "supply", "probe", "eyes", "watch"] as const;
/** One of them. */
export type InstrumentId = (typeof INSTRUMENT_IDS)[number];

/** Ranges of a meter of 6000 counts from its lowest, each ten times the last. */
function decades(lowest: number, count: number): { top: number; step: number }[] {
  return Array.from({ length: count }, (_, i) => ({ top: lowest * 10 ** i, step: (lowest * 10 ** i) / 6000 }));
}

const OHMS: Accuracy = { gain: 0.01, digits: 3, ranges: decades(600, 6), plus: 0.1 };

function meter(id: InstrumentId, name: string, gain: number, digits: number, ampsGain: number): Instrument {
  return {
    id,
    name,
    trap: "Averages what is chopped. In series it loses about 30 mV an amp; leads left in the amps socket short the next rail.",
    reads: {
      volts: { gain, digits, ranges: decades(0.06, 5), plus: 0 },
      amps: {
        gain: ampsGain,
        digits: 3,
        ranges: [
          { top: 0.06, step: 1e-5 },
          { top: 0.6, step: 1e-4 },
          { top: 10, step: 0.01 },
        ],
        plus: 0,
      },
      ohms: OHMS,
    },
  };
}

/** Instruments by id. */
export const INSTRUMENTS: Readonly<Record<InstrumentId, Instrument>> = {
  pocket: meter("pocket", "pocket meter, 1 % + 3 digits", 0.01, 3, 0.02),
  hand: meter("hand", "hand meter, 0.5 % + 2 digits", 0.005, 2, 0.015),
  bench: {
    id: "bench",
    name: "bench meter, 0.03 % + 2 digits",
    trap: "Its minus may be joined to earth: clip it to the main return only.",
    reads: {
      volts: {
        gain: 0.0003,
        digits: 2,
        ranges: [
          { top: 1, step: 1e-5 },
          { top: 10, step: 1e-4 },
          { top: 100, step: 1e-3 },
          { top: 1000, step: 0.01 },
        ],
        plus: 0,
      },
      amps: {
        gain: 0.002,
        digits: 5,
        ranges: [
          { top: 0.1, step: 1e-6 },
          { top: 3, step: 1e-4 },
          { top: 10, step: 1e-3 },
        ],
        plus: 0,
      },
      ohms: {
        gain: 0.0005,
        digits: 5,
        ranges: [
          { top: 100, step: 1e-3 },
          { top: 1e3, step: 0.01 },
          { top: 1e8, step: 1 },
        ],
        plus: 0.01,
      },
    },
  },
  clamp: {
    id: "clamp",
    name: "DC clamp, 2 % + 5 digits of 0.1 A",
    trap: "Zero it first, the same way round. Several turns through the jaw read as many times the current.",
    reads: { amps: { gain: 0.02, digits: 5, ranges: [{ top: 1000, step: 0.1 }], plus: 0 } },
  },
  "fine-clamp": {
    id: "fine-clamp",
    name: "fine DC clamp, 2 % + 5 digits of 0.01 A",
    trap: "Zero it first, the same way round. A magnetised jaw reads what is not there.",
    reads: { amps: { gain: 0.02, digits: 5, ranges: [{ top: 60, step: 0.01 }], plus: 0 } },
  },
  supply: {
    id: "supply",
    name: "bench supply's own display, 0.5 % + 20 mA",
    trap: "It cannot take current back, and its limit acts late: capacitors still give a spike.",
    reads: {
      volts: { gain: 0.005, digits: 1, ranges: [{ top: 120, step: 0.01 }], plus: 0.02 },
      amps: { gain: 0.005, digits: 0, ranges: [{ top: 200, step: 0.01 }], plus: 0.02 },
    },
  },
  probe: {
    id: "probe",
    name: "contact thermometer, ±1.5 K",
    trap: "An infrared one reads shiny metal cold: put matt tape on it.",
    reads: { celsius: { gain: 0, digits: 0, ranges: [{ top: 400, step: 0.1 }], plus: 1.5 } },
  },
  eyes: {
    id: "eyes",
    name: "eyes and hands",
    trap: "",
    reads: {
      rating: { gain: 0, digits: 0, ranges: [{ top: 1000, step: 1 }], plus: 0 },
      yes: { gain: 0, digits: 0, ranges: [{ top: 1, step: 1 }], plus: 0 },
    },
  },
  watch: {
    id: "watch",
    name: "watch",
    trap: "",
    reads: { seconds: { gain: 0, digits: 0, ranges: [{ top: 86400, step: 0.1 }], plus: 0.5 } },
  },
};

/** Half-width of the band an instrument's specification gives at a reading; null where it cannot read that. */
export function instrumentHalf(id: InstrumentId, quantity: ReadQuantity, value: number): number | null {
  const reads = INSTRUMENTS[id].reads[quantity];
  if (!reads) return null;
  const size = Math.abs(value);
  const range = reads.ranges.find(({ top }) => size <= top) ?? reads.ranges[reads.ranges.length - 1];
  return reads.gain * size + reads.digits * (range?.step ?? 0) + reads.plus;
}

/** Last place an instrument shows at a reading. */
export function instrumentStep(id: InstrumentId, quantity: ReadQuantity, value: number): number {
  const ranges = INSTRUMENTS[id].reads[quantity]?.ranges ?? [];
  return (ranges.find(({ top }) => Math.abs(value) <= top) ?? ranges[ranges.length - 1])?.step ?? 0;
}

/** A name for its range at a reading: "60 V". Empty where it has but one. */
export function instrumentRange(id: InstrumentId, quantity: ReadQuantity, value: number): string {
  const ranges = INSTRUMENTS[id].reads[quantity]?.ranges ?? [];
  if (ranges.length < 2) return "";
  const top = (ranges.find((range) => Math.abs(value) <= range.top) ?? ranges[ranges.length - 1])?.top ?? 0;
  const unit = QUANTITY_UNITS[quantity];
  if (top >= 1e6) return `${top / 1e6} M${unit}`;
  if (top >= 1e3) return `${top / 1e3} k${unit}`;
  return top < 1 ? `${Math.round(top * 1e3)} m${unit}` : `${Math.round(top)} ${unit}`;
}
