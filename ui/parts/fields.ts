import type { PartKind } from "@/core/machine/schema";
import type { Dimension } from "@/core/quantity/units";

/** A figure of a part the builder can enter. */
export interface FigureField {
  key: string;
  label: string;
  dimension: Dimension;
  hint?: string;
  /** Asked for when the part is added; the rest can come later. */
  early?: boolean;
  /** May not be emptied. */
  required?: boolean;
  min?: number;
  max?: number;
  /** Entered in percent, kept as a share. */
  share?: boolean;
}

const WINDOW: FigureField[] = [
  { key: "inputMinV", label: "Input at least", dimension: "voltage", hint: "Below this it resets, drops out or stops." },
  { key: "inputMaxV", label: "Input at most", dimension: "voltage", hint: "Above this it is damaged." },
];

export const FIGURE_FIELDS: Readonly<Record<PartKind, readonly FigureField[]>> = {
  pack: [
    {
      key: "openCircuitV",
      label: "Open-circuit volts",
      dimension: "voltage",
      hint: "Rested, at the charge you plan with.",
      early: true,
      required: true,
      min: 0.5,
    },
    {
      key: "internalOhm",
      label: "Internal resistance",
      dimension: "resistance",
      hint: "Cells, links and management board together.",
      early: true,
    },
    { key: "capacityAh", label: "Capacity", dimension: "capacity", early: true },
    { key: "fullV", label: "Volts when full", dimension: "voltage", hint: "The highest it can show: charger connected or just removed." },
    { key: "lowV", label: "Volts when nearly empty", dimension: "voltage", hint: "Rested, at the lowest charge you will run it to." },
    { key: "continuousA", label: "Amps for good", dimension: "current" },
    { key: "peakA", label: "Amps for a short time", dimension: "current" },
  ],
  supply: [
    { key: "outputV", label: "Output volts", dimension: "voltage", early: true, required: true, min: 0.5 },
    { key: "ratedA", label: "Rated amps", dimension: "current", early: true },
    { key: "limitA", label: "Limits at", dimension: "current", hint: "Where its overload protection acts." },
    { key: "outputOhm", label: "Output resistance", dimension: "resistance", hint: "Fall in volts per amp." },
  ],
  bar: [],
  switch: [
    { key: "ratedA", label: "Rated amps", dimension: "current", hint: "At DC and your voltage, not the AC figure.", early: true },
    { key: "contactOhm", label: "Contact resistance", dimension: "resistance" },
  ],
  fuse: [],
  driver: [
    {
      key: "headlineA",
      label: "Amps as printed",
      dimension: "current",
      hint: "The headline: often what the chip survives, not what the board carries.",
    },
    { key: "continuousA", label: "For good, bare board", dimension: "current", hint: "One channel, no heatsink, no fan.", early: true },
    { key: "heatsinkA", label: "with a heatsink", dimension: "current" },
    { key: "airA", label: "in moving air", dimension: "current" },
    { key: "peakA", label: "Amps for a short time", dimension: "current" },
    { key: "peakS", label: "that time", dimension: "time" },
    { key: "limitA", label: "Current limit set", dimension: "current", hint: "Only a limit that really acts; a trip far above is none." },
    { key: "dutyCap", label: "Duty at most", dimension: "percent", min: 1, max: 100, share: true },
    { key: "bridgeV", label: "Bridge keeps, fixed", dimension: "voltage", hint: "Bipolar bridges: about 1.4 V. MOSFET: nothing." },
    { key: "bridgeOhm", label: "Bridge resistance", dimension: "resistance", hint: "Both switches of a channel together." },
    { key: "ownA", label: "Own use", dimension: "current" },
    ...WINDOW,
  ],
  converter: [
    { key: "outputV", label: "Output volts", dimension: "voltage", early: true, required: true, min: 0.5 },
    { key: "ratedA", label: "Rated output amps", dimension: "current", hint: "What holds without a fan.", early: true },
    { key: "limitA", label: "Limits at", dimension: "current", hint: "Where its overload protection acts." },
    { key: "efficiency", label: "Efficiency", dimension: "percent", required: true, min: 5, max: 100, share: true },
    { key: "quiescentA", label: "Draws without load", dimension: "current" },
    { key: "outputOhm", label: "Output resistance", dimension: "resistance", hint: "Fall in volts per amp." },
    ...WINDOW,
  ],
  load: [{ key: "nominalV", label: "Volts it is meant for", dimension: "voltage", early: true, required: true, min: 0.5 }, ...WINDOW],
};
