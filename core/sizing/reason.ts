import { dropLimit } from "../figures/drop";
import type { Figures } from "../figures/figures";
import { railVolts } from "../figures/rails";
import { inSentence, say } from "../quantity/format";
import { boundsOf, isLead } from "./bounds";
import type { Choice } from "./judge";
import type { Needs } from "./needs";
import type { Unit } from "./units";

/** Largest share of its rail that a part behind a unit loses on the way in modes of a minute and more, %; null: no part is judged by one. */
function worstDrop(figures: Figures, behind: readonly string[]): number | null {
  const shares = behind.flatMap((id) => {
    const part = figures.partOf.get(id);
    const rail = railVolts(figures, id);
    const dropV = figures.parts[id]?.dropV;
    if (!part || !dropV || rail === 0 || part.kind === "driver") return [];
    return Array.from(dropV, (volts, mode) => (dropLimit(figures, part, mode) === null ? 0 : (100 * volts) / rail));
  });
  const most = Math.max(0, ...shares);
  return most > 0 ? most : null;
}

/**
 * Reason of a size in one line: "10 AWG: 30 A fuse; 22 A lasting; 3.1 % drop".
 * @param capA what the fuse before the unit lets through for good, A
 * @param isThere the size is the one that was analysed: its drop is known
 */
export function sizeReason(needs: Needs, unit: Unit, { gauge, parallel, fuse }: Choice, capA: number, isThere: boolean): string {
  const { continuousA, behind } = needs.of(unit);
  const limitA = needs.leadLimit(unit);
  const { leastMm2, mostMm2, by } = boundsOf(needs, unit, capA);
  const drop = isThere ? worstDrop(needs.figures, behind) : null;
  const guard = fuse
    ? `${fuse.ratingA} A fuse`
    : isLead(needs, unit)
      ? limitA === null
        ? "no limit before it"
        : `limit of ${say(limitA, "current")} before it`
      : Number.isFinite(capA) && capA > 0
        ? `${say(capA, "current")} before it`
        : null;
  return `${parallel > 1 ? `${parallel} × ` : ""}${gauge.id}: ${[
    guard,
    continuousA > 0 ? `${say(continuousA, "current", "up")} lasting` : "nothing known to last in it",
    drop === null ? null : `${drop.toFixed(1)}\u00a0% drop`,
    gauge.areaMm2 <= leastMm2 * 1.001 ? "the thinnest for its use" : null,
    by && gauge.areaMm2 * 1.3 > mostMm2 ? `the most that ${by.where} takes (${inSentence(by.terminal.name)})` : null,
  ]
    .filter((each) => each !== null)
    .join("; ")}.`;
}
