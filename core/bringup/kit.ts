import { z } from "zod";

/** What the builder has to read with, as it is kept. */
export const kitSchema = z.strictObject({
  volts: z.enum(["pocket", "hand", "bench"]),
  clamp: z.enum(["clamp", "fine-clamp", "none"]),
  supplyV: z.number().min(0).max(120),
  supplyA: z.number().min(0).max(200),
});
