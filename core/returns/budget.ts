import type { BuiltMachine, BuiltPart, Settings, Signal } from "../machine/schema";
import { CAN, i2cMargins, LOGIC_FAMILIES, type LogicFamily, noiseMargins, RS485, USB } from "../reference/logic";

/**
 * Shares of a noise margin that a steady offset, and offset and spikes together, may use; and the most an input without a series
 * resistor bears below its own ground (handbook grounding section 4; common practice, no source).
 */
export const DEFAULT_LINK_BUDGET: NonNullable<Settings["links"]> = { staticShare: 0.5, peakShare: 0.8, capV: 0.3 };

/** Injection most pins bear, A (handbook grounding section 2, from memory). */
export const CLAMP_A = 1e-3;

/** Counts of error taken as wished where nobody said: half a step of the converter (handbook section 4). */
export const DEFAULT_COUNTS = 0.5;

/** How far the sender's ground may stand above and below the receiver's, V. */
export interface Tolerance {
  /** The whole margin. */
  aboveV: number;
  belowV: number;
  /** What a steady offset may use of it. */
  steadyAboveV: number;
  steadyBelowV: number;
  /** What offset and spikes together may use. */
  peakAboveV: number;
  peakBelowV: number;
  source: string;
  fromMemory: boolean;
  /** One step of the converter, V, and how many may be wrong (analogue only). */
  step: { volts: number; counts: number; wished: boolean } | null;
}

/** "heard": sound, judged by how far its ground moves against line level, not by a margin. */
export type Allowed =
  | { kind: "isolated" }
  | { kind: "heard" }
  | { kind: "missing"; what: string }
  | { kind: "invalid"; why: string }
  | ({ kind: "held" } & Tolerance);

/** Whether a link goes through without a common ground. */
export function isolates(signal: Signal, to: BuiltPart | undefined): boolean {
  if (signal.kind === "opto" || signal.kind === "isolated supply") return true;
  return to?.kind === "driver" && to.isolatedInputs === true && signal.kind !== "analogue";
}

/** What a link bears between its two grounds, from its own sheet, its kind or its levels. */
export function toleranceOf(machine: BuiltMachine, signal: Signal, to: BuiltPart | undefined): Allowed {
  const budget = machine.settings.links ?? DEFAULT_LINK_BUDGET;
  if (isolates(signal, to)) return { kind: "isolated" };
  if (signal.kind === "audio") return { kind: "heard" };
  if (signal.kind === "analogue") return analogue(signal);
  if (signal.allowsV) {
    const { value } = signal.allowsV;
    return { kind: "held", ...even(value, value, value), source: "its own sheet", fromMemory: false, step: null };
  }
  const within = (above: number, below: number, source: string, fromMemory: boolean, clamps: boolean): Allowed => {
    // Beyond what an input bears, a resistor takes the rest at the current a pin bears.
    const cap = clamps ? budget.capV + CLAMP_A * (signal.seriesOhm?.value ?? 0) : Number.POSITIVE_INFINITY;
    return {
      kind: "held",
      aboveV: above,
      belowV: below,
      steadyAboveV: Math.min(above * budget.staticShare, cap),
      steadyBelowV: Math.min(below * budget.staticShare, cap),
      peakAboveV: above * budget.peakShare,
      peakBelowV: below * budget.peakShare,
      source,
      fromMemory,
      step: null,
    };
  };
  if (signal.kind === "rs485" || signal.kind === "can" || signal.kind === "usb") {
    const row = { rs485: RS485, can: CAN, usb: USB }[signal.kind];
    // Both ends send and listen, so the smaller side counts both ways.
    const least = Math.min(row.above, row.below);
    return within(least, least, row.source, row.fromMemory, row.clamps);
  }
  if (signal.kind === "i2c") {
    if (!signal.busV) return { kind: "missing", what: "the supply of its bus" };
    const row = i2cMargins(signal.busV.value);
    const least = Math.min(row.above, row.below);
    return within(least, least, row.source, row.fromMemory, row.clamps);
  }
  if (!signal.sender || !signal.receiver)
    return { kind: "missing", what: signal.sender ? "the levels its receiver reads" : "the levels its sender gives" };
  return ofLevels(signal, LOGIC_FAMILIES[signal.sender], LOGIC_FAMILIES[signal.receiver], within);
}

function even(whole: number, steady: number, peak: number) {
  return { aboveV: whole, belowV: whole, steadyAboveV: steady, steadyBelowV: steady, peakAboveV: peak, peakBelowV: peak };
}

function ofLevels(
  signal: Signal,
  sender: LogicFamily,
  receiver: LogicFamily,
  within: (above: number, below: number, source: string, fromMemory: boolean, clamps: boolean) => Allowed,
): Allowed {
  const there = noiseMargins(sender, receiver);
  if (!there) return { kind: "invalid", why: sender.out ? `${receiver.name} only sends` : `${sender.name} only listens` };
  const back = signal.bothWays ? noiseMargins(receiver, sender) : null;
  if (signal.bothWays && !back) return { kind: "invalid", why: `${receiver.out ? sender.name : receiver.name} cannot answer` };
  const above = Math.min(there.low, back?.high ?? Number.POSITIVE_INFINITY);
  const below = Math.min(there.high, back?.low ?? Number.POSITIVE_INFINITY);
  if (above <= 0 || below <= 0) {
    const wrong = above <= 0 ? "a low is not read as low" : "a high is not read as high";
    return { kind: "invalid", why: `${wrong} even with both grounds at the same volts: a level shifter belongs between them` };
  }
  const sources = sender.source === receiver.source ? sender.source : `${sender.source}; ${receiver.source}`;
  return within(
    above,
    below,
    sources,
    sender.fromMemory || receiver.fromMemory,
    receiver.clamps || (signal.bothWays === true && sender.clamps),
  );
}

function analogue(signal: Signal): Allowed {
  if (!signal.fullScaleV || signal.bits === undefined)
    return { kind: "missing", what: signal.fullScaleV ? "how many bits its converter has" : "the full scale of its converter" };
  const volts = signal.fullScaleV.value / 2 ** signal.bits;
  const counts = signal.wishCounts?.value ?? DEFAULT_COUNTS;
  return {
    kind: "held",
    ...even(volts * counts, volts * counts, volts * counts),
    source: "one step is the full scale over 2 to the bits",
    fromMemory: false,
    step: { volts, counts, wished: signal.wishCounts !== undefined },
  };
}
