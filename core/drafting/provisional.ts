import { figuresOf } from "../analysis/analyse";
import type { Figures } from "../figures/figures";
import { ownNeed } from "../figures/own-need";
import { railMaxV } from "../figures/rails";
import { limitAt, smallestFuse, thinnest } from "../fuses/pick";
import { leastForWire } from "../fuses/rating";
import type { Command } from "../machine/commands";
import { TopologyCache } from "../network/topology";
import type { Builder } from "./builder";

/** Room of the first size over what it carries for good. */
const ROOM = 1.5;
/** Share of what flows briefly that counts as if it flowed for good. */
const BRIEF_SHARE = 0.5;
/** Share of its rail's volts that a conductor of a first size may lose at the most that flows, one way. */
const DROP_SHARE = 0.01;

/**
 * A first size for every wire that has none, and a fuse for every feed of a bar: rough and thick, so that all rules can speak
 * before sizing makes them right. Sizing puts back what brings trouble, and must not put back "no size".
 */
export function firstSizes(builder: Builder, but: ReadonlySet<string> = new Set()): void {
  const { machine } = builder;
  const figures = figuresOf(
    { ...machine, wires: machine.wires.map((wire) => (wire.gauge || but.has(wire.id) ? wire : { ...wire, gauge: "4 AWG" })) },
    new TopologyCache(),
  );
  for (const wire of machine.wires) {
    if (but.has(wire.id) || wire.gauge !== undefined || wire.pair !== undefined || wire.role === "signal" || wire.role === "bond") continue;
    const figure = figures.wires[wire.id];
    const most = figure?.worst.amps ?? 0;
    const amps = Math.max(figure?.worstContinuous.amps ?? 0, most * BRIEF_SHARE, 0.5);
    const rail = railMaxV(figures, figures.partOf.get(wire.to.part)) || railMaxV(figures, figures.partOf.get(wire.from.part));
    const mayLoseV = rail > 0 ? rail * DROP_SHARE : Number.POSITIVE_INFINITY;
    const metres = wire.lengthM?.value ?? 1;
    const gauge = thinnest(
      wire,
      (each) =>
        limitAt(each, wire, machine.settings) >= amps * ROOM && (each.r20OhmPerKm / 1000) * metres * Math.max(most, amps) <= mayLoseV,
    );
    builder.do({ type: "setFeed", id: wire.id, changes: { gauge: gauge?.id ?? "4/0 AWG" } });
    const fuse = firstFuse(figures, wire.id);
    if (fuse) builder.do(fuse);
  }
}

/** A fuse in a feed that leaves a bar, as small as it can be. */
function firstFuse(figures: Figures, wireId: string): Command | null {
  const wire = figures.wireOf.get(wireId);
  const from = wire && figures.partOf.get(wire.from.part);
  const to = wire && figures.partOf.get(wire.to.part);
  if (
    wire?.role !== "supply" ||
    from?.kind !== "bar" ||
    (to?.kind !== "driver" && to?.kind !== "load" && to?.kind !== "converter" && to?.kind !== "switch")
  )
    return null;
  // A contact that leads on carries what the bar's own fuse lets through; a charging port ends there.
  if (to.kind === "switch" && to.device !== "charging port") return null;
  const figure = figures.wires[wireId];
  const amps = Math.max(ownNeed(figures, to.id).lastingA, figure?.worstContinuous.amps ?? 0, (figure?.worst.amps ?? 0) * BRIEF_SHARE);
  const fuse = smallestFuse(Math.max(0.5, leastForWire(figures.machine.settings, wire, amps)), 500, railMaxV(figures, to), null);
  return fuse ? { type: "setFuse", wireId, fuse } : null;
}
