import type { Figure } from "../machine/figure";
import type { Part } from "../machine/schema";
import { type Circuit, wireOhm } from "../network/circuit";
import { across, addConductance, addDraw } from "../network/stamp";
import { HOLDS, LEAST, nextStand, ROUNDS_A_SOURCE, type Standing } from "../network/stands";
import type { Topology } from "../network/topology";

/** The strongest a fault can be (full, new, cold) or the weakest (low, aged, hot): breaking capacity asks one, opening time the other. */
export type Strength = "most" | "least";

/** A source as a fault meets it: volts behind ohms, and the most it gives before its own limit holds it. */
interface FaultSource {
  volts: number;
  ohm: number;
  limitA: number;
  /** Neither its limit nor its rating is known, or its resistance is not. */
  unknown: boolean;
}

/** Where a supply or converter limits when only its rating is known, times that rating (handbook protection section 4). */
const LIMIT_MOST = 1.5;
const LIMIT_LEAST = 1.05;
/** How far a pack's resistance that nobody measured may be off (handbook's rows of cell resistance, from memory). */
const UNMEASURED = 0.4;

function spread(figure: Figure): number {
  if (figure.tolerance !== undefined) return Math.min(0.9, figure.tolerance);
  return figure.provenance === "measured" || figure.provenance === "datasheet" ? 0 : UNMEASURED;
}

function sourceOf(circuit: Circuit, part: Part | undefined, index: number, strength: Strength): FaultSource {
  const emf = circuit.emfs[index];
  const most = strength === "most";
  const volts = (most ? emf?.volts : emf?.lowVolts) ?? 0;
  const ohm = (most ? emf?.ohm : emf?.lowOhm) ?? 1;
  if (part?.kind === "pack") {
    const known = part.internalOhm;
    if (!known) return { volts: part.fullV?.value ?? volts, ohm, limitA: Number.POSITIVE_INFINITY, unknown: true };
    const off = spread(known);
    return most
      ? { volts: part.fullV?.value ?? volts, ohm: known.value * (1 - off), limitA: Number.POSITIVE_INFINITY, unknown: false }
      : { volts, ohm: ohm * (1 + off), limitA: Number.POSITIVE_INFINITY, unknown: false };
  }
  const rated = part?.kind === "supply" || part?.kind === "converter" ? part.ratedA?.value : undefined;
  const limit = part?.kind === "supply" || part?.kind === "converter" ? part.limitA?.value : boardLimit(part);
  const assumed = rated === undefined ? undefined : rated * (most ? LIMIT_MOST : LIMIT_LEAST);
  return { volts, ohm, limitA: limit ?? assumed ?? Number.POSITIVE_INFINITY, unknown: limit === undefined && assumed === undefined };
}

function boardLimit(part: Part | undefined): number | undefined {
  return part?.kind === "driver" || part?.kind === "load" ? part.onboard?.outputA?.value : undefined;
}

/** Currents of one short: through every branch and out of every source, A, and in the short itself. */
export interface FaultFlow {
  faultA: number;
  branchA: Float64Array;
  emfA: Float64Array;
  /** What each would give at the volts its terminals have, A. */
  couldA: Float64Array;
  /** Sources that their own limit holds. */
  held: readonly number[];
}

/** Something whose current is forced: a source at its limit, a branch that has opened, the short. */
interface Forced {
  kind: "emf" | "branch" | "fault";
  index: number;
  amps: number;
}

/** Currents on top of the state without load, with the voltages one amp of each brings. */
interface Drawn {
  readonly amps: readonly number[];
  readonly responses: readonly Float64Array[];
  readonly held: ReadonlyMap<number, number>;
}

/**
 * The metal and the sources of a machine in one state of its switches, for shorts between any two nodes. Loads are left out:
 * beside a short they draw next to nothing. The matrix is factored once; a short costs one solve, a fuse that opened or a
 * source at its limit another (superposition).
 */
export class FaultNetwork {
  readonly sources: readonly FaultSource[];
  /** By branch, Ω. */
  readonly ohms: Float64Array;
  /** Conductance of the branches that take part, S; 0 for the rest. */
  private readonly siemens: Float64Array;
  private readonly noLoad: Float64Array;
  private readonly responses = new Map<number, Float64Array>();
  readonly works: boolean;

  constructor(
    readonly circuit: Circuit,
    readonly topology: Topology,
    strength: Strength,
  ) {
    const { solver, branches, emfs } = topology;
    const parts = new Map(circuit.machine.parts.map((part) => [part.id, part]));
    this.sources = circuit.emfs.map((emf, i) => sourceOf(circuit, parts.get(emf.id), i, strength));
    this.ohms = Float64Array.from(circuit.branches, (branch, i) => {
      const wire = branch.kind === "wire" ? circuit.machine.wires[i] : undefined;
      if (!wire || strength === "least") return branch.ohm;
      // What else sits in the branch, such as a choke, stays.
      return branch.ohm - wireOhm(circuit.machine, wire) + wireOhm(circuit.machine, wire, true);
    });
    this.siemens = this.ohms.map((ohm, i) => (branches.on[i] ? 1 / ohm : 0));
    solver.values.fill(0);
    for (let i = 0; i < circuit.branches.length; i++) addConductance(solver.values, branches, i, 1 / (this.ohms[i] as number));
    const rhs = new Float64Array(solver.size + 1);
    this.sources.forEach(({ volts, ohm }, i) => {
      addConductance(solver.values, emfs, i, 1 / ohm);
      addDraw(rhs, emfs, i, -volts / ohm);
    });
    this.works = solver.factor();
    this.noLoad = new Float64Array(solver.size + 1);
    rhs[solver.size] = 0;
    if (this.works) solver.solve(rhs, this.noLoad);
  }

  /** Index of a node in a solution; the last entry is the reference, null a node without voltage. */
  private at(node: number): number | null {
    const unknown = this.topology.unknownOf[node] as number;
    return unknown === -2 ? null : unknown < 0 ? this.topology.solver.size : unknown;
  }

  /** Whether a short between two nodes closes a circuit with a source in it. */
  live(p: number, q: number): boolean {
    return this.works && p !== q && this.at(p) !== null && this.at(q) !== null && this.topology.island[p] === this.topology.island[q];
  }

  /** Volts between two nodes with nothing drawn; 0 where there is no voltage. */
  openV(p: number, q: number): number {
    const [a, b] = [this.at(p), this.at(q)];
    return a === null || b === null ? 0 : Math.abs((this.noLoad[a] as number) - (this.noLoad[b] as number));
  }

  /** Voltages that one amp drawn at a and given back at b brings; kept, since a short is followed through several steps. */
  private response(a: number, b: number): Float64Array {
    const { solver } = this.topology;
    const key = a * (solver.size + 1) + b;
    const found = this.responses.get(key);
    if (found) return found;
    const made = this.solved(a, b);
    this.responses.set(key, made);
    return made;
  }

  private solved(a: number, b: number): Float64Array {
    const { solver } = this.topology;
    const rhs = new Float64Array(solver.size + 1);
    rhs[a] = (rhs[a] as number) - 1;
    rhs[b] = (rhs[b] as number) + 1;
    rhs[solver.size] = 0;
    const x = new Float64Array(solver.size + 1);
    solver.solve(rhs, x);
    return x;
  }

  private responseOf(forced: Forced): Float64Array {
    const stamps = forced.kind === "emf" ? this.topology.emfs : this.topology.branches;
    return this.response(stamps.a[forced.index] as number, stamps.b[forced.index] as number);
  }

  /**
   * A short of `ohm` between two nodes with the given branches open. Null where it is not in a live circuit.
   * Sources give what they can, at most their limit, and take nothing where they may not.
   */
  short(p: number, q: number, ohm: number, opened: readonly number[] = []): FaultFlow | null {
    const [a, b] = [this.at(p), this.at(q)];
    if (a === null || b === null || !this.live(p, q)) return null;
    const own = this.response(a, b);
    const opens = opened.map((index): Forced => ({ kind: "branch", index, amps: 0 }));
    const stands = new Uint8Array(this.sources.length);
    let drawn = this.drawn(a, b, ohm, own, opens, this.heldBy(stands));
    for (let round = 0; round < ROUNDS_A_SOURCE * stands.length && drawn; round++) {
      // While sources find their stand only what each could give is asked for.
      const couldA = this.couldGive(drawn);
      const move = nextStand(stands.length, (i) => this.standing(i, stands[i] as number, couldA[i] as number));
      if (move === null) break;
      stands[move.i] = move.to;
      drawn = this.drawn(a, b, ohm, own, opens, this.heldBy(stands));
    }
    return drawn && this.flowOf(drawn, opens);
  }

  private leastOf(i: number): number {
    const { leastA = Number.NEGATIVE_INFINITY, converter = -1 } = this.circuit.emfs[i] ?? {};
    return converter >= 0 ? Math.max(0, leastA) : leastA;
  }

  private standing(i: number, stands: number, couldA: number): Standing | null {
    const source = this.sources[i];
    if (!source || !this.topology.emfs.on[i]) return null;
    return { stands, couldA, leastA: this.leastOf(i), mostA: source.limitA, ohm: source.ohm };
  }

  /** What each source that does not hold its volts gives, A. */
  private heldBy(stands: Uint8Array): Map<number, number> {
    const held = new Map<number, number>();
    stands.forEach((stand, i) => {
      if (stand !== HOLDS) held.set(i, stand === LEAST ? this.leastOf(i) : (this.sources[i]?.limitA ?? 0));
    });
    return held;
  }

  private equation(each: Forced, ohm: number, unloadedV: number): { scale: number; self: number; right: number } {
    if (each.kind === "fault") return { scale: 1, self: -ohm, right: -unloadedV };
    if (each.kind === "branch") {
      const r = this.ohms[each.index] as number;
      return { scale: 1 / r, self: 1, right: -unloadedV / r };
    }
    const { volts = 0, ohm: r = 1 } = this.sources[each.index] ?? {};
    return { scale: -1 / r, self: -1, right: each.amps - (volts - unloadedV) / r };
  }

  /** What is drawn on top of the state without load, so that the short, the open branches and the held sources are as they are. */
  private drawn(
    a: number,
    b: number,
    ohm: number,
    own: Float64Array,
    opens: readonly Forced[],
    held: ReadonlyMap<number, number>,
  ): Drawn | null {
    const { topology, noLoad } = this;
    const forced: Forced[] = [
      { kind: "fault", index: -1, amps: 0 },
      ...opens,
      ...[...held].map(([index, amps]): Forced => ({ kind: "emf", index, amps })),
    ];
    const responses = forced.map((each) => (each.kind === "fault" ? own : this.responseOf(each)));
    const at = (x: Float64Array, each: Forced) =>
      each.kind === "fault"
        ? (x[a] as number) - (x[b] as number)
        : across(x, each.kind === "emf" ? topology.emfs : topology.branches, each.index);
    // A source: (V − v)/r − δ = amps. A branch that opened: v/r + δ = 0. The short: v − R δ = 0. δ: what is drawn on top.
    const rows = forced.map((each, i) => {
      const { scale, self, right } = this.equation(each, ohm, at(noLoad, each));
      return [...responses.map((response, j) => scale * at(response, each) + (i === j ? self : 0)), right];
    });
    const amps = eliminate(rows);
    return amps && { amps, responses, held };
  }

  /** What each source would give at the volts its terminals then have, A. */
  private couldGive({ amps, responses }: Drawn): Float64Array {
    const { emfs } = this.topology;
    const could = new Float64Array(this.sources.length);
    for (let i = 0; i < could.length; i++) {
      if (!emfs.on[i]) continue;
      const { volts, ohm } = this.sources[i] as FaultSource;
      let v = across(this.noLoad, emfs, i);
      for (let j = 0; j < responses.length; j++) v += (amps[j] as number) * across(responses[j] as Float64Array, emfs, i);
      could[i] = (volts - v) / ohm;
    }
    return could;
  }

  private flowOf({ amps, responses, held }: Drawn, opens: readonly Forced[]): FaultFlow {
    const { topology, circuit, noLoad } = this;
    const x = noLoad.slice();
    for (let j = 0; j < responses.length; j++) {
      const by = amps[j] as number;
      const response = responses[j] as Float64Array;
      if (by !== 0) for (let n = 0; n < x.length; n++) x[n] = (x[n] as number) + by * (response[n] as number);
    }
    const branchA = new Float64Array(circuit.branches.length);
    const { a: from, b: to } = topology.branches;
    for (let i = 0; i < branchA.length; i++)
      branchA[i] = ((x[from[i] as number] as number) - (x[to[i] as number] as number)) * (this.siemens[i] as number);
    for (const { index } of opens) branchA[index] = 0;
    const emfA = new Float64Array(this.sources.length);
    const couldA = new Float64Array(this.sources.length);
    for (let i = 0; i < emfA.length; i++) {
      if (!topology.emfs.on[i]) continue;
      const { volts, ohm: inner } = this.sources[i] as FaultSource;
      const could = (volts - across(x, topology.emfs, i)) / inner;
      couldA[i] = could;
      emfA[i] = held.get(i) ?? could;
    }
    return { faultA: amps[0] as number, branchA, emfA, couldA, held: [...held.keys()].filter((i) => (held.get(i) ?? 0) > 0) };
  }
}

/** Gaussian elimination with pivoting of a few equations (last column: right side); what nothing determines is 0. */
function eliminate(rows: number[][]): number[] | null {
  const n = rows.length;
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(rows[i]?.[k] ?? 0) > Math.abs(rows[pivot]?.[k] ?? 0)) pivot = i;
    const top = rows[pivot];
    if (!top || Math.abs(top[k] ?? 0) < 1e-13) return null;
    [rows[k], rows[pivot]] = [top, rows[k] as number[]];
    for (let i = k + 1; i < n; i++) {
      const row = rows[i] as number[];
      const factor = (row[k] as number) / (top[k] as number);
      if (factor === 0) continue;
      for (let j = k; j <= n; j++) row[j] = (row[j] as number) - factor * (top[j] as number);
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let k = n - 1; k >= 0; k--) {
    const row = rows[k] as number[];
    let sum = row[n] as number;
    for (let j = k + 1; j < n; j++) sum -= (row[j] as number) * (x[j] as number);
    x[k] = sum / (row[k] as number);
  }
  return x;
}
