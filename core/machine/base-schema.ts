import { z } from "zod";
import { figureSchema } from "./figure";
import { isPlain, plainLines } from "./plain-text";

/** What all parts have, and the quantities their figures are made of. */
export const NAME_MAX = 80;
/** Letters of a note. */
export const NOTE_MAX = 500;
/** Letters of a colour, or of the key of a connector. */
export const COLOUR_MAX = 20;
/** An id within one document. */
export const idSchema = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, "an id such as p12: lower case letters, digits and hyphens");
/** A name that people gave. */
export const nameSchema = z
  .string()
  .trim()
  .min(1, "a name")
  .max(NAME_MAX)
  .refine(isPlain, "a text on one line, without characters that cannot be seen");
/** A text of several lines. */
export const noteSchema = (most: number) =>
  z
    .string()
    .max(most)
    .refine((text) => text === plainLines(text), "a text without characters that cannot be seen");
/** A short text on one line. */
export const lineSchema = (most: number) =>
  z.string().trim().min(1).max(most).refine(isPlain, "a text on one line, without characters that cannot be seen");

/** A voltage that was entered, V. */
export const volts = figureSchema(0, 120);
/** A current that was entered, A. */
export const amps = figureSchema(0, 2000);
/** A resistance that was entered, Ω. */
export const ohms = figureSchema(1e-6, 1e6);
/** A capacitance that was entered, F. */
export const farads = figureSchema(1e-9, 1000);

/** A brake resistor or clamp across a node: switches in at `brakeOnV`, is `brakeOhm`, and takes `brakePulseJ` each time. */
export const brake = {
  brakeOnV: volts.optional(),
  brakeOhm: figureSchema(1e-3, 1e5).optional(),
  brakePulseJ: figureSchema(1e-3, 1e6).optional(),
};

/** Ground copper of a board through which others' returns may come home: what it carries and what it resists, from pin to pin. */
export const groundCopper = { groundA: amps.optional(), groundOhm: ohms.optional() };

/** The shelf's own name for what lies on it. */
export const shelfIdSchema = z.string().regex(/^[a-z0-9][a-z0-9-]{0,59}$/, "an id of the shelf");

/**
 * What a draft chose of a part that is no figure, until the builder says that it is so: where returns land, that a stop stands
 * there, that loads run at all they are rated for, how blocks are joined.
 */
export const ASSUMED = ["landing", "stop", "share", "joined"] as const;
/** One of them. */
export type Assumed = (typeof ASSUMED)[number];

/** What every part has. */
export const partBase = {
  id: idSchema,
  name: nameSchema,
  note: noteSchema(NOTE_MAX).optional(),
  massKg: figureSchema(0, 1000).optional(),
  /** In the builder's own currency. */
  cost: z.number().min(0).max(1e6).optional(),
  /** What it was taken from on the builder's shelf, by the shelf's own name for it. */
  shelf: shelfIdSchema.optional(),
  assumed: z.array(z.enum(ASSUMED)).max(ASSUMED.length).optional(),
};

/** Studs that ring lugs go on. */
export const STUDS = ["M3", "M4", "M5", "M6", "M8", "M10", "M12"] as const;
/** The stud a part's wires are bolted to. */
export const stud = { stud: z.enum(STUDS).optional() };
