import { type Build, perBuildOf } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { Solved } from "../figures/solved";
import { oncePer } from "../machine/once";
import type { Signal, Wire } from "../machine/schema";
import type { OperatingPoint } from "../network/point";
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

/** Every link of a machine against what it tolerates. */
export const linksOf = oncePer((figures: Figures): readonly LinkFigures[] =>
  (figures.machine.signals ?? []).map((signal) => linkFigures(figures, signal)),
);

/** Part of the steady budget that an offset uses. */
export function shareOf(allowed: Allowed, volts: number): number {
  if (allowed.kind !== "held") return 0;
  return volts >= 0 ? volts / allowed.steadyAboveV : -volts / allowed.steadyBelowV;
}

/** What is known of a link whatever flows under it. */
export interface LinkPlan {
  allowed: Allowed;
  /** Ground nodes of sender and receiver, and the metal between them; null where none joins them. */
  a: number;
  b: number;
  way: readonly MetalStep[] | null;
  /** A conductor that decides the offset lacks its size or length. */
  untold: boolean;
  own: string[];
}

/** What is known of a link whatever flows, by its id. */
export const linkPlanOf = perBuildOf((build, id): LinkPlan | null => {
  const signal = build.machine.signals?.find((each) => each.id === id);
  if (!signal) return null;
  const ground = groundOf(build);
  const [a, b] = [ground.nodeOf(signal.from), ground.nodeOf(signal.to)];
  const way = ground.way(a, b);
  return {
    allowed: toleranceOf(build.machine, signal, build.partOf.get(signal.to)),
    a,
    b,
    way,
    untold: way !== null && untoldOn(build, way),
    own: build.machine.wires.flatMap((wire) => (wire.signal === id ? [wire.id] : [])),
  };
});

function linkFigures(figures: Figures, signal: Signal): LinkFigures {
  const { solved, machine } = figures;
  const { allowed, a, b, way, untold, own } = linkPlanOf(figures, signal.id) as LinkPlan;
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
  const unsure = way !== null && (untold || isShifted(solved, a, b));
  return { id: signal.id, allowed, joined: way !== null, offsetV, share, worst, unsure, own };
}

/** Whether some mode has no operating point, or an unknown load would move two nodes against each other. */
function isShifted({ planned, low, unknown }: Solved, a: number, b: number): boolean {
  if (planned.some(({ status }) => status === "collapsed") || low.some(({ status }) => status === "collapsed")) return true;
  return unknown.some(({ nodeV }) => Math.abs((nodeV[a] as number) - (nodeV[b] as number)) > UNSURE_V_PER_A);
}

/** Whether a conductor that decides what lies across a way lacks its size or length. */
function untoldOn(build: Build, way: readonly MetalStep[]): boolean {
  const { circuit } = build.solved;
  const { wires } = build.machine;
  for (const branch of deciding(groundOf(build), way)) {
    const wire = circuit.branches[branch]?.kind === "wire" ? wires[branch] : undefined;
    if (wire && ((wire.gauge === undefined && wire.board === undefined) || wire.lengthM === undefined)) return true;
  }
  return false;
}

/** Whether the offset between two nodes hangs on something unknown; `way`: metal from a to b. */
export function isUnsure(figures: Figures, way: readonly MetalStep[], a: number, b: number): boolean {
  return isShifted(figures.solved, a, b) || untoldOn(figures.build, way);
}

/** The operating point in which most of a link's budget is used. */
export function pointOf({ solved }: Figures, { mode, low }: { mode: number; low: boolean }): OperatingPoint | undefined {
  return (low ? solved.low : solved.planned)[mode];
}

/** The conductor on the way between a link's grounds that loses most at an operating point, with the volts it adds (signed). */
export function largestDrop(figures: Build, signalId: string, point: OperatingPoint): { wire: Wire; volts: number } | null {
  const { branches } = figures.solved.circuit;
  let best: { wire: Wire; volts: number } | null = null;
  for (const { branch, sign } of linkPlanOf(figures, signalId)?.way ?? []) {
    const wire = branches[branch]?.kind === "wire" ? figures.machine.wires[branch] : undefined;
    if (!wire) continue;
    const volts = sign * (point.branchA[branch] as number) * (branches[branch]?.ohm ?? 0);
    if (Math.abs(volts) > Math.abs(best?.volts ?? 0)) best = { wire, volts };
  }
  return best;
}
