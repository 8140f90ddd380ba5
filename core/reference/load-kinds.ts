const MOVING = ["motor", "brushless", "stepper", "servo", "actuator", "pump", "fan", "coil"] as const;
const BOARDS = ["board", "computer", "sensor", "radio", "display"] as const;

/** The kinds of loads. */
export const LOAD_KINDS = [...MOVING, "heater", "light", "sound", ...BOARDS, "other"] as const;

/** One of them. */
export type LoadKind = (typeof LOAD_KINDS)[number];

/** Loads whose current jumps and chops. */
export const MOVERS: ReadonlySet<LoadKind> = new Set(MOVING);
/** Boards and what belongs to them: they have a window of volts, and run before anything moves. */
export const ELECTRONICS: ReadonlySet<LoadKind> = new Set(BOARDS);
/** What may be hurt by a tenth more than the volts printed on it, and is asked for its window: electronics, and what nobody told the sort of. */
export const WINDOWED: ReadonlySet<LoadKind> = new Set([...BOARDS, "other"]);
