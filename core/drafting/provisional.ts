import { figuresOf } from "../analysis/analyse";
import type { Figures } from "../figures/figures";
import { ownNeed } from "../figures/own-need";
import { railMaxV } from "../figures/rails";
import { terminalRange } from "../figures/terminal-range";
import { smallestFuse } from "../fuses/pick";
import { leastForWire } from "../fuses/rating";
import type { Command } from "../machine/commands";
import type { FuseRef, Wire } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { usualSizes } from "../reference/gauges";
import { usualAreaMm2 } from "../reference/practice";
import type { Builder } from "./builder";

/** Share of what flows briefly that counts as if it flowed for good. */
const BRIEF_SHARE = 0.5;
/** Largest fuse that is looked for, A. */
const MOST_A = 500;

/**
 * A first size for every wire that has none, and a fuse for every feed of a bar, by the ladder of fuses and wires: near enough to
 * what comes out that every rule can speak. Sizing puts back what brings trouble, and must not put back "no size".
 */
export function firstSizes(builder: Builder, but: ReadonlySet<string> = new Set()): void {
  const { machine } = builder;
  const figures = figuresOf(
    { ...machine, wires: machine.wires.map((wire) => (wire.gauge || but.has(wire.id) ? wire : { ...wire, gauge: "4 AWG" })) },
    new TopologyCache(),
  );
  for (const wire of machine.wires) {
    if (but.has(wire.id) || wire.gauge !== undefined || wire.pair !== undefined || wire.role === "signal" || wire.role === "bond") continue;
    const fuse = firstFuse(figures, wire);
    const part = figures.partOf.get(wire.to.part);
    const ratingA =
      fuse?.ratingA ?? (part?.kind === "fuse" ? part.fuse.ratingA : leastForWire(machine.settings, wire, ampsOf(figures, wire)));
    const { least } = terminalRange(figures, wire);
    const area = Math.max(usualAreaMm2(ratingA), least.areaMm2) * 0.99;
    const gauge = usualSizes("awg").find(({ areaMm2 }) => areaMm2 >= area);
    builder.do({ type: "setFeed", id: wire.id, changes: { gauge: gauge?.id ?? "4/0 AWG" } });
    if (fuse) builder.do({ type: "setFuse", wireId: wire.id, fuse } satisfies Command);
  }
}

/** Lasting current of a wire, at least the own draw of the part at its end, A. */
function ampsOf(figures: Figures, wire: Wire): number {
  const figure = figures.wires[wire.id];
  return Math.max(figure?.worstContinuous.amps ?? 0, (figure?.worst.amps ?? 0) * BRIEF_SHARE, ownNeed(figures, wire.to.part).lastingA);
}

/** A fuse in a feed that leaves a bar, as small as it can be; a contact that leads on carries what the fuse before the bar lets through. */
function firstFuse(figures: Figures, wire: Wire): FuseRef | null {
  const to = figures.partOf.get(wire.to.part);
  if (wire.role !== "supply" || figures.partOf.get(wire.from.part)?.kind !== "bar" || !to) return null;
  const ends =
    to.kind === "driver" || to.kind === "load" || to.kind === "converter" || (to.kind === "switch" && to.device === "charging port");
  if (!ends) return null;
  const leastA = leastForWire(figures.machine.settings, wire, ampsOf(figures, wire));
  return smallestFuse(Math.max(2, leastA), MOST_A, railMaxV(figures, to), null);
}
