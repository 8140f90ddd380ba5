import type { Figures } from "../analysis/figures";
import type { Signal, Wire } from "../machine/schema";
import { type Allowed, toleranceOf } from "./budget";
import { deciding, groundOf, type MetalStep } from "./ground";

/** A link and the ground under it. Arrays run over modes, at the planned charge. */
export interface LinkFigures {
  id: string;
  allowed: Allowed;
  /** Both boards' grounds are one piece of metal, signal grounds included. */
  joined: boolean;
  /** Sender's ground above the receiver's, V. */
  offsetV: Float64Array;
  /** Part of the steady budget used, 0 where none is known. */
  share: Float64Array;
  /** Where most of the budget is used, at the planned or the lowest charge; null where there is no budget or no common ground. */
  worst: { mode: number; low: boolean; volts: number; share: number } | null;
  /** A conductor that decides the offset lacks its size or length, or an unknown load would move it. */
  unsure: boolean;
  /** Its own ground wire and its shield tied at both ends, by wire id. */
  own: string[];
}

/** Volts per amp of an unknown load from which an offset is not known either. */
const UNSURE_V_PER_A = 1e-5;

const known = new WeakMap<Figures, LinkFigures[]>();

/** Every link of a machine against what it tolerates, worked out once a set of figures. */
export function linksOf(figures: Figures): LinkFigures[] {
  const found = known.get(figures);
  if (found) return found;
  const made = (figures.machine.signals ?? []).map((signal) => linkFigures(figures, signal));
  known.set(figures, made);
  return made;
}

/** Part of the steady budget that an offset uses. */
export function shareOf(allowed: Allowed, volts: number): number {
  if (allowed.kind !== "held") return 0;
  return volts >= 0 ? volts / allowed.steadyAboveV : -volts / allowed.steadyBelowV;
}

function linkFigures(figures: Figures, signal: Signal): LinkFigures {
  const { solved, machine } = figures;
  const ground = groundOf(figures);
  const allowed = toleranceOf(machine, signal, figures.partOf.get(signal.to));
  const [a, b] = [ground.nodeOf(signal.from), ground.nodeOf(signal.to)];
  const way = ground.way(a, b);
  const count = machine.modes.length;
  const offsetV = new Float64Array(count);
  const share = new Float64Array(count);
  let worst: LinkFigures["worst"] = null;
  if (way) {
    for (const low of [false, true]) {
      const points = low ? solved.low : solved.planned;
      if (low && points === solved.planned) break;
      for (let mode = 0; mode < count; mode++) {
        const point = points[mode];
        // With a contact open between them nothing relates the two.
        const island = solved.topologies[mode]?.island;
        if (point?.status !== "solved" || island?.[a] !== island?.[b]) continue;
        const volts = (point.nodeV[a] as number) - (point.nodeV[b] as number);
        const used = shareOf(allowed, volts);
        if (!low) {
          offsetV[mode] = volts;
          share[mode] = used;
        }
        if (allowed.kind === "held" && used > (worst?.share ?? -1)) worst = { mode, low, volts, share: used };
      }
    }
  }
  return {
    id: signal.id,
    allowed,
    joined: way !== null,
    offsetV,
    share,
    worst,
    unsure: way !== null && isUnsure(figures, way, a, b),
    own: machine.wires.flatMap((wire) => (wire.signal === signal.id ? [wire.id] : [])),
  };
}

/** Whether the offset between two nodes hangs on something unknown; `way`: metal from a to b. */
export function isUnsure(figures: Figures, way: readonly MetalStep[], a: number, b: number): boolean {
  const { solved, machine } = figures;
  if (solved.planned.some(({ status }) => status === "collapsed") || solved.low.some(({ status }) => status === "collapsed")) return true;
  const shifts = solved.unknown.some(({ nodeV }) => Math.abs((nodeV[a] as number) - (nodeV[b] as number)) > UNSURE_V_PER_A);
  if (shifts) return true;
  for (const branch of deciding(groundOf(figures), way)) {
    const wire = solved.circuit.branches[branch]?.kind === "wire" ? machine.wires[branch] : undefined;
    if (wire && ((wire.gauge === undefined && wire.board === undefined) || wire.lengthM === undefined)) return true;
  }
  return false;
}

/** The conductor on the way between a link's grounds that loses most in a mode, with the volts it adds (signed). */
export function largestDrop(figures: Figures, signal: Signal, mode: number, low: boolean): { wire: Wire; volts: number } | null {
  const ground = groundOf(figures);
  const point = (low ? figures.solved.low : figures.solved.planned)[mode];
  const { branches } = figures.solved.circuit;
  let best: { wire: Wire; volts: number } | null = null;
  for (const { branch, sign } of ground.way(ground.nodeOf(signal.from), ground.nodeOf(signal.to)) ?? []) {
    const wire = branches[branch]?.kind === "wire" ? figures.machine.wires[branch] : undefined;
    if (!wire || !point) continue;
    const volts = sign * (point.branchA[branch] as number) * (branches[branch]?.ohm ?? 0);
    if (Math.abs(volts) > Math.abs(best?.volts ?? 0)) best = { wire, volts };
  }
  return best;
}
