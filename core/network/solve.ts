import { inputPower } from "../converters/switched";
import { type Circuit, drawnBy, type Emf } from "./circuit";
import type { Charge, OperatingPoint, Touched } from "./point";
import { across, addConductance, addDraw } from "./stamp";
import { HOLDS, LEAST, nextStand, ROUNDS_A_SOURCE } from "./stands";
import type { Stamps, Topology } from "./topology";

/** Newton iterations after which a mode counts as without a solution. */
const MAX_ITERATIONS = 80;
/** Change of the last iteration in V; the error left is a small share of it, so nodes balance to a nanoamp. */
const TOLERANCE_V = 1e-10;
/** Share of an unknown load's current from which a conductor counts as carrying it. */
const TOUCHED_SHARE = 1e-6;
/** The factor is kept while each iteration at least halves the change, else it is made anew at the present voltages. */
const KEEP_FACTOR_GAIN = 0.5;

type Step = "ok" | { starved: string | null };

/** Whether a source is the same at the planned and the low charge. */
function isOne(emf: Emf | undefined): boolean {
  return emf !== undefined && emf.volts === emf.lowVolts && emf.ohm === emf.lowOhm;
}

/** Solves the modes of one topology; holds the scratch arrays so that a solve allocates only its result. */
export class ModeSolver {
  /** Branches alone, and with the sources' resistances at the planned charge. */
  private readonly metal: Float64Array;
  private readonly base: Float64Array;
  private emfs: readonly Emf[];
  /** Some source's resistance is another one at the low charge. */
  private lowDiffers = false;
  /** Sources that have limits, and how each source stands at present. */
  private limited: readonly number[] = [];
  private readonly stands: Uint8Array;
  /** No-load voltages per volt behind a source, for those whose volts have moved. */
  private readonly units = new Map<number, Float64Array>();
  private readonly emfRhs: Readonly<Record<Charge, Float64Array>>;
  private readonly noLoad: Readonly<Record<Charge, Float64Array>>;
  private readonly modeValues: Float64Array;
  private readonly modeRhs: Float64Array;
  private readonly rhs: Float64Array;
  /** Constant-power loads and converters that take part, and W of the loads in the mode being solved. */
  private readonly powerLoads: Int32Array;
  private readonly running: Int32Array;
  private readonly watts: Float64Array;
  private readonly loadSlope: Float64Array;
  private readonly converterSlope: Float64Array;
  private x: Float64Array;
  private next: Float64Array;
  private factored: "base" | "mode" | "none";
  /** Mode whose solution at the planned charge is in `x`, with a factor near it. */
  private solvedMode = -1;

  constructor(
    private readonly circuit: Circuit,
    private readonly topology: Topology,
  ) {
    const { solver, branches } = topology;
    const vector = () => new Float64Array(solver.size + 1);
    this.metal = new Float64Array(solver.values.length);
    this.base = new Float64Array(solver.values.length);
    this.emfs = circuit.emfs;
    this.stands = new Uint8Array(circuit.emfs.length);
    this.emfRhs = { planned: vector(), low: vector() };
    this.noLoad = { planned: vector(), low: vector() };
    this.modeValues = new Float64Array(solver.values.length);
    this.modeRhs = vector();
    this.rhs = vector();
    this.x = vector();
    this.next = vector();
    const taking = (count: number, takes: (i: number) => boolean) => Int32Array.from({ length: count }, (_, i) => i).filter(takes);
    this.powerLoads = taking(
      circuit.loads.length,
      (i) => topology.loads.on[i] === 1 && (circuit.loads[i]?.watts.some((watts) => watts !== 0) ?? false),
    );
    this.running = taking(circuit.converters.length, (c) => topology.converters.on[c] === 1);
    this.watts = new Float64Array(this.powerLoads.length);
    this.loadSlope = new Float64Array(circuit.loads.length);
    this.converterSlope = new Float64Array(circuit.converters.length);

    for (let i = 0; i < circuit.branches.length; i++) addConductance(this.metal, branches, i, 1 / (circuit.branches[i]?.ohm ?? 1));
    this.factored = "none";
    this.rebuild();
  }

  /** Takes other volts and resistances behind the same sources, in the same order: a pack at another charge. */
  setSources(emfs: readonly Emf[]): void {
    const before = this.emfs;
    const sameMatrix = this.factored !== "none" && emfs.every((emf, i) => emf.ohm === before[i]?.ohm && isOne(emf) && isOne(before[i]));
    this.emfs = emfs;
    this.solvedMode = -1;
    if (sameMatrix && emfs !== before) this.shiftVolts(before);
    else this.rebuild();
  }

  /** Only volts moved: what does not hang on them stays, and the no-load voltages follow in proportion. */
  private shiftVolts(before: readonly Emf[]): void {
    const { topology, emfRhs, noLoad } = this;
    // Written anew, not added to: thousands of small steps would leave their rounding behind.
    emfRhs.planned.fill(0);
    this.emfs.forEach((emf, i) => {
      addDraw(emfRhs.planned, topology.emfs, i, -emf.volts / emf.ohm);
      const moved = emf.volts - (before[i]?.volts ?? emf.volts);
      if (moved === 0) return;
      const unit = this.unitOf(i);
      for (let n = 0; n < unit.length; n++) noLoad.planned[n] = (noLoad.planned[n] as number) + moved * (unit[n] as number);
    });
    emfRhs.low.set(emfRhs.planned);
    noLoad.low.set(noLoad.planned);
  }

  /** Voltages that one volt more behind source `i` brings without load. */
  private unitOf(i: number): Float64Array {
    const known = this.units.get(i);
    if (known) return known;
    const { solver } = this.topology;
    if (this.factored !== "base") {
      solver.values.set(this.base);
      solver.factor();
      this.factored = "base";
    }
    const rhs = new Float64Array(solver.size + 1);
    const unit = new Float64Array(solver.size + 1);
    addDraw(rhs, this.topology.emfs, i, -1 / (this.emfs[i]?.ohm ?? 1));
    rhs[solver.size] = 0;
    solver.solve(rhs, unit);
    this.units.set(i, unit);
    return unit;
  }

  private rebuild(): void {
    const { topology, base, emfRhs, emfs } = this;
    const { solver } = topology;
    this.units.clear();
    base.set(this.metal);
    emfRhs.planned.fill(0);
    emfRhs.low.fill(0);
    this.lowDiffers = false;
    let sags = false;
    emfs.forEach((emf, i) => {
      addConductance(base, topology.emfs, i, 1 / emf.ohm);
      addDraw(emfRhs.planned, topology.emfs, i, -emf.volts / emf.ohm);
      addDraw(emfRhs.low, topology.emfs, i, -emf.lowVolts / emf.lowOhm);
      this.lowDiffers ||= emf.lowOhm !== emf.ohm;
      sags ||= emf.lowVolts !== emf.volts;
    });
    this.limited = emfs.flatMap(({ leastA, mostA }, i) => (topology.emfs.on[i] && (leastA > -Infinity || mostA < Infinity) ? [i] : []));
    solver.values.set(base);
    this.factored = solver.factor() ? "base" : "none";
    if (this.factored === "none") return;
    solver.solve(emfRhs.planned, this.noLoad.planned);
    if (sags) solver.solve(emfRhs.low, this.noLoad.low);
    else this.noLoad.low.set(this.noLoad.planned);
  }

  /** Output current (A) of emf `i` at voltages `x`. */
  private emfCurrent(i: number, charge: Charge, x: Float64Array): number {
    const element = this.emfs[i];
    if (!element || !this.topology.emfs.on[i]) return 0;
    if (this.stands[i] !== HOLDS) return this.stands[i] === LEAST ? element.leastA : element.mostA;
    const behind = charge === "low" ? element.lowVolts : element.volts;
    return (behind - across(x, this.topology.emfs, i)) / (charge === "low" ? element.lowOhm : element.ohm);
  }

  /** Power in W a converter takes at its input for what its output delivers at voltages `x`, quiescent current apart. */
  private inputPower(c: number, x: Float64Array): number {
    const converter = this.circuit.converters[c];
    if (!converter) return 0;
    // A converter's own volts do not follow the state of charge.
    const delivered = this.emfCurrent(converter.emf, "planned", x);
    if (converter.efficiency === null) return Math.max(0, across(x, this.topology.converters, c) * delivered);
    const outW = Math.max(0, across(x, this.topology.emfs, converter.emf) * delivered);
    if (converter.loss === null) return outW / converter.efficiency;
    return inputPower(converter.loss, outW, Math.max(0, delivered), across(x, this.topology.converters, c));
  }

  /**
   * Solves one mode. Sources with limits first hold their volts; one found beyond a limit then gives just that limit, and
   * goes back to holding when its terminal would allow it, until all agree.
   */
  solve(mode: number, charge: Charge): OperatingPoint {
    if (this.factored === "none") return this.collapse(0, null);
    if (this.limited.length === 0) return this.holding(mode, charge);
    this.stands.fill(HOLDS);
    let point = this.holding(mode, charge);
    for (let round = 0; round < ROUNDS_A_SOURCE * this.limited.length; round++) {
      const moved = point.status === "solved" ? this.restand(charge) : this.giveWay(charge, round === 0);
      if (!moved) return point;
      this.solvedMode = -1;
      point = this.newton(mode, charge);
    }
    // Sources that never agree have no operating point that could be shown.
    this.solvedMode = -1;
    return this.collapse(0, null);
  }

  /**
   * Where there is no operating point as the sources stand: of those kept from taking current the one with most volts gives
   * again, since all volts fall; false when there is none. At `first`, when all still hold, whatever takes current without any
   * load is kept from it: flat batteries behind diodes must not pull down what could carry the load alone.
   */
  private giveWay(charge: Charge, first: boolean): boolean {
    if (first) {
      for (const i of this.limited) {
        const emf = this.emfs[i];
        if (emf && this.emfCurrent(i, charge, this.noLoad[charge]) < emf.leastA) this.stands[i] = LEAST;
      }
      return this.stands.includes(LEAST);
    }
    const volts = (i: number) => (charge === "low" ? this.emfs[i]?.lowVolts : this.emfs[i]?.volts) ?? 0;
    const kept = this.limited.filter((i) => this.stands[i] === LEAST).sort((a, b) => volts(b) - volts(a))[0];
    if (kept === undefined) return false;
    this.stands[kept] = HOLDS;
    return true;
  }

  /** Moves one source over or off its limit at the solution in `x`; false when all stand as they are. */
  private restand(charge: Charge): boolean {
    const move = nextStand(this.limited.length, (k) => {
      const i = this.limited[k] as number;
      const emf = this.emfs[i];
      if (!emf) return null;
      const ohm = charge === "low" ? emf.lowOhm : emf.ohm;
      const couldA = ((charge === "low" ? emf.lowVolts : emf.volts) - across(this.x, this.topology.emfs, i)) / ohm;
      return { stands: this.stands[i] as number, couldA, leastA: emf.leastA, mostA: emf.mostA, ohm };
    });
    if (!move) return false;
    this.stands[this.limited[move.i] as number] = move.to;
    return true;
  }

  /**
   * With every source holding its volts. The low charge starts from the planned solution of the same mode where that was
   * solved just before: the factor made for it then only has to finish. Whatever goes wrong on that short way is decided
   * on the long one.
   */
  private holding(mode: number, charge: Charge): OperatingPoint {
    if (charge === "low" && this.solvedMode === mode && !this.lowDiffers) {
      const point = this.finish(mode, charge);
      if (point) return point;
    }
    this.solvedMode = -1;
    const point = this.newton(mode, charge);
    if (charge === "planned" && point.status === "solved") this.solvedMode = mode;
    return point;
  }

  /** From the solution in `x` with the factor at hand; null when that does not converge at once. */
  private finish(mode: number, charge: Charge): OperatingPoint | null {
    this.start(mode, charge, false);
    this.solvedMode = -1;
    let last = Number.POSITIVE_INFINITY;
    for (let iteration = 1; ; iteration++) {
      if (this.assemble(false) !== "ok") return null;
      const change = this.advance();
      if (change < TOLERANCE_V) return this.starvedLoad(mode) === null ? this.result(iteration, mode, charge) : null;
      if (!(change < last * KEEP_FACTOR_GAIN)) return null;
      last = change;
    }
  }

  /**
   * Newton's method on the node equations: constant-power elements are linearised (so the matrix stays symmetric), what
   * converters take lags one step behind what they deliver. Starting at no-load voltages it approaches the stable
   * solution from above; a pivot that is not positive means there is none, which is voltage collapse.
   */
  private newton(mode: number, charge: Charge): OperatingPoint {
    const { solver } = this.topology;
    this.start(mode, charge, true);
    if (!this.fromAbove(charge)) return this.collapse(0, null);
    let refactor = true;
    let last = Number.POSITIVE_INFINITY;
    for (let iteration = 1; iteration <= MAX_ITERATIONS; iteration++) {
      if (refactor) solver.values.set(this.modeValues);
      const step = this.assemble(refactor);
      if (step !== "ok") return this.collapse(iteration, step.starved);
      if (refactor) {
        this.factored = "mode";
        if (!solver.factor()) return this.collapse(iteration, null);
      }
      const change = this.advance();
      if (change < TOLERANCE_V) {
        const starved = this.starvedLoad(mode);
        return starved === null ? this.result(iteration, mode, charge) : this.collapse(iteration, starved);
      }
      // A kept factor costs a few more cheap solves. What it converges to is stable: a matrix that is not positive definite
      // repels the iteration, which then falls back on a new factor and on its pivots.
      refactor = change > last * KEEP_FACTOR_GAIN;
      last = change;
    }
    return this.collapse(MAX_ITERATIONS, null);
  }

  /** Voltages to start from: no-load ones, or, with sources at limits, those without loads of constant power. False: there are none. */
  private fromAbove(charge: Charge): boolean {
    if (!this.stands.some((stand) => stand !== HOLDS)) {
      this.x.set(this.noLoad[charge]);
      return true;
    }
    const { solver } = this.topology;
    solver.values.set(this.modeValues);
    this.factored = "mode";
    if (!solver.factor()) return false;
    this.rhs.set(this.modeRhs);
    this.rhs[solver.size] = 0;
    solver.solve(this.rhs, this.x);
    return true;
  }

  /** Everything of a mode that does not depend on the voltages: conductances (where wanted) and fixed draws. */
  private start(mode: number, charge: Charge, conductances: boolean): void {
    const { circuit, topology, modeValues, modeRhs } = this;
    if (conductances) modeValues.set(this.base);
    modeRhs.set(this.emfRhs[charge]);
    if (conductances && charge === "low" && this.lowDiffers) {
      this.emfs.forEach((emf, i) => {
        if (emf.lowOhm !== emf.ohm) addConductance(modeValues, topology.emfs, i, 1 / emf.lowOhm - 1 / emf.ohm);
      });
    }
    for (const i of this.limited) {
      const emf = this.emfs[i];
      if (!emf || this.stands[i] === HOLDS) continue;
      // No longer a voltage behind a resistance, but a current.
      const low = charge === "low";
      if (conductances) addConductance(modeValues, topology.emfs, i, -1 / (low ? emf.lowOhm : emf.ohm));
      addDraw(modeRhs, topology.emfs, i, low ? emf.lowVolts / emf.lowOhm : emf.volts / emf.ohm);
      addDraw(modeRhs, topology.emfs, i, -(this.stands[i] === LEAST ? emf.leastA : emf.mostA));
    }
    for (let i = 0; i < circuit.loads.length; i++) {
      const load = circuit.loads[i];
      if (!load) continue;
      const amps = load.amps[mode] as number;
      const siemens = load.siemens[mode] as number;
      if (amps !== 0) addDraw(modeRhs, topology.loads, i, amps);
      if (siemens !== 0 && conductances) addConductance(modeValues, topology.loads, i, siemens);
    }
    for (let c = 0; c < circuit.converters.length; c++) addDraw(modeRhs, topology.converters, c, circuit.converters[c]?.quiescentA ?? 0);
    for (let k = 0; k < this.powerLoads.length; k++) {
      this.watts[k] = circuit.loads[this.powerLoads[k] as number]?.watts[mode] ?? 0;
    }
  }

  /** Puts what follows the voltages in `x` on the right-hand side, and in the matrix when it is to be factored anew. */
  private assemble(refactor: boolean): Step {
    const { circuit, topology, x, powerLoads, running, watts } = this;
    this.rhs.set(this.modeRhs);
    for (let k = 0; k < powerLoads.length; k++) {
      const i = powerLoads[k] as number;
      if (!this.linearise(topology.loads, i, watts[k] as number, this.loadSlope, refactor))
        return { starved: circuit.loads[i]?.id ?? null };
    }
    for (let k = 0; k < running.length; k++) {
      const c = running[k] as number;
      const watts = this.inputPower(c, x);
      if (!Number.isFinite(watts) || !this.linearise(topology.converters, c, watts, this.converterSlope, refactor))
        return { starved: circuit.converters[c]?.id ?? null };
    }
    return "ok";
  }

  /** One solve with the factor at hand: the new voltages are in `x`; returns the largest change, V. */
  private advance(): number {
    const { x, next } = this;
    this.topology.solver.solve(this.rhs, next);
    let change = 0;
    for (let i = 0; i < next.length; i++) {
      const moved = Math.abs((next[i] as number) - (x[i] as number));
      if (!(moved <= change)) change = moved;
    }
    this.x = next;
    this.next = x;
    return change;
  }

  /**
   * I = P/V about the present V: a negative conductance (kept while the factor is kept) and a constant draw that makes
   * the current exact at V. False when V leaves no power to take.
   */
  private linearise(stamps: Stamps, i: number, watts: number, slopes: Float64Array, refactor: boolean): boolean {
    if (watts === 0 && refactor) {
      slopes[i] = 0;
      return true;
    }
    const v = across(this.x, stamps, i);
    if (watts > 0 && !(v > 0)) return false;
    if (refactor) {
      slopes[i] = watts / (v * v);
      addConductance(this.topology.solver.values, stamps, i, -watts / (v * v));
    }
    addDraw(this.rhs, stamps, i, (watts > 0 ? watts / v : 0) + (slopes[i] as number) * v);
    return true;
  }

  /** A load that would have to draw its current at no or at negative voltage: arithmetic allows that, a motor does not. */
  private starvedLoad(mode: number): string | null {
    const { loads } = this.topology;
    for (let i = 0; i < this.circuit.loads.length; i++) {
      const load = this.circuit.loads[i];
      if (!load || !loads.on[i] || !((load.amps[mode] as number) > 0 || (load.watts[mode] as number) > 0)) continue;
      if (!(across(this.x, loads, i) > 0)) return load.id;
    }
    return null;
  }

  private collapse(iterations: number, starved: string | null): OperatingPoint {
    return { status: "collapsed", starved, iterations, ...this.blank() };
  }

  /** The figures of a point, all 0, in one piece of memory. */
  private blank() {
    const { circuit } = this;
    const { nodeCount, branches, emfs, loads, converters } = circuit;
    const memory = new Float64Array(nodeCount + branches.length + emfs.length + loads.length + converters.length);
    let used = 0;
    const take = (length: number) => {
      used += length;
      return memory.subarray(used - length, used);
    };
    return {
      nodeV: take(nodeCount),
      branchA: take(branches.length),
      emfA: take(emfs.length),
      loadA: take(loads.length),
      converterA: take(converters.length),
    };
  }

  /** Reads voltages and currents off the solution in `x`. */
  private result(iterations: number, mode: number, charge: Charge): OperatingPoint {
    const { circuit, topology, x } = this;
    const { unknownOf, branches, loads, converters } = topology;
    const { nodeV, branchA, emfA, loadA, converterA } = this.blank();
    for (let node = 0; node < nodeV.length; node++) {
      const unknown = unknownOf[node] as number;
      if (unknown >= 0) nodeV[node] = x[unknown] as number;
    }
    for (let i = 0; i < branchA.length; i++) branchA[i] = across(x, branches, i) / (circuit.branches[i]?.ohm ?? 1);
    for (let i = 0; i < emfA.length; i++) emfA[i] = this.emfCurrent(i, charge, x);
    for (let i = 0; i < loadA.length; i++) {
      const load = circuit.loads[i];
      if (load && loads.on[i]) loadA[i] = drawnBy(load, mode, across(x, loads, i));
    }
    for (let c = 0; c < converterA.length; c++) {
      if (converters.on[c]) converterA[c] = this.inputPower(c, x) / across(x, converters, c) + (circuit.converters[c]?.quiescentA ?? 0);
    }
    return { status: "solved", starved: null, iterations, nodeV, branchA, emfA, loadA, converterA };
  }

  /**
   * Which branches would carry more if the unknown loads of this mode drew something: their figures are lower bounds.
   * The bare metal is factored for it, without loads: with them, a board that draws a little more because its rail sags
   * would count as doubted too. One solve per converter stage.
   */
  touchedByUnknown(mode: number): Touched {
    const { circuit, topology } = this;
    this.stands.fill(HOLDS);
    const { solver } = topology;
    const branch = new Uint8Array(circuit.branches.length);
    const emf = new Uint8Array(circuit.emfs.length);
    const nodeV = new Float64Array(circuit.nodeCount);
    const probe = new Float64Array(solver.size + 1);
    const shift = new Float64Array(solver.size + 1);
    if (this.factored !== "base") {
      this.solvedMode = -1;
      solver.values.set(this.base);
      if (!solver.factor()) return { branch: branch.fill(1), emf: emf.fill(1), nodeV };
      this.factored = "base";
    }
    for (let i = 0; i < circuit.loads.length; i++) if (circuit.loads[i]?.unknown[mode]) addDraw(probe, topology.loads, i, 1);
    for (let again = true; again; ) {
      again = false;
      probe[solver.size] = 0;
      solver.solve(probe, shift);
      for (let i = 0; i < branch.length; i++) {
        if (Math.abs(across(shift, topology.branches, i)) / (circuit.branches[i]?.ohm ?? 1) > TOUCHED_SHARE) branch[i] = 1;
      }
      circuit.emfs.forEach((element, i) => {
        if (emf[i] || Math.abs(across(shift, topology.emfs, i)) / element.ohm <= TOUCHED_SHARE) return;
        emf[i] = 1;
        if (element.converter >= 0 && topology.converters.on[element.converter]) {
          addDraw(probe, topology.converters, element.converter, 1);
          again = true;
        }
      });
    }
    for (let node = 0; node < nodeV.length; node++) {
      const unknown = topology.unknownOf[node] as number;
      if (unknown >= 0) nodeV[node] = shift[unknown] as number;
    }
    return { branch, emf, nodeV };
  }
}
