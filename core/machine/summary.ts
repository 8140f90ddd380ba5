import { z } from "zod";

const count = z.int().nonnegative();

/** What the list says of a machine beside its name. `worstAtLeast`: a load is unknown, or a mode has no operating point. */
export const overviewSchema = z.strictObject({
  parts: count,
  mainV: z.number().nullable(),
  worstA: z.number().nullable(),
  worstAtLeast: z.boolean(),
  stops: count,
  fixes: count,
  watches: count,
  asks: count,
  /** Accepted or put off, and no worse since. */
  accepted: count,
});
/** What the list says of a machine beside its name. */
export type MachineOverview = z.infer<typeof overviewSchema>;

/**
 * How far the list knows a machine. `waiting`: it is being worked out. `unreadable`: this version cannot read its document.
 * `broken`: its analysis broke off. `damaged`: its row in the ledger file cannot be read.
 */
export const overviewStateSchema = z.discriminatedUnion("kind", [
  overviewSchema.extend({ kind: z.literal("known") }),
  z.strictObject({ kind: z.literal("waiting") }),
  z.strictObject({ kind: z.literal("unreadable") }),
  z.strictObject({ kind: z.literal("broken") }),
  z.strictObject({ kind: z.literal("damaged") }),
]);
/** How far the list knows a machine. */
export type OverviewState = z.infer<typeof overviewStateSchema>;

/** A line of the list of machines. */
export const summarySchema = z.strictObject({
  id: z.string(),
  name: z.string(),
  description: z.string(),
  revision: z.number(),
  updatedAt: z.string(),
  /** When it was put aside; null: it is not. */
  archivedAt: z.string().nullable(),
  /** When it was last read at the bench; null: nothing was. */
  readAt: z.string().nullable(),
  overview: overviewStateSchema,
});
/** A line of the list of machines. */
export type MachineSummary = z.infer<typeof summarySchema>;
