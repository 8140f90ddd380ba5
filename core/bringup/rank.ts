import { covariance } from "./doubts";
import type { SingleFault } from "./faults";
import { observableKey, type Predictor } from "./predict";
import type { Observable } from "./types";

/** A reading as the search for faults takes it: what of, what was shown (null: over range), and its expanded uncertainty. */
export interface Seen {
  readonly at: Observable;
  readonly value: number | null;
  readonly meterU: number;
}

/** A fault and how well it explains what was read. */
export interface Ranked {
  /** Null: the machine is as planned. */
  readonly fault: SingleFault | null;
  readonly size: number;
  /** Out of all that could be, 0 to 1. */
  readonly share: number;
  /** Sum of squares of what it leaves unexplained, in standard deviations. */
  readonly misfit: number;
  /** The same for each size that was tried. */
  readonly bySize: readonly Sized[];
}

/** A fault at one of its sizes. */
interface Sized {
  readonly size: number;
  readonly misfit: number;
}

/** How the single faults of a machine stand to what was read. */
export interface Ranking {
  /** Most likely first. */
  readonly ranked: readonly Ranked[];
  /** Share of something that is in no list: two faults, a wrong figure. */
  readonly otherShare: number;
  /** The best one leaves no more unexplained than chance would. */
  readonly explains: boolean;
  readonly tried: number;
}

/** What the sound machine weighs against any one fault before anything was read. */
const SOUND_WEIGHT = 3;
/** What "something else" weighs, and the most a reading may count against it, in squares of standard deviations. */
const OTHER_WEIGHT = 0.3;
const OTHER_MOST = 20;
/** An ohmmeter that shows more than this shows nothing, Ω. */
const OVER_RANGE_OHM = 1e7;
/** Doubt of the model itself: loads that fade, meters that load; V and A, and as a share. */
const SLACK = { volts: 0.004, amps: 0.003, share: 0.004 } as const;
/** Readings of metal: share by which contacts and lengths move them. */
const OHMS_OFF = 0.25;
/** Sizes are refined for as many of the best. */
const REFINED = 14;

/** A reading in a scale in which doubts are about even: volts as they are, currents and resistances as factors from their instrument's doubt on. */
function scaled(at: Observable, value: number, meterU: number): number {
  if (at.kind === "ohms") return Math.asinh(Math.min(value, OVER_RANGE_OHM) / Math.max(meterU, 0.05));
  return at.kind === "network" && at.probe.kind === "amps" ? Math.asinh(value / ampsScale(meterU)) : value;
}

function ampsScale(meterU: number): number {
  return Math.max(meterU / 2, SLACK.amps);
}

/** How the scale stretches at a value. */
function stretch(at: Observable, value: number, meterU: number): number {
  if (at.kind === "ohms") return 1 / Math.hypot(Math.min(value, OVER_RANGE_OHM), Math.max(meterU, 0.05));
  return at.kind === "network" && at.probe.kind === "amps" ? 1 / Math.hypot(value, ampsScale(meterU)) : 1;
}

/** A reading made ready: what it was in its scale, and what the sound machine would show. */
interface Prepared {
  readonly seen: Seen;
  readonly read: number;
  readonly sound: number;
  /** Place among the readings of the powered network; −1 for the others. */
  readonly network: number;
}

/** Standard deviation that a reading has by itself, apart from what the plan leaves open, in its scale. */
function ownU({ at, meterU }: Seen, value: number): number {
  if (at.kind === "fuse" || at.kind === "turns") return 0.1;
  if (at.kind === "ohms") {
    // Over range is over range, however far.
    if (value >= OVER_RANGE_OHM) return 1;
    return Math.hypot(meterU / 2, OHMS_OFF * value) * stretch(at, value, meterU);
  }
  const slack = Math.hypot(SLACK[at.probe.kind], SLACK.share * value);
  return Math.hypot(meterU / 2, slack) * stretch(at, value, meterU);
}

/** Ranks single faults against readings. Predictions are kept, so that one more reading costs little. */
export class Ranker {
  constructor(
    private readonly predictor: Predictor,
    readonly faults: readonly SingleFault[],
  ) {}

  rank(seen: readonly Seen[], cancelled: () => boolean = () => false): Ranking | null {
    let network = 0;
    const prepared = seen.map((each): Prepared => {
      const sound = this.predictor.value(each.at, null);
      const read = scaled(each.at, each.value ?? OVER_RANGE_OHM, each.meterU);
      return { seen: each, read, sound, network: each.at.kind === "network" ? network++ : -1 };
    });
    const shared = seen.flatMap(({ at }) => (at.kind === "network" ? [this.predictor.doubtsOf(at)] : []));
    const misfit = misfitOf(prepared, Float64Array.from(shared.flatMap((a) => shared.map((b) => covariance(a, b)))));
    const valuesOf = (fault: SingleFault | null, size: number) =>
      Float64Array.from(seen, ({ at }) => this.predictor.value(at, fault, size));
    const found: Omit<Ranked, "share">[] = [{ fault: null, size: 1, misfit: misfit(valuesOf(null, 1)), bySize: [] }];
    for (const fault of this.faults) {
      if (cancelled()) return null;
      let best = { size: fault.sizes[0] ?? 1, misfit: Number.POSITIVE_INFINITY };
      const bySize: Sized[] = [];
      const take = (size: number, now: number) => {
        if (now < best.misfit) best = { size, misfit: now };
      };
      let last: { size: number; values: Float64Array } | null = null;
      for (const size of fault.sizes) {
        const values = valuesOf(fault, size);
        bySize.push({ size, misfit: misfit(values) });
        take(size, (bySize.at(-1) as Sized).misfit);
        if (fault.sized && last) {
          // What lies between two tried sizes, on a straight line between their readings.
          const { size: low, values: lows } = last;
          for (const share of BETWEEN)
            take(low + (size - low) * share, misfit(values.map((high, i) => (lows[i] as number) + (high - (lows[i] as number)) * share)));
        }
        last = { size, values };
      }
      found.push({ fault, ...best, bySize });
    }
    found.sort((a, b) => a.misfit - b.misfit);
    const refined = found.map((each, i) =>
      i < REFINED && each.fault?.sized ? { ...each, ...refine(each.size, (size) => misfit(valuesOf(each.fault, size))) } : each,
    );
    return shares(refined, prepared);
  }
}

/** Where between two sizes a fault is tried. */
const BETWEEN = [0.15, 0.3, 0.5, 0.75] as const;

/**
 * Sum of squares of what predicted values leave unexplained, with what readings share in doubt taken out together (generalised
 * least squares): offᵀ·C⁻¹·off with C = own + scale·cov·scale, by Cholesky. The arrays are used again from call to call.
 * @param cov of the network's readings, by rows
 */
function misfitOf(prepared: readonly Prepared[], cov: Float64Array): (values: Float64Array) => number {
  const n = prepared.reduce((count, { network }) => Math.max(count, network + 1), 0);
  const [off, own, scale, y] = [new Float64Array(n), new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  const lower = new Float64Array(n * n);
  return (values) => {
    let sum = 0;
    for (let p = 0; p < prepared.length; p++) {
      const { seen, read, sound, network } = prepared[p] as Prepared;
      const value = seen.at.kind === "ohms" ? shownOhm(values[p] as number) : (values[p] as number);
      const left = read - scaled(seen.at, value, seen.meterU);
      const u = ownU(seen, value);
      if (network < 0) {
        sum += (left / u) ** 2;
        continue;
      }
      off[network] = left;
      own[network] = u * u;
      // What fades with the fault is less in doubt than in the sound machine.
      const share = sound === 0 ? 1 : Math.min(1.5, Math.abs(value / sound));
      scale[network] = share * stretch(seen.at, value, seen.meterU);
    }
    for (let i = 0; i < n; i++) {
      for (let j = 0; j <= i; j++) {
        let value = (cov[i * n + j] as number) * (scale[i] as number) * (scale[j] as number) + (i === j ? (own[i] as number) : 0);
        for (let k = 0; k < j; k++) value -= (lower[i * n + k] as number) * (lower[j * n + k] as number);
        lower[i * n + j] = i === j ? Math.sqrt(Math.max(value, 1e-18)) : value / (lower[j * n + j] as number);
      }
      let rest = off[i] as number;
      for (let k = 0; k < i; k++) rest -= (lower[i * n + k] as number) * (y[k] as number);
      y[i] = rest / (lower[i * n + i] as number);
      sum += (y[i] as number) ** 2;
    }
    return sum;
  };
}

/** What an ohmmeter shows at most; metal that nothing joins is over range. */
function shownOhm(value: number): number {
  return Number.isNaN(value) ? OVER_RANGE_OHM : Math.min(value, OVER_RANGE_OHM);
}

/** The best size near one, by halving steps on its logarithm. */
function refine(size: number, at: (size: number) => number): { size: number; misfit: number } {
  let best = { size, misfit: at(size) };
  for (let step = 0.5; step > 0.02; step /= 2) {
    for (const factor of [Math.exp(step), Math.exp(-step)]) {
      const now = { size: best.size * factor, misfit: at(best.size * factor) };
      if (now.misfit < best.misfit) best = now;
    }
  }
  return best;
}

function shares(found: readonly Omit<Ranked, "share">[], prepared: readonly Prepared[]): Ranking {
  const other = prepared.reduce((sum, { seen, read, sound }) => {
    const off = (read - scaled(seen.at, sound, seen.meterU)) / ownU(seen, sound);
    return sum + Math.min(off * off, OTHER_MOST);
  }, 0);
  const least = Math.min(other, ...found.map((each) => each.misfit));
  const weigh = (misfitNow: number) => Math.exp(-(misfitNow - least) / 2);
  const weights = found.map(({ fault, misfit, bySize }) => {
    if (!fault) return SOUND_WEIGHT * weigh(misfit);
    // A size to fit explains more easily: what counts is how well all its sizes do, the best one among them.
    const all = [misfit, ...bySize.map((each) => each.misfit)];
    return (fault.weight * all.reduce((sum, each) => sum + weigh(each), 0)) / all.length;
  });
  const otherWeight = OTHER_WEIGHT * weigh(other);
  const total = weights.reduce((sum, weight) => sum + weight, otherWeight);
  const ranked = found
    .map((each, i): Ranked => ({ ...each, share: (weights[i] as number) / total }))
    .sort((a, b) => b.share - a.share || a.misfit - b.misfit);
  const n = prepared.length;
  return {
    ranked,
    otherShare: otherWeight / total,
    explains: (ranked[0]?.misfit ?? Number.POSITIVE_INFINITY) <= n + 3 * Math.sqrt(2 * n) + 3,
    tried: found.length - 1,
  };
}

/** Distance of two values at one observable, in standard deviations of a reading there. */
export function apart(predictor: Predictor, at: Observable, meterU: number, a: number, b: number): number {
  const [one, other] = [placed(predictor, at, meterU, a), placed(predictor, at, meterU, b)];
  return Math.abs(one.x - other.x) / Math.max(one.u, other.u);
}

/** Readings of the same thing: the last one counts. */
export function lastOfEach(seen: readonly Seen[]): Seen[] {
  return [...new Map(seen.map((each) => [observableKey(each.at), each])).values()];
}

/** Where a value lies in the scale of an observable, and its standard deviation there with everything the plan leaves open. */
export function placed(predictor: Predictor, at: Observable, meterU: number, value: number): { x: number; u: number } {
  const seen: Seen = { at, value: null, meterU };
  const size = at.kind === "ohms" ? shownOhm(value) : value;
  const own = ownU(seen, size);
  if (at.kind !== "network") return { x: scaled(at, size, meterU), u: own };
  const sound = predictor.value(at, null);
  const share = sound === 0 ? 1 : Math.min(1.5, Math.abs(size / sound));
  const plan = predictor.planU(at) * share * stretch(at, size, meterU);
  return { x: scaled(at, size, meterU), u: Math.hypot(own, plan) };
}
