import { z } from "zod";
import { LOGIC_IDS } from "../reference/logic";
import { idSchema, lineSchema } from "./base-schema";
import { figureSchema } from "./figure";

/** How two boards talk; each kind has its own tolerance of a ground that moves. */
export const LINK_KINDS = [
  "logic",
  "serial",
  "pulse",
  "i2c",
  "analogue",
  "audio",
  "rs485",
  "can",
  "usb",
  "opto",
  "isolated supply",
] as const;
/** The kinds of links between boards. */
export type LinkKind = (typeof LINK_KINDS)[number];

/** Most conductors of a link that are named. */
export const PINS_MAX = 16;

/** One conductor of a link as the builder knows it: what it is called, the pin at each end, the colour of its wire. */
export const signalPinSchema = z.strictObject({
  name: lineSchema(24).optional(),
  fromPin: lineSchema(24).optional(),
  toPin: lineSchema(24).optional(),
  colour: lineSchema(20).optional(),
});
/** One conductor of a link. */
export type SignalPin = z.infer<typeof signalPinSchema>;

/**
 * A link from one board to another. Levels are the families of its sender and its receiver (kinds logic, serial and pulse);
 * `bothWays`: the receiver answers at the same levels. A ground wire of its own, and a shield tied at both ends, are wires
 * of role "signal" that name it.
 */
export const signalSchema = z.strictObject({
  id: idSchema,
  from: idSchema,
  to: idSchema,
  kind: z.enum(LINK_KINDS),
  sender: z.enum(LOGIC_IDS).optional(),
  receiver: z.enum(LOGIC_IDS).optional(),
  bothWays: z.boolean().optional(),
  /** Bus supply of an I²C link, V. */
  busV: figureSchema(1, 6).optional(),
  /** In series with the signal, Ω: it limits what flows into a pin. */
  seriesOhm: figureSchema(0, 1e6).optional(),
  /** Analogue: full scale, V; bits of the converter; counts of error accepted. */
  fullScaleV: figureSchema(0.01, 60).optional(),
  bits: z.int().min(4).max(24).optional(),
  wishCounts: figureSchema(0.01, 1e6).optional(),
  /** What its sheet allows between the two grounds, V, in place of what its kind tolerates. */
  allowsV: figureSchema(0, 2500).optional(),
  /** A shield with one end lifted. One tied at both ends is a wire. */
  shieldLifted: z.boolean().optional(),
  /** Its kind or its levels were chosen by a draft, and nobody has said yet that they are so. */
  assumed: z.boolean().optional(),
  /** Its conductors, where the builder named them: for the connection list and the labels; no rule reads them. */
  pins: z.array(signalPinSchema).min(1).max(PINS_MAX).optional(),
});
/** A link between two boards. */
export type Signal = z.infer<typeof signalSchema>;

/** Most links of a machine. */
export const SIGNALS_MAX = 500;
