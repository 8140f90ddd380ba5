import { bridgeOf } from "../drivers/channel";
import { groupBy } from "../machine/group";
import type { BuiltPart } from "../machine/schema";
import { bottomOf } from "../machine/strings";
import { inputTerminals, isConsumer, isSource, regulates } from "../machine/terminals";
import { type Ledger, railOrigin } from "../machine/tree";
import { nodeAt, type Wired } from "../network/circuit";
import { metalOf } from "../network/metal";
import type { OperatingPoint } from "../network/point";
import { type AtRest, type Reach, reachAbove, reachAcross } from "../network/rest";
import type { Topology } from "../network/topology";
import type { Wiring } from "./types";

/** Where the current of a part is read off a solved network. */
export type AmpsPlan =
  | { from: "emf"; emf: number }
  | { from: "input"; converter: number }
  /** What it draws itself, what its regulator takes (−1: none) and what goes into its bridges. */
  | { from: "draw"; place: number; converter: number; legs: readonly number[] }
  | { from: "through"; branch: number }
  /** Wires at a bar, by branch, and 1 where the wire's current runs towards it. */
  | { from: "bar"; wires: readonly { branch: number; sign: number }[] };

/** For a motor on a driver's channel: where its bridge stands. */
export interface ChannelPlan {
  leg: number;
  back: number;
  plus: number;
  minus: number;
  branch: number;
  bridge: { dropV: number; ohm: number };
}

type Pair = readonly [number, number];

/** A source whose output a rail hangs on. */
export interface RailSource {
  readonly id: string;
  /** −1: it is none in the network. */
  readonly emf: number;
  readonly pair: Pair;
}

/** Below this a source that shares its rail gives nothing worth naming, A. */
const GIVES_A = 1e-3;

/** Which of a rail's sources feeds it at an operating point: its own where that gives anything, else whichever gives most. */
export function givingTo(sources: readonly RailSource[], { emfA }: OperatingPoint): RailSource | null {
  const [own] = sources;
  if (!own || sources.length === 1 || (emfA[own.emf] ?? 0) > GIVES_A) return own ?? null;
  const most = sources.reduce((best, each) => ((emfA[each.emf] ?? 0) > (emfA[best.emf] ?? 0) ? each : best));
  return (emfA[most.emf] ?? 0) > GIVES_A ? most : own;
}

/** Where the figures of a part are read off a solved network: made once, and again only when the wiring changes. */
export interface PartPlan {
  readonly id: string;
  readonly wiring: Wiring;
  /** The most it can see with every pack full and nothing running, V; null: nothing reaches it. */
  readonly reach: Reach | null;
  readonly consumes: boolean;
  /** Its draw in the circuit's loads, if it is a load; −1 for all others. */
  readonly load: number;
  readonly emf: number;
  readonly converter: number;
  /** Branch of the wire that feeds it; −1: nothing does. */
  readonly feed: number;
  readonly pair: Pair | null;
  readonly single: number;
  /** Output of what feeds its rail. */
  readonly origin: Pair | null;
  /** The same, and behind it what else gives onto the same metal with every contact closed; empty where nothing feeds its rail. */
  readonly sources: readonly RailSource[];
  readonly output: Pair | null;
  readonly channel: ChannelPlan | null;
  readonly amps: AmpsPlan;
}

/** How a part is joined to its source with every switch closed. */
function wiringOf(circuit: Wired, wiring: Topology, part: BuiltPart, hasFeed: boolean, hasBack: boolean): Wiring {
  if (isSource(part)) return "source";
  if (!isConsumer(part)) return "metal";
  const input = inputTerminals(part);
  const pos = nodeAt(circuit, part.id, input.supply ?? "");
  const neg = nodeAt(circuit, part.id, input.back ?? "");
  if (wiring.unknownOf[pos] !== -2 && wiring.island[pos] === wiring.island[neg]) return "ok";
  if (!hasFeed) return "notFed";
  if (!hasBack) return "noReturn";
  return wiring.unknownOf[pos] === -2 ? "notFed" : "apart";
}

function terminalPair(part: BuiltPart): [string, string] | null {
  if (isSource(part)) return ["+", "-"];
  const input = inputTerminals(part);
  return isConsumer(part) && input.supply && input.back ? [input.supply, input.back] : null;
}

/** Output of what feeds a rail, as nodes: of blocks in series from the top of them to the bottom. */
function originNodes(circuit: Wired, origin: BuiltPart): Pair {
  const [plus, minus] = outputPair(origin);
  const below = origin.kind === "pack" ? bottomOf(circuit.machine, origin).id : origin.id;
  return [nodeAt(circuit, origin.id, plus), nodeAt(circuit, below, minus)];
}

function outputPair(part: BuiltPart): [string, string] {
  if (part.kind === "converter") return ["out+", "out-"];
  if (part.kind === "driver") return ["5v", "in-"];
  return regulates(part) ? ["5v", "-"] : ["+", "-"];
}

/** Indexes shared by all parts of one machine. */
interface Lookup {
  partOf: ReadonlyMap<string, BuiltPart>;
  wire: ReadonlyMap<string, number>;
  /** Index of a draw by "role id". */
  place: ReadonlyMap<string, number>;
  emf: ReadonlyMap<string, number>;
  converter: ReadonlyMap<string, number>;
  branchesOfPart: ReadonlyMap<string, number[]>;
  wiresAtNode: ReadonlyMap<number, { branch: number; sign: number }[]>;
}

function lookups(circuit: Wired, partOf: ReadonlyMap<string, BuiltPart>): Lookup {
  const branchesOfPart = new Map<string, number[]>();
  const wiresAtNode = new Map<number, { branch: number; sign: number }[]>();
  const note = (node: number, branch: number, sign: number) => {
    const list = wiresAtNode.get(node);
    if (list) list.push({ branch, sign });
    else wiresAtNode.set(node, [{ branch, sign }]);
  };
  circuit.branches.forEach((branch, i) => {
    if (branch.kind === "wire") {
      note(branch.a, i, -1);
      note(branch.b, i, 1);
      return;
    }
    const list = branchesOfPart.get(branch.id);
    if (list) list.push(i);
    else branchesOfPart.set(branch.id, [i]);
  });
  const index = (list: readonly { id: string }[]) => new Map(list.map(({ id }, i) => [id, i]));
  return {
    partOf,
    wire: index(circuit.machine.wires),
    place: new Map(circuit.places.map(({ role, id }, i) => [`${role} ${id}`, i])),
    emf: index(circuit.emfs),
    converter: index(circuit.converters),
    branchesOfPart,
    wiresAtNode,
  };
}

function ampsPlan(circuit: Wired, lookup: Lookup, part: BuiltPart): AmpsPlan {
  const converter = lookup.converter.get(part.id) ?? -1;
  const branches = lookup.branchesOfPart.get(part.id) ?? [];
  const place = (role: string) => lookup.place.get(`${role} ${part.id}`) as number;
  switch (part.kind) {
    case "pack":
    case "supply":
      return { from: "emf", emf: lookup.emf.get(part.id) as number };
    case "load":
      return { from: "draw", place: place("load"), converter, legs: [] };
    case "converter":
      return { from: "input", converter };
    case "driver": {
      const plus = nodeAt(circuit, part.id, "in+");
      return { from: "draw", place: place("own"), converter, legs: branches.filter((i) => circuit.branches[i]?.a === plus) };
    }
    case "switch":
    case "fuse":
      return { from: "through", branch: branches[0] as number };
    case "bar":
      return { from: "bar", wires: lookup.wiresAtNode.get(nodeAt(circuit, part.id, "bar")) ?? [] };
  }
}

function channelPlan(circuit: Wired, lookup: Lookup, part: BuiltPart): ChannelPlan | null {
  const feed = circuit.feeds.get(part.id);
  if (!feed || part.kind !== "load") return null;
  const at = (terminal: string) => nodeAt(circuit, feed.driver.id, terminal);
  const leg = at(`${feed.channel}a`);
  const branch = (lookup.branchesOfPart.get(feed.driver.id) ?? []).find((i) => circuit.branches[i]?.b === leg);
  if (branch === undefined) return null;
  return { leg, back: at(`${feed.channel}b`), plus: at("in+"), minus: at("in-"), branch, bridge: bridgeOf(feed.driver) };
}

/** A rail's source, and what else gives onto the metal of its plus. */
function sourcesBeside(circuit: Wired, partOf: ReadonlyMap<string, BuiltPart>, lookup: Lookup): (origin: BuiltPart) => RailSource[] {
  const of = (part: BuiltPart): RailSource => ({ id: part.id, emf: lookup.emf.get(part.id) ?? -1, pair: originNodes(circuit, part) });
  const known = new Map<string, RailSource[]>();
  // Most machines have one source, and nothing beside it.
  const metal = circuit.emfs.length > 1 ? metalOf(circuit.nodeCount, circuit.branches) : () => 0;
  const onMetal = groupBy(circuit.emfs, ({ pos }) => String(metal(pos)));
  return (origin) => {
    const before = known.get(origin.id);
    if (before) return before;
    const own = of(origin);
    const others = (onMetal.get(String(metal(own.pair[0]))) ?? []).flatMap(({ id }): RailSource[] => {
      const part = id === origin.id ? undefined : partOf.get(id);
      return part ? [of(part)] : [];
    });
    const made = [own, ...others];
    known.set(origin.id, made);
    return made;
  };
}

/** A plan for every part, in the order of the machine's parts. `wiring`: the topology with every switch closed. */
export function planParts(
  circuit: Wired,
  wiring: Topology,
  rest: AtRest,
  ledger: Ledger<BuiltPart>,
  partOf: ReadonlyMap<string, BuiltPart>,
): PartPlan[] {
  const lookup = lookups(circuit, partOf);
  const beside = sourcesBeside(circuit, partOf, lookup);
  return circuit.machine.parts.map((part): PartPlan => {
    const nodes = (id: string, pair: readonly [string, string]): Pair => [nodeAt(circuit, id, pair[0]), nodeAt(circuit, id, pair[1])];
    const row = ledger.rowOf.get(part.id);
    const origin = partOf.get(railOrigin(ledger, part.id) ?? "");
    const pair = terminalPair(part);
    const emf = lookup.emf.get(part.id) ?? -1;
    const single = part.kind === "bar" ? "bar" : (inputTerminals(part).supply ?? "+");
    return {
      id: part.id,
      wiring: wiringOf(circuit, wiring, part, Boolean(row?.feed), Boolean(row?.back)),
      reach:
        (pair ? reachAcross(rest, nodes(part.id, pair)) : reachAbove(rest, nodeAt(circuit, part.id, single))) ??
        (origin ? reachAcross(rest, originNodes(circuit, origin)) : null),
      consumes: isConsumer(part),
      load: lookup.place.get(`load ${part.id}`) ?? -1,
      emf,
      converter: lookup.converter.get(part.id) ?? -1,
      feed: row?.feed ? (lookup.wire.get(row.feed.id) ?? -1) : -1,
      pair: pair && nodes(part.id, pair),
      single: nodeAt(circuit, part.id, single),
      origin: origin ? originNodes(circuit, origin) : null,
      sources: origin ? beside(origin) : [],
      output: emf < 0 ? null : nodes(part.id, outputPair(part)),
      channel: channelPlan(circuit, lookup, part),
      amps: ampsPlan(circuit, lookup, part),
    };
  });
}
