import type { OperatingPoint } from "../network/solve";
import type { Solved } from "./solved";
import type { Worst } from "./types";

const NOTHING: Worst = { amps: 0, mode: 0, low: false };

/** The two worst currents of one series of per-mode figures, at the planned and at the lowest charge. */
export interface Worsts {
  worst: Worst;
  worstContinuous: Worst;
}

/**
 * Reads the worst over all modes and over those without a time limit.
 * @param planned current of the element by mode at the planned charge, A; 0 in modes that collapse
 * @param lowAmps its current at an operating point of the lowest charge, A
 */
export function worstsOf(solved: Solved, planned: ArrayLike<number>, lowAmps: (point: OperatingPoint) => number): Worsts {
  const { modes } = solved.machine;
  let mode = -1;
  let amps = 0;
  let low = false;
  let continuousMode = -1;
  let continuousAmps = 0;
  let continuousLow = false;
  const note = (value: number, m: number, atLow: boolean) => {
    if (value > amps) {
      amps = value;
      mode = m;
      low = atLow;
    }
    if (value > continuousAmps && modes[m]?.lastsS === null) {
      continuousAmps = value;
      continuousMode = m;
      continuousLow = atLow;
    }
  };
  for (let m = 0; m < planned.length; m++) note(Math.abs(planned[m] as number), m, false);
  if (solved.low !== solved.planned) {
    for (let m = 0; m < planned.length; m++) {
      const point = solved.low[m];
      if (point?.status === "solved") note(Math.abs(lowAmps(point)), m, true);
    }
  }
  return {
    worst: mode < 0 ? NOTHING : { amps, mode, low },
    worstContinuous: continuousMode < 0 ? NOTHING : { amps: continuousAmps, mode: continuousMode, low: continuousLow },
  };
}

/** Some mode has no operating point, so that a worst over the others is a least value. */
export function anyCollapse(solved: Solved): boolean {
  return solved.planned.some((point) => point.status === "collapsed") || solved.low.some((point) => point.status === "collapsed");
}
