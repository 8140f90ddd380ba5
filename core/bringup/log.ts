import { z } from "zod";
import { lineSchema, noteSchema } from "../machine/base-schema";
import { INSTRUMENT_IDS, QUANTITIES } from "../reference/instruments";
import { STAGE_IDS } from "./types";

/** How a reading came in. */
export const READING_WAYS = ["typed", "bench", "phone", "imported"] as const;

/** Names a reading once and for all: a queue that sends twice is known. */
export const queueIdSchema = z.string().regex(/^[a-z0-9][a-z0-9-]{7,63}$/, "an id of 8 to 64 small letters, digits and hyphens");

/**
 * One reading as it is kept. SI units. `value` null: the meter showed over range ("OL"); a yes is 1, a no 0. `expected` and
 * `basis` are what the plan said then, so that a change of the plan is seen.
 */
export const readingSchema = z.strictObject({
  queueId: queueIdSchema,
  /** Step of the plan it answers; null: taken beside the plan. */
  step: z.string().min(1).max(300).nullable(),
  stage: z.enum(STAGE_IDS).nullable(),
  place: lineSchema(300),
  quantity: z.enum(QUANTITIES),
  value: z.number().min(-1e9).max(1e12).nullable(),
  instrument: z.enum(INSTRUMENT_IDS),
  /** Expanded uncertainty (k = 2) as the builder knows it, in the unit of the value; null: by the instrument's class. */
  uncertainty: z.number().min(0).max(1e9).nullable(),
  takenAt: z.iso.datetime(),
  note: noteSchema(500),
  way: z.enum(READING_WAYS),
  expected: z.number().nullable(),
  basis: z.string().max(20).nullable(),
  /** Struck out as a mistake: kept, and counted nowhere. */
  struck: z.boolean(),
});
/** One reading as it is kept. */
export type Reading = z.infer<typeof readingSchema>;

/** A stage, or one step of it, left with a reason. */
export const waiverSchema = z.strictObject({
  queueId: queueIdSchema,
  stage: z.enum(STAGE_IDS),
  step: z.string().min(1).max(300).nullable(),
  reason: lineSchema(500),
  at: z.iso.datetime(),
  /** Taken back again. */
  ended: z.boolean(),
});
/** A stage, or one step of it, left with a reason. */
export type Waiver = z.infer<typeof waiverSchema>;

/** What was read of a machine, in the order it was taken, and what was left out. */
export interface Log {
  readonly readings: readonly Reading[];
  readonly waivers: readonly Waiver[];
}

/** Nothing was read yet. */
export const EMPTY_LOG: Log = { readings: [], waivers: [] };
