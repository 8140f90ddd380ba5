import { wireMustBear } from "../fuses/rating";
import type { BuiltPart } from "../machine/schema";
import { stringsOf } from "../machine/strings";
import { inputTerminals, isConsumer } from "../machine/terminals";
import { findBridges } from "../network/bridges";
import type { Wired } from "../network/circuit";
import { type Inflow, inflow, piecesOf, type Way } from "./flow-capacity";

/** Something that ends what goes on for too long: a fuse, a source's own limit, or for a pack nothing. */
export interface Guard {
  /** What it lets through continuously, A; infinite: everything. */
  readonly limitA: number;
  /** Rating of the fuse, A; null: no fuse does it. A wire must bear more than that for some families. */
  readonly ratingA: number | null;
  /** A fuse on a wire or part, a source's own electronic limit, or nothing. */
  readonly by: { readonly kind: "wire" | "part" | "source"; readonly id: string } | null;
  /** The source's overload limit is not known. */
  readonly unknown: boolean;
}

/** What limits a sustained fault on a wire, and how far the wire reaches before any fuse. */
export interface Exposure extends Guard {
  /** Battery whose unfused side this wire is on, and conductor length in m from its terminal to the far end; else null. */
  readonly unfused: { pack: string; runM: number } | null;
  /** Where several guards together let through what flows here: all of them. `by` is then the largest, `limitA` their sum. */
  readonly shares?: readonly Guard[];
  /**
   * Returns only, where there is anything: what others let through continuously along with the own feed's current, and what runs
   * against it, to a converter's minus, A.
   */
  readonly others?: { readonly alongA: number; readonly againstA: number };
}

/** A guard on the widest way from a source, and the one before it on that way. */
interface Label extends Guard {
  readonly source: string;
  readonly before: Label | null;
}

/** A wire that a source reaches: what it is exposed to, and by which guards. */
interface Reached {
  readonly exposure: Exposure;
  readonly label: Label;
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

/** A fuse as a guard: what it lets through continuously is what the wire behind it must bear. */
type Fused = Pick<Guard, "limitA" | "ratingA" | "by">;

/** Fuse in a branch: rating and where it sits. */
function fuseIn(circuit: Wired, parts: ReadonlyMap<string, BuiltPart>, branch: number): Fused | null {
  const element = circuit.branches[branch];
  if (!element) return null;
  const { ambientC, coldestC } = circuit.machine.settings;
  const coldC = coldestC ?? ambientC;
  if (element.kind === "wire") {
    const fuse = circuit.machine.wires[branch]?.fuse;
    return fuse ? { ratingA: fuse.ratingA, limitA: wireMustBear(fuse, coldC), by: { kind: "wire", id: element.id } } : null;
  }
  if (element.kind !== "fuse") return null;
  const part = parts.get(element.id);
  if (part?.kind !== "fuse") return null;
  return { ratingA: part.fuse.ratingA, limitA: wireMustBear(part.fuse, coldC), by: { kind: "part", id: part.id } };
}

/** Where a source's own overload protection acts; a regulator on a driver's or board's own board has its terminal's limit. */
function ownLimit(part: BuiltPart | undefined): number | undefined {
  if (part?.kind === "supply" || part?.kind === "converter") return part.limitA?.value;
  return part?.kind === "driver" || part?.kind === "load" ? part.onboard?.outputA?.value : undefined;
}

/**
 * For every wire reached from a source's plus terminal: the widest way a fault current can take to it, judged by the
 * fuses on the way (all switches closed). An inline fuse sits at the `from` end. Returns are not reached from a plus
 * terminal; `returnExposure` judges them by what comes home through them.
 * @returns by wire index; null where no source reaches
 */
function supplyExposure(circuit: Wired): (Reached | null)[] {
  const { machine, nodeCount, branches } = circuit;
  const edges = edgesOf(circuit);
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const fuses = branches.map((_, i) => fuseIn(circuit, parts, i));
  const labels = new Array<Label | undefined>(nodeCount);
  const runM = new Float64Array(nodeCount).fill(Number.POSITIVE_INFINITY);
  const queue: number[] = [];

  const strings = stringsOf(machine);
  for (const emf of circuit.emfs) {
    const part = parts.get(emf.id);
    // What a lower block of a string gives goes through the blocks on top of it, unless something is tapped there.
    if (part?.kind === "pack" && strings.top.get(part.id)?.id !== part.id && !strings.taps.has(part.id)) continue;
    const limitA = ownLimit(part);
    const pack = part?.kind === "pack";
    const label: Label = {
      limitA: pack ? Number.POSITIVE_INFINITY : (limitA ?? 0),
      ratingA: null,
      by: pack ? null : { kind: "source", id: emf.id },
      source: emf.id,
      unknown: !pack && limitA === undefined,
      before: null,
    };
    if (!labels[emf.pos] || (labels[emf.pos] as Label).limitA < label.limitA) labels[emf.pos] = label;
    if (pack) runM[emf.pos] = 0;
    queue.push(emf.pos);
  }
  for (let head = 0; head < queue.length; head++) {
    const node = queue[head] as number;
    const here = labels[node] as Label;
    for (const edge of edges[node] ?? []) {
      const fuse = fuses[edge.branch];
      const next = fuse && fuse.limitA < here.limitA ? { ...here, ...fuse, before: here } : here;
      const old = labels[edge.to];
      const wire = machine.wires[edge.branch];
      const reach = (runM[node] as number) + (branches[edge.branch]?.kind === "wire" ? (wire?.lengthM?.value ?? 0) : 0);
      const nearer = !fuse && here.limitA === Number.POSITIVE_INFINITY && reach < (runM[edge.to] as number) - 1e-12;
      if (nearer) runM[edge.to] = reach;
      if (!old || next.limitA > old.limitA || (next.unknown && !old.unknown && next.limitA >= old.limitA)) {
        labels[edge.to] = next;
        queue.push(edge.to);
      } else if (nearer) queue.push(edge.to);
    }
  }

  const added = addedWays(circuit, fuses, labels);
  return machine.wires.map((wire, i) => {
    const branch = branches[i];
    const fromLabel = branch ? labels[branch.a] : undefined;
    const toLabel = branch ? labels[branch.b] : undefined;
    if (!branch || (!fromLabel && !toLabel)) return null;
    const fuse = fuses[i];
    let worst: Label | undefined = fromLabel;
    if (fromLabel && fuse && fuse.limitA < fromLabel.limitA) worst = { ...fromLabel, ...fuse, before: fromLabel };
    if (toLabel && (!worst || toLabel.limitA > worst.limitA)) worst = toLabel;
    if (!worst) return null;
    const sum = added?.(i);
    if (sum && sum.amps > worst.limitA * (1 + 1e-9)) {
      const shares = sum.cut.map((way) => guardOf(circuit, parts, fuses, way));
      const { ratingA = null, by = worst.by } = shares.length === 1 ? (shares[0] ?? {}) : {};
      const unknown = worst.unknown || shares.some((guard) => guard.unknown);
      const exposure = { limitA: sum.amps, ratingA, by, unknown, unfused: null, ...(shares.length > 1 ? { shares } : {}) };
      return { exposure, label: worst };
    }
    const bare = worst.limitA === Number.POSITIVE_INFINITY;
    const start = Math.min(runM[branch.a] as number, runM[branch.b] as number);
    return {
      exposure: {
        limitA: worst.limitA,
        ratingA: worst.ratingA,
        by: worst.by,
        unknown: worst.unknown,
        unfused: bare && Number.isFinite(start) ? { pack: worst.source, runM: start + (wire.lengthM?.value ?? 0) } : null,
      },
      label: worst,
    };
  });
}

/**
 * What parallel fuses and sources let through together into each wire; null where no two ways meet, so that the widest one is
 * all there is. A wire with a fuse of its own is fed through it, and from its far end by the others.
 */
function addedWays(
  circuit: Wired,
  fuses: readonly (Fused | null)[],
  labels: readonly (Label | undefined)[],
): ((wire: number) => Inflow | null) | null {
  const { branches, emfs, nodeCount } = circuit;
  const piece = piecesOf(nodeCount, branches, (i) => fuses[i] !== null);
  const parts = new Map(circuit.machine.parts.map((part) => [part.id, part]));
  const ways: Way[] = [];
  const reached = new Set<number>();
  labels.forEach((label, node) => {
    if (label) reached.add(piece(node));
  });
  branches.forEach(({ a, b }, i) => {
    const fuse = fuses[i];
    if (fuse && labels[a] && labels[b] && piece(a) !== piece(b)) ways.push({ from: piece(a), to: piece(b), limitA: fuse.limitA, id: i });
  });
  emfs.forEach(({ id, pos }, i) => {
    const part = parts.get(id);
    if (!labels[pos]) return;
    ways.push({ from: -1, to: piece(pos), limitA: part?.kind === "pack" ? Number.POSITIVE_INFINITY : (ownLimit(part) ?? 0), id: -1 - i });
  });
  if (ways.length <= reached.size) return null;
  const known = new Map<string, Inflow>();
  const into = (target: number, without?: number) => {
    const key = `${target} ${without ?? ""}`;
    const found = known.get(key) ?? inflow(ways, target, without);
    known.set(key, found);
    return found;
  };
  return (wire) => {
    const branch = branches[wire];
    if (!branch || !labels[branch.a] || !labels[branch.b]) return null;
    const fuse = fuses[wire];
    if (!fuse) return into(piece(branch.a));
    const [fore, back] = [into(piece(branch.a), wire), into(piece(branch.b), wire)];
    return back.amps > Math.min(fuse.limitA, fore.amps) ? back : null;
  };
}

/** A way of a cut as a guard. */
function guardOf(circuit: Wired, parts: ReadonlyMap<string, BuiltPart>, fuses: readonly (Fused | null)[], { id, limitA }: Way): Guard {
  const fuse = id >= 0 ? fuses[id] : null;
  if (fuse) return { limitA: fuse.limitA, ratingA: fuse.ratingA, by: fuse.by, unknown: false };
  const emf = circuit.emfs[-1 - id];
  const source = parts.get(emf?.id ?? "");
  return {
    limitA,
    ratingA: null,
    by: emf ? { kind: "source", id: emf.id } : null,
    unknown: source?.kind !== "pack" && ownLimit(source) === undefined,
  };
}

/** What several feeds let through together continuously: all their guards, or one before them that lets less through than they do. */
function together(labels: Iterable<Label>): readonly Guard[] {
  const own = new Set<Label>();
  const behind = new Map<Label, Set<Label>>();
  const roots = new Set<Label>();
  const known = new Map<string, Label>();
  // The same guard may be met as several labels: one object stands for it.
  const one = (label: Label): Label => {
    const key = label.by ? `${label.by.kind} ${label.by.id}` : `pack ${label.source}`;
    const found = known.get(key) ?? label;
    known.set(key, found);
    return found;
  };
  for (const label of labels) {
    own.add(one(label));
    for (let at = label; ; at = at.before) {
      if (!at.before) {
        roots.add(one(at));
        break;
      }
      const before = one(at.before);
      behind.set(before, (behind.get(before) ?? new Set()).add(one(at)));
    }
  }
  const sumOf = (guards: readonly Guard[]) => guards.reduce((sum, { limitA }) => sum + limitA, 0);
  const through = (guard: Label): readonly Guard[] => {
    if (own.has(guard)) return [guard];
    const parts = [...(behind.get(guard) ?? [])].flatMap(through);
    return guard.limitA < sumOf(parts) ? [guard] : parts;
  };
  return [...roots].flatMap(through);
}

/**
 * A return conductor must survive what comes home through it: what its own feed's protection lets through, and what the
 * protection of every other part lets through whose only way home it is. In a meshed return a paired one takes its feed's
 * exposure, and of the others nothing is claimed (null). Signal grounds and bonds are no way home: what they take off a return
 * is not to be counted on.
 */
function returnExposure(circuit: Wired, supply: readonly (Reached | null)[]): (Exposure | null)[] {
  const { machine, branches, emfs, nodeCount } = circuit;
  const indexOf = new Map(machine.wires.map((wire, i) => [wire.id, i]));
  const into = new Map(machine.wires.flatMap((wire, i) => (wire.role === "supply" ? [[`${wire.to.part} ${wire.to.terminal}`, i]] : [])));
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  /** The feed whose current a return brings home: the one it is paired with, or that of the part whose minus it leaves. */
  const feedOf = machine.wires.map((wire): Reached | null => {
    if (wire.pair !== undefined) return supply[indexOf.get(wire.pair) ?? -1] ?? null;
    const part = wire.role === "return" ? parts.get(wire.from.part) : undefined;
    // A contactor's coil comes home like a load.
    const coil = part?.kind === "switch" ? { supply: "c+", back: "c-" } : null;
    const input = part && isConsumer(part) ? inputTerminals(part) : coil;
    if (!part || input?.back !== wire.from.terminal) return null;
    return supply[into.get(`${part.id} ${input.supply}`) ?? -1] ?? null;
  });

  // The minus terminals of packs and supplies are one place to come back to: all of them are the root.
  const home = nodeCount;
  const place = Int32Array.from({ length: nodeCount }, (_, node) => node);
  for (const emf of emfs) if (emf.converter < 0) place[emf.neg] = home;
  const ends = machine.wires.map(({ role }, i): [number, number] => {
    if (role === "signal" || role === "bond") return [home, home];
    const { a = 0, b = 0 } = branches[i] ?? {};
    return [place[a] as number, place[b] as number];
  });
  const isolated = emfs.filter((emf) => emf.converter >= 0).map((emf) => place[emf.neg] as number);
  const { order, parent, far } = findBridges(nodeCount + 1, ends, [home, ...isolated]);

  // By node: feeds whose current starts home there or beyond it, and feeds whose source's minus is there or beyond it.
  const starting = new Array<Set<Reached> | undefined>(nodeCount + 1);
  const ending = new Array<Set<Reached> | undefined>(nodeCount + 1);
  const add = (sets: typeof starting, node: number, feeds: Iterable<Reached>) => {
    let all = sets[node];
    if (!all) {
      all = new Set();
      sets[node] = all;
    }
    for (const feed of feeds) all.add(feed);
  };
  const minusOf = new Map(emfs.map((emf) => [emf.id, place[emf.neg] as number]));
  machine.wires.forEach((wire, i) => {
    const feed = feedOf[i];
    if (wire.role === "supply" || !feed) return;
    add(starting, ends[i]?.[0] as number, [feed]);
    add(ending, minusOf.get(feed.label.source) ?? home, [feed]);
  });
  for (let k = nodeCount; k >= 0; k--) {
    const node = order[k] as number;
    const above = parent[node] as number;
    if (above < 0) continue;
    if (starting[node]) add(starting, above, starting[node]);
    if (ending[node]) add(ending, above, ending[node]);
  }
  return machine.wires.map((wire, i) => {
    if (supply[i]) return null;
    const own = wire.pair === undefined ? null : (feedOf[i] ?? null);
    const beyond = far[i] as number;
    if (wire.role !== "return" || beyond < 0) return own?.exposure ?? null;
    const [starts, finishes] = [starting[beyond] ?? NONE, ending[beyond] ?? NONE];
    // What comes from beyond, and what goes there to a converter's minus, run against each other: either may be alone.
    const ways = [[...starts].filter((feed) => !finishes.has(feed)), [...finishes].filter((feed) => !starts.has(feed))];
    const sums = ways.map(summed);
    const widest = sums.reduce(wider, own?.exposure ?? null);
    const [along = 0, against = 0] = sums.map((sum) => sum?.limitA ?? 0);
    const ownA = own && starts.has(own) ? own.exposure.limitA : 0;
    const alongA = Number.isFinite(ownA) ? Math.max(0, along - ownA) : 0;
    return widest && (alongA > 0 || against > 0) ? { ...widest, others: { alongA, againstA: against } } : widest;
  });
}

const NONE: ReadonlySet<Reached> = new Set();

/** The exposure that asks more of a wire; where either is not known in full, neither is what comes out. */
function wider(a: Exposure | null, b: Exposure | null): Exposure | null {
  if (!a || !b) return a ?? b;
  const more = b.limitA > a.limitA ? b : a;
  return more.unknown === (a.unknown || b.unknown) ? more : { ...more, unknown: true };
}

/** What comes home of several feeds through one conductor; null where there are none. */
function summed(feeds: readonly Reached[]): Exposure | null {
  if (feeds.length <= 1) return feeds[0]?.exposure ?? null;
  const shares = together(feeds.map(({ label }) => label));
  const [first] = shares;
  if (!first) return null;
  const limitA = shares.reduce((sum, guard) => sum + guard.limitA, 0);
  const unknown = shares.some((guard) => guard.unknown);
  const { ratingA, by } = shares.reduce((most, guard) => (guard.limitA > most.limitA ? guard : most), first);
  const unfused = limitA === Number.POSITIVE_INFINITY ? (feeds.find(({ exposure }) => exposure.unfused)?.exposure.unfused ?? null) : null;
  if (shares.length === 1) return { limitA, ratingA, by, unknown, unfused };
  const each = shares.map((guard): Guard => ({ limitA: guard.limitA, ratingA: guard.ratingA, by: guard.by, unknown: guard.unknown }));
  return { limitA, ratingA: null, by, unknown, unfused, shares: each };
}

/**
 * Links between the blocks of a string carry what leaves the block on top: the fuses at the string's plus guard them too. By
 * wire index; null where there is no fuse before something hangs on the string's plus.
 */
function stringLinks(circuit: Wired): ReadonlyMap<number, Exposure> {
  const { machine, branches, nodeCount, emfs } = circuit;
  const found = new Map<number, Exposure>();
  const { down, top } = stringsOf(machine);
  if ([...down.values()].every((chain) => chain.length < 2)) return found;
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const fuses = branches.map((_, i) => fuseIn(circuit, parts, i));
  const piece = piecesOf(nodeCount, branches, (i) => fuses[i] !== null);
  const plusOf = new Map(emfs.map(({ id, pos }) => [id, pos]));
  machine.wires.forEach((wire, i) => {
    const [a, b] = [parts.get(wire.from.part), parts.get(wire.to.part)];
    if (a?.kind !== "pack" || b?.kind !== "pack" || wire.from.terminal === wire.to.terminal) return;
    const head = top.get(a.id);
    if (!head || head.id !== top.get(b.id)?.id) return;
    const plus = piece(plusOf.get(head.id) ?? -1);
    const guards = branches.flatMap((branch, k): Fused[] => {
      const fuse = fuses[k];
      return fuse && (piece(branch.a) === plus) !== (piece(branch.b) === plus) ? [fuse] : [];
    });
    const [first] = guards;
    const limitA = first ? guards.reduce((sum, guard) => sum + guard.limitA, 0) : Number.POSITIVE_INFINITY;
    found.set(i, {
      limitA,
      ratingA: guards.length === 1 ? (first?.ratingA ?? null) : null,
      by: first?.by ?? null,
      unknown: false,
      unfused: null,
    });
  });
  return found;
}

/** What limits a sustained fault on each conductor, by wire index; null where nothing reaches it or nothing can be claimed. */
export function exposuresOf(circuit: Wired): (Exposure | null)[] {
  const supply = supplyExposure(circuit);
  const back = returnExposure(circuit, supply);
  const links = stringLinks(circuit);
  return supply.map((reached, i) => links.get(i) ?? reached?.exposure ?? back[i] ?? null);
}
