import type { Machine, Pack } from "../machine/schema";
import { buildCircuit } from "../network/build";
import type { Circuit, Emf } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { ModeSolver } from "../network/solve";
import { openKey, type Topology, TopologyCache } from "../network/topology";
import { type PackModel, packModel } from "../packs/pack";
import { type Stop, stopsOf } from "./stops";

/** What all discharges of one machine share: the network, its orderings and the solvers with their memory. */
interface Shared {
  readonly circuit: Circuit;
  readonly topologies: readonly Topology[];
  readonly solvers: Map<Topology, ModeSolver>;
  /** Index into the circuit's sources, by pack. */
  readonly emfOf: readonly number[];
  readonly missing: readonly { pack: Pack; figures: readonly string[] }[];
}

function share(machine: Machine, circuit: Circuit, cache: TopologyCache): { shared: Shared; packs: PackModel[] } {
  cache.adopt(circuit);
  const packs: PackModel[] = [];
  const missing: { pack: Pack; figures: readonly string[] }[] = [];
  const emfOf: number[] = [];
  circuit.emfs.forEach(({ id }, i) => {
    const part = machine.parts.find((each) => each.id === id);
    if (part?.kind !== "pack") return;
    const read = packModel(part, machine.settings.ambientC);
    if ("missing" in read) {
      missing.push({ pack: part, figures: read.missing });
      return;
    }
    packs.push(read.model);
    emfOf.push(i);
  });
  const topologies = machine.modes.map((mode) => cache.get(circuit, openKey(circuit, mode.id)));
  return { shared: { circuit, topologies, solvers: new Map(), emfOf, missing }, packs };
}

/** A machine ready to be solved at any state of charge of its packs. */
export class Discharge {
  readonly stops: readonly Stop[];
  private constructor(
    readonly machine: Machine,
    private readonly shared: Shared,
    /** Packs in document order with their models; charges are arrays over these. */
    readonly packs: readonly PackModel[],
  ) {
    const reserves = packs.map(({ reserve }) => reserve);
    this.stops = stopsOf(machine, shared.circuit, packs, shared.emfOf, (mode) => this.at(mode, reserves));
  }

  static of(machine: Machine, circuit = buildCircuit(machine), cache = new TopologyCache()): Discharge {
    const { shared, packs } = share(machine, circuit, cache);
    return new Discharge(machine, shared, packs);
  }

  /** The same machine with another pack model in place of one: for weighing candidates without building anything anew. */
  withPack(index: number, model: PackModel): Discharge {
    return new Discharge(
      this.machine,
      this.shared,
      this.packs.map((each, i) => (i === index ? model : each)),
    );
  }

  get circuit(): Circuit {
    return this.shared.circuit;
  }

  /** Packs whose model lacks figures: name and what is missing. */
  get missing(): Shared["missing"] {
    return this.shared.missing;
  }

  /** Solves a mode with the packs at `charges` (shares); without a model they stay at their planned volts. */
  at(mode: number, charges: ArrayLike<number>): OperatingPoint {
    const emfs = [...this.shared.circuit.emfs];
    this.packs.forEach((model, p) => {
      const i = this.shared.emfOf[p] as number;
      const charge = charges[p] as number;
      const volts = model.openV(charge);
      const ohm = model.ohm(charge);
      emfs[i] = { ...(emfs[i] as Emf), volts, lowVolts: volts, ohm, lowOhm: ohm };
    });
    const topology = this.shared.topologies[mode] as Topology;
    let solver = this.shared.solvers.get(topology);
    if (solver) solver.setSources(emfs);
    else {
      solver = new ModeSolver({ ...this.shared.circuit, emfs }, topology);
      this.shared.solvers.set(topology, solver);
    }
    return solver.solve(mode, "planned");
  }

  /** A delivered by pack `p` at a point. */
  packA(point: OperatingPoint, p: number): number {
    return point.emfA[this.shared.emfOf[p] as number] ?? 0;
  }

  /** V across the terminals of pack `p`. */
  packV(point: OperatingPoint, p: number): number {
    const emf = this.circuit.emfs[this.shared.emfOf[p] as number] as Emf;
    return (point.nodeV[emf.pos] as number) - (point.nodeV[emf.neg] as number);
  }

  /** Whether what a stop watches has a complete circuit in a mode. */
  live(stop: Stop, mode: number): boolean {
    const topology = this.shared.topologies[mode] as Topology;
    return topology.unknownOf[stop.pos] !== -2 && topology.island[stop.pos] === topology.island[stop.neg];
  }

  /** Some load of the mode has no figure: what is drawn is the least it can be. */
  unknown(mode: number): boolean {
    return this.circuit.loads.some((load) => load.unknown[mode] === 1);
  }
}
