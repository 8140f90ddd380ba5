import type { Circuit } from "./circuit";
import { SymmetricSolver } from "./ldl";
import { minimumDegree } from "./ordering";
import { find, separate, union } from "./sets";

/**
 * Where each element of one kind enters the matrix: unknowns of its ends, and slots of both diagonals and the shared
 * off-diagonal. An end at the reference, and every end of an element that takes no part, is `solver.size` with the spill
 * slot: it reads 0 V and swallows what is written.
 */
export interface Stamps {
  /** 1 where the element takes part in the solved network. */
  readonly on: Uint8Array;
  readonly a: Int32Array;
  readonly b: Int32Array;
  readonly aa: Int32Array;
  readonly bb: Int32Array;
  readonly ab: Int32Array;
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
  readonly branches: Stamps;
  readonly emfs: Stamps;
  /** Off where the load has no complete circuit through one island with a source. */
  readonly loads: Stamps;
  readonly converters: Stamps;
}

/** Switches that are open in a mode, as a key. */
export function openKey(circuit: Pick<Circuit, "switches">, modeId: string): string {
  return circuit.switches.map((part) => (part.openIn.includes(modeId) ? "o" : "c")).join("");
}

/** The topology of a circuit with the contacts of `key` open. */
export function buildTopology(circuit: Circuit, key: string): Topology {
  const { nodeCount, branches, emfs, loads, converters } = circuit;
  const parents = separate(nodeCount);
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

  const live = (a: number, b: number) => unknownOf[a] !== -2 && island[a] === island[b] && a !== b;
  const ends = {
    branches: branches.map(({ a, b }, i) => ({ a, b, on: closed[i] === true && live(a, b), inMatrix: true })),
    emfs: emfs.map(({ pos, neg, converter }) => ({ a: pos, b: neg, on: isActive(converter) && live(pos, neg), inMatrix: true })),
    loads: loads.map(({ pos, neg, inMatrix }) => ({ a: pos, b: neg, on: live(pos, neg), inMatrix })),
    converters: converters.map(({ inPos, inNeg }, c) => ({ a: inPos, b: inNeg, on: active[c] === 1, inMatrix: true })),
  };
  const adjacency = Array.from({ length: size }, () => new Set<number>());
  const pairs: [number, number][] = [];
  for (const { a, b, on, inMatrix } of Object.values(ends).flat()) {
    const ua = unknownOf[a] as number;
    const ub = unknownOf[b] as number;
    if (!on || !inMatrix || ua < 0 || ub < 0) continue;
    adjacency[ua]?.add(ub);
    adjacency[ub]?.add(ua);
    pairs.push([ua, ub]);
  }
  const position = new Int32Array(size);
  minimumDegree(adjacency).forEach((unknown, k) => {
    position[unknown] = k;
  });
  for (let node = 0; node < nodeCount; node++) {
    const unknown = unknownOf[node] as number;
    if (unknown >= 0) unknownOf[node] = position[unknown] as number;
  }
  const solver = new SymmetricSolver(
    size,
    pairs.map(([a, b]) => [position[a] as number, position[b] as number]),
  );
  return {
    solver,
    unknownOf,
    island,
    branches: stampsOf(solver, unknownOf, ends.branches),
    emfs: stampsOf(solver, unknownOf, ends.emfs),
    loads: stampsOf(solver, unknownOf, ends.loads),
    converters: stampsOf(solver, unknownOf, ends.converters),
  };
}

interface Ends {
  a: number;
  b: number;
  on: boolean;
  /** A constant current only enters the right-hand side. */
  inMatrix: boolean;
}

function stampsOf(solver: SymmetricSolver, unknownOf: Int32Array, elements: readonly Ends[]): Stamps {
  const { size, spill } = solver;
  const index = (node: number, on: boolean) => (on && (unknownOf[node] as number) >= 0 ? (unknownOf[node] as number) : size);
  const a = Int32Array.from(elements, (each) => index(each.a, each.on));
  const b = Int32Array.from(elements, (each) => index(each.b, each.on));
  return {
    on: Uint8Array.from(elements, (each) => (each.on ? 1 : 0)),
    a,
    b,
    aa: a.map((ua) => solver.slot(ua, ua)),
    bb: b.map((ub) => solver.slot(ub, ub)),
    ab: a.map((ua, i) => (elements[i]?.inMatrix ? solver.slot(ua, b[i] as number) : spill)),
  };
}

/** Everything a topology depends on, as numbers, to tell whether the last one still fits. */
function skeletonSignature(circuit: Circuit): Int32Array {
  const numbers: number[] = [circuit.nodeCount, circuit.branches.length, circuit.emfs.length];
  for (const { a, b, contact } of circuit.branches) numbers.push(a, b, contact);
  for (const { pos, neg, converter } of circuit.emfs) numbers.push(pos, neg, converter);
  for (const { inPos, inNeg } of circuit.converters) numbers.push(inPos, inNeg);
  return Int32Array.from(numbers);
}

function loadsSignature({ loads }: Circuit): Int32Array {
  const numbers = new Int32Array(loads.length * 3);
  loads.forEach(({ pos, neg, inMatrix }, i) => {
    numbers[3 * i] = pos;
    numbers[3 * i + 1] = neg;
    numbers[3 * i + 2] = inMatrix ? 1 : 0;
  });
  return numbers;
}

function same(a: Int32Array, b: Int32Array): boolean {
  return a.length === b.length && a.every((value, i) => value === b[i]);
}

/** Keeps topologies between edits: while the builder only changes figures, no ordering is computed again. */
export class TopologyCache {
  /** The circuit adopted last: after an edit of a cell its lists are the very same, but for the loads. */
  private last: Circuit | null = null;
  private skeleton: Int32Array = new Int32Array(0);
  private loads: Int32Array = new Int32Array(0);
  private readonly byKey = new Map<string, Topology>();

  /** Call once an analysis: forgets what no longer fits the circuit. */
  adopt(circuit: Circuit): void {
    const { last } = this;
    const kept = circuit.branches === last?.branches && circuit.emfs === last.emfs && circuit.converters === last.converters;
    const skeleton = kept ? this.skeleton : skeletonSignature(circuit);
    const loads = loadsSignature(circuit);
    if (!same(skeleton, this.skeleton) || !same(loads, this.loads)) this.byKey.clear();
    this.last = circuit;
    this.skeleton = skeleton;
    this.loads = loads;
  }

  get(circuit: Circuit, key: string): Topology {
    const found = this.byKey.get(key);
    if (found) return found;
    const made = buildTopology(circuit, key);
    this.byKey.set(key, made);
    return made;
  }
}
