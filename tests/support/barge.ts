import type { Machine } from "@/core/machine/schema";
import { reedcutter } from "@/demo/reedcutter";

/** A machine with every kind of part and nothing left to say of it. */
export function settledBarge(): Machine {
  return reedcutter(true);
}
