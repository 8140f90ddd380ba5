import { find, separate, union } from "../network/sets";

/** A way for current with a limit: a fuse between two pieces of metal, or a source's own limit into one (`from` −1). */
export interface Way {
  readonly from: number;
  readonly to: number;
  readonly limitA: number;
  /** Branch of the fuse, or −1 − index of the source. */
  readonly id: number;
}

/** What can flow continuously into a piece of metal, and the ways that bound it together. */
export interface Inflow {
  readonly amps: number;
  readonly cut: readonly Way[];
}

/** Stands for what has no limit, A: more than any machine's fuses together. */
const UNLIMITED_A = 1e9;

/** Pieces of metal that no fuse divides, by node. `divides`: whether a branch, by index, has a fuse in it. */
export function piecesOf(
  nodeCount: number,
  branches: readonly { a: number; b: number }[],
  divides: (branch: number) => boolean,
): (node: number) => number {
  const parents = separate(nodeCount);
  for (const [i, { a, b }] of branches.entries()) if (!divides(i)) union(parents, a, b);
  return (node) => find(parents, node);
}

/**
 * The most that several ways together let through into a piece of metal: parallel fuses and sources add, and no more flows
 * than the narrowest cut before it lets through (largest flow, Ford and Fulkerson 1956, augmented along shortest ways).
 * @param without the id of a way that is left out
 */
export function inflow(ways: readonly Way[], target: number, without?: number): Inflow {
  const source = -1;
  const arcs: { to: number; room: number; back: number; way: Way | null }[] = [];
  const out = new Map<number, number[]>();
  const add = (from: number, to: number, room: number, reverse: number, way: Way) => {
    out.set(from, [...(out.get(from) ?? []), arcs.length]);
    arcs.push({ to, room, back: arcs.length + 1, way });
    out.set(to, [...(out.get(to) ?? []), arcs.length]);
    arcs.push({ to: from, room: reverse, back: arcs.length - 1, way: null });
  };
  for (const way of ways) {
    if (way.id === without || way.from === way.to) continue;
    const room = Math.min(way.limitA, UNLIMITED_A);
    // A fuse lets current through either way, a source gives only.
    add(way.from, way.to, room, way.from === source ? 0 : room, way);
  }
  let amps = 0;
  for (;;) {
    const before = reachable(arcs, out, source);
    let arc = before.get(target);
    if (arc === undefined) return { amps, cut: cutOf(ways, before, source, without) };
    let room = UNLIMITED_A;
    for (let at = arc; ; ) {
      const { room: own, back } = arcs[at] as (typeof arcs)[number];
      room = Math.min(room, own);
      const from = (arcs[back] as (typeof arcs)[number]).to;
      if (from === source) break;
      at = before.get(from) as number;
    }
    for (let at = arc; ; ) {
      const forward = arcs[at] as (typeof arcs)[number];
      forward.room -= room;
      (arcs[forward.back] as (typeof arcs)[number]).room += room;
      const from = (arcs[forward.back] as (typeof arcs)[number]).to;
      if (from === source) break;
      at = before.get(from) as number;
    }
    amps += room;
    arc = undefined;
    if (amps >= UNLIMITED_A) return { amps: Number.POSITIVE_INFINITY, cut: [] };
  }
}

/** By node reached with room left, the arc it was reached by; fewest arcs first. */
function reachable(
  arcs: readonly { to: number; room: number }[],
  out: ReadonlyMap<number, readonly number[]>,
  source: number,
): ReadonlyMap<number, number> {
  const by = new Map<number, number>();
  const queue = [source];
  for (const at of queue) {
    for (const arc of out.get(at) ?? []) {
      const { to, room } = arcs[arc] as { to: number; room: number };
      if (room <= 1e-9 || to === source || by.has(to)) continue;
      by.set(to, arc);
      queue.push(to);
    }
  }
  return by;
}

function cutOf(ways: readonly Way[], reached: ReadonlyMap<number, number>, source: number, without: number | undefined): Way[] {
  const inside = (node: number) => node === source || reached.has(node);
  return ways.filter(({ id, from, to }) => id !== without && inside(from) !== inside(to) && (from !== source || !inside(to)));
}
