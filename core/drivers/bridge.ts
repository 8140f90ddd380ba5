/**
 * What a bridge keeps for itself. SI units.
 * Source: handbook motors-and-drivers section 2; drops and thermal resistance from memory.
 */

/** What a bridge loses: a fixed drop, V, and a resistance, Ω. */
export interface Bridge {
  /** Fixed drop of both switches together, V: about 1.4 for the usual dual bipolar bridge, 0 for MOSFETs and relays. */
  dropV: number;
  /** Resistance of both switches together, Ω. */
  ohm: number;
}

/** Volts lost in the bridge at a motor current. */
export function bridgeDrop({ dropV, ohm }: Bridge, amps: number): number {
  return amps > 0 ? dropV + ohm * amps : 0;
}

/** Heat in the bridge, W. */
export function bridgeHeat(bridge: Bridge, amps: number): number {
  return bridgeDrop(bridge, amps) * amps;
}

/** MOSFET resistance rises as the chip heats: this much at the end (common practice, no source). */
export const HOT_MOSFET = 1.6;

/** The current (A) each of `channels` bridges in one package may carry so that it stays under its temperature rise. */
export function thermalLimit(bridge: Bridge, riseK: number, kelvinPerWatt: number, channels: number): number {
  const watts = riseK / kelvinPerWatt / channels;
  if (bridge.ohm === 0) return bridge.dropV === 0 ? Number.POSITIVE_INFINITY : watts / bridge.dropV;
  return (-bridge.dropV + Math.sqrt(bridge.dropV ** 2 + 4 * bridge.ohm * watts)) / (2 * bridge.ohm);
}

/** Heat (W) of a linear regulator. */
export function linearHeat(inputV: number, outputV: number, amps: number): number {
  return Math.max(0, inputV - outputV) * amps;
}

/** Whether a driver survives a motor held still. */
export type StallClass = "carries" | "limited" | "brief" | "refused";

/**
 * What a driver does with a stalled motor: carries it continuously, limits it, takes it briefly (a time-out is then needed),
 * or is destroyed. A limit only counts where it lies within the peak rating.
 */
export function stallClass(stallA: number, continuousA: number, peakA: number, limitA: number | undefined): StallClass {
  if (continuousA >= stallA) return "carries";
  if (limitA !== undefined && limitA <= peakA) return "limited";
  return stallA <= peakA ? "brief" : "refused";
}
