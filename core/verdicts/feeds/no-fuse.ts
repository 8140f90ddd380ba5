import { type Build, perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { wireEnds, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { largestFuse } from "../../fuses/pick";
import { BARE_M, SHEATHED_M } from "../../fuses/place";
import { leastForWire } from "../../fuses/rating";
import type { PartOf, Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({ id: "no-fuse", title: "No fuse between the pack and a wire", step: "feeds" });

/**
 * Wires a pack can feed without any fuse on the way. The short lead to a first fuse is accepted; for the rest one verdict
 * a pack, at the wire where a fuse belongs.
 */
export const noFuse = rule({ speak, reads: "figures", sized: true, evaluate });

/** By pack: where a fuse belongs, all wires that have none on the way, and what is said of leads that are too long before one. */
const unfusedOf = perBuild((build) =>
  build.machine.parts.flatMap((pack) => {
    if (pack.kind !== "pack") return [];
    const feeds = build.machine.wires.filter((wire) => build.wires[wire.id]?.exposure?.unfused?.pack === pack.id);
    const toFuse = feeds.filter(
      (wire) => wire.role !== "return" && wire.pair === undefined && build.partOf.get(wire.to.part)?.kind === "fuse",
    );
    const open = feeds.filter((wire) => !toFuse.includes(wire));
    const first = open.find((wire) => wire.from.part === pack.id) ?? open[0];
    return [{ pack, first, open, leads: toFuse.flatMap((wire) => longLead(build, wire)) }];
  }),
);

function evaluate(figures: Figures): Verdict[] {
  return unfusedOf(figures).flatMap(({ pack, first, open, leads }) => [...(first ? [unfused(figures, pack, first, open)] : []), ...leads]);
}

/** A lead to a first fuse that is longer than accepted. */
function longLead(figures: Build, wire: Wire): Verdict[] {
  const runM = figures.wires[wire.id]?.exposure?.unfused?.runM ?? 0;
  if (runM <= BARE_M || wire.lengthM === undefined) return [];
  return [
    speak({
      wire,
      severity: runM <= SHEATHED_M ? "watch" : "stop",
      headline: `${say(runM, "length", "up")} of wire before the first fuse`,
      detail: `A short in the lead ${wireEnds(figures, wire)} is cleared by nothing. Keep it under ${say(BARE_M, "length")}; sheathed and well fixed, up to ${say(SHEATHED_M, "length", "down")} is accepted (boat practice).`,
      compared: { metres: runM, limit: BARE_M },
    }),
  ];
}

function unfused(figures: Figures, pack: PartOf<"pack">, first: Wire, open: readonly Wire[]): Verdict {
  const ohm = pack.internalOhm?.value;
  const push =
    ohm === undefined ? "as much as its cells can give" : `up to ${say((pack.fullV ?? pack.openCircuitV).value / ohm, "current", "up")}`;
  const rest = open.length - 1;
  return speak({
    wire: first,
    about: pack.id,
    severity: "stop",
    also: open.map((wire) => wire.id),
    headline: `No fuse between ${pack.name} and the ${wireName(figures, first)}${rest > 0 ? ` (and ${rest} more ${rest === 1 ? "wire" : "wires"})` : ""}`,
    detail: `A short drives ${push} through the wire ${wireEnds(figures, first)}${rest > 0 ? " and those behind it" : ""}, and nothing opens: the wire becomes the fuse. Put one close to the pack.`,
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
