import { converterFromClass } from "../choosing/converters";
import { type Figure, guess, typical } from "../machine/figure";
import type { Converter } from "../machine/schema";
import { REGULATORS, type RegulatorClass } from "../reference/regulators";
import type { RailVolts } from "./make-driver";
import { figure } from "./make-load";
import type { ConverterReading } from "./reading";

/** What a rail asks of its converter. */
export interface RailAsk {
  readonly volts: number;
  /** For good and at most, A at the output. */
  readonly continuousA: number;
  readonly peakA: number;
}

/** Room over what is asked for good and at most (common practice, no source). */
const ROOM = { continuous: 1.3, peak: 1.15 } as const;

function topologyFor(volts: number, { lowV, highV }: RailVolts): Converter["topology"] {
  if (lowV > volts * 1.15) return "buck";
  return highV < volts ? "boost" : "buck-boost";
}

/** Whether a regulator class suits the rail it hangs on and what is asked of it. */
function suits(row: RegulatorClass, ask: RailAsk, rail: RailVolts, isolated: boolean): boolean {
  const topology = topologyFor(ask.volts, rail);
  const kind = isolated ? row.kind === "isolated" : row.kind === topology || (topology !== "buck-boost" && row.kind === "buck-boost");
  const inAmps = row.kind === "boost" ? (ask.peakA * ask.volts) / Math.max(1, rail.lowV) / 0.85 : ask.peakA;
  return (
    kind &&
    ask.volts >= row.outMinV * 0.99 &&
    ask.volts <= row.outMaxV * 1.01 &&
    row.inputMinV <= rail.lowV * 0.9 &&
    row.inputMaxV >= rail.highV * 1.02 &&
    row.stillAirA >= ask.continuousA * ROOM.continuous &&
    (row.limitA ?? row.printedA) >= inAmps * ROOM.peak
  );
}

/** Figures of a class as supposed ones. */
function supposed(figures: Partial<Converter>): Partial<Converter> {
  return Object.fromEntries(
    Object.entries(figures)
      .filter(([, value]) => value !== undefined)
      .map(([key, value]) => [
        key,
        typeof value === "object" && value !== null && "provenance" in value && key !== "outputV"
          ? { ...(value as Figure), provenance: "guess" as const }
          : value,
      ]),
  ) as Partial<Converter>;
}

/** The smallest class that does for a rail, else what one would have to bear. */
export function proposedConverter(ask: RailAsk, rail: RailVolts, isolated = false): Partial<Converter> {
  const found = REGULATORS.filter((row) => suits(row, ask, rail, isolated)).sort((a, b) => a.printedA - b.printedA)[0];
  if (found)
    return { ...supposed(converterFromClass(found, ask.volts)), outputV: typical(ask.volts), outputOhm: typical(0.01), note: found.name };
  const topology = topologyFor(ask.volts, rail);
  const lowest = topology === "buck" ? Math.max(ask.volts * 1.05, rail.lowV * 0.8) : rail.lowV * 0.8;
  return {
    topology: isolated ? "buck-boost" : topology,
    isolated,
    outputV: typical(ask.volts),
    efficiency: guess(0.88),
    outputOhm: typical(0.01),
    quiescentA: typical(0.01),
    ratedA: guess(Math.max(0.5, Number((ask.continuousA * 1.5).toPrecision(2)))),
    limitA: guess(Math.max(0.6, Number(Math.max(ask.peakA * 1.25, ask.continuousA * 1.8).toPrecision(2)))),
    inputMinV: guess(Number(lowest.toPrecision(2))),
    inputMaxV: guess(Math.ceil(rail.highV * 1.2)),
    note: "No class here does for it: this is what one has to do.",
  };
}

/** A converter the list names. Its window is supposed to suit the rail it hangs on. */
export function namedConverter(reading: ConverterReading, volts: number, rail: RailVolts): Partial<Converter> {
  const topology = reading.topology ?? topologyFor(volts, rail);
  const printed = reading.amps ? figure(reading.amps) : undefined;
  return {
    topology: reading.isolated ? "buck-boost" : topology,
    isolated: reading.isolated,
    outputV: reading.outputV ? figure(reading.outputV) : typical(volts),
    efficiency: guess(topology === "linear" ? 0.5 : 0.88),
    outputOhm: typical(0.01),
    quiescentA: typical(0.01),
    ...(printed
      ? {
          printedA: printed,
          ratedA: guess(Number((printed.value * 0.7).toPrecision(3))),
          limitA: guess(Number((printed.value * 1.3).toPrecision(3))),
        }
      : {}),
    inputMinV: guess(Number(Math.min(rail.lowV * 0.85, topology === "boost" ? volts * 0.4 : Infinity).toPrecision(2))),
    inputMaxV: guess(Math.ceil(Math.max(rail.highV, reading.inputV?.value ?? 0) * 1.2)),
    ...(topology === "linear" ? { dropoutV: guess(1.5), kelvinPerWatt: guess(60), junctionMaxC: guess(125) } : {}),
  };
}
