import type { Machine } from "../machine/schema";
import { inputTerminals, isConsumer } from "../machine/terminals";
import { buildCircuit } from "../network/build";
import { type Branch, type Circuit, type Emf, endOhm, nodeAt, wireOhm } from "../network/circuit";
import { openKey, type Topology, TopologyCache } from "../network/topology";
import { machineIn, NOW, type Situation } from "./situation";

/** A machine as it stands on the bench, ready to be solved: its network in one situation. */
export interface Built {
  readonly situation: Situation;
  readonly machine: Machine;
  readonly circuit: Circuit;
  readonly topology: Topology;
  /** Nodes without any source are dead: a meter shows nothing there. */
  readonly refOf: Int32Array;
}

/** A bench supply's own resistance, leads included, Ω. */
const BENCH_OHM = 0.01;
/** Nothing on a bench conducts better than this, Ω: below it no meter sees a difference, and the network stays solvable when a wire opens. */
const LEAST_OHM = 1e-4;
/** What sits in the input of a part that is plugged in but off, Ω: it carries a voltage on, it feeds nothing. */
const INPUT_OHM = 2e5;
/** A meter's own resistance, which pulls down what nothing holds, S; and the least share of a node's conductance that keeps an open end defined. */
const METER_S = 1e-7;
const LEAST_SHARE = 1e-9;

/** What sits in a part's input is no part of its own. */
function plugId(id: string): string {
  return `plug ${id}`;
}

/** Between fresh contacts, a wire as it is on a bench: as the plan has it less what its ends will age by. */
function freshOhm(machine: Machine, branch: Branch, index: number): number {
  const wire = branch.kind === "wire" ? machine.wires[index] : undefined;
  if (!wire) return branch.ohm;
  const aged = endOhm(wire.fromEnd) + endOhm(wire.toEnd);
  const fresh = endOhm(wire.fromEnd, true) + endOhm(wire.toEnd, true);
  return branch.ohm - aged + fresh;
}

/** Sources with bench supplies in their place. `limits`: where each holds its current, A, by the source's id. */
function fedFrom(emf: Emf, situation: Situation, limits: ReadonlyMap<string, number>): Emf {
  if (emf.converter >= 0 || situation.fedBy !== "bench") return emf;
  const volts = emf.volts * situation.share;
  return {
    ...emf,
    volts,
    lowVolts: volts,
    ohm: BENCH_OHM,
    lowOhm: BENCH_OHM,
    leastA: 0,
    mostA: limits.get(emf.id) ?? Number.POSITIVE_INFINITY,
  };
}

/** The network of a machine in a situation. */
export function built(machine: Machine, situation: Situation, limits: ReadonlyMap<string, number> = new Map()): Built {
  const now = machineIn(machine, situation);
  const plain = buildCircuit(now);
  const branches = plain.branches.map((branch, i) => ({ ...branch, ohm: Math.max(LEAST_OHM, freshOhm(now, branch, i)) }));
  const emfs = plain.emfs.map((emf) => fedFrom(emf, situation, limits));
  const inputs = now.parts.flatMap((part): Branch[] => {
    if (!isConsumer(part) || (part.kind !== "converter" && !situation.plugged.has(part.id))) return [];
    const { supply, back } = inputTerminals(part);
    const [a, b] = [nodeAt(plain, part.id, supply ?? ""), nodeAt(plain, part.id, back ?? "")];
    return a < 0 || b < 0 || a === b ? [] : [{ kind: "bridge", id: plugId(part.id), a, b, ohm: INPUT_OHM, contact: -1 }];
  });
  const key = openKey(plain, NOW);
  const bare: Circuit = { ...plain, branches: [...branches, ...inputs], emfs };
  const refOf = referencesOf(bare, key);
  const circuit: Circuit = { ...bare, branches: [...bare.branches, ...leaks(bare, refOf)] };
  return { situation, machine: now, circuit, topology: new TopologyCache().get(circuit, key), refOf };
}

/** The reference of each node's island; −1 where no source reaches it. */
function referencesOf(circuit: Circuit, key: string): Int32Array {
  const { unknownOf, island } = new TopologyCache().get(circuit, key);
  const refs = new Map<number, number>();
  for (let node = 0; node < circuit.nodeCount; node++) if (unknownOf[node] === -1) refs.set(island[node] as number, node);
  return Int32Array.from({ length: circuit.nodeCount }, (_, node) =>
    unknownOf[node] === -2 ? -1 : (refs.get(island[node] as number) ?? -1),
  );
}

/** From every live node to the reference of its island: what keeps a node defined when the conductor that held it opens. */
function leaks(circuit: Circuit, refOf: Int32Array): Branch[] {
  const siemens = new Float64Array(circuit.nodeCount);
  for (const { a, b, ohm } of circuit.branches) {
    siemens[a] = (siemens[a] as number) + 1 / ohm;
    siemens[b] = (siemens[b] as number) + 1 / ohm;
  }
  const found: Branch[] = [];
  for (let node = 0; node < circuit.nodeCount; node++) {
    const ref = refOf[node] as number;
    if (ref < 0 || ref === node) continue;
    const leak = Math.max(METER_S, LEAST_SHARE * (siemens[node] as number));
    found.push({ kind: "bridge", id: "", a: node, b: ref, ohm: 1 / leak, contact: -1 });
  }
  return found;
}

/** Resistance of one wire on the bench, fresh and cold, by what it is made of, Ω. */
export function wireOnBench(machine: Machine, index: number): number {
  const wire = machine.wires[index];
  if (!wire) return 0;
  return freshOhm(machine, { kind: "wire", id: wire.id, a: 0, b: 0, ohm: wireOhm(machine, wire), contact: -1 }, index);
}

/** Whether a part's plug is in: what sits in its input is then part of the network. */
export function isPluggedIn({ branches }: Pick<Circuit, "branches">, id: string): boolean {
  return branches.some((branch) => branch.id === plugId(id));
}
