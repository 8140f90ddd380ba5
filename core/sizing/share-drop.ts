import { type Gauge, gaugeById } from "../reference/gauges";
import { drop } from "../verdicts/feeds/drop";
import { inputWindow } from "../verdicts/sources/input-window";
import type { Verdict } from "../verdicts/types";
import { dropRoom, type Needs, ohmsWith } from "./needs";
import type { Unit } from "./units";
import { type Objective, weigh } from "./weigh";

/** Rules whose verdicts volts lost on the way bring about. */
export const BY_DROP: ReadonlySet<string> = new Set([drop.id, inputWindow.id]);

/** Parts that lack volts by a verdict that is to be fixed. */
export function lacking(verdicts: readonly Verdict[]): ReadonlySet<string> {
  return new Set(verdicts.flatMap(({ rule, severity, subject }) => (BY_DROP.has(rule) && severity === "fix" ? [subject.id] : [])));
}

interface Size {
  readonly gauge: Gauge | undefined;
  readonly parallel: number;
}

/** A drop that is to be shared: over which units, for whom, by which steps. */
interface Sharing {
  readonly needs: Needs;
  readonly units: readonly Unit[];
  readonly objective: Objective;
  /** Consumers to cure; null: all. */
  readonly short: ReadonlySet<string> | null;
  /** Next size a unit may have; null: there is none. */
  readonly larger: (unit: Unit, gauge: Gauge, parallel: number) => { gauge: Gauge; parallel: number } | null;
  /** Up to the wished loss in place of the largest. */
  readonly wished: boolean;
}

/** The drop is planned a little inside its limit, so that it is not left at the brink. */
const DROP_SHARE = 0.9;
/** Most steps for one consumer. */
const STEPS = 200;

/** Sizes of units after thickening what saves most volts for its weight, until every consumer is inside its room or no step is left. */
export function sharedDrop({ needs, units, objective, short, larger, wished }: Sharing): ReadonlyMap<Unit, Size> {
  const { figures } = needs;
  const sizes = new Map<Unit, Size>(units.map((unit) => [unit, { gauge: gaugeById(unit.lead.gauge ?? ""), parallel: unit.lead.parallel }]));
  const ohmOf = (unit: Unit, { gauge, parallel }: Size) => (gauge ? ohmsWith(figures, unit.wires, { gauge: gauge.id, parallel }) : []);
  const now = new Map(units.map((unit) => [unit, ohmOf(unit, sizes.get(unit) as Size)]));
  const consumers = [...new Set(units.flatMap((unit) => needs.of(unit).behind))].filter((id) => short === null || short.has(id));
  for (const consumer of consumers) {
    const ways = units
      .map((unit) => ({ unit, wires: unit.wires.filter(({ id }) => needs.ways.get(id)?.includes(consumer)) }))
      .filter(({ wires }) => wires.length > 0);
    const rooms = dropRoom(
      figures,
      consumer,
      ways.flatMap(({ wires }) => wires),
      wished,
    );
    const lost = (amps: readonly number[], ohms: ReadonlyMap<Unit, number[]>) => {
      let sum = 0;
      let k = 0;
      for (const { unit, wires } of ways)
        for (const wire of wires) sum += (amps[k++] ?? 0) * (ohms.get(unit)?.[unit.wires.indexOf(wire)] ?? 0);
      return sum;
    };
    for (let step = 0; step < STEPS; step++) {
      const over = rooms.map(({ amps, roomV }) => ({ amps, by: lost(amps, now) - roomV * DROP_SHARE })).sort((a, b) => b.by - a.by)[0];
      if (!over || over.by <= 0) break;
      let best: { unit: Unit; gauge: Gauge; parallel: number; gain: number } | null = null;
      for (const { unit } of ways) {
        const at = sizes.get(unit);
        const next = at?.gauge ? larger(unit, at.gauge, at.parallel) : null;
        if (!at?.gauge || !next) continue;
        const saved = lost(over.amps, now) - lost(over.amps, new Map(now).set(unit, ohmOf(unit, next)));
        const fuse = unit.lead.fuse ?? null;
        const more = weigh(unit, { ...next, fuse }, objective) - weigh(unit, { gauge: at.gauge, parallel: at.parallel, fuse }, objective);
        const gain = saved / Math.max(1e-6, more);
        if (saved > 0 && (!best || gain > best.gain)) best = { unit, ...next, gain };
      }
      if (!best) break;
      const { unit, gauge, parallel } = best;
      sizes.set(unit, { gauge, parallel });
      now.set(unit, ohmOf(unit, { gauge, parallel }));
    }
  }
  return sizes;
}
