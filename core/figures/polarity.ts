import type { BuiltMachine, BuiltPart, Wire } from "../machine/schema";
import { inputTerminals, isConsumer, terminalsOf } from "../machine/terminals";
import { nodeAt, type Wired } from "../network/circuit";
import { PUSHES_A, type RestPoint, restVolts } from "../network/rest";
import { openKey } from "../network/topology";
import { type Build, perBuild } from "./build";
import { partName, wireEnds, wireName } from "./names";

/** The side of the supply that a terminal belongs on by its name, a bar by what it is meant for; null: either. */
export function sideOf(part: BuiltPart, terminal: string): "plus" | "minus" | null {
  if (part.kind === "bar") return part.side === "positive" ? "plus" : "minus";
  if (terminal === "in" || terminal === "out") return null;
  if (terminal === "+" || terminal === "in+" || terminal === "out+" || terminal === "5v" || terminal === "pin" || terminal === "c+")
    return "plus";
  return terminal === "-" || terminal === "in-" || terminal === "out-" || terminal === "c-" ? "minus" : null;
}

/** Where plus meets minus: a conductor, or a contact or fuse, in the way from one to the other. */
export interface Meeting {
  readonly kind: "wire" | "part";
  readonly id: string;
}

/** What is wired so that a source is shorted, or that a part gets its volts turned round or none at all. */
export interface Crossing {
  readonly found: "short" | "reversed" | "none";
  /** The source that is shorted, or the parts that suffer, the first of them in the plan first. */
  readonly parts: readonly string[];
  /** Volts across the first part at rest, as its terminals are named; of a source, what is left of its own. */
  readonly volts: number;
  /** What flows out of a shorted source with nothing drawn, A. */
  readonly amps: number;
  /** The likely crossed conductors: where the way from plus meets the first terminal of the minus side, and the other way. */
  readonly meets: readonly Meeting[];
  /** Indexes of the modes in which it is so. */
  readonly modes: readonly number[];
}

/** Below this share of what a part is meant for it gets no volts at all. */
const NOTHING_SHARE = 0.02;
const NOTHING_V = 0.05;

/** Every short and every turned or missing supply of a machine at rest. */
export const crossingsOf = perBuild((build): readonly Crossing[] => {
  const { circuit } = build.solved;
  const states = build.rest.points.length > 0 ? build.rest.points : [build.rest.closed];
  const found = new Map<string, Crossing & { modes: number[]; parts: string[] }>();
  for (const point of states) {
    const modes = build.machine.modes.flatMap((mode, m) => (openKey(circuit, mode.id) === point.key ? [m] : []));
    const keep = (crossing: Omit<Crossing, "modes" | "parts">, part: string) => {
      const key = `${crossing.found} ${crossing.meets.length > 0 ? crossing.meets.map(({ kind, id }) => `${kind} ${id}`).join(" ") : part}`;
      const known = found.get(key);
      if (!known) found.set(key, { ...crossing, parts: [part], modes: [...modes] });
      else {
        if (!known.parts.includes(part)) known.parts.push(part);
        for (const mode of modes) if (!known.modes.includes(mode)) known.modes.push(mode);
      }
    };
    const walk = new Walk(circuit, point.key);
    const dead = shorts(circuit, point, walk, keep);
    for (const part of build.machine.parts) turned(build, part, point, walk, dead, keep);
  }
  return [...found.values()];
});

type Keep = (crossing: Omit<Crossing, "modes" | "parts">, part: string) => void;

/** Sources that a conductor shorts; returns the islands whose volts are down because of it. */
function shorts(circuit: Wired, point: RestPoint, walk: Walk, keep: Keep): ReadonlySet<number> {
  const dead = new Set<number>();
  circuit.emfs.forEach(({ id, pos, neg, volts }, i) => {
    if (!point.topology.emfs.on[i] || Math.abs(point.emfA[i] as number) <= PUSHES_A) return;
    // Sources that push into each other without a short have a rule of their own.
    const way = walk.way(pos, neg);
    if (!way) return;
    dead.add(point.topology.island[pos] as number);
    const meets = walk.firstMeeting(pos, way);
    keep(
      {
        found: "short",
        volts: restVolts(point, [pos, neg]) ?? volts,
        amps: Math.abs(point.emfA[i] as number),
        meets: meets ? [meets] : [],
      },
      id,
    );
  });
  return dead;
}

/** A part whose plus stands below its minus, or at it; what hangs on a driver's legs has a rule of its own. */
function turned(build: Build, part: BuiltPart, point: RestPoint, walk: Walk, dead: ReadonlySet<number>, keep: Keep): void {
  const { circuit } = build.solved;
  if (!isConsumer(part)) return;
  const input = inputTerminals(part);
  const [plus, minus] = [nodeAt(circuit, part.id, input.supply ?? ""), nodeAt(circuit, part.id, input.back ?? "")];
  const volts = restVolts(point, [plus, minus]);
  if (volts === null || dead.has(point.topology.island[plus] as number)) return;
  const own = part.kind === "load" ? part.nominalV.value : 0;
  const nothing = Math.max(NOTHING_V, NOTHING_SHARE * own);
  if (volts > nothing || walk.onLeg(plus) || walk.onLeg(minus)) return;
  const meets = [walk.crossing(plus, "minus"), walk.crossing(minus, "plus")].filter((each) => each !== null);
  keep({ found: volts < -nothing ? "reversed" : "none", volts, amps: 0, meets }, part.id);
}

/** By node, the sides its terminals belong on. */
function nodeSides(circuit: Wired, machine: BuiltMachine): ReadonlyMap<number, "plus" | "minus"> {
  const sides = new Map<number, "plus" | "minus">();
  for (const part of machine.parts) {
    for (const terminal of terminalsOf(part)) {
      const side = sideOf(part, terminal);
      const node = nodeAt(circuit, part.id, terminal);
      if (side && !sides.has(node)) sides.set(node, side);
    }
  }
  return sides;
}

interface Step {
  node: number;
  branch: number;
}

/** Ways through metal in one state of the contacts; bridges of drivers are a way only where a short goes through one. */
class Walk {
  /** All made when first asked for: of a machine without a crossed wire nobody asks. */
  private sided: ReadonlyMap<number, "plus" | "minus"> | null = null;
  private edges: ReadonlyMap<number, readonly Step[]> | null = null;
  private legMetal: ReadonlySet<number> | null = null;

  constructor(
    private readonly circuit: Wired,
    private readonly key: string,
  ) {}

  private get sides(): ReadonlyMap<number, "plus" | "minus"> {
    this.sided ??= nodeSides(this.circuit, this.circuit.machine);
    return this.sided;
  }

  private stepsFrom(node: number): readonly Step[] {
    this.edges ??= this.edgesOf();
    return this.edges.get(node) ?? [];
  }

  private edgesOf(): ReadonlyMap<number, readonly Step[]> {
    const edges = new Map<number, Step[]>();
    const put = (from: number, step: Step) => {
      const own = edges.get(from);
      if (own) own.push(step);
      else edges.set(from, [step]);
    };
    this.circuit.branches.forEach(({ a, b, contact }, branch) => {
      if (contact >= 0 && this.key[contact] !== "c") return;
      put(a, { node: b, branch });
      put(b, { node: a, branch });
    });
    return edges;
  }

  /** Whether a node is on the metal of a driver's leg: of the far ends of their bridges. */
  onLeg(node: number): boolean {
    this.legMetal ??= this.metalOfLegs();
    return this.legMetal.has(node);
  }

  private metalOfLegs(): ReadonlySet<number> {
    const found = new Set<number>();
    for (const part of this.circuit.machine.parts) {
      if (part.kind !== "driver") continue;
      for (let i = 0; i < 2 * part.channels; i++) found.add(nodeAt(this.circuit, part.id, `${1 + (i >> 1)}${i % 2 === 0 ? "a" : "b"}`));
    }
    // A set takes what is added to it while it is gone through.
    for (const at of found)
      for (const { node, branch } of this.stepsFrom(at)) if (this.circuit.branches[branch]?.kind !== "bridge") found.add(node);
    return found;
  }

  /** Steps from one node to another with the fewest conductors; plain metal before bridges. Null: there is none. */
  way(from: number, to: number): Step[] | null {
    return this.search(from, (node) => node === to, false) ?? this.search(from, (node) => node === to, true);
  }

  private search(from: number, reached: (node: number) => boolean, bridges: boolean): Step[] | null {
    const before = new Map<number, Step & { at: number }>();
    const queue = [from];
    for (let head = 0; head < queue.length; head++) {
      const at = queue[head] as number;
      for (const { node, branch } of this.stepsFrom(at)) {
        if (node === from || before.has(node) || (!bridges && this.circuit.branches[branch]?.kind === "bridge")) continue;
        before.set(node, { at, node, branch });
        if (reached(node)) {
          const way: Step[] = [];
          for (let step = before.get(node); step; step = before.get(step.at)) way.unshift({ node: step.node, branch: step.branch });
          return way;
        }
        queue.push(node);
      }
    }
    return null;
  }

  /** The first conductor on a way that leads from anything else onto the minus side. */
  firstMeeting(from: number, way: readonly Step[]): Meeting | null {
    let at = from;
    for (const { node, branch } of way) {
      if (this.sides.get(node) === "minus" && this.sides.get(at) !== "minus") return this.meeting(branch);
      at = node;
    }
    const last = way.at(-1);
    return last ? this.meeting(last.branch) : null;
  }

  /** From a part's terminal, the first conductor that leads to the other side; null: it leads nowhere near it. */
  crossing(from: number, other: "plus" | "minus"): Meeting | null {
    const way = this.search(from, (node) => this.sides.get(node) !== undefined, false);
    const last = way?.at(-1);
    if (!last) return null;
    if (this.sides.get(last.node) === other) return this.meeting(last.branch);
    // Its own place is right: the conductor that turns it lies further up.
    const further = this.search(from, (node) => this.sides.get(node) === other, false);
    if (!further) return null;
    let at = from;
    for (const { node, branch } of further) {
      if (this.sides.get(node) === other && this.sides.get(at) !== other) return this.meeting(branch);
      at = node;
    }
    return null;
  }

  private meeting(branch: number): Meeting | null {
    const element = this.circuit.branches[branch];
    if (!element) return null;
    return { kind: element.kind === "wire" ? "wire" : "part", id: element.id };
  }
}

/** Two crossed conductors of one part, each put where the other lands; null where they are not such a pair. */
export function swapped(wires: readonly [Wire, Wire]): readonly { wireId: string; end: "from" | "to"; at: Wire["from"] }[] | null {
  const [a, b] = wires;
  for (const mineA of ["from", "to"] as const) {
    for (const mineB of ["from", "to"] as const) {
      if (a[mineA].part !== b[mineB].part) continue;
      const [farA, farB] = [mineA === "from" ? "to" : "from", mineB === "from" ? "to" : "from"] as const;
      return [
        { wireId: a.id, end: farA, at: b[farB] },
        { wireId: b.id, end: farB, at: a[farA] },
      ];
    }
  }
  return null;
}

/** The crossed conductors in words: "the feed of Radio (from Bar N to Radio +)". */
export function crossedWords(build: Build, { meets }: Crossing): string {
  return meets
    .map(({ kind, id }) => {
      const wire = kind === "wire" ? build.wireOf.get(id) : undefined;
      return wire ? `the ${wireName(build, wire)} (${wireEnds(build, wire)})` : partName(build, id);
    })
    .join(" and ");
}
