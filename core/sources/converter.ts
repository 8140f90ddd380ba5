import { junction } from "../converters/linear";
import { efficiencyAt, inputPower, type LossModel } from "../converters/switched";
import { leastInput } from "../converters/window";
import type { PartFigures } from "../figures/types";
import type { Converter, Settings } from "../machine/schema";
import { lossModelOf } from "../network/circuit";
import { converterRating, type Rating } from "./ratings";

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

/** Reads a converter off its figures in one mode. */
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

/** Points of an efficiency curve: amps out and %, at one input; and where each mode sits, at its own input. */
export interface EfficiencyCurve {
  readonly inV: number;
  readonly curve: readonly { readonly x: number; readonly y: number }[];
  readonly modes: readonly { readonly x: number; readonly y: number; readonly mode: number }[];
}

/** Points of an efficiency curve. */
const CURVE_POINTS = 60;
/** How far past its largest current or its rating the curve is drawn. */
const BEYOND = 1.15;

/** A converter's efficiency over its output current, and where each mode sits on it. */
export function efficiencyCurve(part: Converter, loss: LossModel, figure: PartFigures): EfficiencyCurve {
  const outV = part.outputV.value;
  const most = Math.max(figure.worstOut?.amps ?? 0, part.ratedA?.value ?? 1) * BEYOND;
  const inV = figure.volts.find((volts, m) => figure.live[m] === 1 && volts > 0) ?? loss.atV ?? outV;
  const percentAt = (amps: number, volts: number) => efficiencyAt(loss, outV, amps, volts) * 100;
  const curve = Array.from({ length: CURVE_POINTS }, (_, i) => ((i + 1) / CURVE_POINTS) * most)
    .map((x) => ({ x, y: percentAt(x, inV) }))
    .filter(({ y }) => Number.isFinite(y));
  const modes = Array.from(figure.outA ?? [], (x, mode) => ({
    x,
    y: x > 0 && figure.live[mode] === 1 ? percentAt(x, figure.volts[mode] ?? inV) : Number.NaN,
    mode,
  })).filter(({ y }) => Number.isFinite(y));
  return { inV, curve, modes };
}
