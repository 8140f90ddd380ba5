import type { Part, PartKind } from "@/core/machine/schema";
import { isBoard, isReturnBar } from "@/core/machine/terminals";
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
  /** Heading above it; fields of one heading stand together. */
  group?: string;
  /** For which parts of its kind it means something; all where it is not said. */
  of?: (part: Part) => boolean;
}

const WINDOW: FigureField[] = [
  { key: "inputMinV", label: "Input at least", dimension: "voltage", hint: "Below this it resets, drops out or stops." },
  { key: "inputMaxV", label: "Input at most", dimension: "voltage", hint: "Above this it is damaged." },
];

const HOLD_UP: FigureField[] = [
  { key: "holdUpF", label: "Hold-up capacitor", dimension: "capacitance", hint: "Behind a diode, carries it through a dip." },
  { key: "holdUpOhm", label: "its own resistance", dimension: "resistance", min: 0 },
];

const PEAK: FigureField[] = [
  { key: "peakA", label: "Amps for a short time", dimension: "current" },
  { key: "peakS", label: "that time", dimension: "time", max: 3600, hint: "How long the peak holds; 10 s where nobody says." },
];

/** Where braking energy goes: a resistor that switches in, or a clamp. */
const BRAKE: FigureField[] = [
  {
    key: "brakeOnV",
    label: "Brake switches in at",
    dimension: "voltage",
    hint: "A resistor or clamp across it that burns what braking gives back.",
    group: "Brake resistor or clamp",
  },
  { key: "brakeOhm", label: "its resistance", dimension: "resistance", min: 1e-3 },
  { key: "brakePulseJ", label: "takes each time", dimension: "energy", min: 1e-3 },
];

/** Ground copper that returns of others may go through. */
const GROUND: FigureField[] = [
  {
    key: "groundA",
    label: "Its ground carries",
    dimension: "current",
    hint: "From one ground pin to another: what others send home through it.",
    group: "Ground copper",
  },
  { key: "groundOhm", label: "and resists", dimension: "resistance" },
];

const coiled = (part: Part) =>
  part.kind === "switch" && (part.device === "contactor" || part.device === "relay" || part.coilOhm !== undefined);

const MASS: FigureField = { key: "massKg", label: "Mass", dimension: "mass", group: "Mass and cost" };

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
    { key: "continuousA", label: "Continuous amps", dimension: "current" },
    ...PEAK,
    { key: "plannedCharge", label: "Charge planned with", dimension: "percent", min: 0, max: 100, share: true, group: "Charge" },
    { key: "lowCharge", label: "Charge kept back", dimension: "percent", min: 0, max: 100, share: true },
    { key: "cutoffV", label: "Cuts off at", dimension: "voltage", hint: "Under load: its management board, or your alarm." },
    { key: "cutoffS", label: "after", dimension: "time", hint: "A shorter dip does not trip it.", min: 0 },
    { key: "health", label: "Capacity left by age", dimension: "percent", min: 30, max: 100, share: true, group: "Age and Peukert" },
    { key: "peukert", label: "Peukert's exponent", dimension: "ratio", min: 1, max: 1.6 },
    { key: "ratedH", label: "Capacity holds over", dimension: "time", hint: "Lead-acid is printed for 20 h.", min: 180 },
    MASS,
  ],
  supply: [
    { key: "outputV", label: "Output volts", dimension: "voltage", early: true, required: true, min: 0.5 },
    { key: "ratedA", label: "Rated amps", dimension: "current", early: true },
    { key: "limitA", label: "Limits at", dimension: "current", hint: "Where its overload protection acts." },
    { key: "outputOhm", label: "Output resistance", dimension: "resistance", hint: "Fall in volts per amp." },
    { key: "boxW", label: "All outputs together", dimension: "power", hint: "Where one box has several.", group: "Box" },
    { key: "minLoadA", label: "Needs at least", dimension: "current" },
    {
      key: "crossShare",
      label: "Moves with other loads",
      dimension: "percent",
      min: 0,
      max: 30,
      share: true,
      hint: "Cross-regulation: 5 to 10 % where one output leads.",
    },
    { key: "derateFromC", label: "Full rating up to", dimension: "temperature", hint: "Usual: 50 °C.", group: "Warm and starting" },
    { key: "derateShare", label: "then less, a kelvin", dimension: "percent", min: 0, max: 20, share: true, hint: "Usual: 2.5 %." },
    { key: "startF", label: "Starts into at most", dimension: "capacitance" },
    { key: "startS", label: "Protection waits", dimension: "time" },
    { key: "inputF", label: "Capacitor at its output", dimension: "capacitance" },
    MASS,
  ],
  bar: [
    {
      key: "ratedA",
      label: "Carries in all",
      dimension: "current",
      hint: "The sum of what goes through its metal: a Y-lead's trunk, a bar's section.",
    },
    {
      key: "copperMm2",
      label: "Section of its metal",
      dimension: "section",
      hint: "Where no rating is printed: about 2 A a mm² of copper (common practice).",
    },
    { key: "bulkF", label: "Capacitor on it", dimension: "capacitance" },
    ...BRAKE.map((field) => ({ ...field, of: (part: Part) => !isReturnBar(part) })),
  ],
  switch: [
    { key: "ratedA", label: "Rated amps", dimension: "current", hint: "At DC and your voltage, not the AC figure.", early: true },
    ...PEAK,
    { key: "contactOhm", label: "Contact resistance", dimension: "resistance" },
    {
      key: "breakA",
      label: "Breaks",
      dimension: "current",
      hint: "DC it can interrupt, not what it carries.",
      group: "Breaking and making",
    },
    { key: "breakV", label: "at up to", dimension: "voltage" },
    { key: "makeA", label: "May close onto", dimension: "current", hint: "Its making rating: what may rush through as it closes." },
    { key: "prechargeOhm", label: "Precharge resistor", dimension: "resistance", min: 0.01, group: "Precharge around it" },
    { key: "prechargeS", label: "waits", dimension: "time" },
    { key: "prechargeJ", label: "bears a shot of", dimension: "energy" },
    {
      key: "coilOhm",
      label: "Coil resistance",
      dimension: "resistance",
      hint: "With it the coil gets terminals of its own to wire.",
      group: "Its coil",
      of: coiled,
    },
    { key: "pickUpV", label: "pulls in at", dimension: "voltage", of: coiled },
    { key: "dropOutV", label: "may drop out at", dimension: "voltage", of: coiled },
  ],
  fuse: [],
  driver: [
    {
      key: "headlineA",
      label: "Amps as printed",
      dimension: "current",
      hint: "The headline: often what the chip survives, not what the board carries.",
      early: true,
    },
    { key: "continuousA", label: "Continuous, bare board", dimension: "current", hint: "One channel, no heatsink, no fan.", early: true },
    { key: "heatsinkA", label: "with a heatsink", dimension: "current" },
    { key: "airA", label: "in moving air", dimension: "current" },
    ...PEAK,
    { key: "totalA", label: "All channels together", dimension: "current", hint: "Continuously; often less than the sum of its channels." },
    { key: "limitA", label: "Current limit set", dimension: "current", hint: "Only a limit that really acts; a trip far above is none." },
    { key: "dutyCap", label: "Duty at most", dimension: "percent", min: 1, max: 100, share: true },
    { key: "bridgeV", label: "Bridge keeps, fixed", dimension: "voltage", hint: "Bipolar bridges: about 1.4 V. MOSFET: nothing." },
    { key: "bridgeOhm", label: "Bridge resistance", dimension: "resistance", hint: "Both switches of a channel together." },
    { key: "ownA", label: "Own use", dimension: "current" },
    ...WINDOW,
    { key: "inputF", label: "Capacitor at its input", dimension: "capacitance" },
    ...BRAKE,
    ...GROUND,
    MASS,
  ],
  converter: [
    { key: "outputV", label: "Output volts", dimension: "voltage", early: true, required: true, min: 0.5 },
    { key: "ratedA", label: "Rated output amps", dimension: "current", hint: "What holds without a fan.", early: true },
    { key: "limitA", label: "Limits at", dimension: "current", hint: "Where its overload protection acts." },
    { key: "efficiency", label: "Efficiency", dimension: "percent", required: true, min: 5, max: 100, share: true },
    { key: "quiescentA", label: "Draws without load", dimension: "current" },
    { key: "outputOhm", label: "Output resistance", dimension: "resistance", hint: "Fall in volts per amp." },
    ...WINDOW,
    {
      key: "printedA",
      label: "Amps as printed",
      dimension: "current",
      hint: "Labels of small modules are peaks.",
      group: "Limits",
      early: true,
    },
    { key: "dropoutV", label: "Needs across it", dimension: "voltage", hint: "Dropout: input above output." },
    { key: "dutyMax", label: "On at most", dimension: "percent", min: 10, max: 100, share: true, hint: "Longest duty of a buck." },
    { key: "startsAtV", label: "Starts at", dimension: "voltage" },
    { key: "minLoadA", label: "Needs at least", dimension: "current" },
    { key: "lossW", label: "Losses, fixed", dimension: "power", hint: "P = fixed + U·I + R·I².", group: "Losses and heat" },
    { key: "lossV", label: "in proportion to amps", dimension: "voltage" },
    { key: "lossOhm", label: "with amps squared", dimension: "resistance", min: 0 },
    { key: "lossAtV", label: "taken at an input of", dimension: "voltage" },
    {
      key: "kelvinPerWatt",
      label: "Chip to air, K a watt",
      dimension: "ratio",
      hint: "Linear: 65 bare upright, 90 flat on copper (from memory).",
    },
    { key: "junctionMaxC", label: "Hottest it may be", dimension: "temperature", max: 200 },
    { key: "startF", label: "Starts into at most", dimension: "capacitance", group: "Capacitors" },
    { key: "inputF", label: "Capacitor at its input", dimension: "capacitance" },
    ...HOLD_UP,
    ...GROUND,
    MASS,
  ],
  load: [
    { key: "nominalV", label: "Volts it is meant for", dimension: "voltage", early: true, required: true, min: 0.5 },
    ...WINDOW,
    {
      key: "brakingJ",
      label: "Braking gives back",
      dimension: "energy",
      hint: "Each stop, all pieces: ½·m·v², half to four fifths of it.",
      group: "What it gives back and stores",
    },
    { key: "inputF", label: "Capacitor at its input", dimension: "capacitance" },
    ...HOLD_UP,
    { key: "filterMh", label: "Choke before it", dimension: "inductance", group: "Filter" },
    { key: "filterF", label: "Capacitor after the choke", dimension: "capacitance" },
    { key: "filterOhm", label: "Resistance of the choke", dimension: "resistance", min: 0 },
    ...GROUND.map((field) => ({ ...field, of: isBoard })),
    MASS,
  ],
};
