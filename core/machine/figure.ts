import { z } from "zod";

/** How a figure is known, best first. */
export const PROVENANCES = ["measured", "datasheet", "typical", "guess"] as const;
/** How a figure is known. */
export const provenanceSchema = z.enum(PROVENANCES);
/** How a figure is known, the surest first. */
export type Provenance = z.infer<typeof provenanceSchema>;

/** An electrical figure a person entered: SI value, how it is known, and its relative tolerance where known. */
export interface Figure {
  value: number;
  provenance: Provenance;
  /** Relative, 0.1 = ±10 %. */
  tolerance?: number | undefined;
}

/** Zod schema of a figure whose SI value lies within [min, max]. */
export function figureSchema(min: number, max: number) {
  return z.strictObject({
    value: z.number().min(min).max(max),
    provenance: provenanceSchema,
    tolerance: z.number().min(0).max(5).optional(),
  });
}

/** A typical figure. */
export function typical(value: number): Figure {
  return { value, provenance: "typical" };
}

/** A figure somebody guessed. */
export function guess(value: number): Figure {
  return { value, provenance: "guess" };
}

/** A figure from a data sheet. */
export function datasheet(value: number): Figure {
  return { value, provenance: "datasheet" };
}

/** A figure that was measured. */
export function measured(value: number): Figure {
  return { value, provenance: "measured" };
}
