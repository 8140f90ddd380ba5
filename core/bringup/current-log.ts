/** What a log of a current shows: time in s from its start, amps, and volts where they were logged. */
export interface CurrentLog {
  readonly seconds: readonly number[];
  readonly amps: readonly number[];
  readonly volts: readonly number[] | null;
}

/** Figures of a log; time-weighted, between samples on a straight line. A, s. */
export interface LogFigures {
  readonly lasts: number;
  readonly samples: number;
  readonly least: number;
  readonly most: number;
  readonly mean: number;
  readonly rms: number;
  /** 95 % of the time it is below this. */
  readonly usualMost: number;
  /** Share of time above a tenth of its most: how long it was on. */
  readonly duty: number;
  /** Mean while it was on. */
  readonly onMean: number;
  /** Times it rose above half of its most. */
  readonly peaks: number;
  /** Longest step between two samples: what is shorter was not seen. */
  readonly slowest: number;
  readonly leastVolts: number | null;
  readonly meanVolts: number | null;
}

/** Share of the time below which the usual most lies. */
const USUAL_SHARE = 0.95;
/** Share of the most from which a load counts as on. */
const ON_SHARE = 0.1;

/**
 * Figures of a log with at least two samples in rising time; null for less. Mean and r.m.s. integrate a straight line between
 * samples: ∫i dt and ∫i² dt = Δt·(a² + ab + b²)/3.
 */
export function logFigures({ seconds, amps, volts }: CurrentLog): LogFigures | null {
  const n = seconds.length;
  const lasts = (seconds[n - 1] ?? 0) - (seconds[0] ?? 0);
  if (n < 2 || !(lasts > 0)) return null;
  const most = amps.reduce((max, value) => Math.max(max, value), Number.NEGATIVE_INFINITY);
  const least = amps.reduce((min, value) => Math.min(min, value), Number.POSITIVE_INFINITY);
  const on = ON_SHARE * most;
  let [charge, squares, onS, onCharge, peaks, slowest, voltS] = [0, 0, 0, 0, 0, 0, 0];
  let above = (amps[0] ?? 0) > most / 2;
  if (above) peaks++;
  const spans: { amps: number; dt: number }[] = [];
  for (let i = 1; i < n; i++) {
    const dt = (seconds[i] as number) - (seconds[i - 1] as number);
    const [a, b] = [amps[i - 1] as number, amps[i] as number];
    charge += (dt * (a + b)) / 2;
    squares += (dt * (a * a + a * b + b * b)) / 3;
    spans.push({ amps: (a + b) / 2, dt });
    if (most > 0 && (a + b) / 2 >= on) {
      onS += dt;
      onCharge += (dt * (a + b)) / 2;
    }
    if (b > most / 2 && !above) peaks++;
    above = b > most / 2;
    slowest = Math.max(slowest, dt);
    if (volts) voltS += (dt * ((volts[i - 1] as number) + (volts[i] as number))) / 2;
  }
  spans.sort((a, b) => a.amps - b.amps);
  let below = 0;
  let usualMost = most;
  for (const span of spans) {
    below += span.dt;
    usualMost = span.amps;
    if (below >= USUAL_SHARE * lasts) break;
  }
  return {
    lasts,
    samples: n,
    least,
    most,
    mean: charge / lasts,
    rms: Math.sqrt(squares / lasts),
    usualMost,
    duty: onS / lasts,
    onMean: onS > 0 ? onCharge / onS : 0,
    peaks,
    slowest,
    leastVolts: volts ? volts.reduce((min, value) => Math.min(min, value), Number.POSITIVE_INFINITY) : null,
    meanVolts: volts ? voltS / lasts : null,
  };
}
