import type { Part } from "../machine/schema";
import { happens, isConsumer } from "../machine/terminals";
import { isOutsideTable } from "../wires/ampacity";
import { perBuild } from "./build";
import type { Figures } from "./figures";

/** Wires and parts that lack what their own rules need, whatever flows. */
export const lackingRows = perBuild((build): { wires: ReadonlySet<string>; parts: ReadonlySet<string> } => {
  const wires = build.machine.wires.filter((wire) => {
    const figure = build.wires[wire.id];
    const unsized = (wire.gauge === undefined && wire.board === undefined) || wire.lengthM === undefined;
    return (
      (!happens(wire) &&
        (unsized || (wire.role !== "signal" && (!figure?.ampacity || isOutsideTable(figure.ampacity, build.machine.settings))))) ||
      figure?.exposure?.unknown === true
    );
  });
  const parts = build.machine.parts.filter((part) => isConsumer(part) && build.parts[part.id]?.wiring !== "ok");
  return { wires: new Set(wires.map(({ id }) => id)), parts: new Set(parts.map(({ id }) => id)) };
});

/** Whether a wire lacks what its own rules need, or its current is a least value. */
export function wireIncomplete(figures: Figures, wireId: string): boolean {
  return lackingRows(figures).wires.has(wireId) || figures.wires[wireId]?.worstAtLeast !== false;
}

/** Whether a part lacks what its own rules need, or its figures are least values. */
export function partIncomplete(figures: Figures, part: Part): boolean {
  const figure = figures.parts[part.id];
  return lackingRows(figures).parts.has(part.id) || figure?.worstAtLeast !== false || (isConsumer(part) && figure.voltsUnsure);
}
