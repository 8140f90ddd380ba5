import { checkEdit } from "./check";
import { sameValue } from "./same-value";
import { type Machine, machineShape, PARTS_MAX, WIRES_MAX } from "./schema";

const changesShape = machineShape.partial();

function added<T>(before: readonly T[], after: readonly T[]): T[] {
  const known = new Set(before);
  return after.filter((each) => !known.has(each));
}

/** What of an edited document its schema refuses, in words. What the edit did not touch is not read again. */
function shapeMisfit(before: Machine, after: Machine): string | null {
  if (after.parts.length > PARTS_MAX) return `That does not fit: a plan holds ${PARTS_MAX} parts at most.`;
  if (after.wires.length > WIRES_MAX) return `That does not fit: a plan holds ${WIRES_MAX} wires at most.`;
  const { parts, wires, ...rest } = after;
  const changed = Object.fromEntries(Object.entries(rest).filter(([key, value]) => before[key as keyof Machine] !== value));
  const given = {
    ...changed,
    ...(parts === before.parts ? {} : { parts: added(before.parts, parts) }),
    ...(wires === before.wires ? {} : { wires: added(before.wires, wires) }),
  };
  const parsed = changesShape.safeParse(given);
  // Reading it again must give what is on the screen: a text is kept as it will be read, without spaces around it.
  if (parsed.success) return sameValue(parsed.data, given) ? null : "That does not fit: a name neither begins nor ends with a space.";
  const issue = parsed.error.issues[0];
  return `That does not fit: ${String(issue?.path.at(-1) ?? "the plan")} needs ${issue?.message ?? "another value"}.`;
}

/** Why an edited document is none that may be kept, in the builder's words; null where it may. `before` must be one. */
export function checkEdited(before: Machine, after: Machine): string | null {
  const misfit = shapeMisfit(before, after);
  if (misfit !== null) return misfit;
  const problem = checkEdit(before, after)[0];
  return problem ? `That does not fit: expected ${problem.expected}.` : null;
}
