import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { BuiltPart } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { nodeAt } from "../network/circuit";
import { minusPlace } from "./arrange";
import { groundOf } from "./ground";
import { isUnsure, type LinkFigures, linksOf } from "./links";
import { signalGrounds } from "./loops";
import { homesOf, returning, sharedMetal } from "./shared";

/** How far a part's ground stands above the reference of its piece of metal. */
export interface GroundOffset {
  /** By mode, V. */
  volts: Float64Array;
  /** The part whose minus is the reference. */
  reference: string;
  worst: { volts: number; mode: number; low: boolean };
  /** A return on the way lacks its size or length, or an unknown load would move it. */
  unsure: boolean;
}

/** What the return side comes to, for the screens. Parts and wires by id; arrays run over modes. */
export interface ReturnsFigures {
  offsets: Record<string, GroundOffset>;
  links: readonly LinkFigures[];
  grounds: { wire: string; looped: boolean; limitA: number | null; unsure: boolean }[];
  shared: { board: string; wires: string[]; movers: string[]; liftV: Float64Array; mode: number }[];
  /** Parts that come home through each return conductor. */
  through: Record<string, string[]>;
}

/** Reads it off solved figures. */
export function returnsOf(figures: Figures): ReturnsFigures {
  return {
    offsets: offsetsOf(figures),
    links: linksOf(figures),
    grounds: signalGrounds(figures).map(({ wire, chord, limitA, unsure }) => ({ wire: wire.id, looped: chord !== null, limitA, unsure })),
    shared: sharedMetal(figures).map(({ board, wires, movers, liftV, mode }) => ({
      board: board.id,
      wires: wires.map(({ id }) => id),
      movers: movers.map(({ id }) => id),
      liftV,
      mode,
    })),
    through: Object.fromEntries([...homesOf(figures).through].map(([wire, parts]) => [wire, parts.map(({ id }) => id)])),
  };
}

/** The reference of each piece of metal: the bar that comes home straight to its first source, else that source's minus. */
function references(figures: Build): ReadonlyMap<number, { node: number; part: string }> {
  const { machine, partOf, solved } = figures;
  const { piece } = groundOf(figures);
  const found = new Map<number, { node: number; part: string }>();
  const take = (part: BuiltPart, terminal: string) => {
    const node = nodeAt(solved.circuit, part.id, terminal);
    const metal = piece[node];
    if (metal !== undefined && !found.has(metal)) found.set(metal, { node, part: part.id });
  };
  for (const source of machine.parts) {
    if (!isSource(source)) continue;
    const place = minusPlace(machine, partOf, source);
    const at = partOf.get(place.part);
    if (at) take(at, place.terminal);
    take(source, "-");
  }
  for (const part of machine.parts) if (part.kind === "converter") take(part, "out-");
  return found;
}

function offsetsOf(figures: Figures): Record<string, GroundOffset> {
  const { solved } = figures;
  const ground = groundOf(figures);
  const refs = references(figures);
  const found: Record<string, GroundOffset> = {};
  for (const part of returning(figures)) {
    const node = ground.nodeOf(part.id);
    const reference = node < 0 ? undefined : refs.get(ground.piece[node] as number);
    if (!reference) continue;
    const volts = new Float64Array(solved.planned.length);
    let worst: GroundOffset["worst"] = { volts: 0, mode: 0, low: false };
    for (const low of [false, true]) {
      const points = low ? solved.low : solved.planned;
      if (low && points === solved.planned) break;
      points.forEach((point, mode) => {
        if (point.status !== "solved") return;
        const above = (point.nodeV[node] as number) - (point.nodeV[reference.node] as number);
        if (!low) volts[mode] = above;
        if (Math.abs(above) > Math.abs(worst.volts)) worst = { volts: above, mode, low };
      });
    }
    const way = ground.way(node, reference.node) ?? [];
    found[part.id] = { volts, reference: reference.part, worst, unsure: isUnsure(figures, way, node, reference.node) };
  }
  return found;
}
