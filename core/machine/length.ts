import type { Wire } from "./schema";

/** How long a conductor counts whose length nobody told, m: usual inside a machine of this kind (common practice, no source). */
export const ASSUMED_M = 1;

/** One-way length of a conductor, m; where nobody told it, as long as is assumed, and it is asked for. */
export function lengthOf({ lengthM }: Pick<Wire, "lengthM">): number {
  return lengthM?.value ?? ASSUMED_M;
}
