import type { Load } from "../machine/schema";
import type { LoadKind } from "../reference/load-kinds";

/** How the current of a kind follows its volts, as a rule: boards behind converters take power, heaters and coils are resistances. */
export function usualBehaviour(kind: LoadKind): Load["behaviour"] {
  if (kind === "board" || kind === "computer" || kind === "display" || kind === "sound" || kind === "stepper" || kind === "brushless")
    return "power";
  return kind === "heater" || kind === "light" || kind === "coil" ? "resistance" : "current";
}
