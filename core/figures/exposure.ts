import { wireMustBear } from "../fuses/rating";
import type { BuiltPart } from "../machine/schema";
import { findBridges } from "../network/bridges";
import type { Wired } from "../network/circuit";

/** What limits a sustained fault on a wire, and how far the wire reaches before any fuse. */
export interface Exposure {
  /** Largest current in A that can flow for good before something opens; infinite: nothing opens. */
  readonly limitA: number;
  /** Rating of the fuse that sets it, A; null: no fuse does. A wire must bear more than that for some families. */
  readonly ratingA: number | null;
  /** What sets it: a fuse on a wire or part, a source's own electronic limit, or nothing. */
  readonly by: { kind: "wire" | "part" | "source"; id: string } | null;
  /** The source's overload limit is not known, so neither is the exposure. */
  readonly unknown: boolean;
  /** Battery whose unfused side this wire is on, and conductor length in m from its terminal to the far end; else null. */
  readonly unfused: { pack: string; runM: number } | null;
}

interface Label {
  cap: number;
  ratingA: number | null;
  by: Exposure["by"];
  source: string;
  unknown: boolean;
}

interface Edge {
  to: number;
  branch: number;
}

function edgesOf(circuit: Wired): Edge[][] {
  const edges: Edge[][] = Array.from({ length: circuit.nodeCount }, () => []);
  circuit.branches.forEach((branch, i) => {
    edges[branch.a]?.push({ to: branch.b, branch: i });
    edges[branch.b]?.push({ to: branch.a, branch: i });
  });
  return edges;
}

interface Guard {
  ratingA: number;
  /** What the wire behind it must bear, A. */
  bearA: number;
  by: NonNullable<Exposure["by"]>;
}

/** Fuse in a branch: rating and where it sits. */
function fuseIn(circuit: Wired, parts: ReadonlyMap<string, BuiltPart>, branch: number): Guard | null {
  const element = circuit.branches[branch];
  if (!element) return null;
  const { ambientC, coldestC } = circuit.machine.settings;
  const coldC = coldestC ?? ambientC;
  if (element.kind === "wire") {
    const fuse = circuit.machine.wires[branch]?.fuse;
    return fuse ? { ratingA: fuse.ratingA, bearA: wireMustBear(fuse, coldC), by: { kind: "wire", id: element.id } } : null;
  }
  if (element.kind !== "fuse") return null;
  const part = parts.get(element.id);
  if (part?.kind !== "fuse") return null;
  return { ratingA: part.fuse.ratingA, bearA: wireMustBear(part.fuse, coldC), by: { kind: "part", id: part.id } };
}

/** Where a source's own overload protection acts; a regulator on a driver's or board's own board has its terminal's limit. */
function ownLimit(part: BuiltPart | undefined): number | undefined {
  if (part?.kind === "supply" || part?.kind === "converter") return part.limitA?.value;
  return part?.kind === "driver" || part?.kind === "load" ? part.onboard?.outputA?.value : undefined;
}

/**
 * For every wire reached from a source's plus terminal: the widest way a fault current can take to it, judged by the
 * fuses on the way (all switches closed). An inline fuse sits at the `from` end. Returns are not reached from a plus
 * terminal; `returnExposure` judges them by their feed.
 * @returns by wire index; null where no source reaches
 */
export function supplyExposure(circuit: Wired): (Exposure | null)[] {
  const { machine, nodeCount, branches } = circuit;
  const edges = edgesOf(circuit);
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const fuses = branches.map((_, i) => fuseIn(circuit, parts, i));
  const labels = new Array<Label | undefined>(nodeCount);
  const runM = new Float64Array(nodeCount).fill(Number.POSITIVE_INFINITY);
  const queue: number[] = [];

  for (const emf of circuit.emfs) {
    const part = parts.get(emf.id);
    const limitA = ownLimit(part);
    const pack = part?.kind === "pack";
    const label: Label = pack
      ? { cap: Number.POSITIVE_INFINITY, ratingA: null, by: null, source: emf.id, unknown: false }
      : { cap: limitA ?? 0, ratingA: null, by: { kind: "source", id: emf.id }, source: emf.id, unknown: limitA === undefined };
    if (!labels[emf.pos] || (labels[emf.pos] as Label).cap < label.cap) labels[emf.pos] = label;
    if (pack) runM[emf.pos] = 0;
    queue.push(emf.pos);
  }
  for (let head = 0; head < queue.length; head++) {
    const node = queue[head] as number;
    const here = labels[node] as Label;
    for (const edge of edges[node] ?? []) {
      const fuse = fuses[edge.branch];
      const next: Label = fuse && fuse.bearA < here.cap ? { ...here, cap: fuse.bearA, ratingA: fuse.ratingA, by: fuse.by } : here;
      const old = labels[edge.to];
      const wire = machine.wires[edge.branch];
      const reach = (runM[node] as number) + (branches[edge.branch]?.kind === "wire" ? (wire?.lengthM?.value ?? 0) : 0);
      const nearer = !fuse && here.cap === Number.POSITIVE_INFINITY && reach < (runM[edge.to] as number) - 1e-12;
      if (nearer) runM[edge.to] = reach;
      if (!old || next.cap > old.cap || (next.unknown && !old.unknown && next.cap >= old.cap)) {
        labels[edge.to] = next;
        queue.push(edge.to);
      } else if (nearer) queue.push(edge.to);
    }
  }

  return machine.wires.map((wire, i) => {
    const branch = branches[i];
    const fromLabel = branch ? labels[branch.a] : undefined;
    const toLabel = branch ? labels[branch.b] : undefined;
    if (!branch || (!fromLabel && !toLabel)) return null;
    const fuse = fuses[i];
    let worst: Label | undefined = fromLabel;
    if (fromLabel && fuse && fuse.bearA < fromLabel.cap) worst = { ...fromLabel, cap: fuse.bearA, ratingA: fuse.ratingA, by: fuse.by };
    if (toLabel && (!worst || toLabel.cap > worst.cap)) worst = toLabel;
    if (!worst) return null;
    const bare = worst.cap === Number.POSITIVE_INFINITY;
    const start = Math.min(runM[branch.a] as number, runM[branch.b] as number);
    return {
      limitA: worst.cap,
      ratingA: worst.ratingA,
      by: worst.by,
      unknown: worst.unknown,
      unfused: bare && Number.isFinite(start) ? { pack: worst.source, runM: start + (wire.lengthM?.value ?? 0) } : null,
    };
  });
}

/**
 * A return conductor must survive what its feed's protection lets through. A paired return takes its feed's exposure;
 * an unpaired one that is the only way back for some supply wires takes the largest of theirs; in a meshed return
 * nothing is claimed (null).
 */
export function returnExposure(circuit: Wired, supply: readonly (Exposure | null)[]): (Exposure | null)[] {
  const { machine, branches, emfs, nodeCount } = circuit;
  const indexOf = new Map(machine.wires.map((wire, i) => [wire.id, i]));
  const paired = machine.wires.map((wire) => (wire.pair === undefined ? null : (supply[indexOf.get(wire.pair) ?? -1] ?? null)));

  // The minus terminals of packs and supplies are one place to come back to: all of them are the root.
  const home = nodeCount;
  const place = Int32Array.from({ length: nodeCount }, (_, node) => node);
  for (const emf of emfs) if (emf.converter < 0) place[emf.neg] = home;
  const ends = machine.wires.map((_, i): [number, number] => {
    const { a = 0, b = 0 } = branches[i] ?? {};
    return [place[a] as number, place[b] as number];
  });
  const isolated = emfs.filter((emf) => emf.converter >= 0).map((emf) => place[emf.neg] as number);
  const { order, parent, far } = findBridges(nodeCount + 1, ends, [home, ...isolated]);

  // Largest exposure of all returns that start at a node or beyond it.
  const beyond = new Array<Exposure | undefined>(nodeCount + 1);
  const offer = (node: number, exposure: Exposure | undefined) => {
    if (exposure && !(exposure.limitA <= (beyond[node]?.limitA ?? -1))) beyond[node] = exposure;
  };
  machine.wires.forEach((wire, i) => {
    if (wire.role !== "supply") offer(ends[i]?.[0] as number, paired[i] ?? undefined);
  });
  for (let k = nodeCount; k >= 0; k--) {
    const node = order[k] as number;
    if ((parent[node] as number) >= 0) offer(parent[node] as number, beyond[node]);
  }
  return machine.wires.map((wire, i) => {
    if (supply[i]) return null;
    if (paired[i]) return paired[i] ?? null;
    const start = ends[i]?.[0] as number;
    return wire.role === "return" && far[i] === start ? (beyond[start] ?? null) : null;
  });
}
