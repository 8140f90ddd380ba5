import type { PartFigures, WireFigures, Wiring, Worst } from "../figures/types";
import type { Analysis } from "./types";

/**
 * An analysis on its way between threads. All numbers of wires and parts lie one after another in `doubles`, everything
 * that is yes or no in `flags`: handing over thousands of little objects takes longer than computing them. Wires come
 * first, then parts, both in the order of their ids; null travels as NaN, or as a flag before what may be missing.
 */
export interface PackedAnalysis extends Omit<Analysis, "wires" | "parts"> {
  wireIds: string[];
  partIds: string[];
  wirings: Wiring[];
  doubles: Float64Array<ArrayBuffer>;
  flags: Uint8Array<ArrayBuffer>;
}

/** What a field can hold. "?" may be null. */
interface Kinds {
  series: Float64Array;
  "series?": Float64Array | null;
  marks: Uint8Array;
  number: number;
  "number?": number | null;
  flag: boolean;
  worst: Worst;
  "worst?": Worst | null;
  "lowest?": PartFigures["lowestV"];
}

type Kind = keyof Kinds;
/** The one kind whose values are exactly those of a field. */
type KindOf<T> = { [K in Kind]: [T, Kinds[K]] extends [Kinds[K], T] ? K : never }[Kind];
type Fields<T> = { readonly [F in keyof T]: KindOf<T[F]> };

/** Every field of a wire and of a part, in the order they travel: one that is missing here, or of another kind, does not compile. */
const WIRE: Fields<Omit<WireFigures, "id">> = {
  amps: "series",
  dropV: "series",
  heatW: "series",
  atLeast: "marks",
  runOhm: "number",
  fuseOhm: "number",
  limitA: "number?",
  temperatureC: "number?",
  worst: "worst",
  worstContinuous: "worst",
  worstAtLeast: "flag",
};
const PART: Fields<Omit<PartFigures, "id" | "wiring">> = {
  amps: "series",
  volts: "series",
  dropV: "series",
  offsetV: "series",
  outV: "series?",
  lossW: "series?",
  outA: "series?",
  live: "marks",
  atLeast: "marks",
  worstOut: "worst?",
  lowestV: "lowest?",
  highestV: "number?",
  reachesV: "number?",
  worst: "worst",
  worstContinuous: "worst",
  worstAtLeast: "flag",
  voltsUnsure: "flag",
};

/** Most doubles and flags a field of a kind takes, for a number of modes. */
const ROOM: { readonly [K in Kind]: (modes: number) => readonly [doubles: number, flags: number] } = {
  series: (modes) => [modes, 0],
  "series?": (modes) => [modes, 1],
  marks: (modes) => [0, modes],
  number: () => [1, 0],
  "number?": () => [1, 0],
  flag: () => [0, 1],
  worst: () => [2, 2],
  "worst?": () => [2, 3],
  "lowest?": () => [2, 1],
};

/** The two arrays with a place in each, to write to or to read from. */
class Tape {
  private d = 0;
  private f = 0;

  constructor(
    readonly doubles: Float64Array<ArrayBuffer>,
    readonly flags: Uint8Array<ArrayBuffer>,
    private readonly modes: number,
  ) {}

  putNumber(value: number): void {
    this.doubles[this.d++] = value;
  }

  number(): number {
    return this.doubles[this.d++] as number;
  }

  putFlag(value: boolean): void {
    this.flags[this.f++] = value ? 1 : 0;
  }

  flag(): boolean {
    return this.flags[this.f++] === 1;
  }

  putSeries(row: Float64Array): void {
    this.doubles.set(row, this.d);
    this.d += row.length;
  }

  series(): Float64Array {
    this.d += this.modes;
    return this.doubles.subarray(this.d - this.modes, this.d);
  }

  putMarks(row: Uint8Array): void {
    this.flags.set(row, this.f);
    this.f += row.length;
  }

  marks(): Uint8Array {
    this.f += this.modes;
    return this.flags.subarray(this.f - this.modes, this.f);
  }
}

interface Codec<V> {
  put: (tape: Tape, value: V) => void;
  take: (tape: Tape) => V;
}

/** A flag that says whether there is something, then the thing. */
function perhaps<V>({ put, take }: Codec<V>): Codec<V | null> {
  return {
    put: (tape, value) => {
      tape.putFlag(value !== null);
      if (value !== null) put(tape, value);
    },
    take: (tape) => (tape.flag() ? take(tape) : null),
  };
}

const series: Codec<Float64Array> = { put: (tape, value) => tape.putSeries(value), take: (tape) => tape.series() };
const worst: Codec<Worst> = {
  put: (tape, { amps, mode, low, mission }) => {
    tape.putNumber(amps);
    tape.putNumber(mode);
    tape.putFlag(low);
    tape.putFlag(mission ?? false);
  },
  take: (tape) => {
    const found = { amps: tape.number(), mode: tape.number(), low: tape.flag() };
    return tape.flag() ? { ...found, mission: true } : found;
  },
};

const CODECS: { readonly [K in Kind]: Codec<Kinds[K]> } = {
  series,
  "series?": perhaps(series),
  marks: { put: (tape, value) => tape.putMarks(value), take: (tape) => tape.marks() },
  number: { put: (tape, value) => tape.putNumber(value), take: (tape) => tape.number() },
  "number?": {
    put: (tape, value) => tape.putNumber(value ?? Number.NaN),
    take: (tape) => {
      const value = tape.number();
      return Number.isNaN(value) ? null : value;
    },
  },
  flag: { put: (tape, value) => tape.putFlag(value), take: (tape) => tape.flag() },
  worst,
  "worst?": perhaps(worst),
  "lowest?": perhaps({
    put: (tape, { volts, mode }) => {
      tape.putNumber(volts);
      tape.putNumber(mode);
    },
    take: (tape) => ({ volts: tape.number(), mode: tape.number() }),
  }),
};

function putAll<T extends object>(tape: Tape, fields: Fields<T>, from: T): void {
  // The field table has tied each kind to its field's type, which a loop over the fields cannot tell.
  for (const field of Object.keys(fields) as (keyof T)[]) CODECS[fields[field] as Kind].put(tape, from[field] as never);
}

function takeAll<T extends object>(tape: Tape, fields: Fields<T>): T {
  const made: Partial<T> = {};
  for (const field of Object.keys(fields) as (keyof T)[]) made[field] = CODECS[fields[field] as Kind].take(tape) as T[keyof T];
  return made as T;
}

function roomOf(fields: Readonly<Record<string, Kind>>, modes: number): readonly [number, number] {
  let [doubles, flags] = [0, 0];
  for (const kind of Object.values(fields)) {
    const [d, f] = ROOM[kind](modes);
    doubles += d;
    flags += f;
  }
  return [doubles, flags];
}

/** An analysis as two arrays and a few lists. */
export function packAnalysis({ modes, verdicts, status, wires, parts }: Analysis): PackedAnalysis {
  const wireRows = Object.values(wires);
  const partRows = Object.values(parts);
  const [wireDoubles, wireFlags] = roomOf(WIRE, modes.length);
  const [partDoubles, partFlags] = roomOf(PART, modes.length);
  const tape = new Tape(
    new Float64Array(wireRows.length * wireDoubles + partRows.length * partDoubles),
    new Uint8Array(wireRows.length * wireFlags + partRows.length * partFlags),
    modes.length,
  );
  for (const wire of wireRows) putAll<Omit<WireFigures, "id">>(tape, WIRE, wire);
  for (const part of partRows) putAll<Omit<PartFigures, "id" | "wiring">>(tape, PART, part);
  return {
    modes,
    verdicts,
    status,
    wireIds: wireRows.map(({ id }) => id),
    partIds: partRows.map(({ id }) => id),
    wirings: partRows.map(({ wiring }) => wiring),
    doubles: tape.doubles,
    flags: tape.flags,
  };
}

/** The analysis again, its series as views into the two arrays. */
export function unpackAnalysis({ modes, verdicts, status, wireIds, partIds, wirings, doubles, flags }: PackedAnalysis): Analysis {
  const tape = new Tape(doubles, flags, modes.length);
  const wires: Analysis["wires"] = {};
  for (const id of wireIds) wires[id] = { id, ...takeAll<Omit<WireFigures, "id">>(tape, WIRE) };
  const parts: Analysis["parts"] = {};
  partIds.forEach((id, i) => {
    parts[id] = { id, wiring: wirings[i] as Wiring, ...takeAll<Omit<PartFigures, "id" | "wiring">>(tape, PART) };
  });
  return { modes, wires, parts, verdicts, status };
}
