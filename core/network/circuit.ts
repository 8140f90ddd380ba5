import type { LossModel } from "../converters/switched";
import { bridgeOf, channelDraw } from "../drivers/channel";
import { type Draw, drawIn } from "../loads/draw";
import type { Onboard } from "../machine/load-schema";
import type { Converter, Driver, FuseRef, Load, Machine, Part, PartOf, Source, TerminalRef, Wire, WireEnd } from "../machine/schema";
import { isBoard, isSource, regulates, terminalsOf } from "../machine/terminals";
import { connectorById } from "../reference/connectors";
import { FUSE_FAMILIES, fuseRow } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { ohmFactor, plannedChargeOf, reserveOf } from "../sources/pack";
import { traceOf } from "../wires/ampacity";
import { COPPER_RESISTIVITY_OHM_M, runResistance } from "../wires/resistance";
import { PAD_ROW_MM2, traceOhmPerM } from "../wires/trace";
import { metalOf } from "./metal";
import { Rows } from "./rows";

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
  /** The same with the pack at the lowest charge planned; equal for the rest. */
  readonly lowVolts: number;
  readonly lowOhm: number;
  /** Least and most it gives, A: a supply that cannot take current back, a limit that holds the current. */
  readonly leastA: number;
  readonly mostA: number;
  /** Index into `converters`, or −1 for a primary source. */
  readonly converter: number;
}

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
  /** The driver channel that feeds each load, by load id. */
  readonly feeds: ReadonlyMap<string, ChannelFeed>;
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
 * Resistance of a wire with its ends and inline fuse, Ω; a wire of unknown size or length counts with its ends only.
 * `cold`: at 20 °C with new contacts, the least a fault meets.
 */
export function wireOhm(machine: Machine, wire: Wire, cold = false): number {
  const { settings } = machine;
  const conductorC = cold ? 20 : Math.max(settings.conductorC, settings.ambientC);
  // Copper of a board has no crimped ends.
  const jointOhm = wire.board ? 0 : settings.jointOhm;
  const run = runResistance(ohmPerM20(wire) * 1000, wire.lengthM?.value ?? 0, conductorC, jointOhm, wire.parallel);
  // A board without a length would be no resistance at all.
  const ends = endOhm(wire.fromEnd, cold) + endOhm(wire.toEnd, cold);
  return Math.max(LEAST_OHM, run + ends) + (wire.fuse ? fuseOhm(wire.fuse) : 0) + (wire.resistorOhm?.value ?? 0);
}

/** Keeps the network solvable where a conductor has nothing that resists, Ω. */
const LEAST_OHM = 1e-6;

type Behind = Pick<Emf, "volts" | "lowVolts" | "ohm" | "lowOhm" | "leastA" | "mostA">;

const FREE = { leastA: Number.NEGATIVE_INFINITY, mostA: Number.POSITIVE_INFINITY };

/** What is behind a source's terminals; `alone`: nothing else could push current into it. */
function emfOf(machine: Machine, part: Source | Converter, alone: boolean): Behind {
  if (part.kind === "pack") {
    const { ambientC } = machine.settings;
    const volts = part.openCircuitV.value;
    const ohm = part.internalOhm?.value ?? SOURCE_OHM_FLOOR;
    return {
      volts,
      lowVolts: part.lowV?.value ?? volts,
      ohm: ohm * ohmFactor(part, ambientC, plannedChargeOf(part)),
      lowOhm: ohm * ohmFactor(part, ambientC, reserveOf(part)),
      ...FREE,
      ...(part.diode && !alone ? { leastA: 0 } : {}),
    };
  }
  const volts = part.outputV.value;
  const ohm = part.outputOhm?.value ?? SOURCE_OHM_FLOOR;
  const held = part.kind === "supply" && part.overload === "constant current" ? part.limitA?.value : undefined;
  return {
    volts,
    lowVolts: volts,
    ohm,
    lowOhm: ohm,
    leastA: part.kind === "supply" && !part.sinks && !alone ? 0 : Number.NEGATIVE_INFINITY,
    mostA: held ?? Number.POSITIVE_INFINITY,
  };
}

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

/** Efficiency of a small onboard buck, typical (handbook sources-and-regulators section 5.2, from memory). */
const ONBOARD_EFFICIENCY = 0.85;
/** Output resistance of an onboard regulator, Ω, typical. */
export const ONBOARD_OHM = 0.02;

function elementIn(rows: Rows, modes: number) {
  return (id: string, role: LoadElement["role"], pos: number, neg: number): LoadElement & { inMatrix: boolean } => ({
    id,
    role,
    pos,
    neg,
    amps: rows.next(),
    siemens: rows.next(),
    watts: rows.next(),
    inMatrix: false,
    unknown: new Uint8Array(modes),
  });
}

function putDraw(to: LoadElement & { inMatrix: boolean }, mode: number, draw: Pick<Draw, "amps" | "siemens" | "watts">): void {
  to.amps[mode] = draw.amps;
  to.siemens[mode] = draw.siemens;
  to.watts[mode] = draw.watts;
  if (draw.siemens !== 0 || draw.watts !== 0) to.inMatrix = true;
}

function constant(to: LoadElement, amps: number): LoadElement {
  to.amps.fill(amps);
  return to;
}

/** Which driver channel feeds a load through which wires; the terminal is the channel's "a" leg. */
export interface ChannelFeed {
  driver: Driver;
  channel: number;
  out: Wire;
  back: Wire | undefined;
}

/** The channel that feeds each load, by load id: a lead runs straight from a driver's leg to its plus. */
export function channelFeeds(machine: Machine): ReadonlyMap<string, ChannelFeed> {
  const drivers = new Map<string, Driver>();
  for (const part of machine.parts) if (part.kind === "driver") drivers.set(part.id, part);
  const feeds = new Map<string, ChannelFeed>();
  if (drivers.size === 0) return feeds;
  const backs = new Map<string, Wire>();
  for (const wire of machine.wires) if (wire.role === "phase" && drivers.has(wire.to.part)) backs.set(wire.from.part, wire);
  for (const wire of machine.wires) {
    const driver = wire.role === "phase" && wire.to.terminal === "+" ? drivers.get(wire.from.part) : undefined;
    if (!driver || wire.from.terminal.at(-1) !== "a" || feeds.has(wire.to.part)) continue;
    const channel = Number(wire.from.terminal[0]);
    const back = backs.get(wire.to.part);
    const same = back?.to.part === driver.id && back.to.terminal === `${channel}b`;
    feeds.set(wire.to.part, { driver, channel, out: wire, back: same ? back : undefined });
  }
  return feeds;
}

/**
 * Builds the circuit of a machine. The terminals of a bar are one node; a converter that is not isolated has one
 * common minus. A driver's channel is its bridge resistance, half in each leg; what a chopping bridge passes round in
 * the motor loop is a current across the channel's terminals, so motor leads and bus each carry their own current.
 */
export function buildCircuit(machine: Machine): Circuit {
  const nodes = new Map<string, Record<string, number>>();
  let nodeCount = 0;
  // Outputs of one box share its minus, whichever of them comes first.
  const minuses = new Map<string, number>();
  const boxMinus = (box: string): number => {
    const node = minuses.get(box) ?? nodeCount++;
    minuses.set(box, node);
    return node;
  };
  for (const part of machine.parts) {
    const common = part.kind === "converter" && !part.isolated;
    // A board without a regulator of its own passes its supply through to its pins.
    const passes = isBoard(part) && !regulates(part);
    const own: Record<string, number> = {};
    for (const terminal of terminalsOf(part)) {
      if (terminal === "-" && part.kind === "supply") own[terminal] = boxMinus(part.box ?? part.id);
      else if (common && terminal === "out-") own[terminal] = own["in-"] as number;
      else if (terminal === "pin") own[terminal] = own["5v"] as number;
      else if (passes && terminal === "5v") own[terminal] = own["+"] as number;
      else own[terminal] = nodeCount++;
    }
    nodes.set(part.id, own);
  }
  const node = (ref: TerminalRef) => nodes.get(ref.part)?.[ref.terminal] as number;
  const at = (part: Part, terminal: string) => nodes.get(part.id)?.[terminal] as number;

  const chokes = new Map<string, number>();
  for (const part of machine.parts) if (part.kind === "load" && part.filterOhm) chokes.set(part.id, part.filterOhm.value);
  const branches: Branch[] = machine.wires.map((wire) => ({
    kind: "wire",
    id: wire.id,
    a: node(wire.from),
    b: node(wire.to),
    // A filter's choke sits at the end of the supply wire.
    ohm: wireOhm(machine, wire) + (wire.to.terminal === "+" ? (chokes.get(wire.to.part) ?? 0) : 0),
    contact: -1,
  }));
  const emfs: Emf[] = [];
  const converters: ConverterElement[] = [];
  const loads: LoadElement[] = [];
  const switches: PartOf<"switch">[] = [];
  const { modes } = machine;
  const element = elementIn(new Rows(modes.length), modes.length);
  const feeds = channelFeeds(machine);
  const school = machine.settings.schools.peakBudget;

  const addOnboard = (part: Part & { onboard: Onboard }, plus: string, minus: string) => {
    const volts = part.onboard.outputV.value;
    const [pos, neg] = [at(part, "5v"), at(part, minus)];
    emfs.push({
      id: part.id,
      pos,
      neg,
      ohm: ONBOARD_OHM,
      lowOhm: ONBOARD_OHM,
      volts,
      lowVolts: volts,
      ...FREE,
      converter: converters.length,
    });
    converters.push({
      id: part.id,
      inPos: at(part, plus),
      inNeg: neg,
      emf: emfs.length - 1,
      efficiency: part.onboard.type === "linear" ? null : ONBOARD_EFFICIENCY,
      loss: null,
      quiescentA: 0,
    });
  };

  const addLoad = (part: Load) => {
    const own = element(part.id, "load", at(part, "+"), at(part, "-"));
    const feed = feeds.get(part.id);
    const leadOhm = feed ? wireOhm(machine, feed.out) + (feed.back ? wireOhm(machine, feed.back) : 0) : 0;
    const loop = feed ? element(part.id, "loop", at(feed.driver, `${feed.channel}a`), at(feed.driver, `${feed.channel}b`)) : null;
    let circulates = false;
    modes.forEach((mode, m) => {
      const cell = part.cells[mode.id];
      const draw = drawIn(part, cell, school);
      if (draw.missing !== null) own.unknown[m] = 1;
      if (!feed || !loop) {
        putDraw(own, m, draw);
        return;
      }
      const channel = channelDraw(feed.driver, cell, draw, leadOhm);
      putDraw(own, m, channel.motor);
      putDraw(loop, m, channel.loop);
      circulates ||= channel.loop.amps !== 0 || channel.loop.siemens !== 0 || channel.loop.watts !== 0;
    });
    loads.push(own);
    if (loop && circulates) loads.push(loop);
  };

  const addDriver = (part: Driver) => {
    const half = bridgeOf(part).ohm / 2;
    for (let channel = 1; channel <= part.channels; channel++) {
      branches.push({ kind: "bridge", id: part.id, a: at(part, "in+"), b: at(part, `${channel}a`), ohm: half, contact: -1 });
      branches.push({ kind: "bridge", id: part.id, a: at(part, `${channel}b`), b: at(part, "in-"), ohm: half, contact: -1 });
    }
    loads.push(constant(element(part.id, "own", at(part, "in+"), at(part, "in-")), part.ownA?.value ?? 0));
    if (part.logic === undefined) return;
    loads.push(constant(element(part.id, "logic", at(part, "5v"), at(part, "in-")), part.logicA?.value ?? 0));
    if (regulates(part)) addOnboard(part, "in+", "in-");
  };

  const alone = machine.parts.filter(isSource).length < 2;
  for (const part of machine.parts) {
    if (isSource(part)) {
      emfs.push({ id: part.id, pos: at(part, "+"), neg: at(part, "-"), ...emfOf(machine, part, alone), converter: -1 });
    } else if (part.kind === "converter") {
      const behind = emfOf(machine, part, alone);
      emfs.push({ id: part.id, pos: at(part, "out+"), neg: at(part, "out-"), ...behind, converter: converters.length });
      converters.push({
        id: part.id,
        inPos: at(part, "in+"),
        inNeg: at(part, "in-"),
        emf: emfs.length - 1,
        efficiency: part.topology === "linear" ? null : part.efficiency.value,
        loss: lossModelOf(part),
        quiescentA: part.quiescentA?.value ?? 0,
      });
    } else if (part.kind === "fuse") {
      branches.push({ kind: "fuse", id: part.id, a: at(part, "in"), b: at(part, "out"), ohm: fuseOhm(part.fuse), contact: -1 });
    } else if (part.kind === "switch") {
      const ohm = part.contactOhm?.value ?? 3e-4;
      branches.push({ kind: "switch", id: part.id, a: at(part, "in"), b: at(part, "out"), ohm, contact: switches.length });
      switches.push(part);
    } else if (part.kind === "driver") {
      addDriver(part);
    } else if (part.kind === "load") {
      addLoad(part);
      if (regulates(part)) addOnboard(part, "+", "-");
    }
  }
  return {
    machine,
    nodeCount,
    nodes,
    branches,
    emfs: alone ? emfs : unpushed(nodeCount, branches, emfs),
    converters,
    loads,
    switches,
    feeds,
  };
}

/** Sources that no other one is joined to: nothing pushes current into them, so they need no limit from below. */
function unpushed(nodeCount: number, branches: readonly Branch[], emfs: readonly Emf[]): Emf[] {
  if (emfs.every(({ leastA }) => leastA === Number.NEGATIVE_INFINITY)) return [...emfs];
  const metal = metalOf(nodeCount, branches);
  const joined = new Map<number, number>();
  for (const { pos } of emfs) joined.set(metal(pos), (joined.get(metal(pos)) ?? 0) + 1);
  return emfs.map((emf) => ((joined.get(metal(emf.pos)) ?? 0) > 1 ? emf : { ...emf, leastA: Number.NEGATIVE_INFINITY }));
}
