import type { Command } from "../machine/commands";
import { freshId } from "../machine/defaults";
import { measured } from "../machine/figure";
import type { Load, Machine } from "../machine/schema";
import { estimateOf } from "./corrections";

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

/** At most about so many points of a log for drawing: of what lies between two the largest is kept, so that no peak vanishes. */
export function thinned({ seconds, amps }: CurrentLog, most: number): { at: number; amps: number }[] {
  const step = Math.max(1, Math.floor(seconds.length / most));
  return Array.from({ length: Math.ceil(seconds.length / step) }, (_, k) => ({
    at: seconds[k * step] ?? 0,
    amps: Math.max(...amps.slice(k * step, (k + 1) * step)),
  }));
}

/** Where a figure of a log goes that makes a mode of its own. */
export const NEW_MODE = "new";
/** Currents of a load by themselves, whatever the mode. */
const LEVELS = { "level run": "run", "level start": "start", "level stall": "stall" } as const;

/** A log has its lasting short modes from so many seconds down. */
const SHORT_S = 600;

/**
 * What puts a logged current of a load into the plan.
 * @param target a mode's id, NEW_MODE, or a level of the load by itself: "level run", "level start", "level stall"
 * @param amps of all its pieces together
 * @param lasts how long was logged, s
 */
export function logCommand(machine: Machine, load: Load, target: string, amps: number, lasts: number): Command {
  const figure = measured(amps);
  if (target in LEVELS) {
    const name = LEVELS[target as keyof typeof LEVELS];
    const each = { ...measured(Number((amps / load.count).toPrecision(4))), ...estimateOf(load.levels?.[name]) };
    return { type: "updatePart", id: load.id, changes: { levels: { ...load.levels, [name]: each } } };
  }
  if (target !== NEW_MODE) {
    const cell = load.cells[target];
    const as = !cell || cell.state === "off" ? ({ state: "amps", amps: figure } as const) : { ...cell, measured: figure };
    return { type: "setCell", loadId: load.id, modeId: target, cell: as };
  }
  const like = machine.modes[1] ?? machine.modes[0];
  return {
    type: "batch",
    label: `Mode as logged: ${load.name}`,
    commands: [
      {
        type: "addMode",
        name: `${load.name}, as logged`.slice(0, 80),
        lastsS: lasts < SHORT_S ? Math.max(1, Math.round(lasts)) : null,
        ...(like ? { copyFrom: like.id } : {}),
      },
      { type: "setCell", loadId: load.id, modeId: freshId("m", machine.modes), cell: { state: "amps", amps: figure } },
    ],
  };
}
