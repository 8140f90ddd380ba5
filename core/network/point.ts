/** At which charge of the packs the network is solved. */
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
