import { z } from "zod";
import { noteSchema } from "./base-schema";

/** What a builder decided of a verdict: it stays as it is, it waits, or it is not theirs to settle. */
export const DECISION_KINDS = ["accepted", "later", "not mine"] as const;
/** One of them. */
export type DecisionKind = (typeof DECISION_KINDS)[number];

/** Severities a verdict can have had, as `core/verdicts/types.ts` has them. */
const DECIDED_SEVERITIES = ["stop", "fix", "watch", "ask"] as const;

/** Fewest letters of a reason why a Stop is left. */
export const REASON_MIN = 4;

/**
 * A verdict that was accepted or put off, with what it said that day: it comes back when its figures get worse than these.
 * `id` is the verdict's; `value` and `limit` are in `unit`; `places` counts the parts and wires it spoke of.
 */
export const decisionSchema = z
  .strictObject({
    id: z.string().min(1).max(200),
    kind: z.enum(DECISION_KINDS),
    reason: noteSchema(500),
    at: z.iso.datetime(),
    severity: z.enum(DECIDED_SEVERITIES),
    headline: z.string().max(400),
    value: z.number().optional(),
    limit: z.number().optional(),
    unit: z.string().max(10).optional(),
    places: z.int().min(0).max(10_000),
  })
  .refine(({ severity, reason }) => severity !== "stop" || reason.trim().length >= REASON_MIN, {
    message: `a reason of at least ${REASON_MIN} letters: a Stop is left only with one`,
    path: ["reason"],
  });
/** A verdict that was accepted or put off. */
export type Decision = z.infer<typeof decisionSchema>;
