import { goesOn } from "../machine/lasting";
import type { OperatingPoint } from "../network/point";
import type { Figures } from "./figures";
import { inLead } from "./wire-figures";

/** A current held against what is borne for as long as it flows. */
export interface Excess {
  /** Current over limit. */
  readonly share: number;
  readonly amps: number;
  readonly limitA: number;
  /** Index of the mode; `low`: with the pack at its lowest charge. */
  readonly mode: number;
  readonly low: boolean;
}

/** The largest relative current among modes that go on and among those that end, each on its own; null: there is none. */
export interface Excesses {
  readonly lasting: Excess | null;
  readonly brief: Excess | null;
}

/**
 * Holds a current against its limit in every mode, at both charges.
 * @param amps the current at an operating point, A
 * @param bears what is borne for that many seconds (null: continuously), A; undefined: not known
 */
export function excessOf(
  { machine, solved }: Figures,
  amps: (point: OperatingPoint, mode: number) => number,
  bears: (seconds: number | null) => number | undefined,
): Excesses {
  let lasting: Excess | null = null;
  let brief: Excess | null = null;
  machine.modes.forEach((mode, m) => {
    const goes = goesOn(mode);
    const limitA = bears(goes ? null : mode.lastsS);
    if (limitA === undefined) return;
    for (const points of solved.low === solved.planned ? [solved.planned] : [solved.planned, solved.low]) {
      const point = points[m];
      if (point?.status !== "solved") continue;
      const now = amps(point, m);
      const share = limitA > 0 ? now / limitA : now > 0 ? Number.POSITIVE_INFINITY : 0;
      const most = goes ? lasting : brief;
      if (most && most.share >= share) continue;
      const found = { share, amps: now, limitA, mode: m, low: points !== solved.planned };
      if (goes) lasting = found;
      else brief = found;
    }
  });
  return { lasting, brief };
}

/** What flows in a conductor at an operating point, A. */
export function ampsIn({ wires }: Figures, wireId: string, branch: number): (point: OperatingPoint) => number {
  const phaseA = wires[wireId]?.phaseA ?? 0;
  return (point) => Math.abs(inLead(point.branchA[branch] ?? 0, phaseA));
}

/** What goes through a wire in each mode that ends, at the charge at which it is more, A, and how long, s. */
export function briefThrough(figures: Figures, wireId: string, branch: number): { amps: number; seconds: number }[] {
  const { machine, solved } = figures;
  const amps = ampsIn(figures, wireId, branch);
  return machine.modes.flatMap((mode, m) => {
    if (mode.lastsS === null || goesOn(mode)) return [];
    const at = (points: readonly OperatingPoint[]) => (points[m] ? amps(points[m]) : 0);
    return [{ amps: Math.max(at(solved.planned), at(solved.low)), seconds: mode.lastsS }];
  });
}
