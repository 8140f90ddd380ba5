/** The kinds of loads. */
export const LOAD_KINDS = [
  "motor",
  "brushless",
  "stepper",
  "servo",
  "actuator",
  "pump",
  "fan",
  "heater",
  "coil",
  "light",
  "sound",
  "board",
  "computer",
  "sensor",
  "radio",
  "display",
  "other",
] as const;

/** One of them. */
export type LoadKind = (typeof LOAD_KINDS)[number];
