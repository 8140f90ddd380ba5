import type { Wire } from "../machine/schema";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { ADIABATIC_S, adiabaticK, SOLDER_C, withstandA2s } from "../wires/adiabatic";
import { type Ampacity, settledTemperature, temperatureAfter } from "../wires/ampacity";
import { BOARD_MAX_C, PAD_ROW_MM2 } from "../wires/trace";

/** What a short does to a wire on its way. Worst first. */
export const FATES = ["burns", "unknown", "overheats", "bears"] as const;
/** What a short does to a wire. */
export type Fate = (typeof FATES)[number];

/** What a short does to a wire, with the energy that decides it. */
export interface WireFate {
  fate: Fate;
  /** Let through by what opens it and what the wire bears, A²s, up to 5 s; else null. */
  letThroughA2s: number | null;
  withstandA2s: number | null;
  /** Conductor temperature at the end, °C, where it lasts longer; null where it is not worked out. */
  endC: number | null;
}

/** 0 for the worst. */
export function rank({ fate }: Pick<WireFate, "fate">): number {
  return FATES.indexOf(fate);
}

/** Copper of a wire that carries, mm² for all conductors; null where the size is not known. */
function copperMm2(wire: Wire): number | null {
  if (wire.board?.kind === "trace") return wire.board.widthMm.value * wire.board.copperUm.value * 1e-3 * wire.parallel;
  if (wire.board) return PAD_ROW_MM2 * wire.parallel;
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  return gauge ? gauge.areaMm2 * wire.parallel : null;
}

/** Copper melts, °C: nothing is claimed beyond. */
export const MELTS_C = 1083;

/** The hottest a fault may make a wire, °C: its insulation's, a soldered joint's, or a board's; null: no figure for it. */
export function faultMaxC(wire: Wire): number | null {
  if (wire.board) return SOLDER_C;
  const own = insulationById(wire.insulation)?.shortCircuitC ?? null;
  return own !== null && wire.soldered ? Math.min(own, SOLDER_C) : own;
}

/** I²t a wire bears from the temperature of its rating on, A²s; null where size or final temperature is not known. */
export function wireWithstand(wire: Wire, maxC: number): number | null {
  const area = copperMm2(wire);
  const final = faultMaxC(wire);
  if (area === null || final === null) return null;
  return withstandA2s(adiabaticK(wire.board ? BOARD_MAX_C : maxC, final), area);
}

/**
 * What a current does to a wire that was loaded to `preload` of its limit before.
 * @param seconds until it stops; infinite when nothing ends it
 */
export function wireFate(wire: Wire, ampacity: Ampacity | null, amps: number, seconds: number, preload: number): WireFate {
  const none = { letThroughA2s: null, withstandA2s: null, endC: null };
  if (!ampacity) return { fate: "unknown", ...none };
  const { limitA, maxC } = ampacity;
  if (amps <= limitA) return { fate: "bears", ...none };
  const final = faultMaxC(wire);
  const withstand = wireWithstand(wire, maxC);
  if (final === null || withstand === null) return { fate: "unknown", ...none };
  if (seconds <= ADIABATIC_S) {
    const letThrough = amps ** 2 * seconds;
    return { fate: letThrough <= withstand ? "bears" : "burns", letThroughA2s: letThrough, withstandA2s: withstand, endC: null };
  }
  if (!Number.isFinite(seconds)) {
    const endC = Math.min(MELTS_C, settledTemperature(wire, ampacity, amps));
    return { fate: endC > final ? "burns" : "overheats", ...none, endC };
  }
  // Longer than the adiabatic equation is good for: first order, with the copper alone where the wall cannot follow.
  const endC = Math.min(MELTS_C, temperatureAfter(wire, ampacity, amps, seconds, preload));
  return { fate: endC > final ? "burns" : "bears", ...none, endC };
}
