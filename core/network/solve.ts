import type { Circuit } from "./circuit";
import type { Stamp, Topology } from "./topology";

export type Charge = "planned" | "low";

/** Node voltages and element currents of one mode. Dead nodes have voltage 0; ask `Topology.unknownOf` before showing one. */
export interface OperatingPoint {
  readonly status: "solved" | "collapsed";
  /** After a collapse: the load or converter left without voltage, where one can be named. */
  readonly starved: string | null;
  readonly iterations: number;
  /** V against the reference of the island, by node. */
  readonly nodeV: Float64Array;
  /** A from a to b, by branch. */
  readonly branchA: Float64Array;
  /** A delivered out of the plus terminal, by emf. */
  readonly emfA: Float64Array;
  /** A drawn, by load. */
  readonly loadA: Float64Array;
  /** A drawn at the input, by converter. */
  readonly converterA: Float64Array;
}

/** What unknown loads would change: 1 per conductor and source that would carry more, and volts per amp by node. */
export interface Touched {
  readonly branch: Uint8Array;
  readonly emf: Uint8Array;
  readonly nodeV: Float64Array;
}

const MAX_ITERATIONS = 80;
const TOLERANCE_V = 1e-11;
/** Share of an unknown load's current from which a conductor counts as carrying it. */
const TOUCHED_SHARE = 1e-6;
/** Change per iteration in V below which the last factor is good enough to finish with. */
const KEEP_FACTOR_V = 2e-3;

function addConductance(values: Float64Array, stamp: Stamp, siemens: number): void {
  if (stamp.aa >= 0) values[stamp.aa] = (values[stamp.aa] as number) + siemens;
  if (stamp.bb >= 0) values[stamp.bb] = (values[stamp.bb] as number) + siemens;
  if (stamp.ab >= 0) values[stamp.ab] = (values[stamp.ab] as number) - siemens;
}

/** A current drawn from a and returned at b. */
function addDraw(rhs: Float64Array, stamp: Stamp, amps: number): void {
  if (stamp.a >= 0) rhs[stamp.a] = (rhs[stamp.a] as number) - amps;
  if (stamp.b >= 0) rhs[stamp.b] = (rhs[stamp.b] as number) + amps;
}

/** Solves the modes of one topology at one state of charge; holds the scratch arrays so that a solve allocates only its result. */
export class ModeSolver {
  private readonly base: Float64Array;
  private readonly emfRhs: Float64Array;
  private readonly noLoad: Float64Array;
  private readonly modeValues: Float64Array;
  private readonly modeRhs: Float64Array;
  private readonly rhs: Float64Array;
  private readonly x: Float64Array;
  private readonly next: Float64Array;
  private readonly loadSlope: Float64Array;
  private readonly converterSlope: Float64Array;
  private readonly noLoadSolved: boolean;

  constructor(
    private readonly circuit: Circuit,
    private readonly topology: Topology,
    private readonly charge: Charge,
  ) {
    const { solver } = topology;
    const n = solver.size;
    this.base = new Float64Array(solver.values.length);
    this.emfRhs = new Float64Array(n);
    this.noLoad = new Float64Array(n);
    this.modeValues = new Float64Array(solver.values.length);
    this.modeRhs = new Float64Array(n);
    this.rhs = new Float64Array(n);
    this.x = new Float64Array(n);
    this.next = new Float64Array(n);
    this.loadSlope = new Float64Array(circuit.loads.length);
    this.converterSlope = new Float64Array(circuit.converters.length);

    circuit.branches.forEach((branch, i) => {
      const stamp = topology.branches[i];
      if (stamp) addConductance(this.base, stamp, 1 / branch.ohm);
    });
    circuit.emfs.forEach((emf, i) => {
      const stamp = topology.emfs[i];
      if (!stamp) return;
      addConductance(this.base, stamp, 1 / emf.ohm);
      addDraw(this.emfRhs, stamp, -this.volts(i) / emf.ohm);
    });
    solver.values.set(this.base);
    this.noLoadSolved = solver.factor();
    if (this.noLoadSolved) solver.solve(this.emfRhs, this.noLoad);
  }

  private volts(emf: number): number {
    const element = this.circuit.emfs[emf];
    if (!element) return 0;
    return this.charge === "low" ? element.lowVolts : element.volts;
  }

  private across(x: Float64Array, stamp: Stamp): number {
    return (stamp.a >= 0 ? (x[stamp.a] as number) : 0) - (stamp.b >= 0 ? (x[stamp.b] as number) : 0);
  }

  /** Output current (A) of the converter that owns emf `i`, at voltages `x`. */
  private emfCurrent(i: number, x: Float64Array): number {
    const stamp = this.topology.emfs[i];
    const element = this.circuit.emfs[i];
    if (!stamp || !element) return 0;
    return (this.volts(i) - this.across(x, stamp)) / element.ohm;
  }

  /** Power in W a converter takes at its input for what its output delivers at voltages `x`, quiescent current apart. */
  private inputPower(c: number, x: Float64Array): number {
    const converter = this.circuit.converters[c];
    const output = converter ? this.topology.emfs[converter.emf] : null;
    if (!converter || !output) return 0;
    return Math.max(0, this.across(x, output) * this.emfCurrent(converter.emf, x)) / converter.efficiency;
  }

  /**
   * Newton's method on the node equations: constant-power elements are linearised (so the matrix stays symmetric), what
   * converters take lags one step behind what they deliver. Starting at no-load voltages it approaches the stable
   * solution from above; a pivot that is not positive means there is none, which is voltage collapse.
   */
  solve(mode: number): OperatingPoint {
    const { circuit, topology, modeValues, modeRhs, rhs } = this;
    const { solver } = topology;
    let { x, next } = this;
    if (!this.noLoadSolved) return this.result("collapsed", 0, mode, this.noLoad);
    modeValues.set(this.base);
    modeRhs.set(this.emfRhs);
    circuit.loads.forEach((load, i) => {
      const stamp = topology.loads[i];
      const amps = load.draw[mode] as number;
      if (!stamp || amps === 0) return;
      if (load.behaviour === "resistance") addConductance(modeValues, stamp, amps / load.nominalV);
      else if (load.behaviour === "current") addDraw(modeRhs, stamp, amps);
    });
    circuit.converters.forEach((converter, c) => {
      const stamp = topology.converters[c];
      if (stamp) addDraw(modeRhs, stamp, converter.quiescentA);
    });

    x.set(this.noLoad);
    let refactor = true;
    for (let iteration = 1; iteration <= MAX_ITERATIONS; iteration++) {
      if (refactor) solver.values.set(modeValues);
      rhs.set(modeRhs);
      for (let i = 0; i < circuit.loads.length; i++) {
        const load = circuit.loads[i];
        const stamp = topology.loads[i];
        if (!load || !stamp || load.behaviour !== "power") continue;
        if (!this.linearise(stamp, (load.draw[mode] as number) * load.nominalV, x, this.loadSlope, i, refactor)) {
          return this.result("collapsed", iteration, mode, x, load.id);
        }
      }
      for (let c = 0; c < circuit.converters.length; c++) {
        const stamp = topology.converters[c];
        if (stamp && !this.linearise(stamp, this.inputPower(c, x), x, this.converterSlope, c, refactor)) {
          return this.result("collapsed", iteration, mode, x, circuit.converters[c]?.id);
        }
      }
      if (refactor && !solver.factor()) return this.result("collapsed", iteration, mode, x);
      solver.solve(rhs, next);
      let change = 0;
      for (let i = 0; i < next.length; i++) change = Math.max(change, Math.abs((next[i] as number) - (x[i] as number)));
      [x, next] = [next, x];
      if (change < TOLERANCE_V) {
        const starved = this.starvedLoad(mode, x);
        return this.result(starved === null ? "solved" : "collapsed", iteration, mode, x, starved);
      }
      // Close to the solution the slopes hardly move: keeping the factor costs an extra cheap solve and saves a factorisation.
      refactor = change > KEEP_FACTOR_V;
    }
    return this.result("collapsed", MAX_ITERATIONS, mode, x);
  }

  /**
   * I = P/V about the present V: a negative conductance (kept while the factor is kept) and a constant draw that makes
   * the current exact at V. False when V leaves no power to take.
   */
  private linearise(stamp: Stamp, watts: number, x: Float64Array, slopes: Float64Array, index: number, refactor: boolean): boolean {
    if (watts === 0) {
      if (refactor) slopes[index] = 0;
      return true;
    }
    const v = this.across(x, stamp);
    if (!(v > 0)) return false;
    if (refactor) {
      slopes[index] = watts / (v * v);
      addConductance(this.topology.solver.values, stamp, -watts / (v * v));
    }
    addDraw(this.rhs, stamp, watts / v + (slopes[index] as number) * v);
    return true;
  }

  /** A load that would have to draw its current at no or at negative voltage: arithmetic allows that, a motor does not. */
  private starvedLoad(mode: number, x: Float64Array): string | null {
    for (let i = 0; i < this.circuit.loads.length; i++) {
      const load = this.circuit.loads[i];
      const stamp = this.topology.loads[i];
      if (!load || !stamp || load.behaviour === "resistance" || load.draw[mode] === 0) continue;
      if (!(this.across(x, stamp) > 0)) return load.id;
    }
    return null;
  }

  private result(
    status: OperatingPoint["status"],
    iterations: number,
    mode: number,
    x: Float64Array,
    starved: string | null = null,
  ): OperatingPoint {
    const { circuit, topology } = this;
    const nodeV = new Float64Array(circuit.nodeCount);
    const branchA = new Float64Array(circuit.branches.length);
    const emfA = new Float64Array(circuit.emfs.length);
    const loadA = new Float64Array(circuit.loads.length);
    const converterA = new Float64Array(circuit.converters.length);
    if (status === "solved") {
      topology.unknownOf.forEach((unknown, node) => {
        if (unknown >= 0) nodeV[node] = x[unknown] as number;
      });
      circuit.branches.forEach((branch, i) => {
        if (topology.branches[i]) branchA[i] = ((nodeV[branch.a] as number) - (nodeV[branch.b] as number)) / branch.ohm;
      });
      for (let i = 0; i < emfA.length; i++) emfA[i] = this.emfCurrent(i, x);
      circuit.loads.forEach((load, i) => {
        const stamp = topology.loads[i];
        if (stamp) loadA[i] = drawnBy(load.behaviour, load.draw[mode] as number, load.nominalV, this.across(x, stamp));
      });
      circuit.converters.forEach((converter, c) => {
        const stamp = topology.converters[c];
        if (stamp) converterA[c] = this.inputPower(c, x) / this.across(x, stamp) + converter.quiescentA;
      });
    }
    return { status, starved, iterations, nodeV, branchA, emfA, loadA, converterA };
  }

  /**
   * Which branches would carry more if the unknown loads of this mode drew something: their figures are lower bounds.
   * The bare metal is factored for it, without loads: with them, a board that draws a little more because its rail sags
   * would count as doubted too. One solve per converter stage.
   */
  touchedByUnknown(mode: number): Touched {
    const { circuit, topology } = this;
    const branch = new Uint8Array(circuit.branches.length);
    const emf = new Uint8Array(circuit.emfs.length);
    const probe = new Float64Array(topology.solver.size);
    const shift = new Float64Array(topology.solver.size);
    topology.solver.values.set(this.base);
    const nodeV = new Float64Array(circuit.nodeCount);
    if (!topology.solver.factor()) return { branch: branch.fill(1), emf: emf.fill(1), nodeV };
    circuit.loads.forEach((load, i) => {
      const stamp = topology.loads[i];
      if (stamp && load.unknown[mode]) addDraw(probe, stamp, 1);
    });
    for (let again = true; again; ) {
      again = false;
      topology.solver.solve(probe, shift);
      circuit.branches.forEach((element, i) => {
        const stamp = topology.branches[i];
        if (stamp && Math.abs(this.across(shift, stamp)) / element.ohm > TOUCHED_SHARE) branch[i] = 1;
      });
      circuit.emfs.forEach((element, i) => {
        const stamp = topology.emfs[i];
        if (!stamp || emf[i] || Math.abs(this.across(shift, stamp)) / element.ohm <= TOUCHED_SHARE) return;
        emf[i] = 1;
        const input = element.converter >= 0 ? topology.converters[element.converter] : null;
        if (input) {
          addDraw(probe, input, 1);
          again = true;
        }
      });
    }
    topology.unknownOf.forEach((unknown, node) => {
      if (unknown >= 0) nodeV[node] = shift[unknown] as number;
    });
    return { branch, emf, nodeV };
  }
}

/** Current in A that a load draws at `volts`, given `amps` at its nominal voltage. */
export function drawnBy(behaviour: "current" | "resistance" | "power", amps: number, nominalV: number, volts: number): number {
  if (behaviour === "current") return amps;
  if (behaviour === "resistance") return (amps / nominalV) * volts;
  return amps === 0 ? 0 : (amps * nominalV) / volts;
}
