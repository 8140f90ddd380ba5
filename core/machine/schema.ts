import { z } from "zod";
import { FUSE_FAMILY_IDS } from "../reference/fuses";
import { figureSchema } from "./figure";
import {
  brushlessSchema,
  cellSchema,
  driverLayerSchema,
  LOAD_KINDS,
  levelsSchema,
  motorSchema,
  onboardSchema,
  stepperSchema,
} from "./load-schema";

/**
 * The machine document, version 1. SI units throughout (V, A, Ω, m, s, Ah, °C); see docs/format.md.
 * Objects are strict: an unknown field is refused with its path, never dropped.
 */
export const FORMAT = "node-ledger/machine";
export const FORMAT_VERSION = 1;

export const NAME_MAX = 80;
export const MODES_MAX = 24;
export const PARTS_MAX = 2000;
export const WIRES_MAX = 5000;
export const idSchema = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, "an id such as p12: lower case letters, digits and hyphens");
export const nameSchema = z.string().trim().min(1, "a name").max(NAME_MAX);

const volts = figureSchema(0, 120);
const amps = figureSchema(0, 2000);
const ohms = figureSchema(1e-6, 1e6);

const partBase = {
  id: idSchema,
  name: nameSchema,
  note: z.string().max(500).optional(),
};

/** A battery: open-circuit voltage as planned, its extremes, and internal resistance. */
export const packSchema = z.strictObject({
  ...partBase,
  kind: z.literal("pack"),
  openCircuitV: figureSchema(0.5, 120),
  fullV: volts.optional(),
  lowV: volts.optional(),
  internalOhm: ohms.optional(),
  capacityAh: figureSchema(0.01, 5000).optional(),
  continuousA: amps.optional(),
  peakA: amps.optional(),
});

/** A DC supply with one output. `limitA` is where its overload protection acts. */
export const supplySchema = z.strictObject({
  ...partBase,
  kind: z.literal("supply"),
  outputV: figureSchema(0.5, 120),
  outputOhm: ohms.optional(),
  ratedA: amps.optional(),
  limitA: amps.optional(),
});

/** A bus bar, stud or junction: one node. `side` says which conductors belong on it. */
export const barSchema = z.strictObject({
  ...partBase,
  kind: z.literal("bar"),
  side: z.enum(["positive", "negative"]),
});

export const switchSchema = z.strictObject({
  ...partBase,
  kind: z.literal("switch"),
  contactOhm: ohms.optional(),
  ratedA: amps.optional(),
  /** Modes in which the contact is open. */
  openIn: z.array(idSchema),
});

export const fuseRefSchema = z.strictObject({
  family: z.enum(FUSE_FAMILY_IDS),
  ratingA: z.number().positive(),
});

export const fuseSchema = z.strictObject({
  ...partBase,
  kind: z.literal("fuse"),
  fuse: fuseRefSchema,
});

export const COOLINGS = ["none", "heatsink", "air"] as const;
export const BRIDGES = ["mosfet", "bipolar", "low side", "relay"] as const;
export const LOGIC_FEEDS = ["own input", "onboard", "controller"] as const;

/**
 * A motor driver with 1-8 channels. `bridgeOhm` is both switches of one channel, `bridgeV` their fixed drop (bipolar).
 * The bare board carries `continuousA` a channel, more with cooling. Limits of the chip and of a controller board it is
 * stacked on are layers: the lowest wins.
 */
export const driverSchema = z.strictObject({
  ...partBase,
  kind: z.literal("driver"),
  channels: z.int().min(1).max(8),
  bridge: z.enum(BRIDGES).optional(),
  bridgeOhm: ohms.optional(),
  bridgeV: figureSchema(0, 6).optional(),
  ownA: amps.optional(),
  headlineA: amps.optional(),
  continuousA: amps.optional(),
  heatsinkA: amps.optional(),
  airA: amps.optional(),
  cooling: z.enum(COOLINGS).optional(),
  peakA: amps.optional(),
  peakS: figureSchema(0.001, 3600).optional(),
  inputMinV: volts.optional(),
  inputMaxV: volts.optional(),
  layers: z.array(driverLayerSchema).max(4).optional(),
  /** Where its own current limit is set, A of motor current. */
  limitA: amps.optional(),
  /** Longest share of on-time its program allows, for motors below the rail's voltage. */
  dutyCap: figureSchema(0.01, 1).optional(),
  freewheel: z.enum(["inside", "fitted", "missing"]).optional(),
  currentSense: z.boolean().optional(),
  /** How its logic side is fed, what that draws, and the regulator that may sit on the board. */
  logic: z.enum(LOGIC_FEEDS).optional(),
  logicV: figureSchema(1, 24).optional(),
  logicA: amps.optional(),
  onboard: onboardSchema.optional(),
});

/** A DC-DC converter. Input power follows output power through `efficiency` (0-1). */
export const converterSchema = z.strictObject({
  ...partBase,
  kind: z.literal("converter"),
  topology: z.enum(["linear", "buck", "boost", "buck-boost"]),
  isolated: z.boolean(),
  outputV: figureSchema(0.5, 120),
  efficiency: figureSchema(0.05, 1),
  outputOhm: ohms.optional(),
  quiescentA: amps.optional(),
  ratedA: amps.optional(),
  limitA: amps.optional(),
  inputMinV: volts.optional(),
  inputMaxV: volts.optional(),
});

/**
 * A load. `behaviour` says how its current follows its voltage: `current` stays, `resistance` falls with it
 * (stalled motors, heaters), `power` rises as it falls (boards behind their own converter).
 */
export const loadSchema = z.strictObject({
  ...partBase,
  kind: z.literal("load"),
  loadKind: z.enum(LOAD_KINDS),
  count: z.int().min(1).max(200),
  behaviour: z.enum(["current", "resistance", "power"]),
  nominalV: figureSchema(0.5, 120),
  inputMinV: volts.optional(),
  inputMaxV: volts.optional(),
  /** Currents of one piece that the cells' states refer to. */
  levels: levelsSchema.optional(),
  motor: motorSchema.optional(),
  stepper: stepperSchema.optional(),
  brushless: brushlessSchema.optional(),
  /** Linear actuators: whether switches at the ends stop it. */
  endSwitches: z.boolean().optional(),
  /** Controller boards: what one signal pin may give, A, and the regulator on the board. */
  pinA: amps.optional(),
  onboard: onboardSchema.optional(),
  /** Figure by mode id; a mode without an entry is not known yet. */
  cells: z.record(idSchema, cellSchema),
});

export const partSchema = z.discriminatedUnion("kind", [
  packSchema,
  supplySchema,
  barSchema,
  switchSchema,
  fuseSchema,
  driverSchema,
  converterSchema,
  loadSchema,
]);

export const terminalSchema = z.strictObject({ part: idSchema, terminal: z.string().min(1).max(8) });

/**
 * One conductor, or `parallel` equal ones. A supply or phase wire runs from the source side to the load side, a return
 * from the load side to where it lands. `pair` on a return names the supply wire it belongs to: together they are a feed.
 */
export const wireSchema = z.strictObject({
  id: idSchema,
  role: z.enum(["supply", "return", "phase"]),
  from: terminalSchema,
  to: terminalSchema,
  pair: idSchema.optional(),
  gauge: z.string().max(12).optional(),
  parallel: z.int().min(1).max(12),
  lengthM: figureSchema(0.001, 200).optional(),
  insulation: z.string().max(20),
  /** Loaded conductors that run together, this one included; absent: the machine's setting. */
  bundle: z.int().min(1).max(100).optional(),
  colour: z.string().max(20).optional(),
  fuse: fuseRefSchema.optional(),
});

/** An operating state. `lastsS` null: goes on for as long as it likes, so continuous ratings apply. */
export const modeSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  lastsS: z.number().positive().max(864000).nullable(),
});

/** What sources and trunks are sized for. Absent: named modes. */
export const PEAK_BUDGETS = ["named modes", "all stalled", "measured"] as const;
export type PeakBudget = (typeof PEAK_BUDGETS)[number];

/** Modes in sequence with their times, run once or over and over. */
export const missionSchema = z.strictObject({
  steps: z
    .array(z.strictObject({ mode: idSchema, seconds: z.number().positive().max(864000) }))
    .min(1)
    .max(60),
  repeats: z.boolean(),
});

export const settingsSchema = z.strictObject({
  ambientC: z.number().min(-40).max(120),
  bundle: z.int().min(1).max(100),
  /** Conductor temperature at which resistance is taken, °C. */
  conductorC: z.number().min(-40).max(200),
  /** Resistance of one crimped or bolted end, Ω. */
  jointOhm: z.number().min(1e-5).max(0.1),
  dropPowerPercent: z.number().min(0.1).max(50),
  dropBriefPercent: z.number().min(0.1).max(50),
  dropLogicPercent: z.number().min(0.1).max(50),
  schools: z.strictObject({
    fuseLoadFactor: z.enum(["75 %", "80 %"]),
    peakBudget: z.enum(PEAK_BUDGETS).optional(),
    motorLeads: z.enum(["unfused", "fused"]).optional(),
    stepperSum: z.enum(["sum", "simultaneity"]).optional(),
  }),
});

export const machineShape = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(FORMAT_VERSION),
  name: nameSchema,
  description: z.string().max(1000),
  settings: settingsSchema,
  modes: z.array(modeSchema).min(1, "at least one mode").max(MODES_MAX),
  mission: missionSchema.optional(),
  parts: z.array(partSchema).max(PARTS_MAX),
  wires: z.array(wireSchema).max(WIRES_MAX),
});

export type Machine = z.infer<typeof machineShape>;
export type Part = z.infer<typeof partSchema>;
export type PartKind = Part["kind"];
export type PartOf<K extends PartKind> = Extract<Part, { kind: K }>;
export type Wire = z.infer<typeof wireSchema>;
export type Mode = z.infer<typeof modeSchema>;
export type Settings = z.infer<typeof settingsSchema>;
export type TerminalRef = z.infer<typeof terminalSchema>;
export type FuseRef = z.infer<typeof fuseRefSchema>;
export type Load = PartOf<"load">;
export type Source = PartOf<"pack"> | PartOf<"supply">;
export type Driver = PartOf<"driver">;
export type Mission = z.infer<typeof missionSchema>;
export type { Cell } from "./load-schema";
export { LOAD_KINDS };
