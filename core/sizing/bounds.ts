import { type TerminalRange, terminalRange } from "../figures/terminal-range";
import { leastRating, PLAIN_FUSE } from "../fuses/rating";
import { inSentence } from "../quantity/format";
import { mostFuseA, thickerBy, usualAreaMm2, usualFuseA } from "../reference/practice";
import type { Choice, Refusal } from "./judge";
import type { Needs } from "./needs";
import type { Unit } from "./units";

/** Sizes of the ladder above what lasting current needs, up to which drop may thicken a wire: beyond, copper is the wrong cure. */
const STEPS_OVER = 3;
/** Room of a motor's lead over its running current (handbook practice section 6). */
const LEAD_ROOM = 1.25;

/** Least and largest area that may be proposed for a unit, mm², and the terminal that sets the largest; null: lasting current sets it. */
export interface Bounds {
  readonly leastMm2: number;
  readonly mostMm2: number;
  readonly by: TerminalRange["by"];
}

/** Reports whether a unit is the lead between a driver and its motor. */
export function isLead({ figures }: Needs, { lead }: Unit): boolean {
  return lead.role !== "return" && figures.partOf.get(lead.from.part)?.kind === "driver";
}

/** Fuse that a unit's lasting current alone would ask for, A: what its size follows from. */
export function lastingFuseA(needs: Needs, unit: Unit): number {
  const { continuousA, airC } = needs.of(unit);
  const { fuseLoadFactor } = needs.figures.machine.settings.schools;
  return isLead(needs, unit) ? continuousA * LEAD_ROOM : leastRating(continuousA, PLAIN_FUSE, fuseLoadFactor, airC);
}

/** Bounds of a unit's size; `capA`: what the fuse before it lets through for good. */
export function boundsOf(needs: Needs, unit: Unit, capA: number): Bounds {
  const ranges = unit.wires.map((wire) => terminalRange(needs.figures, wire));
  const leastMm2 = Math.max(...ranges.map(({ least }) => least.areaMm2));
  const [tight] = ranges.filter(({ most }) => most !== null).sort((a, b) => (a.most?.areaMm2 ?? 0) - (b.most?.areaMm2 ?? 0));
  const guardA = unit.lead.fuse?.ratingA ?? (Number.isFinite(capA) ? capA : 0);
  const needed = usualAreaMm2(Math.max(lastingFuseA(needs, unit), isLead(needs, unit) ? 0 : guardA));
  const over = thickerBy(Math.max(needed, leastMm2), STEPS_OVER) * 1.01;
  const terminal = (tight?.most?.areaMm2 ?? Number.POSITIVE_INFINITY) * 1.01;
  return terminal < over
    ? { leastMm2, mostMm2: Math.max(terminal, leastMm2), by: tight?.by ?? null }
    : { leastMm2, mostMm2: over, by: null };
}

/** Reports whether practice puts a smaller fuse before this size than its own, or the one before it. `short`: a run where the most counts. */
export function overLadder(needs: Needs, unit: Unit, { gauge, fuse }: Choice, capA: number, short: boolean): boolean {
  const may = short ? mostFuseA(gauge.areaMm2) : usualFuseA(gauge.areaMm2);
  if (isLead(needs, unit)) {
    const limitA = needs.leadLimit(unit);
    return needs.of(unit).continuousA * LEAD_ROOM > may || (limitA !== null && limitA > mostFuseA(gauge.areaMm2));
  }
  const guardA = fuse?.ratingA ?? (Number.isFinite(capA) ? capA : lastingFuseA(needs, unit));
  return guardA > may;
}

/**
 * Reasons of practice against a size that the rules allow: too thin to crimp, too thick to land, too large a fuse before it, where
 * the rules have not refused its fuse already (`fuseRefused`).
 */
export function practiceRefusals(needs: Needs, unit: Unit, choice: Choice, capA: number, fuseRefused: boolean): Refusal[] {
  const { leastMm2, mostMm2, by } = boundsOf(needs, unit, capA);
  const { areaMm2 } = choice.gauge;
  const said: string[] = [];
  if (areaMm2 < leastMm2 * 0.999) said.push("too thin to be crimped by hand and last in this use");
  if (areaMm2 > mostMm2)
    said.push(
      by
        ? `thicker than ${by.where} takes (${inSentence(by.terminal.name)})`
        : `more than ${STEPS_OVER} sizes over what its current asks for: another cure is the right one`,
    );
  if (!fuseRefused && overLadder(needs, unit, choice, capA, true)) said.push(`practice puts at most ${mostFuseA(areaMm2)} A before it`);
  return said.map((text) => ({ kind: "practice", text }));
}
