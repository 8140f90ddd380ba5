import { goesOn } from "../machine/lasting";
import type { OperatingPoint } from "../network/solve";
import type { Figures } from "./figures";

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
 * @param bears what is borne for that many seconds (null: for good), A; undefined: not known
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
      const found = { share, amps: now, limitA, mode: m, low: points !== solved.planned };
      if (goes) lasting = larger(lasting, found);
      else brief = larger(brief, found);
    }
  });
  return { lasting, brief };
}

function larger(a: Excess | null, b: Excess): Excess {
  return a && a.share >= b.share ? a : b;
}

/** What goes through a branch in each mode that ends, at the charge at which it is more, A, and how long, s. */
export function briefThrough({ machine, solved }: Figures, branch: number): { amps: number; seconds: number }[] {
  return machine.modes.flatMap((mode, m) => {
    if (mode.lastsS === null || goesOn(mode)) return [];
    const at = (points: readonly OperatingPoint[]) => Math.abs(points[m]?.branchA[branch] ?? 0);
    return [{ amps: Math.max(at(solved.planned), at(solved.low)), seconds: mode.lastsS }];
  });
}
