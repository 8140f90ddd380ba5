import { z } from "zod";
import { figureSchema } from "./figure";

/** What all parts have, and the quantities their figures are made of. */
export const NAME_MAX = 80;
export const idSchema = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, "an id such as p12: lower case letters, digits and hyphens");
export const nameSchema = z.string().trim().min(1, "a name").max(NAME_MAX);

export const volts = figureSchema(0, 120);
export const amps = figureSchema(0, 2000);
export const ohms = figureSchema(1e-6, 1e6);
export const farads = figureSchema(1e-9, 1000);

export const partBase = {
  id: idSchema,
  name: nameSchema,
  note: z.string().max(500).optional(),
  massKg: figureSchema(0, 1000).optional(),
  /** In the builder's own currency. */
  cost: z.number().min(0).max(1e6).optional(),
};
