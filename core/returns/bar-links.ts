import { perBuild, perBuildOf } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { PartFigures } from "../figures/types";
import { goesOn } from "../machine/lasting";
import type { Wire } from "../machine/schema";
import { isReturnBar, isSource } from "../machine/terminals";
import { groundOf } from "./ground";
import { homesOf } from "./shared";

/** What crosses a link one way and the other, A, and who brings it. */
export interface Crossing {
  mode: number;
  amps: number;
  users: string[];
}

/** Links between bars, and from bars to sources. */
export const barLinks = perBuild((figures): readonly Wire[] => {
  const place = (partId: string) => {
    const part = figures.partOf.get(partId);
    return isReturnBar(part) || (part !== undefined && isSource(part));
  };
  return figures.machine.wires.filter((wire) => wire.role === "return" && place(wire.from.part) && place(wire.to.part));
});

/** Who comes home through a link, and which way. */
export const sidesOf = perBuildOf((build, linkId): readonly { part: string; name: string; sign: number }[] => {
  const ground = groundOf(build);
  const branch = build.machine.wires.findIndex(({ id: wire }) => wire === linkId);
  return (homesOf(build).through.get(linkId) ?? []).flatMap((part) => {
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
    if (!goesOn(mode) && !timed) return;
    for (const [sum, sign] of [
      [away, 1],
      [back, -1],
    ] as const)
      if ((sum[m] as number) > worst.amps) worst = { mode: m, amps: sum[m] as number, sign };
  });
  return { mode: worst.mode, amps: worst.amps, users: sides.filter(({ sign }) => sign === worst.sign).map(({ name }) => name) };
}

/** How much more a part draws at its worst charge than at the planned one, as a factor. */
export function stretchOf({ amps, worst }: PartFigures): number {
  let planned = 0;
  for (let m = 0; m < amps.length; m++) planned = Math.max(planned, amps[m] as number);
  return planned > 0 ? Math.max(1, worst.amps / planned) : 1;
}
