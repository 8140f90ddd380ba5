import type { Mode } from "./schema";

/**
 * A mode of this length or more goes on, s: by then wires, contacts, chips and fuses have all but settled (time constants
 * from seconds to a few minutes; common practice, no source).
 */
export const LASTING_S = 600;

/** Whether a mode goes on so long that only what holds continuously holds in it. */
export function goesOn({ lastsS }: Pick<Mode, "lastsS">): boolean {
  return lastsS === null || lastsS >= LASTING_S;
}
