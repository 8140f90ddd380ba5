import { bridgeOf } from "../drivers/channel";
import type { Onboard } from "../machine/load-schema";
import type { Converter, Driver, Machine, Part, PartOf, Source, TerminalRef, Wire } from "../machine/schema";
import { groundTerminal, isBoard, isConsumer, isSource, regulates, terminalsOf } from "../machine/terminals";
import { ohmFactor, plannedChargeOf, reserveOf } from "../packs/pack";
import {
  type Branch,
  type ConverterElement,
  channelFeeds,
  type DrawPlace,
  type Emf,
  fuseOhm,
  lossModelOf,
  ONBOARD_OHM,
  type Skeleton,
  wireOhm,
} from "./circuit";
import { metalOf } from "./metal";

/** Least resistance of a source without a figure, Ω: keeps the network solvable; the missing figure is asked for. */
const SOURCE_OHM_FLOOR = 1e-3;

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
    leastA: part.diode || (part.kind === "supply" && !part.sinks && !alone) ? 0 : Number.NEGATIVE_INFINITY,
    mostA: held ?? Number.POSITIVE_INFINITY,
  };
}

/** Efficiency of a small onboard buck, typical (handbook sources-and-regulators section 5.2, from memory). */
const ONBOARD_EFFICIENCY = 0.85;
/**
 * Builds the network of a machine as far as no mode changes it. The terminals of a bar are one node; a converter that is not isolated has one
 * common minus. A driver's channel is its bridge resistance, half in each leg; what a chopping bridge passes round in
 * the motor loop is a current across the channel's terminals, so motor leads and bus each carry their own current.
 */
export function buildSkeleton(machine: Machine): Skeleton {
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
  const feeds = channelFeeds(machine);
  // Wires end where they are screwed on; changed over on its channel a load's plus is the terminal called minus.
  const screws = new Map(nodes);
  for (const [id, { swapped }] of feeds) {
    const own = nodes.get(id);
    if (swapped && own) nodes.set(id, { ...own, "+": own["-"] as number, "-": own["+"] as number });
  }
  const node = (ref: TerminalRef) => screws.get(ref.part)?.[ref.terminal] as number;
  // Others' returns land on a board's ground pins; its copper lies between those and its own minus.
  const pins = new Map<string, number>();
  for (const part of machine.parts) if (isConsumer(part) && part.groundOhm) pins.set(part.id, nodeCount++);
  const landing = (wire: Wire) => {
    const pin = wire.role === "return" ? pins.get(wire.to.part) : undefined;
    const part = pin === undefined ? undefined : machine.parts.find(({ id }) => id === wire.to.part);
    return pin !== undefined && part && wire.to.terminal === groundTerminal(part) ? pin : node(wire.to);
  };
  const at = (part: Part, terminal: string) => nodes.get(part.id)?.[terminal] as number;

  const chokes = new Map<string, number>();
  for (const part of machine.parts) if (part.kind === "load" && part.filterOhm) chokes.set(part.id, part.filterOhm.value);
  const branches: Branch[] = machine.wires.map((wire) => ({
    kind: "wire",
    id: wire.id,
    a: node(wire.from),
    b: landing(wire),
    // A filter's choke sits at the end of the supply wire.
    ohm: wireOhm(machine, wire) + (wire.to.terminal === "+" ? (chokes.get(wire.to.part) ?? 0) : 0),
    contact: -1,
  }));
  const emfs: Emf[] = [];
  const converters: ConverterElement[] = [];
  const places: DrawPlace[] = [];
  const switches: PartOf<"switch">[] = [];
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

  const addDriver = (part: Driver) => {
    const half = bridgeOf(part).ohm / 2;
    for (let channel = 1; channel <= part.channels; channel++) {
      branches.push({ kind: "bridge", id: part.id, a: at(part, "in+"), b: at(part, `${channel}a`), ohm: half, contact: -1 });
      branches.push({ kind: "bridge", id: part.id, a: at(part, `${channel}b`), b: at(part, "in-"), ohm: half, contact: -1 });
    }
    places.push({ id: part.id, role: "own", pos: at(part, "in+"), neg: at(part, "in-") });
    if (part.logic === undefined) return;
    places.push({ id: part.id, role: "logic", pos: at(part, "5v"), neg: at(part, "in-") });
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
      if (part.coilOhm) places.push({ id: part.id, role: "own", pos: at(part, "c+"), neg: at(part, "c-") });
    } else if (part.kind === "driver") {
      addDriver(part);
    } else if (part.kind === "load") {
      places.push({ id: part.id, role: "load", pos: at(part, "+"), neg: at(part, "-") });
      if (regulates(part)) addOnboard(part, "+", "-");
    }
  }
  for (const [id, pin] of pins) {
    const part = machine.parts.find((each) => each.id === id);
    if (part && isConsumer(part) && part.groundOhm)
      branches.push({ kind: "ground", id, a: pin, b: at(part, groundTerminal(part) ?? "-"), ohm: part.groundOhm.value, contact: -1 });
  }
  return {
    nodeCount,
    nodes,
    branches,
    emfs: unpushed(nodeCount, branches, emfs),
    converters,
    switches,
    feeds,
    places,
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
