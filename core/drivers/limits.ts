import { oncePer } from "../machine/once";
import type { Driver } from "../machine/schema";

/** A limit of a driver and the layer that sets it. */
export interface LayerLimit {
  value: number;
  layer: string;
}

/** What one channel may carry and what the driver bears, lowest layer first; null where no layer says. */
export interface DriverLimits {
  /** The board's own, as it is cooled. */
  board: LayerLimit | null;
  continuous: LayerLimit | null;
  peak: LayerLimit | null;
  volts: LayerLimit | null;
}

function least(limits: (LayerLimit | null)[]): LayerLimit | null {
  return limits.reduce<LayerLimit | null>((low, each) => (each && (!low || each.value < low.value) ? each : low), null);
}

const limit = (figure: { value: number } | undefined, layer: string): LayerLimit | null => (figure ? { value: figure.value, layer } : null);

const COOLED: Readonly<Record<NonNullable<Driver["cooling"]>, string>> = {
  none: "the bare board",
  heatsink: "the board with its heatsink",
  air: "the board in moving air",
};

/** Continuous amps of the board as it is cooled; a figure for better cooling than it has never counts. */
function cooled(driver: Driver): LayerLimit | null {
  const cooling = driver.cooling ?? "none";
  const bare = limit(driver.continuousA, COOLED.none);
  const sink = limit(driver.heatsinkA, COOLED.heatsink);
  if (cooling === "none") return bare;
  if (cooling === "heatsink") return sink ?? bare;
  return limit(driver.airA, COOLED.air) ?? sink ?? bare;
}

/** The lowest of the chip's, the board's and the carrying board's limits. */
export const driverLimits = oncePer(readLimits);

function readLimits(driver: Driver): DriverLimits {
  const layers = driver.layers ?? [];
  const named = (layer: (typeof layers)[number]) => (layer.name ? `the ${layer.layer} (${layer.name})` : `the ${layer.layer}`);
  const board = cooled(driver);
  return {
    board,
    continuous: least([board, ...layers.map((layer) => limit(layer.continuousA, named(layer)))]),
    peak: least([limit(driver.peakA, "the board"), ...layers.map((layer) => limit(layer.peakA, named(layer)))]) ?? board,
    volts: least([limit(driver.inputMaxV, "the board"), ...layers.map((layer) => limit(layer.maxV, named(layer)))]),
  };
}
