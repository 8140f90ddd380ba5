import type { Converter } from "../machine/schema";
import { buckLeastInput } from "./switched";

/**
 * Least input a converter needs to hold its output, V: what is printed, or more where its topology asks for it (linear:
 * output and dropout; buck: output over its longest duty). Null where nothing is known.
 */
export function leastInput(part: Converter): number | null {
  const printed = part.inputMinV?.value ?? null;
  const needs = dropoutInput(part);
  if (printed === null) return needs;
  return needs === null ? printed : Math.max(printed, needs);
}

/** Least input for its output by dropout or duty alone, V; null where its topology or figures say nothing. */
export function dropoutInput(part: Converter): number | null {
  const out = part.outputV.value;
  if (part.topology === "linear") return part.dropoutV ? out + part.dropoutV.value : null;
  if (part.topology !== "buck" || part.isolated) return null;
  if (part.dropoutV) return out + part.dropoutV.value;
  // Its coil's and switch's drops are not known: without them it is the least it can be.
  return part.dutyMax ? buckLeastInput(out, 0, part.dutyMax.value, 0, 0, 0) : null;
}
