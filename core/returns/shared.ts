import { branchOf, perBuild } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { BuiltPart, Load, Wire } from "../machine/schema";
import { isConsumer } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { ELECTRONICS, type LoadKind, MOVERS } from "../reference/load-kinds";
import { groundOf, wiresOf } from "./ground";

/** Loads that read or send signals: their ground is what logic levels and readings are measured from. */
const LISTENERS: ReadonlySet<LoadKind> = new Set<LoadKind>([...ELECTRONICS, "sound"]);

/** Whether a part reads or sends signals. */
export function listens(part: BuiltPart | undefined): part is Load {
  return part?.kind === "load" && LISTENERS.has(part.loadKind);
}

/** A part whose return carries motor current: a driver, or a motor on a rail of its own. */
export function moves(part: BuiltPart | undefined): boolean {
  return part?.kind === "driver" || (part?.kind === "load" && MOVERS.has(part.loadKind));
}

/** Everything with a return of its own: consumers, without the motors that come home through their driver. */
export const returning = perBuild((build): readonly BuiltPart[] =>
  build.machine.parts.filter((part) => isConsumer(part) && !build.solved.circuit.feeds.has(part.id)),
);

/** Who comes home through which conductor. */
export interface Homes {
  /** Conductors on the way home of a part, in order, by part id; parts without a way are left out. */
  readonly of: ReadonlyMap<string, readonly Wire[]>;
  /** Parts that come home through a conductor, by wire id. */
  readonly through: ReadonlyMap<string, readonly BuiltPart[]>;
}

/** Who comes home through which conductor, for the whole machine. */
export const homesOf = perBuild((build): Homes => {
  const ground = groundOf(build);
  const of = new Map<string, readonly Wire[]>();
  const through = new Map<string, BuiltPart[]>();
  for (const part of returning(build)) {
    const steps = ground.home(part);
    if (!steps) continue;
    const wires = wiresOf(build, steps);
    of.set(part.id, wires);
    for (const wire of wires) {
      const list = through.get(wire.id);
      if (list) list.push(part);
      else through.set(wire.id, [part]);
    }
  }
  return { of, through };
});

/** How many items there are by key. */
function countBy<T, K>(items: readonly T[], keyOf: (item: T) => K): Map<K, number> {
  const counts = new Map<K, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}

/** Metal that a board's ground and motor currents have in common, whatever runs in it. */
interface Shared {
  board: Load;
  wires: readonly Wire[];
  /** Parts whose motor current it carries. */
  movers: readonly BuiltPart[];
}

/** The same with what it does to the board. */
export interface SharedMetal extends Shared {
  /** How far they lift the board's ground, V, by mode: all current in that metal but the board's own, at whichever charge is worse. */
  liftV: Float64Array;
  /** Its worst mode. */
  mode: number;
}

const sharing = perBuild((build): readonly Shared[] => {
  const { machine, ledger } = build;
  const homes = homesOf(build);
  const ground = groundOf(build);
  const found: Shared[] = [];
  const originOf = new Map(returning(build).map((part) => [part.id, railOrigin(ledger, part.id)]));
  const onRail = countBy(returning(build), ({ id }) => originOf.get(id) ?? null);
  const moving = new Map([...homes.through].map(([wire, parts]) => [wire, parts.filter(moves)]));
  const byRail = new Map([...homes.through].map(([wire, parts]) => [wire, countBy(parts, ({ id }) => originOf.get(id) ?? null)]));
  const all = (wire: Wire, origin: string | null) => byRail.get(wire.id)?.get(origin) === onRail.get(origin);
  for (const board of machine.parts) {
    if (!listens(board)) continue;
    const home = homes.of.get(board.id);
    if (!home) continue;
    const origin = railOrigin(ledger, board.id);
    const talks = (machine.signals ?? []).flatMap(({ from, to }) => (from === board.id ? [to] : to === board.id ? [from] : []));
    const apart = new Set(
      talks.flatMap((peer) => wiresOf(build, ground.way(ground.nodeOf(board.id), ground.nodeOf(peer)) ?? [])).map(({ id }) => id),
    );
    const wires = home.filter((wire) => {
      if ((moving.get(wire.id)?.length ?? 0) === 0) return false;
      return talks.length > 0 ? apart.has(wire.id) : !all(wire, origin);
    });
    if (wires.length === 0) continue;
    found.push({ board, wires, movers: [...new Set(wires.flatMap((wire) => moving.get(wire.id) ?? []))] });
  }
  return found;
});

/**
 * Boards, sensors and sound whose return shares conductors with motors, where that moves them against what they talk to (or,
 * without links, against the minus of their own supply). Metal that everything on the rail comes home through lifts all of it
 * alike and does not count.
 */
export function sharedMetal(figures: Figures): SharedMetal[] {
  const { machine, solved } = figures;
  const index = branchOf(figures);
  return sharing(figures).map((shared) => {
    const own = figures.parts[shared.board.id];
    const liftV = new Float64Array(machine.modes.length);
    for (const wire of shared.wires) {
      const branch = index.get(wire.id) as number;
      const ohm = solved.circuit.branches[branch]?.ohm ?? 0;
      for (let m = 0; m < liftV.length; m++) {
        const amps = Math.max(Math.abs(solved.planned[m]?.branchA[branch] ?? 0), Math.abs(solved.low[m]?.branchA[branch] ?? 0));
        liftV[m] = (liftV[m] as number) + Math.max(0, amps - (own?.amps[m] ?? 0)) * ohm;
      }
    }
    let mode = 0;
    for (let m = 1; m < liftV.length; m++) if ((liftV[m] as number) > (liftV[mode] as number)) mode = m;
    return { ...shared, liftV, mode };
  });
}
