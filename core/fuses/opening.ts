import type { FuseGate } from "../reference/fuses";

/** Seconds after which a fuse may open and by which it is sure to; infinite where it need not open. */
export interface OpeningTime {
  minS: number;
  maxS: number;
}

interface Point {
  m: number;
  t: number;
}

/**
 * A curve through gates at multiple `m`. Strict takes only what the gates assure; interpolated is straight in log-log.
 * `lower` is the earliest-opening curve, else the latest.
 */
function curve(points: readonly Point[], m: number, lower: boolean, strict: boolean): number {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last || m < first.m) return Number.POSITIVE_INFINITY;
  if (m > last.m) {
    const constantEnergy = last.t * (last.m / m) ** 2;
    return lower && last.t > 5 ? 0 : constantEnergy;
  }
  for (let i = 0; i < points.length; i++) {
    const a = points[i] as Point;
    if (m === a.m) return a.t;
    const b = points[i + 1];
    if (!b || m >= b.m) continue;
    if (strict) return lower ? b.t : a.t;
    return Math.exp(Math.log(a.t) + ((Math.log(b.t) - Math.log(a.t)) * Math.log(m / a.m)) / Math.log(b.m / a.m));
  }
  return last.t;
}

interface Bounds {
  lower: readonly Point[];
  upper: readonly Point[];
}

const known = new WeakMap<readonly FuseGate[], Bounds>();

/** Earliest and latest curve of a family, made once: every fuse is judged in every mode. */
function boundsOf(gates: readonly FuseGate[]): Bounds {
  const found = known.get(gates);
  if (found) return found;
  const made = {
    lower: gates.filter((gate) => gate.minS > 0).map((gate) => ({ m: gate.multiple, t: gate.minS })),
    upper: gates.filter((gate) => gate.maxS !== null).map((gate) => ({ m: gate.multiple, t: gate.maxS as number })),
  };
  known.set(gates, made);
  return made;
}

/**
 * When a fuse opens at `m` times its rating. Source: the family's standard gates (core/reference/data/fuse-gates.json),
 * handbook algorithm. Use strict for verdicts, interpolated for drawing.
 */
export function openingTime(gates: readonly FuseGate[], m: number, strict: boolean): OpeningTime {
  const { lower, upper } = boundsOf(gates);
  const maxS = curve(upper, m, false, strict);
  return { minS: Math.min(curve(lower, m, true, strict), maxS), maxS };
}
