import type { PartFigures } from "../analysis/types";
import type { Converter, Settings } from "../machine/schema";
import { lossModelOf } from "../network/circuit";
import { converterRating, type Rating } from "../sources/ratings";
import { junction } from "./linear";
import { inputPower } from "./switched";
import { leastInput } from "./window";

/** A converter in one mode, and at the ends of its input. */
export interface ConverterReading {
  readonly rating: Rating;
  readonly leastInV: number | null;
  /** Output over input power, 0-1; null while it gives nothing. */
  readonly efficiency: number | null;
  readonly heatW: number;
  /** Chip temperature of a linear one, °C; null where nothing tells. */
  readonly chipC: number | null;
  /** What it draws for its largest output at the lowest input it ever sees, A: its input wire and fuse carry that. */
  readonly worstInA: number | null;
}

/** Amps a converter draws at `inV` for `outA`, quiescent current included; null where it cannot deliver. */
function inputAmps(part: Converter, outA: number, inV: number): number | null {
  const quiescent = part.quiescentA?.value ?? 0;
  if (part.topology === "linear") return outA + quiescent;
  const outW = part.outputV.value * outA;
  const loss = lossModelOf(part);
  const watts = loss ? inputPower(loss, outW, outA, inV) : outW / part.efficiency.value;
  return Number.isFinite(watts) && inV > 0 ? watts / inV + quiescent : null;
}

export function readConverter(part: Converter, figure: PartFigures, mode: number, settings: Settings): ConverterReading {
  const out = (figure.outV?.[mode] ?? 0) * (figure.outA?.[mode] ?? 0);
  const heatW = figure.lossW?.[mode] ?? 0;
  const lowV = figure.lowestV?.volts;
  return {
    rating: converterRating(part, settings.ambientC, figure.highestV),
    leastInV: leastInput(part),
    efficiency: out > 0 ? out / (out + heatW) : null,
    heatW,
    chipC: part.topology === "linear" && part.kelvinPerWatt ? junction(settings.ambientC, heatW, part.kelvinPerWatt.value) : null,
    worstInA: lowV === undefined ? null : inputAmps(part, figure.worstOut?.amps ?? 0, lowV),
  };
}
