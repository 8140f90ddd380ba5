import type { Analysis, PartFigures, WireFigures } from "./types";

type WireSeries = "amps" | "dropV" | "heatW" | "atLeast";
type PartSeries = "amps" | "volts" | "dropV" | "offsetV" | "outV" | "outA" | "lossW" | "live" | "atLeast";

/**
 * An analysis on its way between threads: what runs over modes lies in two arrays, row after row, because thousands of
 * little arrays take longer to hand over than to compute. Rows follow the order of `wires`, then of `parts`.
 */
export interface PackedAnalysis extends Omit<Analysis, "wires" | "parts"> {
  wires: Omit<WireFigures, WireSeries>[];
  parts: (Omit<PartFigures, PartSeries> & { gives: boolean; converts: boolean })[];
  doubles: Float64Array<ArrayBuffer>;
  flags: Uint8Array<ArrayBuffer>;
}

/** Most rows of doubles that one part has. */
const PART_ROWS = 7;

export function packAnalysis(analysis: Analysis): PackedAnalysis {
  const { modes, verdicts, status } = analysis;
  const wires = Object.values(analysis.wires);
  const parts = Object.values(analysis.parts);
  const doubles = new Float64Array(modes.length * (3 * wires.length + PART_ROWS * parts.length));
  const flags = new Uint8Array(modes.length * (wires.length + 2 * parts.length));
  let nextDouble = 0;
  let nextFlag = 0;
  const put = (...rows: (Float64Array | null)[]) => {
    for (const row of rows) {
      if (!row) continue;
      doubles.set(row, nextDouble);
      nextDouble += row.length;
    }
  };
  const mark = (row: Uint8Array) => {
    flags.set(row, nextFlag);
    nextFlag += row.length;
  };
  return {
    modes,
    verdicts,
    status,
    wires: wires.map(({ id, amps, dropV, heatW, atLeast, runOhm, fuseOhm, worst, worstContinuous, worstAtLeast, limitA, temperatureC }) => {
      put(amps, dropV, heatW);
      mark(atLeast);
      return { id, runOhm, fuseOhm, worst, worstContinuous, worstAtLeast, limitA, temperatureC };
    }),
    parts: parts.map(({ amps, volts, dropV, offsetV, outV, outA, lossW, live, atLeast, ...rest }) => {
      put(amps, volts, dropV, offsetV, outV, lossW, outA);
      mark(live);
      mark(atLeast);
      return { ...rest, gives: outV !== null, converts: outA !== null };
    }),
    doubles,
    flags,
  };
}

/** The analysis again, its series as views into the two arrays. */
export function unpackAnalysis(packed: PackedAnalysis): Analysis {
  const { modes, verdicts, status, doubles, flags } = packed;
  const count = modes.length;
  let nextDouble = 0;
  let nextFlag = 0;
  const take = (): Float64Array => {
    nextDouble += count;
    return doubles.subarray(nextDouble - count, nextDouble);
  };
  const read = (): Uint8Array => {
    nextFlag += count;
    return flags.subarray(nextFlag - count, nextFlag);
  };
  const wires: Analysis["wires"] = {};
  for (const wire of packed.wires) {
    wires[wire.id] = Object.assign(wire, { amps: take(), dropV: take(), heatW: take(), atLeast: read() });
  }
  const parts: Analysis["parts"] = {};
  for (const { gives, converts, ...part } of packed.parts) {
    parts[part.id] = Object.assign(part, {
      amps: take(),
      volts: take(),
      dropV: take(),
      offsetV: take(),
      outV: gives ? take() : null,
      lossW: gives ? take() : null,
      outA: converts ? take() : null,
      live: read(),
      atLeast: read(),
    });
  }
  return { modes, wires, parts, verdicts, status };
}
