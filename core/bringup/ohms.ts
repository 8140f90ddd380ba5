import type { Circuit } from "../network/circuit";
import { SymmetricSolver } from "../network/ldl";
import { minimumDegree } from "../network/ordering";
import { find, separate, union } from "../network/sets";

/** A resistance between two nodes. */
export interface Link {
  readonly a: number;
  readonly b: number;
  readonly ohm: number;
}

/**
 * What an ohmmeter reads between nodes of bare metal: nothing that draws, nothing that gives. Each piece of metal is one
 * matrix, factored once.
 */
export class Metal {
  private readonly piece: Int32Array;
  private readonly solvers = new Map<number, { solver: SymmetricSolver; unknown: Map<number, number> } | null>();

  constructor(
    private readonly nodeCount: number,
    private readonly links: readonly Link[],
  ) {
    this.piece = separate(nodeCount);
    for (const { a, b } of links) union(this.piece, a, b);
    for (let node = 0; node < nodeCount; node++) this.piece[node] = find(this.piece, node);
  }

  /** Ω between two nodes; infinite where no metal joins them, 0 for one and the same. */
  between(a: number, b: number): number {
    if (a < 0 || b < 0 || this.piece[a] !== this.piece[b]) return Number.POSITIVE_INFINITY;
    if (a === b) return 0;
    const made = this.solverOf(this.piece[a] as number);
    if (!made) return Number.NaN;
    const { solver, unknown } = made;
    const rhs = new Float64Array(solver.size + 1);
    const x = new Float64Array(solver.size + 1);
    const [p, q] = [unknown.get(a) ?? solver.size, unknown.get(b) ?? solver.size];
    rhs[p] = 1;
    rhs[q] = (rhs[q] as number) - 1;
    rhs[solver.size] = 0;
    solver.solve(rhs, x);
    return (x[p] as number) - (x[q] as number);
  }

  private solverOf(piece: number) {
    const known = this.solvers.get(piece);
    if (known !== undefined) return known;
    const unknown = new Map<number, number>();
    let first = true;
    for (let node = 0; node < this.nodeCount; node++) {
      if (this.piece[node] !== piece) continue;
      if (!first) unknown.set(node, unknown.size);
      first = false;
    }
    const inside = this.links.filter(({ a, b }) => this.piece[a] === piece && a !== b);
    const adjacency = Array.from({ length: unknown.size }, () => new Set<number>());
    for (const { a, b } of inside) {
      const [p, q] = [unknown.get(a), unknown.get(b)];
      if (p === undefined || q === undefined) continue;
      adjacency[p]?.add(q);
      adjacency[q]?.add(p);
    }
    const place = new Int32Array(unknown.size);
    minimumDegree(adjacency).forEach((each, k) => {
      place[each] = k;
    });
    for (const [node, each] of unknown) unknown.set(node, place[each] as number);
    const pairs = inside.flatMap(({ a, b }): [number, number][] => {
      const [p, q] = [unknown.get(a), unknown.get(b)];
      return p === undefined || q === undefined ? [] : [[p, q]];
    });
    const solver = new SymmetricSolver(unknown.size, pairs);
    for (const { a, b, ohm } of inside) {
      const [p, q] = [unknown.get(a), unknown.get(b)];
      for (const each of [p, q]) {
        if (each === undefined) continue;
        const slot = solver.slot(each, each);
        solver.values[slot] = (solver.values[slot] as number) + 1 / ohm;
      }
      if (p === undefined || q === undefined) continue;
      const slot = solver.slot(p, q);
      solver.values[slot] = (solver.values[slot] as number) - 1 / ohm;
    }
    const made = solver.factor() ? { solver, unknown } : null;
    this.solvers.set(piece, made);
    return made;
  }
}

/** What the rest of a machine has between the ends of one of its links, Ω: what an ohmmeter would read there with that link away. */
export function besides(totalOhm: number, ownOhm: number): number {
  const siemens = 1 / totalOhm - 1 / ownOhm;
  return siemens > 1e-9 / ownOhm ? 1 / siemens : Number.POSITIVE_INFINITY;
}

/** A link of a fault, in a network that has one. */
export const FAULT_LINK = "fault";
/** From here on an ohmmeter shows nothing, Ω. */
const OVER_RANGE_OHM = 1e9;

/** The bare metal of a machine: wires but those that are lifted, fuses, contacts; nothing that draws is plugged in. */
export function bareMetal(
  { branches, nodeCount }: Pick<Circuit, "branches" | "nodeCount">,
  contactsOpen: boolean,
  lifted: readonly string[] = [],
): Metal {
  const links = branches.filter(
    ({ kind, id, contact, ohm }) =>
      (kind !== "bridge" || id === FAULT_LINK) &&
      !(contact >= 0 && contactsOpen) &&
      ohm < OVER_RANGE_OHM &&
      !(kind === "wire" && lifted.includes(id)),
  );
  return new Metal(nodeCount, links);
}
