import { type Build, perBuild } from "../figures/build";
import type { BuiltPart, Wire } from "../machine/schema";
import { groundTerminal, isConsumer, isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { nodeAt, type Wired } from "../network/circuit";
import { find, separate, union } from "../network/sets";

/** A step along metal: a branch of the network, walked from its a to its b (1) or the other way (−1). */
export interface MetalStep {
  readonly branch: number;
  readonly sign: 1 | -1;
}

/** A conductor that closes a loop: without it its two ends are still joined by heavier metal. */
export interface Chord {
  readonly branch: number;
  readonly wire: Wire;
  /** The other way round, from the wire's `from` to its `to`. */
  readonly way: readonly MetalStep[];
}

/**
 * The metal of a machine as a forest of its heaviest conductors, with everything that closes a loop named as a chord. Signal
 * grounds and bonds are taken last, so that they are chords wherever anything heavier joins the same places. Contacts count as
 * closed. Potentials along any way through metal add up to the same offset (Kirchhoff), so one way is enough to explain it.
 */
export interface Ground {
  /** Nodes with the same number are one piece of metal; sources do not join. */
  readonly piece: Int32Array;
  readonly chords: readonly Chord[];
  /** Ground node of a part; −1 where it has none. */
  nodeOf(partId: string): number;
  /** From node a to node b through the forest; null where no metal joins them. */
  way(a: number, b: number): readonly MetalStep[] | null;
  /** Along which conductors a part's current comes home to the minus of what feeds it; null without a way. */
  home(part: BuiltPart): readonly MetalStep[] | null;
}

/** Ω between ranks: a conductor of a lower rank is taken only where none of a higher one joins. */
const LAST_RESORT_OHM = 1e9;

/** What makes a conductor a last resort when the forest is grown. */
function rank(wire: Wire | undefined): number {
  return wire?.role === "signal" ? 1 : wire?.role === "bond" ? 2 : 0;
}

/** The ground of a machine, built once however many rules ask: no load has a say in it. */
export const groundOf = perBuild(buildGround);

function buildGround(figures: Build): Ground {
  const { circuit } = figures.solved;
  const { nodeCount, branches, machine } = circuit;
  const wireAt = (branch: number) => (branches[branch]?.kind === "wire" ? machine.wires[branch] : undefined);
  // Heaviest first; the last resorts beyond any resistance a machine has.
  const weight = Float64Array.from(branches, ({ ohm }, i) => rank(wireAt(i)) * LAST_RESORT_OHM + ohm);
  const metal = Int32Array.from(branches.keys())
    .filter((i) => branches[i]?.kind !== "bridge")
    .sort((a, b) => (weight[a] as number) - (weight[b] as number) || a - b);

  const piece = separate(nodeCount);
  const touching: MetalStep[][] = Array.from({ length: nodeCount }, () => []);
  const closing: number[] = [];
  for (const branch of metal) {
    const { a = 0, b = 0 } = branches[branch] ?? {};
    if (find(piece, a) === find(piece, b)) {
      closing.push(branch);
      continue;
    }
    union(piece, a, b);
    touching[a]?.push({ branch, sign: 1 });
    touching[b]?.push({ branch, sign: -1 });
  }
  for (let node = 0; node < nodeCount; node++) piece[node] = find(piece, node);

  const up: (MetalStep | null)[] = new Array(nodeCount).fill(null);
  const parent = new Int32Array(nodeCount).fill(-1);
  const depth = new Int32Array(nodeCount).fill(-1);
  const grow = (root: number) => {
    if ((depth[root] as number) >= 0) return;
    depth[root] = 0;
    const stack = [root];
    for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
      for (const { branch, sign } of touching[node] ?? []) {
        const other = (sign === 1 ? branches[branch]?.b : branches[branch]?.a) as number;
        if ((depth[other] as number) >= 0) continue;
        depth[other] = (depth[node] as number) + 1;
        parent[other] = node;
        up[other] = { branch, sign: sign === 1 ? -1 : 1 };
        stack.push(other);
      }
    }
  };
  for (const emf of circuit.emfs) if (emf.converter < 0) grow(emf.neg);
  for (let node = 0; node < nodeCount; node++) grow(node);

  const way = (a: number, b: number): MetalStep[] | null => {
    if (a < 0 || b < 0 || piece[a] !== piece[b]) return null;
    const out: MetalStep[] = [];
    const back: MetalStep[] = [];
    let [p, q] = [a, b];
    while (p !== q) {
      if ((depth[p] as number) >= (depth[q] as number)) {
        out.push(up[p] as MetalStep);
        p = parent[p] as number;
      } else {
        const { branch, sign } = up[q] as MetalStep;
        back.push({ branch, sign: sign === 1 ? -1 : 1 });
        q = parent[q] as number;
      }
    }
    return [...out, ...back.reverse()];
  };
  const nodeOf = (partId: string): number => {
    const part = figures.partOf.get(partId);
    const terminal = part ? groundTerminal(part) : null;
    return part && terminal ? nodeAt(circuit, part.id, terminal) : -1;
  };
  const chords = closing.flatMap((branch): Chord[] => {
    const wire = wireAt(branch);
    const { a = -1, b = -1 } = branches[branch] ?? {};
    if (!wire) return [];
    let found: readonly MetalStep[] | null = null;
    const chord = {
      branch,
      wire,
      // Most are never asked for.
      get way() {
        found ??= way(a, b) ?? [];
        return found;
      },
    };
    return [chord];
  });
  return { piece, chords, nodeOf, way, home: (part) => homeOf(figures, part, nodeOf, way) };
}

/** The minus node that a part's rail comes home to; −1 where nothing feeds it. */
export function minusOf(circuit: Wired, origin: BuiltPart | undefined): number {
  if (!origin) return -1;
  const terminal = origin.kind === "converter" ? "out-" : origin.kind === "driver" ? "in-" : "-";
  return nodeAt(circuit, origin.id, terminal);
}

function homeOf(figures: Build, part: BuiltPart, nodeOf: Ground["nodeOf"], way: Ground["way"]): readonly MetalStep[] | null {
  if (!isConsumer(part) && part.kind !== "bar") return null;
  const feed = figures.solved.circuit.feeds.get(part.id);
  // A motor's current comes home through its driver.
  const start = feed ? nodeOf(feed.driver.id) : nodeOf(part.id);
  const originId = railOrigin(figures.ledger, feed ? feed.driver.id : part.id);
  const origin = originId === null ? undefined : figures.partOf.get(originId);
  if (part.kind === "bar" && !origin) {
    const source = figures.machine.parts.find((each) => isSource(each) && way(start, nodeOf(each.id)) !== null);
    return source ? way(start, nodeOf(source.id)) : null;
  }
  return way(start, minusOf(figures.solved.circuit, origin));
}

/** The wires among the steps, by index in the machine; fuses and contacts are left out. */
export function wiresOf(figures: Build, steps: readonly MetalStep[]): Wire[] {
  const { branches } = figures.solved.circuit;
  return steps.flatMap(({ branch }) => {
    const wire = branches[branch]?.kind === "wire" ? figures.machine.wires[branch] : undefined;
    return wire ? [wire] : [];
  });
}

/**
 * Everything that decides how far the ends of a way stand apart: its own conductors, and those of every loop it has a part in.
 */
export function deciding(ground: Ground, steps: readonly MetalStep[]): Set<number> {
  const found = new Set(steps.map(({ branch }) => branch));
  for (let grew = true; grew; ) {
    grew = false;
    for (const chord of ground.chords) {
      if (found.has(chord.branch) || !chord.way.some(({ branch }) => found.has(branch))) continue;
      found.add(chord.branch);
      for (const { branch } of chord.way) found.add(branch);
      grew = true;
    }
  }
  return found;
}
