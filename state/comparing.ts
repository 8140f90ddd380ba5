import { z } from "zod";
import { SEVERITIES } from "@/core/verdicts/types";

const named = z.object({ id: z.string(), name: z.string() });
const bounded = z.object({ value: z.number(), bound: z.boolean() }).nullable();
const sides = <T extends z.ZodType>(side: T) => z.object({ before: side, after: side });
const weight = z.object({ copperKg: z.number(), partsKg: z.number(), unknown: z.number() });
const cost = z.object({ known: z.number(), unknown: z.number() });
const verdict = z.object({ id: z.string(), severity: z.enum(SEVERITIES), headline: z.string() });

const differencesSchema = z.object({
  added: z.array(z.string()),
  removed: z.array(z.string()),
  changed: z.array(z.object({ what: z.string(), said: z.array(z.string()) })),
  gained: z.array(verdict),
  lost: z.array(verdict),
  modes: z.array(sides(bounded).extend({ name: z.string() })),
  mass: sides(weight),
  cost: sides(cost),
  run: sides(bounded),
});

const comparisonSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("waiting") }),
  z.object({ kind: z.literal("missing") }),
  z.object({ kind: z.literal("unreadable") }),
  z.object({ kind: z.literal("compared"), a: named, b: named, differences: differencesSchema }),
]);
/** How far a comparison is. */
export type Comparison = z.infer<typeof comparisonSchema>;
/** What tells two machines apart. */
export type Compared = Extract<Comparison, { kind: "compared" }>;

/** A comparison as far as it is known now; null when the server does not answer. */
export async function fetchComparison(a: string, b: string, signal: AbortSignal): Promise<Comparison | null> {
  const query = new URLSearchParams({ a, b });
  const response = await fetch(`/api/compare?${query}`, { signal }).catch(() => null);
  return response?.ok ? (comparisonSchema.safeParse(await response.json().catch(() => null)).data ?? null) : null;
}
