import type { Circuit, Wired } from "./circuit";
import { across, addConductance, addDraw } from "./stamp";
import { openKey, type Topology } from "./topology";

/**
 * The network in one state of its contacts with every pack full, everything fed and nothing drawn: the most its nodes can
 * show. Where sources are joined and push into each other, also with each of them away in turn: the one that is left then
 * sets the volts.
 */
export interface RestPoint {
  readonly key: string;
  readonly topology: Topology;
  /** Node voltages, V against the reference of each island: all sources, then with one source away each. */
  readonly nodeV: readonly Float64Array[];
  /** Lowest and highest node of each island, V, for each of these. */
  readonly spans: readonly ReadonlyMap<number, readonly [number, number]>[];
  /** What flows out of each source with nothing drawn, A: nothing, unless sources are joined or a conductor shorts one. */
  readonly emfA: Float64Array;
  /** V by which a node would move with each volt that a pack without a full voltage stands above what is known; null: none. */
  readonly doubt: Float64Array | null;
}

/** A source that pushes more than this with nothing to feed is joined to another one or shorted, A. */
export const PUSHES_A = 0.01;
/** Most sources that are taken away one at a time. */
const MOST_AWAY = 8;
/** Volts are kept to a microvolt: at rest nothing flows, and what the solver rounds is no voltage. */
const STEP_V = 1e-6;

/** Volts of each source when full, and whether that is known; by emf. */
export type FullVolts = (emf: number) => { volts: number; known: boolean };

/** States of the contacts that some mode has, and the same with every charging port closed: chargers are on then. */
export function restKeys(circuit: Circuit): string[] {
  const port = circuit.switches.map(({ device }) => device === "charging port");
  const keys = circuit.machine.modes.map(({ id }) => openKey(circuit, id));
  const plugged = keys.map((key) => [...key].map((state, contact) => (port[contact] ? "c" : state)).join(""));
  return [...new Set([...keys, ...plugged])];
}

/** Solves one state at rest. It uses the topology's solver, so no other solve may be under way in it. */
export function restPoint(circuit: Wired, key: string, topology: Topology, full: FullVolts): RestPoint {
  const { emfs, branches, nodeCount } = circuit;
  const { solver } = topology;
  const volts = Float64Array.from(emfs, (_, i) => full(i).volts);
  const x = new Float64Array(solver.size + 1);
  const rhs = new Float64Array(solver.size + 1);
  const factor = (away: number) => {
    solver.values.fill(0);
    for (let i = 0; i < branches.length; i++) addConductance(solver.values, topology.branches, i, 1 / (branches[i]?.ohm ?? 1));
    emfs.forEach(({ ohm }, i) => {
      // A source that is away leaks just enough to keep what only it holds from floating.
      addConductance(solver.values, topology.emfs, i, i === away ? AWAY_S : 1 / ohm);
    });
    return solver.factor();
  };
  const solve = (away: number, behind: (emf: number) => number) => {
    rhs.fill(0);
    emfs.forEach(({ ohm }, i) => {
      if (i !== away) addDraw(rhs, topology.emfs, i, -behind(i) / ohm);
    });
    rhs[solver.size] = 0;
    solver.solve(rhs, x);
  };
  const nodes = () => {
    const nodeV = new Float64Array(nodeCount);
    for (let node = 0; node < nodeCount; node++) {
      const unknown = topology.unknownOf[node] as number;
      if (unknown >= 0) nodeV[node] = Math.round((x[unknown] as number) / STEP_V) * STEP_V;
    }
    return nodeV;
  };
  const emfA = new Float64Array(emfs.length);
  if (!factor(-1)) return { key, topology, nodeV: [new Float64Array(nodeCount)], spans: [], emfA, doubt: null };
  solve(-1, (i) => volts[i] as number);
  if (passOn(circuit, topology, x, volts)) solve(-1, (i) => volts[i] as number);
  const nodeV = [nodes()];
  emfs.forEach(({ ohm }, i) => {
    if (topology.emfs.on[i]) emfA[i] = ((volts[i] as number) - across(x, topology.emfs, i)) / ohm;
  });
  let doubt: Float64Array | null = null;
  if (emfs.some((_, i) => !full(i).known)) {
    solve(-1, (i) => (full(i).known ? 0 : 1));
    doubt = nodes();
  }
  const pushing = emfs.flatMap((_, i) => (Math.abs(emfA[i] as number) > PUSHES_A ? [i] : []));
  if (pushing.length > 1) {
    for (const away of pushing.slice(0, MOST_AWAY)) {
      if (!factor(away)) continue;
      solve(away, (i) => volts[i] as number);
      nodeV.push(nodes());
    }
  }
  return { key, topology, nodeV, spans: nodeV.map((each) => spansOf(topology, each)), emfA, doubt };
}

function spansOf({ unknownOf, island }: Topology, nodeV: Float64Array): ReadonlyMap<number, readonly [number, number]> {
  const spans = new Map<number, [number, number]>();
  nodeV.forEach((volts, node) => {
    if (unknownOf[node] === -2) return;
    const span = spans.get(island[node] as number);
    if (!span) spans.set(island[node] as number, [volts, volts]);
    else if (volts < span[0]) span[0] = volts;
    else if (volts > span[1]) span[1] = volts;
  });
  return spans;
}

/** Conductance in place of a source that is away, S. */
const AWAY_S = 1e-6;

/** A boost passes its input on where that stands above its output; true where one does. */
function passOn(circuit: Wired, topology: Topology, x: Float64Array, volts: Float64Array): boolean {
  let moved = false;
  for (const part of circuit.machine.parts) {
    if (part.kind !== "converter" || part.topology !== "boost" || part.isolated) continue;
    const at = circuit.converters.findIndex(({ id }) => id === part.id);
    const emf = circuit.converters[at]?.emf ?? -1;
    if (at < 0 || !topology.converters.on[at]) continue;
    const inputV = across(x, topology.converters, at);
    if (!(inputV > (volts[emf] ?? 0))) continue;
    volts[emf] = inputV;
    moved = true;
  }
  return moved;
}

/** The machine at rest in every state of its contacts that it can be in. */
export interface AtRest {
  readonly points: readonly RestPoint[];
  /** With every contact closed: for what no mode ever connects. */
  readonly closed: RestPoint;
}

/** What a pair of nodes, or one node against the lowest of its island, can show. */
export interface Reach {
  /** Highest with what is known, V. */
  readonly volts: number;
  /** Every full voltage it hangs on is known. */
  readonly known: boolean;
}

/** Moving by less than this with a pack's volts is rounding. */
const LEAST_DOUBT = 1e-3;

function joinedIn({ topology }: RestPoint, a: number, b: number): boolean {
  return topology.unknownOf[a] !== -2 && topology.unknownOf[b] !== -2 && topology.island[a] === topology.island[b];
}

/** The highest volts between two nodes in any state in which they are joined; null where they never are. */
export function reachAcross({ points, closed }: AtRest, [plus, minus]: readonly [number, number]): Reach | null {
  const joined = points.filter((point) => joinedIn(point, plus, minus));
  const asked = joined.length > 0 ? joined : [closed].filter((point) => joinedIn(point, plus, minus));
  if (asked.length === 0) return null;
  let volts = Number.NEGATIVE_INFINITY;
  let known = true;
  for (const { nodeV, doubt } of asked) {
    for (const each of nodeV) volts = Math.max(volts, (each[plus] as number) - (each[minus] as number));
    if (doubt && Math.abs((doubt[plus] as number) - (doubt[minus] as number)) > LEAST_DOUBT) known = false;
  }
  return { volts: rounded(volts), known };
}

/** The highest volts of a node above the lowest one of its island; of a node at the bottom, what the island spans. */
export function reachAbove({ points, closed }: AtRest, node: number): Reach | null {
  const live = points.filter(({ topology }) => topology.unknownOf[node] !== -2);
  const asked = live.length > 0 ? live : [closed].filter(({ topology }) => topology.unknownOf[node] !== -2);
  if (asked.length === 0) return null;
  let volts = 0;
  let known = true;
  for (const { nodeV, spans, doubt, topology } of asked) {
    nodeV.forEach((each, k) => {
      const [low = 0, high = 0] = spans[k]?.get(topology.island[node] as number) ?? [];
      const above = (each[node] as number) - low;
      volts = Math.max(volts, above > AT_BOTTOM * (high - low) ? above : high - low);
    });
    if (doubt && Math.abs(doubt[node] as number) > LEAST_DOUBT) known = false;
  }
  return { volts: rounded(volts), known };
}

/** Share of an island's span below which a node is on its return side. */
const AT_BOTTOM = 0.02;

function rounded(volts: number): number {
  return Math.round(volts / STEP_V) * STEP_V;
}

/** Signed volts of a part's supply terminals at rest in a state; null where they are not joined. */
export function restVolts(point: RestPoint, [plus, minus]: readonly [number, number]): number | null {
  const [base] = point.nodeV;
  return base && joinedIn(point, plus, minus) ? rounded((base[plus] as number) - (base[minus] as number)) : null;
}
