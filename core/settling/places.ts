import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import { linkName } from "../returns/link-words";
import type { Verdict } from "../verdicts/types";

/** With a small first letter, for the middle of a sentence. */
export const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** Where a verdict stands, in words. */
export function placeOf(figures: Figures, { id, subject }: Verdict): string {
  const link = figures.machine.signals?.find((signal) => id.endsWith(`:${signal.id}`));
  if (link) return linkName(figures, link);
  const wire = figures.wireOf.get(subject.id);
  if (wire) return wireName(figures, wire);
  const mode = figures.machine.modes.find(({ id }) => id === subject.id);
  return figures.partOf.get(subject.id)?.name ?? mode?.name ?? figures.machine.name;
}
