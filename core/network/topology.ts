import type { Circuit } from "./circuit";
import { SymmetricSolver } from "./ldl";

/** Slots in the matrix of a two-terminal element: both diagonals and the shared off-diagonal; −1 where a side is fixed. */
export interface Stamp {
  readonly a: number;
  readonly b: number;
  readonly aa: number;
  readonly bb: number;
  readonly ab: number;
}

/**
 * What is connected to what for one set of open switches: islands, references, which elements take part, and the solver
 * with its ordering. Independent of all figures, so it is made once and reused while only figures change.
 */
export interface Topology {
  readonly solver: SymmetricSolver;
  /** Unknown index of each node; −1 for a reference, −2 for a node without any source (dead). */
  readonly unknownOf: Int32Array;
  /** Island of each node: nodes with the same number are joined by metal or by a source. */
  readonly island: Int32Array;
  readonly branches: readonly (Stamp | null)[];
  readonly emfs: readonly (Stamp | null)[];
  /** Null where the load has no complete circuit through one island with a source. */
  readonly loads: readonly (Stamp | null)[];
  readonly converters: readonly (Stamp | null)[];
}

function find(parents: Int32Array, node: number): number {
  let root = node;
  while (parents[root] !== root) root = parents[root] as number;
  let walk = node;
  while (parents[walk] !== root) {
    const next = parents[walk] as number;
    parents[walk] = root;
    walk = next;
  }
  return root;
}

function union(parents: Int32Array, a: number, b: number): void {
  parents[find(parents, a)] = find(parents, b);
}

/** Switches that are open in a mode, as a key. */
export function openKey(circuit: Circuit, modeId: string): string {
  return circuit.switches.map((part) => (part.openIn.includes(modeId) ? "o" : "c")).join("");
}

export function buildTopology(circuit: Circuit, key: string): Topology {
  const { nodeCount, branches, emfs, loads, converters } = circuit;
  const parents = Int32Array.from({ length: nodeCount }, (_, i) => i);
  const closed = branches.map((branch) => branch.contact < 0 || key[branch.contact] === "c");
  branches.forEach((branch, i) => {
    if (closed[i]) union(parents, branch.a, branch.b);
  });
  for (const emf of emfs) if (emf.converter < 0) union(parents, emf.pos, emf.neg);

  // A converter runs once its own input closes a circuit through something that runs already.
  const hasSource = (node: number) => emfs.some((emf) => isActive(emf.converter) && find(parents, emf.pos) === find(parents, node));
  const active = new Uint8Array(converters.length);
  const isActive = (converter: number) => converter < 0 || active[converter] === 1;
  for (let changed = true; changed; ) {
    changed = false;
    converters.forEach((converter, c) => {
      const emf = emfs[converter.emf];
      if (active[c] || !emf || find(parents, converter.inPos) !== find(parents, converter.inNeg)) return;
      if (converter.inPos === converter.inNeg || !hasSource(converter.inPos)) return;
      active[c] = 1;
      union(parents, emf.pos, emf.neg);
      changed = true;
    });
  }

  const island = Int32Array.from({ length: nodeCount }, (_, node) => find(parents, node));
  const unknownOf = new Int32Array(nodeCount).fill(-2);
  const reference = new Map<number, number>();
  for (const emf of emfs) {
    const root = island[emf.neg] as number;
    if (isActive(emf.converter) && !reference.has(root)) reference.set(root, emf.neg);
  }
  let size = 0;
  for (let node = 0; node < nodeCount; node++) {
    const ref = reference.get(island[node] as number);
    if (ref !== undefined) unknownOf[node] = node === ref ? -1 : size++;
  }

  const pairs: [number, number][] = [];
  const live = (a: number, b: number) => unknownOf[a] !== -2 && island[a] === island[b] && a !== b;
  const want = (a: number, b: number) => {
    const ua = unknownOf[a] as number;
    const ub = unknownOf[b] as number;
    if (ua >= 0 && ub >= 0) pairs.push([ua, ub]);
  };
  branches.forEach((branch, i) => {
    if (closed[i] && live(branch.a, branch.b)) want(branch.a, branch.b);
  });
  for (const emf of emfs) if (isActive(emf.converter) && live(emf.pos, emf.neg)) want(emf.pos, emf.neg);
  for (const load of loads) if (live(load.pos, load.neg) && load.behaviour !== "current") want(load.pos, load.neg);
  converters.forEach((converter, c) => {
    if (active[c]) want(converter.inPos, converter.inNeg);
  });
  const solver = new SymmetricSolver(size, pairs);

  const stamp = (a: number, b: number, inMatrix = true): Stamp => {
    const ua = unknownOf[a] as number;
    const ub = unknownOf[b] as number;
    return {
      a: ua,
      b: ub,
      aa: ua >= 0 ? solver.slot(ua, ua) : -1,
      bb: ub >= 0 ? solver.slot(ub, ub) : -1,
      ab: inMatrix && ua >= 0 && ub >= 0 ? solver.slot(ua, ub) : -1,
    };
  };
  return {
    solver,
    unknownOf,
    island,
    branches: branches.map((branch, i) => (closed[i] && live(branch.a, branch.b) ? stamp(branch.a, branch.b) : null)),
    emfs: emfs.map((emf) => (isActive(emf.converter) && live(emf.pos, emf.neg) ? stamp(emf.pos, emf.neg) : null)),
    loads: loads.map((load) => (live(load.pos, load.neg) ? stamp(load.pos, load.neg, load.behaviour !== "current") : null)),
    converters: converters.map((converter, c) => (active[c] ? stamp(converter.inPos, converter.inNeg) : null)),
  };
}

/** Everything a topology depends on, as numbers, to tell whether the last one still fits. */
function signature(circuit: Circuit): Int32Array {
  const numbers: number[] = [circuit.nodeCount, circuit.branches.length, circuit.emfs.length, circuit.loads.length];
  for (const { a, b, contact } of circuit.branches) numbers.push(a, b, contact);
  for (const { pos, neg, converter } of circuit.emfs) numbers.push(pos, neg, converter);
  for (const { inPos, inNeg } of circuit.converters) numbers.push(inPos, inNeg);
  for (const { pos, neg, behaviour } of circuit.loads) numbers.push(pos, neg, behaviour === "current" ? 0 : 1);
  return Int32Array.from(numbers);
}

/** Keeps topologies between edits: while the builder only changes figures, no ordering is computed again. */
export class TopologyCache {
  private known: Int32Array = new Int32Array(0);
  private readonly byKey = new Map<string, Topology>();

  /** Call once an analysis: forgets what no longer fits the circuit. */
  adopt(circuit: Circuit): void {
    const now = signature(circuit);
    if (now.length !== this.known.length || now.some((value, i) => value !== this.known[i])) this.byKey.clear();
    this.known = now;
  }

  get(circuit: Circuit, key: string): Topology {
    const found = this.byKey.get(key);
    if (found) return found;
    const made = buildTopology(circuit, key);
    this.byKey.set(key, made);
    return made;
  }
}
