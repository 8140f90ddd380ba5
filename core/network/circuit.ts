import type { LossModel } from "../converters/switched";
import { lengthOf } from "../machine/length";
import type { BuiltMachine, Converter, Driver, FuseRef, Machine, PartOf, Wire, WireEnd } from "../machine/schema";
import { connectorById } from "../reference/connectors";
import { FUSE_FAMILIES, fuseRow } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { traceOf } from "../wires/ampacity";
import { COPPER_RESISTIVITY_OHM_M, runResistance } from "../wires/resistance";
import { PAD_ROW_MM2, traceOhmPerM } from "../wires/trace";

/** A two-terminal resistance. `wire` ones include an inline fuse; `ground` is a board's own ground copper. `contact` is the index of the switch, else −1. */
export interface Branch {
  readonly kind: "wire" | "fuse" | "switch" | "bridge" | "ground";
  /** Wire id or part id. */
  readonly id: string;
  readonly a: number;
  readonly b: number;
  readonly ohm: number;
  readonly contact: number;
}

/** A voltage behind a resistance: packs, supplies and converter outputs. */
export interface Emf {
  readonly id: string;
  readonly pos: number;
  readonly neg: number;
  readonly ohm: number;
  readonly volts: number;
  /** The same with the pack at the lowest charge planned; equal for the rest. */
  readonly lowVolts: number;
  readonly lowOhm: number;
  /** Least and most it gives, A: a supply that cannot take current back, a limit that holds the current. */
  readonly leastA: number;
  readonly mostA: number;
  /** Index into `converters`, or −1 for a primary source. */
  readonly converter: number;
}

/** What ties a converter's input to its output. */
export interface ConverterElement {
  readonly id: string;
  readonly inPos: number;
  readonly inNeg: number;
  readonly emf: number;
  /** Output over input power; null: linear, which passes its output current through. */
  readonly efficiency: number | null;
  /** Losses by load, in place of the one efficiency. */
  readonly loss: LossModel | null;
  readonly quiescentA: number;
}

/**
 * What draws between two nodes: `amps` + `siemens`·V + `watts`/V, by mode (0 where unknown). `loop` elements stand for
 * the current a chopping bridge passes round in its motor loop; they are negative.
 */
export interface LoadElement {
  readonly id: string;
  readonly role: "load" | "own" | "logic" | "loop";
  readonly pos: number;
  readonly neg: number;
  readonly amps: Float64Array;
  readonly siemens: Float64Array;
  readonly watts: Float64Array;
  /** Some mode has siemens or watts: it enters the matrix, not only the right-hand side. */
  readonly inMatrix: boolean;
  /** 1 where the figure is missing. */
  readonly unknown: Uint8Array;
}

/** Current (A) that a load draws at `volts` in a mode. */
export function drawnBy(load: LoadElement, mode: number, volts: number): number {
  const watts = load.watts[mode] as number;
  return (load.amps[mode] as number) + (load.siemens[mode] as number) * volts + (watts === 0 ? 0 : watts / volts);
}

/** Where a part draws, whatever it draws: its place in `loads` never changes. */
export interface DrawPlace {
  /** The load or driver. */
  readonly id: string;
  readonly role: "load" | "own" | "logic";
  readonly pos: number;
  readonly neg: number;
}

/** The machine as a network without what its loads draw: node 0..n−1, each a place where conductors meet. */
export interface Skeleton {
  readonly nodeCount: number;
  /** Node by part id and terminal; `nodeAt` reads it. */
  readonly nodes: ReadonlyMap<string, Readonly<Record<string, number>>>;
  readonly branches: readonly Branch[];
  readonly emfs: readonly Emf[];
  readonly converters: readonly ConverterElement[];
  readonly switches: readonly PartOf<"switch">[];
  /** The driver channel that feeds each load, by load id. */
  readonly feeds: ReadonlyMap<string, ChannelFeed>;
  readonly places: readonly DrawPlace[];
}

/** A skeleton and the machine it is of. */
export interface Wired extends Skeleton {
  readonly machine: BuiltMachine;
}

/** The whole network. `loads` has one element a place, in the order of places, then the loops. */
export interface Circuit extends Wired {
  readonly machine: Machine;
  readonly loads: readonly LoadElement[];
}

/** The node of a terminal; −1 where the machine has no such terminal. */
export function nodeAt(circuit: Pick<Skeleton, "nodes">, partId: string, terminal: string): number {
  return circuit.nodes.get(partId)?.[terminal] ?? -1;
}

/** Cold resistance of a fuse in its holder, Ω. Both from the fuse table, typical. */
export function fuseOhm(fuse: FuseRef): number {
  const row = fuseRow(fuse.family, fuse.ratingA);
  return ((row?.coldMilliohm ?? UNKNOWN_FUSE_MV / fuse.ratingA) + FUSE_FAMILIES[fuse.family].holderMilliohm) / 1000;
}

/** Volts a fuse without a known resistance loses at its rating, mV, typical. */
const UNKNOWN_FUSE_MV = 100;

/** A mated connector at a wire's end, all its contacts of this conductor together, Ω: as worn, or new. */
export function endOhm(end: WireEnd | undefined, isNew = false): number {
  const row = end && connectorById(end.family);
  return row ? (isNew ? row.milliohm : row.agedMilliohm) / 1000 / (end.perPole ?? 1) : 0;
}

/** Ω/m at 20 °C of what a wire is made of; 0 where that is not known. */
export function ohmPerM20(wire: Wire): number {
  if (wire.board?.kind === "trace") return traceOhmPerM(traceOf(wire.board));
  if (wire.board) return COPPER_RESISTIVITY_OHM_M / (PAD_ROW_MM2 * 1e-6);
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  return (gauge?.r20OhmPerKm ?? 0) / 1000;
}

/**
 * Resistance of a wire with its ends and inline fuse, Ω; one of unknown size counts with its ends only, one of unknown length
 * as long as is assumed. `cold`: at 20 °C with new contacts, the least a fault meets.
 */
export function wireOhm(machine: BuiltMachine, wire: Wire, cold = false): number {
  const { settings } = machine;
  const conductorC = cold ? 20 : Math.max(settings.conductorC, settings.ambientC);
  // Copper of a board has no crimped ends.
  const jointOhm = wire.board ? 0 : settings.jointOhm;
  const run = runResistance(ohmPerM20(wire) * 1000, lengthOf(wire), conductorC, jointOhm, wire.parallel);
  // A board without a length would be no resistance at all.
  const ends = endOhm(wire.fromEnd, cold) + endOhm(wire.toEnd, cold);
  return Math.max(LEAST_OHM, run + ends) + (wire.fuse ? fuseOhm(wire.fuse) : 0) + builtInOhm(wire);
}

/** What is in a wire besides conductor and fresh ends, Ω: a resistor, and what its joints were measured to have. */
export function builtInOhm(wire: Wire): number {
  return (wire.resistorOhm?.value ?? 0) + (wire.extraOhm?.value ?? 0);
}

/** Keeps the network solvable where a conductor has nothing that resists, Ω. */
const LEAST_OHM = 1e-6;

/** Losses of a switching converter where its three coefficients are known; null: its one efficiency counts. */
export function lossModelOf(part: Converter): LossModel | null {
  if (part.topology === "linear" || !part.lossW || !part.lossV || !part.lossOhm) return null;
  return {
    watts: part.lossW.value,
    volts: part.lossV.value,
    ohm: part.lossOhm.value,
    atInput: part.lossBasis === "in",
    atV: part.lossAtV?.value ?? null,
  };
}

/** Output resistance of an onboard regulator, Ω, typical. */
export const ONBOARD_OHM = 0.02;

/** Which driver channel feeds a load through which wires; the terminal is the channel's "a" leg. */
export interface ChannelFeed {
  driver: Driver;
  channel: number;
  out: Wire;
  back: Wire | undefined;
  /** Its leads are changed over: leg a on its minus. The bridge drives it all the same, the other way. */
  swapped: boolean;
}

/** The channel that feeds each load, by load id: a lead runs straight from a driver's leg to its plus, or changed over to its minus. */
export function channelFeeds(machine: Machine): ReadonlyMap<string, ChannelFeed> {
  const drivers = new Map<string, Driver>();
  for (const part of machine.parts) if (part.kind === "driver") drivers.set(part.id, part);
  const feeds = new Map<string, ChannelFeed>();
  if (drivers.size === 0) return feeds;
  const backs = new Map<string, Wire>();
  for (const wire of machine.wires) if (wire.role === "phase" && drivers.has(wire.to.part)) backs.set(wire.from.part, wire);
  for (const wire of machine.wires) {
    const swapped = wire.to.terminal === "-";
    const driver = wire.role === "phase" && (swapped || wire.to.terminal === "+") ? drivers.get(wire.from.part) : undefined;
    if (!driver || wire.from.terminal.at(-1) !== "a" || feeds.has(wire.to.part)) continue;
    const channel = Number(wire.from.terminal[0]);
    const back = backs.get(wire.to.part);
    const same = back?.to.part === driver.id && back.to.terminal === `${channel}b`;
    if (swapped && !(same && back.from.terminal === "+")) continue;
    feeds.set(wire.to.part, { driver, channel, out: wire, back: same ? back : undefined, swapped });
  }
  return feeds;
}
