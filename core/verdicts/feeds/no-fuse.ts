import { perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { wireEnds, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { largestFuse } from "../../fuses/pick";
import { leastForWire } from "../../fuses/rating";
import type { PartOf, Wire } from "../../machine/schema";
import { stringsOf } from "../../machine/strings";
import { say } from "../../quantity/format";
import { chemistryOf } from "../../reference/chemistries";
import { settledTemperature } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";
import { lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "no-fuse",
  title: "No fuse between the pack and a wire",
  step: "feeds",
  needs: "A fuse close to the plus terminal, before anything branches off.",
});

/**
 * Wires a pack can feed without any fuse on the way. The short lead to a first fuse is accepted; for the rest one verdict
 * a pack, at the wire where a fuse belongs.
 */
export const noFuse = rule({ speak, reads: "figures", sized: true, evaluate });

/** By pack: where a fuse belongs, and all wires that have none on the way. Leads to a first fuse are judged by what a short does to them. */
const unfusedOf = perBuild((build) =>
  build.machine.parts.flatMap((pack) => {
    if (pack.kind !== "pack") return [];
    const feeds = build.machine.wires.filter((wire) => build.wires[wire.id]?.exposure?.unfused?.pack === pack.id);
    const toFuse = feeds.filter(
      (wire) => wire.role !== "return" && wire.pair === undefined && build.partOf.get(wire.to.part)?.kind === "fuse",
    );
    const open = feeds.filter((wire) => !toFuse.includes(wire));
    const first = open.find((wire) => wire.from.part === pack.id) ?? open[0];
    return first ? [{ pack, first, open }] : [];
  }),
);

function evaluate(figures: Figures): Verdict[] {
  return unfusedOf(figures).map(({ pack, first, open }) => unfused(figures, pack, first, open));
}

/** Whether all that a pack can push through a wire leaves it whole, by heat; what is not known is taken not to. */
function bears(figures: Figures, wire: Wire, shortA: number): boolean {
  const ampacity = figures.wires[wire.id]?.ampacity;
  return ampacity != null && lastingSeverity(wire, settledTemperature(wire, ampacity, shortA)) === "fix";
}

function unfused(figures: Figures, pack: PartOf<"pack">, first: Wire, open: readonly Wire[]): Verdict {
  const blocks = stringsOf(figures.machine).down.get(pack.id) ?? [pack];
  const ohm = blocks.reduce((sum, { internalOhm }) => sum + (internalOhm?.value ?? Number.NaN), 0);
  const volts = blocks.reduce((sum, block) => sum + (block.fullV ?? block.openCircuitV).value, 0);
  const push = Number.isNaN(ohm) ? "as much as its cells can give" : `up to ${say(volts / ohm, "current", "up")}`;
  const rest = open.length - 1;
  // Cells that burn when they are shorted need no wire for it; of the others only the wires decide.
  const mild = blocks.every(({ chemistry }) => chemistry !== undefined && chemistryOf(chemistry).family !== "lithium");
  const whole = mild && !Number.isNaN(ohm) && open.every((wire) => bears(figures, wire, volts / ohm));
  const then = whole ? "the wires bear it, the cells heat until they are empty or leak" : "the wire becomes the fuse";
  return speak({
    wire: first,
    about: pack.id,
    severity: whole ? "fix" : "stop",
    also: open.map((wire) => wire.id),
    headline: `No fuse between ${pack.name} and the ${wireName(figures, first)}${rest > 0 ? ` (and ${rest} more ${rest === 1 ? "wire" : "wires"})` : ""}`,
    detail: `A short drives ${push} through the wire ${wireEnds(figures, first)}${rest > 0 ? " and those behind it" : ""}, and nothing opens: ${then}. Put one close to the pack.`,
    remedies: fuseHere(figures, first.id),
  });
}

function fuseHere(figures: Figures, wireId: string): Remedy[] {
  const wire = figures.wireOf.get(wireId);
  const figure = figures.wires[wireId];
  if (!wire || !figure?.ampacity) return [];
  const fuse = largestFuse(
    leastForWire(figures.machine.settings, wire, figure.worstContinuous.amps),
    figure.ampacity.limitA,
    railMaxV(figures, figures.partOf.get(wire.to.part)),
    null,
  );
  return fuse ? [{ label: `Fuse it, ${fuse.ratingA} A at the source end`, command: { type: "setFuse", wireId, fuse } }] : [];
}
