import type { BuiltLoad } from "../machine/schema";
import type { LoadKind } from "../reference/load-kinds";

/** How a kind of load takes volts it is not meant for. */
export type Suffers = "electronics" | "servo" | "power" | "turning";

const SUFFERS: Readonly<Record<LoadKind, Suffers>> = {
  motor: "turning",
  actuator: "turning",
  pump: "turning",
  fan: "turning",
  servo: "servo",
  heater: "power",
  light: "power",
  coil: "power",
  board: "electronics",
  computer: "electronics",
  sensor: "electronics",
  radio: "electronics",
  display: "electronics",
  sound: "electronics",
  brushless: "electronics",
  stepper: "electronics",
  other: "electronics",
};

/**
 * Volts a load without an entered window is judged by: above `fixV` it is strained, above `stopV` it is destroyed or burns,
 * below `leastV` it does not do what it is for.
 */
export interface Bearing {
  readonly suffers: Suffers;
  readonly fixV: number;
  readonly stopV: number;
  readonly leastV: number;
}

/** Parts for up to 6 V have no regulator of their own: 5 V logic dies at 6 to 7 V (from memory). Above, they usually have one. */
const LOGIC_MOST_V = 6;
/** Every hobby servo for 4.8 V or more takes up to 6 V (from memory). */
const SERVO_V = { from: 4.8, to: 6 };

/**
 * Shares of the volts a load is meant for (common practice, no source). A full pack stands a quarter above its nominal
 * voltage at most: within that a part of the rail's name is fine. Heat goes with the square: at 1.5 it is more than double.
 */
const SHARES = {
  logic: { fix: 1.1, stop: 1.2, least: 0.9 },
  electronics: { fix: 1.25, stop: 1.5, least: 0.8 },
  servo: { fix: 1.2, stop: 1.35, least: 0.75 },
  power: { fix: 1.25, stop: 1.5, least: 0.8 },
  turning: { fix: 1.25, stop: 2, least: 0.8 },
} as const;

/** What a load bears by the volts it is meant for and its kind. */
export function bearingOf({ loadKind, nominalV: { value: own } }: Pick<BuiltLoad, "loadKind" | "nominalV">): Bearing {
  const suffers = SUFFERS[loadKind];
  const share = SHARES[suffers === "electronics" && own <= LOGIC_MOST_V ? "logic" : suffers];
  const least = suffers === "servo" && own >= SERVO_V.from ? SERVO_V.to : 0;
  return {
    suffers,
    fixV: Math.max(share.fix * own, least),
    // A fan turns by electronics of its own.
    stopV: loadKind === "fan" ? SHARES.electronics.stop * own : share.stop * own,
    leastV: share.least * own,
  };
}
