import { capBefore } from "../figures/before-fuse";
import type { Machine, Wire } from "../machine/schema";
import { gaugeById } from "../reference/gauges";
import { boundsOf } from "../sizing/bounds";
import { needsOf } from "../sizing/needs";
import { unitsOf } from "../sizing/units";
import type { Standing } from "./trial";

/** Conductors in parallel that a careful builder lands. */
const MOST_PARALLEL = 2;
/** Slack on areas that carry a standard's rounding. */
const SLACK = 1.001;

const areaOf = ({ gauge }: Wire) => (gauge === undefined ? undefined : gaugeById(gauge)?.areaMm2);

/**
 * Reports whether a careful builder would make a change to conductors: no wire thicker than its terminals take or out of
 * proportion to its current, none that a hand cannot crimp, none made thinner, no bundle of parallels.
 * @param after the machine with the change, analysed
 */
export function isBuildable(before: Machine, after: Standing): boolean {
  const old = new Map(before.wires.map((wire) => [wire.id, wire]));
  const changed = after.machine.wires.filter((wire) => {
    const was = old.get(wire.id);
    return wire.gauge !== undefined && (was === undefined || was.gauge !== wire.gauge || was.parallel !== wire.parallel);
  });
  if (changed.length === 0) return true;
  const ids = new Set(changed.map(({ id }) => id));
  const needs = needsOf(after.figures, null);
  for (const unit of unitsOf(after.figures)) {
    const own = unit.wires.filter(({ id }) => ids.has(id));
    if (own.length === 0) continue;
    const { leastMm2, mostMm2 } = boundsOf(needs, unit, capBefore(after.figures, unit.lead));
    for (const wire of own) {
      const was = old.get(wire.id);
      const [now, then] = [areaOf(wire) ?? 0, was ? areaOf(was) : undefined];
      if (wire.parallel > Math.max(MOST_PARALLEL, was?.parallel ?? 1)) return false;
      if (then !== undefined && now * wire.parallel < (then * (was?.parallel ?? 1)) / SLACK) return false;
      if (now > mostMm2 * SLACK && now > (then ?? 0)) return false;
      // A new lead of some milliamps may be as thin as its remedy has it.
      if (was && now < leastMm2 / SLACK) return false;
    }
  }
  return true;
}
