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

export type LoadKind = (typeof LOAD_KINDS)[number];
