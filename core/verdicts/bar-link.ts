import type { Figures } from "../analysis/figures";
import { steady, steadyOf } from "../analysis/standing";
import type { PartFigures } from "../analysis/types";
import type { Wire } from "../machine/schema";
import { isReturnBar, isSource } from "../machine/terminals";
import { capital, say } from "../quantity/format";
import { groundOf, wiresOf } from "../returns/ground";
import { homesOf } from "../returns/shared";
import { limitAt, thinnest } from "../sizing/pick";
import { gaugeText, wireName } from "./helpers";
import { names } from "./link-words";
import type { Remedy, Verdict } from "./types";

export const id = "bar-link";
export const title = "A link between minus bars too light for its worst case";

/** What crosses a link one way and the other, A, and who brings it. */
export interface Crossing {
  mode: number;
  amps: number;
  users: string[];
}

/** Links between bars, and from bars to sources. */
export const barLinks = steady((figures): readonly Wire[] => {
  const place = (partId: string) => {
    const part = figures.partOf.get(partId);
    return isReturnBar(part) || (part !== undefined && isSource(part));
  };
  return figures.machine.wires.filter((wire) => wire.role === "return" && place(wire.from.part) && place(wire.to.part));
});

/** Who comes home through a link, and which way. */
const sidesOf = steadyOf((still, linkId): readonly { part: string; name: string; sign: number }[] => {
  const ground = groundOf(still);
  const branch = still.machine.wires.findIndex(({ id: wire }) => wire === linkId);
  return (homesOf(still).through.get(linkId) ?? []).flatMap((part) => {
    const step = ground.home(part)?.find((each) => each.branch === branch);
    return step ? [{ part: part.id, name: part.name, sign: step.sign }] : [];
  });
});

/**
 * The most that crosses a link when currents the other way are off: two that cancel today do not when one of them stops.
 * @param timed also count modes with a time limit
 */
export function worstCrossing(figures: Figures, link: Wire, timed: boolean): Crossing {
  const sides = sidesOf(figures, link.id);
  const count = figures.machine.modes.length;
  const away = new Float64Array(count);
  const back = new Float64Array(count);
  for (const { part, sign } of sides) {
    const figure = figures.parts[part];
    const stretch = figure ? stretchOf(figure) : 1;
    const sum = sign === 1 ? away : back;
    for (let m = 0; m < count; m++) sum[m] = (sum[m] as number) + stretch * (figure?.amps[m] ?? 0);
  }
  let worst = { mode: 0, amps: 0, sign: 0 };
  figures.machine.modes.forEach((mode, m) => {
    if (mode.lastsS !== null && !timed) return;
    for (const [sum, sign] of [
      [away, 1],
      [back, -1],
    ] as const)
      if ((sum[m] as number) > worst.amps) worst = { mode: m, amps: sum[m] as number, sign };
  });
  return { mode: worst.mode, amps: worst.amps, users: sides.filter(({ sign }) => sign === worst.sign).map(({ name }) => name) };
}

/** How much more a part draws at its worst charge than at the planned one, as a factor. */
function stretchOf({ amps, worst }: PartFigures): number {
  let planned = 0;
  for (let m = 0; m < amps.length; m++) planned = Math.max(planned, amps[m] as number);
  return planned > 0 ? Math.max(1, worst.amps / planned) : 1;
}

/** Each link against the current one way alone, and against the largest fuse behind it where a mesh hides it from other rules. */
export function evaluate(figures: Figures): Verdict[] {
  const largestFuse = largestFuses(figures);
  return barLinks(figures).flatMap((link): Verdict[] => {
    const figure = figures.wires[link.id];
    const limit = figure?.limitA;
    if (!figure || limit == null || link.gauge === undefined) return [];
    const base = { rule: id, step: "returns" as const, subject: { kind: "wire" as const, id: link.id }, limit, unit: "A" };
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
        {
          ...base,
          id: `${id}:${link.id}`,
          severity: "fix",
          value: crossing.amps,
          headline: `${capital(wireName(figures, link))}: ${say(crossing.amps, "current", "up")} one way, good for ${say(limit, "current", "down")}`,
          detail: `Currents that cross it both ways cancel to ${say(figure.worstContinuous.amps, "current")} today. With the others off, ${names(crossing.users)} alone send all of theirs through ${gaugeText(link)} in ${figures.modes[crossing.mode]?.name}.`,
          remedies: use(crossing.amps),
        },
      ];
    const fuse = figure.exposure === null ? largestFuse(link) : 0;
    if (fuse > limit)
      return [
        {
          ...base,
          id: `${id}:fuse:${link.id}`,
          severity: "fix",
          value: fuse,
          headline: `${capital(wireName(figures, link))}: ${gaugeText(link)} behind a ${fuse} A fuse`,
          detail: `A fault behind that fuse comes home through this link, up to ${fuse} A for as long as the fuse lets it. There is no fuse in a minus, so the link must bear it.`,
          remedies: use(fuse),
        },
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
const largestFuses = steady((figures): ((link: Wire) => number) => {
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
