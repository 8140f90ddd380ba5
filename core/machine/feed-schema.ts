import { z } from "zod";
import { CONNECTOR_IDS } from "../reference/connectors";
import { FUSE_FAMILY_IDS } from "../reference/fuses";
import { amps, brake, farads, idSchema, lineSchema, ohms, partBase, stud, volts } from "./base-schema";
import { figureSchema } from "./figure";
import { isPlain } from "./plain-text";

/** A terminal of a part. */
export const terminalSchema = z.strictObject({ part: idSchema, terminal: z.string().min(1).max(8) });

/** What a place where conductors meet is made as. */
export const BAR_FORMS = ["bar", "stud", "terminal strip", "Y-lead", "fuse block", "board", "junction", "chassis"] as const;

/**
 * A place where conductors meet: one node. `side` says which conductors belong on it, `bulkF` what capacitor sits there,
 * `ratedA` what the whole of it may carry. Form "chassis" is the frame: a node of its own that no return belongs on. `carries`:
 * which returns a negative bar is meant for, where power and logic come home apart.
 */
export const barSchema = z.strictObject({
  ...partBase,
  kind: z.literal("bar"),
  side: z.enum(["positive", "negative"]),
  form: z.enum(BAR_FORMS).optional(),
  ratedA: amps.optional(),
  bulkF: farads.optional(),
  /** Section of its own metal, mm² of copper. */
  copperMm2: figureSchema(0.01, 5000).optional(),
  ...brake,
  carries: z.enum(["power", "logic"]).optional(),
  ...stud,
});

/** What a contact is made as. */
export const SWITCH_DEVICES = ["toggle", "isolator", "relay", "contactor", "solid state", "charging port"] as const;
/** What catches the coil's kick when a contactor drops. */
export const COIL_CLAMPS = ["none", "diode", "clamp"] as const;

/**
 * A contact. It breaks `breakA` at up to `breakV` of DC, makes onto a discharged bus up to `makeA`; `acOnly`: only an AC
 * rating is printed on it. `stop` marks it as opened by the emergency stop. Before it closes, `prechargeOhm` fills the
 * capacitors behind it for `prechargeS`; that resistor bears `prechargeJ` a shot.
 */
export const switchSchema = z.strictObject({
  ...partBase,
  kind: z.literal("switch"),
  device: z.enum(SWITCH_DEVICES).optional(),
  contactOhm: ohms.optional(),
  ratedA: amps.optional(),
  /** What it carries for a while, and for how long. */
  peakA: amps.optional(),
  peakS: figureSchema(0.001, 3600).optional(),
  breakA: amps.optional(),
  breakV: volts.optional(),
  acOnly: z.boolean().optional(),
  makeA: figureSchema(0, 20000).optional(),
  prechargeOhm: figureSchema(0.01, 1e5).optional(),
  prechargeS: figureSchema(0.001, 600).optional(),
  prechargeJ: figureSchema(0.001, 1e5).optional(),
  clamp: z.enum(COIL_CLAMPS).optional(),
  /** Its coil, once it is planned: its resistance, the volts that are sure to pull it in, and those at which it may drop out. */
  coilOhm: ohms.optional(),
  pickUpV: volts.optional(),
  dropOutV: volts.optional(),
  stop: z
    .strictObject({
      /** Buttons, edges and watchdogs in series in its coil's loop. */
      devices: z.int().min(1).max(30),
      normallyClosed: z.boolean(),
      deliberateReset: z.boolean(),
    })
    .optional(),
  /** A charging port: what its contacts on the battery's side are, and whether motion is held while it is plugged. */
  recessed: z.boolean().optional(),
  holdsMotion: z.boolean().optional(),
  /** Modes in which the contact is open. */
  openIn: z.array(idSchema),
  ...stud,
});

/** Where a fuse is held. */
export const FUSE_PLACES = ["in line", "block", "board"] as const;

/** A fuse or breaker: where it sits, how much conductor lies before it, and whether it can be reached without dismantling. */
export const fuseRefSchema = z.strictObject({
  family: z.enum(FUSE_FAMILY_IDS),
  ratingA: z.number().positive(),
  place: z.enum(FUSE_PLACES).optional(),
  atM: z.number().min(0).max(200).optional(),
  outOfReach: z.boolean().optional(),
});

/** A fuse that is a part of its own. */
export const fuseSchema = z.strictObject({
  ...partBase,
  kind: z.literal("fuse"),
  fuse: fuseRefSchema,
});

/**
 * A connector at one end of a wire. `loaded`: contacts of the housing that carry current at the same time, this one
 * included; `perPole`: contacts, or rings of a rotary joint, that share this conductor. `coding` tells keys or colours of
 * one family apart. `live`: what the half that stays live when it is unplugged shows.
 */
export const endSchema = z.strictObject({
  family: z.enum(CONNECTOR_IDS),
  loaded: z.int().min(1).max(64).optional(),
  perPole: z.int().min(1).max(24).optional(),
  coding: lineSchema(20).optional(),
  live: z.enum(["recessed", "pins"]).optional(),
});

/** Copper of a board in place of a wire: a trace, or a row of bridged pads. */
export const boardSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("trace"),
    widthMm: figureSchema(0.05, 500),
    copperUm: figureSchema(5, 2000),
    layer: z.enum(["outside", "inside"]),
  }),
  z.strictObject({ kind: z.literal("pads") }),
]);

/** What makes a bond. */
export const BOND_MAKERS = ["wire", "standoff", "case", "shield"] as const;
/** What is around a wire. */
export const SURROUNDINGS = ["open", "sleeve", "box"] as const;
/** How a conductor is stranded. */
export const STRANDS = ["solid", "stranded", "fine"] as const;

/**
 * One conductor, or `parallel` equal ones. A supply or phase wire runs from the source side to the load side, a return
 * from the load side to where it lands. `pair` on a return names the supply wire it belongs to: together they are a feed.
 * A `signal` wire is the ground wire of a link, or (`shield`) its shield tied at both ends; a `bond` joins the return side
 * to the chassis.
 */
export const wireSchema = z.strictObject({
  id: idSchema,
  role: z.enum(["supply", "return", "phase", "signal", "bond"]),
  from: terminalSchema,
  to: terminalSchema,
  pair: idSchema.optional(),
  /** The link a signal wire belongs to. */
  signal: idSchema.optional(),
  shield: z.boolean().optional(),
  /** What makes a bond: meant as one, or a standoff, a motor case or a shield that happens to. */
  bondBy: z.enum(BOND_MAKERS).optional(),
  /** A resistor or shunt in the wire, Ω: 10 to 100 in a signal ground, 1 MΩ in a bond that only bleeds static. */
  resistorOhm: figureSchema(1e-5, 1e7).optional(),
  /** What its joints were measured to have beyond what the plan gives them, Ω. */
  extraOhm: figureSchema(0, 1e3).optional(),
  gauge: z.string().max(12).optional(),
  parallel: z.int().min(1).max(12),
  lengthM: figureSchema(0.001, 200).optional(),
  insulation: z.string().max(20),
  /** Loaded conductors that run together, this one included; absent: the machine's setting. */
  bundle: z.int().min(1).max(100).optional(),
  colour: z.string().max(20).refine(isPlain, "a text on one line").optional(),
  fuse: fuseRefSchema.optional(),
  /** In place of a gauge. */
  board: boardSchema.optional(),
  fromEnd: endSchema.optional(),
  toEnd: endSchema.optional(),
  /** Open air where nothing is said. */
  surroundings: z.enum(SURROUNDINGS).optional(),
  /** Crosses a joint that moves. */
  moves: z.boolean().optional(),
  strand: z.enum(STRANDS).optional(),
  relief: z.boolean().optional(),
  /** Solder in the path: it decides what a fault may heat it to. */
  soldered: z.boolean().optional(),
  /** Conductors in parallel that differ in length, size or ends, so that they do not share evenly. */
  unequal: z.boolean().optional(),
  /** What is written on both its ends. */
  label: lineSchema(24).optional(),
  /** Runs twisted with its other conductor. */
  twisted: z.boolean().optional(),
  /** Left as it is when the rest is sized. */
  pinned: z.boolean().optional(),
});
