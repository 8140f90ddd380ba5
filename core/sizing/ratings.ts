import type { Figures } from "../figures/figures";
import { railMaxV } from "../figures/rails";
import type { PartChanges } from "../machine/commands";
import { type Figure, guess } from "../machine/figure";
import type { Part } from "../machine/schema";
import { CONTACT_PEAK } from "../wires/brief";

/** Ratings contactors and switches are sold in, A (common practice, no source). */
const CONTACT_A = [3, 6, 10, 20, 40, 60, 100, 150, 200, 300, 500];

/** A contact rating with room for a current, A. */
export function contactFor(amps: number): number {
  return CONTACT_A.find((each) => each >= amps * 1.25) ?? Math.ceil(amps * 1.25);
}

/** Room over what flows briefly, and what a make has to bear over it (common practice, no source). */
const BRIEF_ROOM = 1.2;

/** Reports whether a figure is one that nobody told. */
export const isSupposed = (figure: Figure | undefined) => figure?.provenance === "guess";

/** Ratings of a bar or contact that nobody told, at least as large as what flows through it; null where they are large enough. */
export function ratings(figures: Figures, part: Part): PartChanges | null {
  const figure = figures.parts[part.id];
  if ((part.kind !== "bar" && part.kind !== "switch") || !figure || !isSupposed(part.ratedA)) return null;
  const lasting = figure.worstContinuous.amps;
  const brief = figure.worst.amps;
  if (part.kind === "bar") {
    const needed = contactFor(Math.max(lasting, brief / CONTACT_PEAK));
    return needed > (part.ratedA?.value ?? 0) ? { ratedA: guess(needed) } : null;
  }
  if (part.device === "charging port") return null;
  const rated = Math.max(part.ratedA?.value ?? 0, contactFor(lasting));
  const most = Math.ceil(Math.max(rated, brief) * BRIEF_ROOM);
  const larger = (now: Figure | undefined, needed: number) => (now && (!isSupposed(now) || now.value >= needed) ? now : guess(needed));
  const changes = {
    ratedA: larger(part.ratedA, rated),
    peakA: larger(part.peakA, most),
    breakA: larger(part.breakA, most),
    breakV: larger(part.breakV, Math.ceil(railMaxV(figures, part) * 1.1)),
    makeA: larger(part.makeA, most * 3),
  };
  const same = (Object.keys(changes) as (keyof typeof changes)[]).every((key) => part[key]?.value === changes[key].value);
  return same ? null : changes;
}
