import { inputPower } from "../converters/switched";
import type { ConverterElement } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { across, addConductance } from "../network/stamp";
import type { Built } from "./built";

/** A reading as a sum of node voltages: `weights` in its unit per volt, by node. */
export type Weights = readonly (readonly [node: number, weight: number])[];

/**
 * How a reading moves with every element of the network, to first order about an operating point: by adjoint solves, one for
 * the reading and one for each stage of converters above it. All in the reading's unit.
 */
export interface Sensitivity {
  /** Per share of a branch's resistance (∂y/∂ln R). */
  branch(i: number): number;
  /** Per volt behind a source or converter output. */
  emfVolts(i: number): number;
  /** Per share of its resistance. */
  emfOhm(i: number): number;
  /** Per amp drawn more at a load. */
  load(i: number): number;
  /** Per watt more lost in a converter, and per amp more drawn at its input. */
  converterWatt(c: number): number;
  converterAmp(c: number): number;
}

/** The network about one operating point, factored once. */
export class Linear {
  private readonly works: boolean;
  private readonly x: Float64Array;
  private readonly siemens: Float64Array;
  /** ∂(input current)/∂(output current) at constant output volts, and per output volt, by converter. */
  private readonly gain: Float64Array;
  private readonly slope: Float64Array;

  constructor(
    private readonly built: Built,
    private readonly point: OperatingPoint,
  ) {
    const { circuit, topology } = built;
    const { solver, branches, emfs, loads, converters, unknownOf } = topology;
    this.x = new Float64Array(solver.size + 1);
    for (let node = 0; node < circuit.nodeCount; node++) {
      const unknown = unknownOf[node] as number;
      if (unknown >= 0) this.x[unknown] = point.nodeV[node] as number;
    }
    solver.values.fill(0);
    circuit.branches.forEach(({ ohm }, i) => {
      addConductance(solver.values, branches, i, 1 / ohm);
    });
    this.siemens = Float64Array.from(circuit.emfs, (emf, i) => {
      const held = Math.abs((point.emfA[i] as number) - emf.mostA) < HELD_A || (emf.leastA === 0 && (point.emfA[i] as number) < HELD_A);
      return topology.emfs.on[i] && !held ? 1 / emf.ohm : 0;
    });
    this.siemens.forEach((siemens, i) => {
      addConductance(solver.values, emfs, i, siemens);
    });
    circuit.loads.forEach((load, i) => {
      const v = across(this.x, loads, i);
      const watts = load.watts[0] as number;
      const slope = (load.siemens[0] as number) - (watts === 0 || v === 0 ? 0 : watts / (v * v));
      if (slope !== 0) addConductance(solver.values, loads, i, slope);
    });
    this.gain = new Float64Array(circuit.converters.length);
    this.slope = new Float64Array(circuit.converters.length);
    circuit.converters.forEach((converter, c) => {
      if (!converters.on[c]) return;
      const vin = across(this.x, converters, c);
      const vout = across(this.x, emfs, converter.emf);
      const iout = point.emfA[converter.emf] as number;
      const [watts, byA, byV] = powerSlopes(converter, vin, vout, iout);
      this.gain[c] = byA / vin;
      this.slope[c] = byV / vin;
      addConductance(solver.values, converters, c, -watts / (vin * vin));
    });
    this.works = solver.factor();
  }

  /** Index of a node among the unknowns; the reference's and dead nodes' weights are dropped. */
  private at(node: number): number {
    const unknown = this.built.topology.unknownOf[node] as number;
    return unknown >= 0 ? unknown : this.built.topology.solver.size;
  }

  /** Null where the network has no operating point to be about. */
  of(weights: Weights): Sensitivity | null {
    const { circuit, topology } = this.built;
    const { solver, branches, emfs, loads, converters } = topology;
    if (!this.works || this.point.status !== "solved") return null;
    const rhs = new Float64Array(solver.size + 1);
    for (const [node, weight] of weights) {
      const at = this.at(node);
      rhs[at] = (rhs[at] as number) + weight;
    }
    const total = new Float64Array(solver.size + 1);
    const lambda = new Float64Array(solver.size + 1);
    const byInput = new Float64Array(circuit.converters.length);
    // What a converter's output moves shows at its input: weights on the output that stand for the reading there, stage by stage.
    for (let stage = 0; stage <= circuit.converters.length; stage++) {
      rhs[solver.size] = 0;
      solver.solve(rhs, lambda);
      for (let i = 0; i < solver.size; i++) total[i] = (total[i] as number) + (lambda[i] as number);
      rhs.fill(0);
      let more = false;
      for (let c = 0; c < byInput.length; c++) {
        const converter = circuit.converters[c] as ConverterElement;
        const moved = converters.on[c] ? -across(lambda, converters, c) : 0;
        if (Math.abs(moved) < 1e-15) continue;
        byInput[c] = (byInput[c] as number) + moved;
        const weight = moved * ((this.slope[c] as number) - (this.gain[c] as number) * (this.siemens[converter.emf] as number));
        const [a, b] = [emfs.a[converter.emf] as number, emfs.b[converter.emf] as number];
        rhs[a] = (rhs[a] as number) + weight;
        rhs[b] = (rhs[b] as number) - weight;
        more = true;
      }
      if (!more) break;
    }
    const { point, siemens, gain } = this;
    const through = (converter: number) => (converter < 0 ? 0 : (byInput[converter] as number) * (gain[converter] as number));
    return {
      branch: (i) => (point.branchA[i] as number) * across(total, branches, i),
      emfVolts: (i) => {
        const emf = circuit.emfs[i];
        return emf ? (siemens[i] as number) * (across(total, emfs, i) + through(emf.converter)) : 0;
      },
      emfOhm: (i) => {
        const emf = circuit.emfs[i];
        return emf && siemens[i] !== 0 ? -(point.emfA[i] as number) * (across(total, emfs, i) + through(emf.converter)) : 0;
      },
      load: (i) => (loads.on[i] ? -across(total, loads, i) : 0),
      converterWatt: (c) => (converters.on[c] ? (byInput[c] as number) / across(this.x, converters, c) : 0),
      converterAmp: (c) => byInput[c] as number,
    };
  }
}

/** A by which a current must be away from a limit to be free of it. */
const HELD_A = 1e-7;

/** Input power of a converter and how it moves with the output's amps and volts. */
function powerSlopes({ efficiency, loss }: ConverterElement, vin: number, vout: number, iout: number): [number, number, number] {
  if (loss !== null) {
    const at = (amps: number, volts: number) => inputPower(loss, Math.max(0, volts * amps), Math.max(0, amps), vin);
    const step = 1e-5;
    const watts = at(iout, vout);
    return [watts, (at(iout + step, vout) - watts) / step, (at(iout, vout + step) - watts) / step];
  }
  // A linear regulator passes its current on: its power follows its own input volts, so what it draws does not.
  if (efficiency === null) return [0, vin, 0];
  return [Math.max(0, vout * iout) / efficiency, vout / efficiency, iout / efficiency];
}
