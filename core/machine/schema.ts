import { z } from "zod";
import { CHEMISTRY_IDS } from "../reference/chemistries";
import { CONNECTOR_IDS } from "../reference/connectors";
import { LOAD_KINDS } from "../reference/load-kinds";
import { OVERLOADS, SUPPLY_MAKES, USB_PORT_IDS } from "../reference/supplies";
import { amps, brake, farads, groundCopper, idSchema, nameSchema, noteSchema, ohms, partBase, stud, volts } from "./base-schema";
import { decisionSchema } from "./decision-schema";
import { barSchema, type endSchema, fuseRefSchema, fuseSchema, switchSchema, type terminalSchema, wireSchema } from "./feed-schema";
import { figureSchema } from "./figure";
import {
  brushlessSchema,
  cellSchema,
  driverLayerSchema,
  levelsSchema,
  motorSchema,
  onboardSchema,
  ownLeadSchema,
  phaseLeadSchema,
  stepperSchema,
} from "./load-schema";
import { SIGNALS_MAX, signalSchema } from "./signal-schema";

/**
 * The machine document, version 1. SI units throughout (V, A, Ω, m, s, Ah, °C); see docs/format.md.
 * Objects are strict: an unknown field is refused with its path, never dropped.
 */
export const FORMAT = "node-ledger/machine";
/** Version of the document's format. */
export const FORMAT_VERSION = 1;

/** Most modes of a machine. */
export const MODES_MAX = 24;
/** Most parts of a machine. */
export const PARTS_MAX = 2000;
/** Most wires of a machine. */
export const WIRES_MAX = 5000;

/** Most verdicts that are decided upon in one machine. */
export const DECISIONS_MAX = 2000;

/** Where a pack's management board sits. */
export const MANAGEMENTS = ["inside", "separate", "none"] as const;

/**
 * A battery. `openCircuitV` and `lowV` are rested volts at the planned and the lowest charge (`plannedCharge`, `lowCharge`,
 * shares); `fullV` the highest it can show, charger included. Capacity and resistance are of the new pack at 25 °C; where
 * its chemistry is known they follow temperature and `health` (share of the capacity left by age).
 */
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
  /** How long it gives its peak, s; absent: ten seconds. */
  peakS: figureSchema(0.001, 3600).optional(),
  chemistry: z.enum(CHEMISTRY_IDS).optional(),
  /** Cells in series, all blocks together; `blocks` that are sold as one and joined in series. */
  series: z.int().min(1).max(60).optional(),
  blocks: z.int().min(1).max(20).optional(),
  parallel: z.int().min(1).max(200).optional(),
  plannedCharge: figureSchema(0, 1).optional(),
  lowCharge: figureSchema(0, 1).optional(),
  /** Volts under load at which its management, or the builder's alarm, ends the run, and for how long they must last. */
  cutoffV: volts.optional(),
  cutoffS: figureSchema(0, 600).optional(),
  peukert: figureSchema(1, 1.6).optional(),
  ratedH: figureSchema(0.05, 300).optional(),
  health: figureSchema(0.3, 1).optional(),
  management: z.enum(MANAGEMENTS).optional(),
  /** Current leaves it but cannot enter: an ideal diode, or primary cells behind one. */
  diode: z.boolean().optional(),
  ...stud,
});

/**
 * One output of a DC supply. `limitA` is where its overload protection acts, `overload` what it does then. Further outputs
 * of the same box name the first in `box`: their minus is one node. `boxW` is what all outputs together may give.
 */
export const supplySchema = z.strictObject({
  ...partBase,
  kind: z.literal("supply"),
  outputV: figureSchema(0.5, 120),
  outputOhm: ohms.optional(),
  ratedA: amps.optional(),
  limitA: amps.optional(),
  make: z.enum(SUPPLY_MAKES).optional(),
  overload: z.enum(OVERLOADS).optional(),
  usbPort: z.enum(USB_PORT_IDS).optional(),
  box: idSchema.optional(),
  boxW: figureSchema(1, 20000).optional(),
  minLoadA: amps.optional(),
  /** How far this output moves when the box's loads are uneven, share of its volts. */
  crossShare: figureSchema(0, 0.3).optional(),
  /** Ambient from which the rating falls, °C, and by what share a kelvin. */
  derateFromC: figureSchema(-20, 100).optional(),
  derateShare: figureSchema(0, 0.2).optional(),
  /** Capacitance it starts into, F, and how long its protection waits, s. */
  startF: farads.optional(),
  startS: figureSchema(0.001, 60).optional(),
  /** It can take current back. */
  sinks: z.boolean().optional(),
  /** An ideal diode at its output: current leaves it but cannot enter. */
  diode: z.boolean().optional(),
  /** Capacitance across its own output, F. */
  inputF: farads.optional(),
});

/** How a driver is cooled. */
export const COOLINGS = ["none", "heatsink", "air"] as const;
/** What a driver switches with. */
export const BRIDGES = ["mosfet", "bipolar", "low side", "relay"] as const;
/** How a driver's logic side is fed. */
export const LOGIC_FEEDS = ["own input", "onboard", "controller"] as const;

/** Survives plus and minus swapped at its input. */
const reverse = { reverseSafe: z.boolean().optional() };

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
  /** What all its channels together may carry continuously, A. */
  totalA: amps.optional(),
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
  /** Optocouplers or isolators between its signal inputs and its power side. */
  isolatedInputs: z.boolean().optional(),
  /** Capacitance at its input, F. */
  inputF: farads.optional(),
  /** What an emergency stop can do to it: take its enable or reset away, or a certified torque-off input. */
  stopInput: z.enum(["enable", "certified"]).optional(),
  ...brake,
  ...groundCopper,
  ...reverse,
});

/** A capacitor behind a diode at a part's input: carries it through a dip. */
const holdUp = { holdUpF: farads.optional(), holdUpOhm: figureSchema(0, 100).optional() };

/**
 * A DC-DC converter. Switching: input power is output power / `efficiency`, or, where the losses are known, output power +
 * `lossW` + `lossV`·I_out + `lossOhm`·I² with I at the output or input by `lossBasis`, at `lossAtV` in. `ratedA` is what
 * holds continuously, `printedA` the label. Linear: output current passes through; `dropoutV` is the least it needs across.
 */
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
  printedA: amps.optional(),
  lossW: figureSchema(0, 100).optional(),
  lossV: figureSchema(0, 20).optional(),
  lossOhm: figureSchema(0, 100).optional(),
  lossBasis: z.enum(["in", "out"]).optional(),
  lossAtV: figureSchema(0.5, 120).optional(),
  dropoutV: figureSchema(0, 20).optional(),
  dutyMax: figureSchema(0.1, 1).optional(),
  /** Input at which it switches on, V. */
  startsAtV: volts.optional(),
  /** Linear: chip to air, K/W, and the hottest its chip may be, °C. Switching: the hottest its parts may be. */
  kelvinPerWatt: figureSchema(0.5, 400).optional(),
  junctionMaxC: figureSchema(40, 200).optional(),
  minLoadA: amps.optional(),
  startF: farads.optional(),
  inputF: farads.optional(),
  /** An ideal diode at its output: current leaves it but cannot enter. */
  diode: z.boolean().optional(),
  ...holdUp,
  ...reverse,
  ...groundCopper,
});

/** What a sensor feels. */
export const SENSES = ["analogue", "inertial", "magnetic", "other"] as const;

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
  /** What braking gives back to the bus each time, J, all pieces together. */
  brakingJ: figureSchema(0, 1e6).optional(),
  /** Sensors: what it feels; it decides what disturbs it. */
  senses: z.enum(SENSES).optional(),
  inputF: farads.optional(),
  ...holdUp,
  /** Series choke and capacitor before it: mH, F, Ω of the choke. */
  filterMh: figureSchema(1e-5, 1000).optional(),
  filterF: farads.optional(),
  filterOhm: figureSchema(0, 100).optional(),
  ...reverse,
  ...groundCopper,
  /** Of a group: each piece's own lead from where the feed ends, both conductors of this size. */
  ownLead: ownLeadSchema.optional(),
  /** Brushless motors and steppers: what runs between drive and motor, in the phases. */
  phaseLead: phaseLeadSchema.optional(),
  /** Figure by mode id; a mode without an entry is not known yet. */
  cells: z.record(idSchema, cellSchema),
});

/** A part of any kind. */
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

/** An operating state. `lastsS` null: goes on for as long as it likes, so continuous ratings apply. */
export const modeSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  lastsS: z.number().positive().max(864000).nullable(),
});

/** What sources and trunks are sized for. Absent: named modes. */
export const PEAK_BUDGETS = ["named modes", "all stalled", "measured"] as const;
/** What sources and trunks are sized for. */
export type PeakBudget = (typeof PEAK_BUDGETS)[number];

/** Modes in sequence with their times, run once or over and over. */
export const missionSchema = z.strictObject({
  steps: z
    .array(z.strictObject({ mode: idSchema, seconds: z.number().positive().max(864000) }))
    .min(1)
    .max(60),
  repeats: z.boolean(),
});

/** Schools of continuous wire current. */
export const AMPACITY_SCHOOLS = ["chassis", "boat", "building", "heat balance"] as const;
/** Schools of fuses for driver feeds. */
export const DRIVER_FEED_SCHOOLS = ["each fused", "main only"] as const;
/** Schools of emergency stops. */
export const STOP_SCHOOLS = ["opens power", "disables drives"] as const;
/** Schools of returns. */
export const RETURN_SCHOOLS = ["linked bars", "joined at one point"] as const;
/** Schools of what logic lives on. */
export const LOGIC_SUPPLY_SCHOOLS = ["main pack", "own pack"] as const;
/** Schools of the chassis. */
export const CHASSIS_SCHOOLS = ["floating", "bonded once"] as const;

/** Sizes, fuses and connector families at hand; a kind that is not listed is not limited. */
export const stockSchema = z.strictObject({
  gauges: z.array(z.string().max(12)).max(60).optional(),
  fuses: z.array(fuseRefSchema).max(200).optional(),
  connectors: z.array(z.enum(CONNECTOR_IDS)).max(80).optional(),
});
/** What the builder has at hand. */
export type Stock = z.infer<typeof stockSchema>;

/** What holds for the whole machine: surroundings, limits, schools. */
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
    ampacity: z.enum(AMPACITY_SCHOOLS).optional(),
    driverFeeds: z.enum(DRIVER_FEED_SCHOOLS).optional(),
    stop: z.enum(STOP_SCHOOLS).optional(),
    returns: z.enum(RETURN_SCHOOLS).optional(),
    logicSupply: z.enum(LOGIC_SUPPLY_SCHOOLS).optional(),
    chassis: z.enum(CHASSIS_SCHOOLS).optional(),
  }),
  /** Shares of a link's noise margin that a steady offset, and offset and spikes together, may use; and the most an input bears, V. */
  links: z
    .strictObject({
      staticShare: z.number().min(0.05).max(1),
      peakShare: z.number().min(0.05).max(1),
      capV: z.number().min(0.05).max(5),
    })
    .optional(),
  /** How much warmer the air is inside the closed box, K. */
  boxRiseK: z.number().min(0).max(100).optional(),
  /** Thinnest conductor the builder crimps, where it is not the usual one for the use. */
  leastGauge: z.string().max(12).optional(),
  /** What the builder has at hand: where given, sizing takes only these. */
  stock: stockSchema.optional(),
  /** What a short that is not bolted has, Ω. */
  faultOhm: z.number().min(1e-4).max(10).optional(),
  /** Shortest run wanted on one charge, s, and the coldest day it must work on, °C. */
  wantedRunS: z.number().positive().max(864000).optional(),
  coldestC: z.number().min(-40).max(60).optional(),
});

/** The plan document, as far as its shape goes. */
export const machineShape = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(FORMAT_VERSION),
  name: nameSchema,
  description: noteSchema(1000),
  settings: settingsSchema,
  modes: z.array(modeSchema).min(1, "at least one mode").max(MODES_MAX),
  mission: missionSchema.optional(),
  parts: z.array(partSchema).max(PARTS_MAX),
  wires: z.array(wireSchema).max(WIRES_MAX),
  signals: z.array(signalSchema).max(SIGNALS_MAX).optional(),
  /** Verdicts that were accepted or put off. */
  decisions: z.array(decisionSchema).max(DECISIONS_MAX).optional(),
});

/** The plan document. */
export type Machine = z.infer<typeof machineShape>;
/** A part of any kind. */
export type Part = z.infer<typeof partSchema>;
/** The kinds of parts. */
export type PartKind = Part["kind"];
/** A part of one kind. */
export type PartOf<K extends PartKind> = Extract<Part, { kind: K }>;
/** One conductor, or several equal ones in parallel. */
export type Wire = z.infer<typeof wireSchema>;
/** An operating state. */
export type Mode = z.infer<typeof modeSchema>;
/** What holds for the whole machine. */
export type Settings = z.infer<typeof settingsSchema>;
/** A terminal of a part, by id and name. */
export type TerminalRef = z.infer<typeof terminalSchema>;
/** A fuse by family and rating. */
export type FuseRef = z.infer<typeof fuseRefSchema>;
/** A connector at an end of a wire. */
export type WireEnd = z.infer<typeof endSchema>;
/** A switch, relay, contactor or charging port. */
export type Switch = PartOf<"switch">;
/** What draws: motors, servos, boards, lights, heaters. */
export type Load = PartOf<"load">;
/** A load without what it does in its modes. */
export type BuiltLoad = Omit<Load, "cells">;
/** A part as it is built, whatever it does. */
export type BuiltPart = Exclude<Part, Load> | BuiltLoad;
/** A machine as it is built, whatever its loads do: nothing that reads one can hang on a cell. A machine is one, too. */
export type BuiltMachine = Omit<Machine, "parts"> & { parts: readonly BuiltPart[] };
/** A battery. */
export type Pack = PartOf<"pack">;
/** A DC supply, adapter or port. */
export type Supply = PartOf<"supply">;
/** What current comes from. */
export type Source = Pack | Supply;
/** A regulator of its own. */
export type Converter = PartOf<"converter">;
/** A motor driver. */
export type Driver = PartOf<"driver">;
/** Modes in sequence with their times. */
export type Mission = z.infer<typeof missionSchema>;
export { ASSUMED, type Assumed, COLOUR_MAX, idSchema, NAME_MAX, NOTE_MAX, nameSchema } from "./base-schema";
export type { Decision, DecisionKind } from "./decision-schema";
export * from "./feed-schema";
export type { Cell } from "./load-schema";
export type { LinkKind, Signal, SignalPin } from "./signal-schema";
export { LOAD_KINDS };
