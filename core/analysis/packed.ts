import type { PartFigures, WireFigures, Wiring, Worst } from "../figures/types";
import type { Analysis } from "./types";

/**
 * An analysis on its way between threads. All numbers of wires and parts lie one after another in `doubles`, everything
 * that is yes or no in `flags`: handing over thousands of little objects takes longer than computing them. Wires come
 * first, then parts, both in the order of their ids; null travels as NaN.
 */
export interface PackedAnalysis extends Omit<Analysis, "wires" | "parts"> {
  wireIds: string[];
  partIds: string[];
  wirings: Wiring[];
  doubles: Float64Array<ArrayBuffer>;
  flags: Uint8Array<ArrayBuffer>;
}

/** Numbers apart from series: a worst takes two; flags apart from series: a worst takes two. */
const WIRE_NUMBERS = 8;
const WIRE_FLAGS = 5;
const PART_NUMBERS = 9;
const PART_FLAGS = 10;
/** Most series of doubles one part has. */
const PART_SERIES = 7;

class Writer {
  readonly doubles: Float64Array<ArrayBuffer>;
  readonly flags: Uint8Array<ArrayBuffer>;
  private d = 0;
  private f = 0;

  constructor(doubles: number, flags: number) {
    this.doubles = new Float64Array(doubles);
    this.flags = new Uint8Array(flags);
  }

  number(value: number | null): void {
    this.doubles[this.d++] = value ?? Number.NaN;
  }

  flag(value: boolean): void {
    this.flags[this.f++] = value ? 1 : 0;
  }

  series(row: Float64Array): void {
    this.doubles.set(row, this.d);
    this.d += row.length;
  }

  marks(row: Uint8Array): void {
    this.flags.set(row, this.f);
    this.f += row.length;
  }

  worst({ amps, mode, low, mission }: Worst): void {
    this.number(amps);
    this.number(mode);
    this.flag(low);
    this.flag(mission ?? false);
  }
}

class Reader {
  private d = 0;
  private f = 0;

  constructor(
    private readonly doubles: Float64Array,
    private readonly flags: Uint8Array,
    private readonly modes: number,
  ) {}

  number(): number {
    return this.doubles[this.d++] as number;
  }

  maybe(): number | null {
    const value = this.number();
    return Number.isNaN(value) ? null : value;
  }

  flag(): boolean {
    return this.flags[this.f++] === 1;
  }

  series(): Float64Array {
    this.d += this.modes;
    return this.doubles.subarray(this.d - this.modes, this.d);
  }

  marks(): Uint8Array {
    this.f += this.modes;
    return this.flags.subarray(this.f - this.modes, this.f);
  }

  worst(): Worst {
    const worst = { amps: this.number(), mode: this.number(), low: this.flag() };
    return this.flag() ? { ...worst, mission: true } : worst;
  }
}

function writeWire(to: Writer, wire: WireFigures): void {
  to.series(wire.amps);
  to.series(wire.dropV);
  to.series(wire.heatW);
  to.marks(wire.atLeast);
  to.number(wire.runOhm);
  to.number(wire.fuseOhm);
  to.number(wire.limitA);
  to.number(wire.temperatureC);
  to.worst(wire.worst);
  to.worst(wire.worstContinuous);
  to.flag(wire.worstAtLeast);
}

/** Fields are read in the order they are written. */
function readWire(from: Reader, id: string): WireFigures {
  return {
    id,
    amps: from.series(),
    dropV: from.series(),
    heatW: from.series(),
    atLeast: from.marks(),
    runOhm: from.number(),
    fuseOhm: from.number(),
    limitA: from.maybe(),
    temperatureC: from.maybe(),
    worst: from.worst(),
    worstContinuous: from.worst(),
    worstAtLeast: from.flag(),
  };
}

function writePart(to: Writer, part: PartFigures): void {
  to.flag(part.outV !== null);
  to.flag(part.outA !== null);
  to.series(part.amps);
  to.series(part.volts);
  to.series(part.dropV);
  to.series(part.offsetV);
  for (const row of [part.outV, part.lossW, part.outA]) if (row) to.series(row);
  to.marks(part.live);
  to.marks(part.atLeast);
  if (part.worstOut) to.worst(part.worstOut);
  to.number(part.lowestV?.volts ?? null);
  to.number(part.lowestV?.mode ?? null);
  to.number(part.highestV);
  to.worst(part.worst);
  to.worst(part.worstContinuous);
  to.flag(part.worstAtLeast);
  to.flag(part.voltsUnsure);
}

function readPart(from: Reader, id: string, wiring: Wiring): PartFigures {
  const gives = from.flag();
  const converts = from.flag();
  return {
    id,
    wiring,
    amps: from.series(),
    volts: from.series(),
    dropV: from.series(),
    offsetV: from.series(),
    outV: gives ? from.series() : null,
    lossW: gives ? from.series() : null,
    outA: converts ? from.series() : null,
    live: from.marks(),
    atLeast: from.marks(),
    worstOut: gives ? from.worst() : null,
    lowestV: lowest(from.maybe(), from.maybe()),
    highestV: from.maybe(),
    worst: from.worst(),
    worstContinuous: from.worst(),
    worstAtLeast: from.flag(),
    voltsUnsure: from.flag(),
  };
}

function lowest(volts: number | null, mode: number | null): PartFigures["lowestV"] {
  return volts === null || mode === null ? null : { volts, mode };
}

/** An analysis as two arrays and a few lists. */
export function packAnalysis({ modes, verdicts, status, wires, parts }: Analysis): PackedAnalysis {
  const wireRows = Object.values(wires);
  const partRows = Object.values(parts);
  const to = new Writer(
    wireRows.length * (3 * modes.length + WIRE_NUMBERS) + partRows.length * (PART_SERIES * modes.length + PART_NUMBERS),
    wireRows.length * (modes.length + WIRE_FLAGS) + partRows.length * (2 * modes.length + PART_FLAGS),
  );
  for (const wire of wireRows) writeWire(to, wire);
  for (const part of partRows) writePart(to, part);
  return {
    modes,
    verdicts,
    status,
    wireIds: wireRows.map(({ id }) => id),
    partIds: partRows.map(({ id }) => id),
    wirings: partRows.map(({ wiring }) => wiring),
    doubles: to.doubles,
    flags: to.flags,
  };
}

/** The analysis again, its series as views into the two arrays. */
export function unpackAnalysis({ modes, verdicts, status, wireIds, partIds, wirings, doubles, flags }: PackedAnalysis): Analysis {
  const from = new Reader(doubles, flags, modes.length);
  const wires: Analysis["wires"] = {};
  for (const id of wireIds) wires[id] = readWire(from, id);
  const parts: Analysis["parts"] = {};
  partIds.forEach((id, i) => {
    parts[id] = readPart(from, id, wirings[i] as Wiring);
  });
  return { modes, wires, parts, verdicts, status };
}
