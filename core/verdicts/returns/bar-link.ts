import { perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, names, wireName } from "../../figures/names";
import { limitAt, thinnest } from "../../fuses/pick";
import type { Wire } from "../../machine/schema";
import { capital, say, withArticle } from "../../quantity/format";
import { barLinks, worstCrossing } from "../../returns/bar-links";
import { groundOf, wiresOf } from "../../returns/ground";
import { homesOf } from "../../returns/shared";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "bar-link",
  title: "A link between minus bars too light for its worst case",
  step: "returns",
  needs: "A heavier link, or fewer returns that cross it.",
});

/** Each link against the current one way alone, and against the largest fuse behind it where a mesh hides it from other rules. */
export const barLink = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  const largestFuse = largestFuses(figures);
  return barLinks(figures).flatMap((link): Verdict[] => {
    const figure = figures.wires[link.id];
    const limit = figure?.limitA;
    if (!figure || limit == null || link.gauge === undefined) return [];
    const base = { wire: link };
    const use = (amps: number): Remedy[] => {
      const size = thinnest(link, (gauge) => limitAt(gauge, link, figures.machine.settings) >= amps);
      return size && size.id !== link.gauge
        ? [{ label: `Use ${size.id}`, command: { type: "updateWire", id: link.id, changes: { gauge: size.id } } }]
        : [];
    };
    const crossing = couldCross(figures, link, limit) ? worstCrossing(figures, link, false) : { amps: 0, mode: 0, users: [] };
    // What it carries with everything on is said where wires are judged.
    if (crossing.amps > limit && figure.worstContinuous.amps <= limit)
      return [
        speak({
          ...base,
          severity: "fix",
          headline: `${capital(wireName(figures, link))}: ${say(crossing.amps, "current", "up")} one way, good for ${say(limit, "current", "down")}`,
          detail: `Currents that cross it both ways cancel to ${say(figure.worstContinuous.amps, "current")} today. With the others off, ${names(crossing.users)} alone send all of theirs through ${gaugeText(link)} in ${figures.modes[crossing.mode]?.name}.`,
          compared: { amps: crossing.amps, limit },
          remedies: use(crossing.amps),
        }),
      ];
    const fuse = figure.exposure === null ? largestFuse(link) : 0;
    if (fuse > limit)
      return [
        speak({
          ...base,
          key: "fuse",
          severity: "fix",
          headline: `${capital(wireName(figures, link))}: ${gaugeText(link)} behind ${withArticle(`${fuse} A fuse`)}`,
          detail: `A fault behind that fuse comes home through this link, up to ${fuse} A for as long as the fuse lets it. There is no fuse in a minus, so the link must bear it.`,
          compared: { amps: fuse, limit },
          remedies: use(fuse),
        }),
      ];
    return [];
  });
}

/** Whether everything that comes home through a link would be too much if all of it went one way: else nothing need be followed. */
function couldCross(figures: Figures, link: Wire, limit: number): boolean {
  const users = homesOf(figures).through.get(link.id) ?? [];
  return users.reduce((sum, { id: part }) => sum + (figures.parts[part]?.worst.amps ?? 0), 0) > limit;
}

/** For each link, the largest fuse in the feed of anything that comes home through it or the heavy way round it, A. */
const largestFuses = perBuild((figures): ((link: Wire) => number) => {
  const { through } = homesOf(figures);
  const chords = new Map(groundOf(figures).chords.map((chord) => [chord.wire.id, chord]));
  const most = new Map<string, number>();
  for (const [wire, parts] of through) {
    let largest = 0;
    for (const part of parts)
      largest = Math.max(largest, figures.wires[figures.ledger.rowOf.get(part.id)?.feed?.id ?? ""]?.exposure?.ratingA ?? 0);
    most.set(wire, largest);
  }
  return (link) => {
    const chord = chords.get(link.id);
    // What goes the heavy way round goes through a link beside it too.
    const beside = chord ? wiresOf(figures, chord.way) : [];
    return Math.max(0, ...[link, ...beside].map(({ id: wire }) => most.get(wire) ?? 0));
  };
});
