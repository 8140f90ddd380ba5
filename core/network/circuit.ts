import type { FuseRef, Load, Machine, Part, PartOf, Source, TerminalRef, Wire } from "../machine/schema";
import { isSource, terminalsOf } from "../machine/terminals";
import { FUSE_FAMILIES, fuseRow } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { runResistance } from "../wires/resistance";

/** A two-terminal resistance. `wire` ones include an inline fuse. `contact` is the index of the switch, else −1. */
export interface Branch {
  readonly kind: "wire" | "fuse" | "switch" | "bridge";
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
  /** The same with the pack at the lowest charge planned; equal to `volts` for the rest. */
  readonly lowVolts: number;
  /** Index into `converters`, or −1 for a primary source. */
  readonly converter: number;
}

export interface ConverterElement {
  readonly id: string;
  readonly inPos: number;
  readonly inNeg: number;
  readonly emf: number;
  readonly efficiency: number;
  readonly quiescentA: number;
}

/** A load or a driver's own use. `draw[m]` is the current in A at `nominalV` in mode m (0 where unknown). */
export interface LoadElement {
  readonly id: string;
  readonly pos: number;
  readonly neg: number;
  readonly behaviour: Load["behaviour"];
  readonly nominalV: number;
  readonly draw: Float64Array;
  /** 1 where the figure is missing. */
  readonly unknown: Uint8Array;
}

/** The machine as a network: node 0..n−1, each a place where conductors meet. */
export interface Circuit {
  readonly machine: Machine;
  readonly nodeCount: number;
  /** Node by part id and terminal; `nodeAt` reads it. */
  readonly nodes: ReadonlyMap<string, Readonly<Record<string, number>>>;
  readonly branches: readonly Branch[];
  readonly emfs: readonly Emf[];
  readonly converters: readonly ConverterElement[];
  readonly loads: readonly LoadElement[];
  readonly switches: readonly PartOf<"switch">[];
}

/** The node of a terminal; −1 where the machine has no such terminal. */
export function nodeAt(circuit: Circuit, partId: string, terminal: string): number {
  return circuit.nodes.get(partId)?.[terminal] ?? -1;
}

/** Least resistance of a source without a figure, Ω: keeps the network solvable; the missing figure is asked for. */
const SOURCE_OHM_FLOOR = 1e-3;

/** Cold resistance of a fuse in its holder, Ω. Both from the fuse table, typical. */
export function fuseOhm(fuse: FuseRef): number {
  const row = fuseRow(fuse.family, fuse.ratingA);
  return ((row?.coldMilliohm ?? 1) + FUSE_FAMILIES[fuse.family].holderMilliohm) / 1000;
}

/** Resistance of a wire with its ends and inline fuse, Ω; a wire of unknown size or length counts with its ends only. */
export function wireOhm(machine: Machine, wire: Wire): number {
  const { settings } = machine;
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const conductorC = Math.max(settings.conductorC, settings.ambientC);
  const run = runResistance(gauge?.r20OhmPerKm ?? 0, wire.lengthM?.value ?? 0, conductorC, settings.jointOhm, wire.parallel);
  return run + (wire.fuse ? fuseOhm(wire.fuse) : 0);
}

function emfOf(part: Source | PartOf<"converter">): { volts: number; lowVolts: number; ohm: number } {
  if (part.kind === "pack") {
    const volts = part.openCircuitV.value;
    return { volts, lowVolts: part.lowV?.value ?? volts, ohm: part.internalOhm?.value ?? SOURCE_OHM_FLOOR };
  }
  return { volts: part.outputV.value, lowVolts: part.outputV.value, ohm: part.outputOhm?.value ?? SOURCE_OHM_FLOOR };
}

/**
 * Builds the circuit of a machine. The terminals of a bar are one node; a converter that is not isolated has one
 * common minus. Drivers are planned fully on: each channel is its bridge resistance, half in each leg.
 */
export function buildCircuit(machine: Machine): Circuit {
  const nodes = new Map<string, Record<string, number>>();
  let nodeCount = 0;
  for (const part of machine.parts) {
    const common = part.kind === "converter" && !part.isolated;
    const own: Record<string, number> = {};
    for (const terminal of terminalsOf(part)) own[terminal] = common && terminal === "out-" ? (own["in-"] as number) : nodeCount++;
    nodes.set(part.id, own);
  }
  const node = (ref: TerminalRef) => nodes.get(ref.part)?.[ref.terminal] as number;
  const at = (part: Part, terminal: string) => nodes.get(part.id)?.[terminal] as number;

  const branches: Branch[] = machine.wires.map((wire) => ({
    kind: "wire",
    id: wire.id,
    a: node(wire.from),
    b: node(wire.to),
    ohm: wireOhm(machine, wire),
    contact: -1,
  }));
  const emfs: Emf[] = [];
  const converters: ConverterElement[] = [];
  const loads: LoadElement[] = [];
  const switches: PartOf<"switch">[] = [];
  const modes = machine.modes;

  for (const part of machine.parts) {
    if (isSource(part)) {
      emfs.push({ id: part.id, pos: at(part, "+"), neg: at(part, "-"), ...emfOf(part), converter: -1 });
    } else if (part.kind === "converter") {
      emfs.push({ id: part.id, pos: at(part, "out+"), neg: at(part, "out-"), ...emfOf(part), converter: converters.length });
      converters.push({
        id: part.id,
        inPos: at(part, "in+"),
        inNeg: at(part, "in-"),
        emf: emfs.length - 1,
        efficiency: part.efficiency.value,
        quiescentA: part.quiescentA?.value ?? 0,
      });
    } else if (part.kind === "fuse") {
      branches.push({ kind: "fuse", id: part.id, a: at(part, "in"), b: at(part, "out"), ohm: fuseOhm(part.fuse), contact: -1 });
    } else if (part.kind === "switch") {
      const ohm = part.contactOhm?.value ?? 3e-4;
      branches.push({ kind: "switch", id: part.id, a: at(part, "in"), b: at(part, "out"), ohm, contact: switches.length });
      switches.push(part);
    } else if (part.kind === "driver") {
      const half = (part.bridgeOhm?.value ?? 0.02) / 2;
      for (let channel = 1; channel <= part.channels; channel++) {
        branches.push({ kind: "bridge", id: part.id, a: at(part, "in+"), b: at(part, `${channel}a`), ohm: half, contact: -1 });
        branches.push({ kind: "bridge", id: part.id, a: at(part, `${channel}b`), b: at(part, "in-"), ohm: half, contact: -1 });
      }
      loads.push({
        id: part.id,
        pos: at(part, "in+"),
        neg: at(part, "in-"),
        behaviour: "current",
        nominalV: 1,
        draw: new Float64Array(modes.length).fill(part.ownA?.value ?? 0),
        unknown: new Uint8Array(modes.length),
      });
    } else if (part.kind === "load") {
      const draw = new Float64Array(modes.length);
      const unknown = new Uint8Array(modes.length);
      modes.forEach((mode, m) => {
        const cell = part.cells[mode.id];
        if (cell === undefined) unknown[m] = 1;
        else if (cell.state === "amps") draw[m] = cell.amps.value;
      });
      loads.push({
        id: part.id,
        pos: at(part, "+"),
        neg: at(part, "-"),
        behaviour: part.behaviour,
        nominalV: part.nominalV.value,
        draw,
        unknown,
      });
    }
  }
  return { machine, nodeCount, nodes, branches, emfs, converters, loads, switches };
}
