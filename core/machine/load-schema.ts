import { z } from "zod";
import { CONNECTOR_IDS } from "../reference/connectors";
import { nameSchema } from "./base-schema";
import { figureSchema } from "./figure";

const amps = figureSchema(0, 2000);

/** How a helper derived a figure: its method and what the builder told it, so that the working can be shown again. */
export const basisSchema = z.strictObject({
  method: z.string().regex(/^[a-z][a-zA-Z]{1,30}$/, "the name of a method"),
  inputs: z.record(z.string().max(30), z.union([z.number(), z.string().max(40), z.array(z.number()).min(1).max(24)])),
});

/** A current of one piece at the load's nominal voltage, A, with the range it could be in and how it was derived. */
export const levelSchema = z.strictObject({
  ...amps.shape,
  low: z.number().min(0).max(2000).optional(),
  high: z.number().min(0).max(4000).optional(),
  /** What the plan had before it was measured. */
  estimate: figureSchema(0, 2000).optional(),
  basis: basisSchema.optional(),
});

/** Idle: powered and waiting (motors: turning free). Run: rated. Start: switching on at rest. Stall: held still at full voltage, cold. */
export const LEVELS = ["idle", "run", "start", "stall"] as const;
/** The currents a load is known by. */
export const levelsSchema = z.strictObject({
  idle: levelSchema.optional(),
  run: levelSchema.optional(),
  start: levelSchema.optional(),
  stall: levelSchema.optional(),
});

/** What a meter read in this mode, all pieces together; it stands in for the estimate. */
const reading = { measured: amps.optional() };
/** How many of the group do it; absent: all. The rest run. */
const pieces = z.int().min(1).max(200).optional();
/** Share of time the driver has the motor on; absent: the driver's cap, else fully on. */
const duty = z.number().min(0.01).max(1).optional();

/** What a load does in one mode: off, a current (all pieces together, A at its nominal voltage), or one of its own levels. */
export const cellSchema = z.discriminatedUnion("state", [
  z.strictObject({ state: z.literal("off") }),
  z.strictObject({ state: z.literal("amps"), amps, ...reading }),
  z.strictObject({ state: z.literal("idle"), ...reading }),
  /** Share of the rated current in %. */
  z.strictObject({ state: z.literal("run"), percent: z.number().min(1).max(300), duty, ...reading }),
  z.strictObject({ state: z.literal("start"), pieces, ...reading }),
  z.strictObject({ state: z.literal("stall"), pieces, duty, ...reading }),
  /** Thrown into reverse at full speed. */
  z.strictObject({ state: z.literal("reverse"), pieces, ...reading }),
]);

/** The brushed motor's second quantity at each of its two points, and how fast its start current dies away. */
export const motorSchema = z.strictObject({
  noLoadRpm: figureSchema(1, 100000).optional(),
  stallTorqueNm: figureSchema(1e-5, 5000).optional(),
  startS: figureSchema(0.001, 60).optional(),
  /** Time constant of its winding, s: how fast a held motor heats. */
  windingS: figureSchema(0.5, 3600).optional(),
});

/** What is known of a stepper and its driver's setting. */
export const stepperSchema = z.strictObject({
  /** What one phase may carry continuously, A r.m.s., and what its driver is set to. */
  ratedA: figureSchema(0.01, 30).optional(),
  setA: figureSchema(0.01, 30).optional(),
  scale: z.enum(["rms", "peak"]),
  phaseOhm: figureSchema(0.01, 1000).optional(),
  phaseMh: figureSchema(0.01, 1000).optional(),
});

/** A brushless motor's drive: limits on the bus and in the phases are two things. */
export const brushlessSchema = z.strictObject({
  drive: z.enum(["six-step", "sine"]),
  busLimitA: figureSchema(0.1, 1000).optional(),
  phaseLimitA: figureSchema(0.1, 2000).optional(),
  phaseOhm: figureSchema(1e-4, 100).optional(),
});

/** A regulator on a driver's or controller's board: makes logic voltage from the raw input while its jumper is in. */
export const onboardSchema = z.strictObject({
  outputV: figureSchema(1, 24),
  /** Input between which it regulates, V. */
  inputMinV: figureSchema(1, 120),
  inputMaxV: figureSchema(1, 120),
  /** What its terminal may give, A, apart from its own board. */
  outputA: figureSchema(0.001, 20).optional(),
  type: z.enum(["linear", "buck"]),
  /** Chip to surrounding air, K/W: how warm a linear one becomes. */
  kelvinPerWatt: figureSchema(1, 400).optional(),
  jumper: z.enum(["in", "out", "fixed"]),
});

/** One layer of a driver with limits of its own: chip, board, carrying board. */
export const driverLayerSchema = z.strictObject({
  layer: z.enum(["chip", "controller board"]),
  name: nameSchema.optional(),
  continuousA: amps.optional(),
  peakA: amps.optional(),
  maxV: figureSchema(0.5, 200).optional(),
});

/** The lead of one piece of a group. */
export const ownLeadSchema = z.strictObject({
  gauge: z.string().max(12),
  lengthM: figureSchema(0.001, 200).optional(),
  insulation: z.string().max(20),
});

/** The conductors between a drive and its motor, all of one size: three of a brushless motor, four of a stepper. */
export const phaseLeadSchema = z.strictObject({
  ...ownLeadSchema.shape,
  /** Connector in it, by family. */
  family: z.enum(CONNECTOR_IDS).optional(),
});

/** How a helper derived a figure. */
export type Basis = z.infer<typeof basisSchema>;
/** A current of one piece with its range and how it was derived. */
export type Level = z.infer<typeof levelSchema>;
/** Which of a load's currents. */
export type LevelName = (typeof LEVELS)[number];
/** What a load does in one mode. */
export type Cell = z.infer<typeof cellSchema>;
/** A regulator on a driver's or controller's board. */
export type Onboard = z.infer<typeof onboardSchema>;
/** One layer of a driver with limits of its own. */
export type DriverLayer = z.infer<typeof driverLayerSchema>;
