import type { Ampacity } from "../wires/ampacity";
import type { Exposure } from "./exposure";

/** The largest current and the mode (index) it happens in; `low` when it was found at the lowest planned charge. */
export interface Worst {
  amps: number;
  mode: number;
  low: boolean;
  /** The steady current that heats as far as the mission's hottest moment; `mode` is then the mission's largest. */
  mission?: boolean;
}

/** Everything computed for one wire. Arrays run over modes, at the planned charge. */
export interface WireFigures {
  id: string;
  /** Signed, from `from` to `to`. */
  amps: Float64Array;
  /** 1 where an unknown load would add to this figure: it is a lower bound. */
  atLeast: Uint8Array;
  /** Volts lost along the wire, its ends and its inline fuse. */
  dropV: Float64Array;
  /** Heat in the conductor, without an inline fuse, W. */
  heatW: Float64Array;
  runOhm: number;
  fuseOhm: number;
  /** Over all modes, at planned and lowest charge; and over modes without a time limit only. */
  worst: Worst;
  worstContinuous: Worst;
  /** The worst figures are lower bounds: a load is unknown, or a mode has no operating point. */
  worstAtLeast: boolean;
  /** What the wire may carry continuously, A; null when its size is unknown or outside the table. */
  limitA: number | null;
  /** Estimated conductor temperature at the worst continuous current, °C; null when size is unknown. */
  temperatureC: number | null;
}

/** With what the rules and workings need beyond the figures shown. */
export interface JudgedWire extends WireFigures {
  ampacity: Ampacity | null;
  exposure: Exposure | null;
  /** See `WireStatics`. */
  phaseA: number;
}

/** How a part is joined to its source with every switch closed. */
export type Wiring = "ok" | "noReturn" | "notFed" | "apart" | "source" | "metal";

/** Everything computed for one part. Arrays run over modes, at the planned charge. */
export interface PartFigures {
  id: string;
  wiring: Wiring;
  /** 1 where the part has voltage in that mode (a switch may be open). */
  live: Uint8Array;
  /** Consumers: drawn at the input. Sources: delivered. Others: passing through. */
  amps: Float64Array;
  /** Consumers and sources: across the terminals. Others: against the minus of the rail's source. */
  volts: Float64Array;
  /** Lowest over modes with the pack at its lowest planned charge; null when never live. */
  lowestV: { volts: number; mode: number } | null;
  /**
   * Highest that can appear: every pack full and nothing running, every joined rail, chargers on; never below what any mode
   * shows. Null where nothing reaches it or a pack's full voltage is missing.
   */
  highestV: number | null;
  /** The same with what is known; null where nothing reaches it. */
  reachesV: number | null;
  /** Volts lost in conductors and fuses both ways from the rail's source, consumers only. */
  dropV: Float64Array;
  /** Minus terminal against the minus of the rail's source, V (consumers only). */
  offsetV: Float64Array;
  atLeast: Uint8Array;
  /** An unknown load somewhere would lower the voltage here: nothing can be called clear about it yet. */
  voltsUnsure: boolean;
  /** Sources and converters: volts at the output terminals; null for the rest. */
  outV: Float64Array | null;
  /** Converters: delivered at the output, A. */
  outA: Float64Array | null;
  /** Sources and converters: the most delivered, over all modes at the planned and the lowest charge; null for the rest. */
  worstOut: Worst | null;
  /** Sources and converters: power that stays inside as heat, W; null for the rest. */
  lossW: Float64Array | null;
  worst: Worst;
  worstContinuous: Worst;
  worstAtLeast: boolean;
}

/** What the sources give in one mode. */
export interface ModeFigures {
  id: string;
  name: string;
  collapsed: boolean;
  /** Collapses only at the lowest planned charge. */
  collapsedLow: boolean;
  /** Delivered by packs and supplies together, A; at the planned charge, and the larger of planned and lowest. */
  sourceA: number;
  worstA: number;
  atLeast: boolean;
  /** Balance of the solved network, W: delivered − consumed − lost. */
  balanceW: number;
}

/** What the screens show of a machine before it is judged. */
export interface ShownFigures {
  modes: ModeFigures[];
  wires: Record<string, WireFigures>;
  parts: Record<string, PartFigures>;
}
