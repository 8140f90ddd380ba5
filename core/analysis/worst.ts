import type { Solved } from "./solved";
import type { Worst } from "./types";

const NOTHING: Worst = { amps: 0, mode: 0, low: false };

/** The two worst currents of one series of per-mode figures, at the planned and at the lowest charge. */
export interface Worsts {
  worst: Worst;
  worstContinuous: Worst;
}

/** The larger of two worsts; the first where they are the same. */
function worse(a: Worst, b: Worst): Worst {
  return b.amps > a.amps ? b : a;
}

/** Largest magnitude of a series, over all modes or only over those that count. */
function largest(series: Float64Array, counts: Uint8Array | null, low: boolean): Worst {
  let mode = -1;
  let amps = 0;
  for (let m = 0; m < series.length; m++) {
    const size = Math.abs(series[m] as number);
    if (size > amps && (counts === null || counts[m] === 1)) {
      amps = size;
      mode = m;
    }
  }
  return mode < 0 ? NOTHING : { amps, mode, low };
}

/**
 * Reads the worst over all modes and over those without a time limit.
 * @param planned current of the element by mode at the planned charge, A; 0 in modes that collapse
 * @param low the same at the lowest charge; null where it cannot differ
 */
export function worstsOf(solved: Solved, planned: Float64Array, low: Float64Array | null): Worsts {
  const { untimed } = solved;
  const worst = largest(planned, null, false);
  const worstContinuous = largest(planned, untimed, false);
  if (low === null) return { worst, worstContinuous };
  return { worst: worse(worst, largest(low, null, true)), worstContinuous: worse(worstContinuous, largest(low, untimed, true)) };
}

/** Some mode has no operating point, so that a worst over the others is a least value. */
export function anyCollapse(solved: Solved): boolean {
  return solved.planned.some((point) => point.status === "collapsed") || solved.low.some((point) => point.status === "collapsed");
}
