import { COPPER_RESISTIVITY_OHM_M } from "./resistance";

/** Board copper that carries supply: `widthMm` × `copperUm`. */
export interface TraceShape {
  widthMm: number;
  copperUm: number;
  outside: boolean;
}

/** µm in a mil, exactly. */
const UM_PER_MIL = 25.4;

/** Current in A that warms a trace by `riseK`: I = k ΔT^0.44 A^0.725, A in mil² (IPC-2221; to about 35 A, 10 to 100 K, 10 mm). */
export function traceAmps({ widthMm, copperUm, outside }: TraceShape, riseK: number): number {
  const mil2 = ((widthMm * 1000) / UM_PER_MIL) * (copperUm / UM_PER_MIL);
  return (outside ? 0.048 : 0.024) * riseK ** 0.44 * mil2 ** 0.725;
}

/** Width in mm that carries `amps` at `riseK` (IPC-2221). */
export function traceWidthMm(amps: number, copperUm: number, outside: boolean, riseK: number): number {
  const mil2 = (amps / ((outside ? 0.048 : 0.024) * riseK ** 0.44)) ** (1 / 0.725);
  return (mil2 / (copperUm / UM_PER_MIL)) * (UM_PER_MIL / 1000);
}

/** Rise in K of a trace at a current: the same formula the other way. */
export function traceRise(shape: TraceShape, amps: number): number {
  const atOne = traceAmps(shape, 1);
  return (amps / atOne) ** (1 / 0.44);
}

/** Ω/m at 20 °C. */
export function traceOhmPerM({ widthMm, copperUm }: TraceShape): number {
  return COPPER_RESISTIVITY_OHM_M / (widthMm * 1e-3 * copperUm * 1e-6);
}

/** A row of bridged perfboard pads: solder worth 0.24 mm² of copper (handbook section 6), and what a row may carry, A (common practice: 2 to 3 A). */
export const PAD_ROW_MM2 = 0.24;
/** What a row of pads carries, A (common practice, no source). */
export const PAD_ROW_A = 2;
/** Rise planned for a trace where nothing else is said, K; and the hottest its board may get, °C (common practice, no source). */
export const TRACE_RISE_K = 20;
/** Hottest a board's copper may get continuously, °C (common laminate, from memory). */
export const BOARD_MAX_C = 105;
