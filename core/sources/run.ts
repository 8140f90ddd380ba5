import { type MissionPlan, missionOf } from "../loads/mission";
import type { Machine } from "../machine/schema";
import type { OperatingPoint } from "../network/point";
import { peukertHours } from "../packs/chemistry";
import { Discharge } from "./discharge";
import type { Stop } from "./stops";

/** What ended a run. `part` is the pack, converter or board; `mode` the mode it happened in. */
export interface RunEnd {
  readonly cause: "cut-off" | "reserve" | "peukert" | "converter" | "part" | "regulator" | "collapse" | "done" | "endless";
  readonly part: string | null;
  readonly mode: number;
  readonly seconds: number;
}

/** A moment of a run: charge of each pack (share), and its terminal volts. */
export interface RunMoment {
  readonly seconds: number;
  readonly charges: readonly number[];
  readonly volts: readonly number[];
}

/** One discharge from full to whatever ends it. */
export interface Run {
  readonly end: RunEnd;
  /** Charge left in each pack, by its id. */
  readonly left: Readonly<Record<string, number>>;
  readonly usedAh: Readonly<Record<string, number>>;
  readonly trace: readonly RunMoment[];
  /** Loads without a figure: the run can only be shorter. */
  readonly atMost: boolean;
  /** Times the mission was gone through, whole. */
  readonly rounds: number;
}

/** How finely a discharge is walked. */
export interface RunOptions {
  /** Largest change of charge in one step of the integration, share. */
  readonly step?: number;
  /** Charge each pack starts with, by id; absent: full. */
  readonly from?: Readonly<Record<string, number>>;
  /** No stop is looked for before this many seconds; beyond it the run is over. */
  readonly mostS?: number;
}

/** Largest step of charge in a run, share of the capacity. */
const STEP = 0.01;
/** Ten days: beyond that nobody plans a run, s. */
const LONGEST_S = 864000;
const S_PER_H = 3600;
/** Share of a step below which the end of a segment is as its beginning. */
const HARDLY = 0.02;
/** Bisections that place the end inside a step: a thousandth of the step. */
const BISECTIONS = 12;
/** Charge change below which a machine does not drain at all, shares a second. */
const STANDS_STILL = 1e-12;

/** What one evaluation of a mode at some charge yields. */
interface Rates {
  /** Charge leaving each pack, share of its capacity a second; negative: charging. */
  readonly drain: Float64Array;
  /** Share of Peukert's capacity used up, a second. */
  readonly peukert: Float64Array;
  readonly volts: Float64Array;
  /** Least room of any stop, V; negative: it has acted. */
  room: number;
  stop: Stop | null;
  collapsed: boolean;
}

const NO_LEAP = { cycles: 0, after: null };

interface State {
  charges: Float64Array;
  peukert: Float64Array;
}

/**
 * Integrates a discharge: at every charge the whole network is solved in the mode of the moment, so that constant-power
 * inputs draw more as the packs sag. Coulombs (with cold and age taken off) and Peukert's law (age only) are counted side
 * by side and the first to end the run counts: both describe the same loss, so they are not multiplied (handbook section 2).
 */
class Integration {
  readonly trace: RunMoment[] = [];
  private seconds = 0;
  private state: State;
  private readonly start: Float64Array;
  private end: RunEnd | null = null;
  private readonly step: number;
  readonly mostS: number;

  constructor(
    private readonly discharge: Discharge,
    options: RunOptions,
  ) {
    this.step = options.step ?? STEP;
    this.mostS = options.mostS ?? LONGEST_S;
    const charges = Float64Array.from(discharge.packs, ({ pack }) => options.from?.[pack.id] ?? 1);
    this.start = charges.slice();
    // What is gone at the start is gone by Peukert's count too.
    this.state = { charges, peukert: charges.map((charge) => 1 - charge) };
  }

  /** Rates of one mode at a state; stops that a dip of `lasts` seconds does not trip are left out. */
  private rates(mode: number, state: State, lasts: number): Rates {
    const { point, rates } = this.drawn(mode, state);
    return this.looked(point, mode, lasts, rates);
  }

  /** What leaves each pack in a mode, before anybody has looked at stops. */
  private drawn(mode: number, state: State): { point: OperatingPoint; rates: Rates } {
    const { discharge } = this;
    const { packs } = discharge;
    const rates: Rates = {
      drain: new Float64Array(packs.length),
      peukert: new Float64Array(packs.length),
      volts: new Float64Array(packs.length),
      room: Number.POSITIVE_INFINITY,
      stop: null,
      collapsed: false,
    };
    const point = discharge.at(mode, state.charges);
    if (point.status !== "solved") return { point, rates: { ...rates, collapsed: true, room: -1 } };
    packs.forEach((model, p) => {
      const amps = discharge.packA(point, p);
      rates.volts[p] = discharge.packV(point, p);
      rates.drain[p] = amps / model.capacityAh / S_PER_H;
      const { peukertAh, ratedH, peukert } = model;
      // Charging goes back in as it comes; only what is drawn costs more than it gives.
      const used = amps > 0 ? 1 / peukertHours(peukertAh, ratedH, peukert, amps) : amps / peukertAh;
      rates.peukert[p] = used / S_PER_H;
    });
    return { point, rates };
  }

  private looked(point: OperatingPoint, mode: number, lasts: number, rates: Rates): Rates {
    if (!rates.collapsed) this.look(point, mode, lasts, rates);
    return rates;
  }

  private look(point: OperatingPoint, mode: number, lasts: number, rates: Rates): void {
    for (const stop of this.discharge.stops) {
      if (lasts <= stop.ridesS || !this.discharge.live(stop, mode)) continue;
      const room = (point.nodeV[stop.pos] as number) - (point.nodeV[stop.neg] as number) - stop.leastV;
      if (room >= rates.room) continue;
      rates.room = room;
      rates.stop = stop;
    }
  }

  private moved(state: State, rates: Rates, seconds: number): State {
    const moved: State = { charges: state.charges.slice(), peukert: state.peukert.slice() };
    for (let p = 0; p < moved.charges.length; p++) {
      moved.charges[p] = Math.min(1, (moved.charges[p] as number) - (rates.drain[p] as number) * seconds);
      moved.peukert[p] = Math.max(0, (moved.peukert[p] as number) + (rates.peukert[p] as number) * seconds);
    }
    return moved;
  }

  /** The pack that has come down to its reserve, by either count. */
  private spent(state: State): { p: number; cause: "reserve" | "peukert" } | null {
    for (let p = 0; p < this.discharge.packs.length; p++) {
      const reserve = this.discharge.packs[p]?.reserve ?? 0;
      if ((state.charges[p] as number) <= reserve) return { p, cause: "reserve" };
      if ((state.peukert[p] as number) >= 1 - reserve) return { p, cause: "peukert" };
    }
    return null;
  }

  private note(volts: Float64Array): void {
    this.trace.push({ seconds: this.seconds, charges: [...this.state.charges], volts: [...volts] });
  }

  private finish(cause: RunEnd["cause"], part: string | null, mode: number): void {
    this.end = { cause, part, mode, seconds: this.seconds };
  }

  private acted(rates: Rates, mode: number): void {
    if (rates.collapsed) this.finish("collapse", null, mode);
    else if (rates.stop) this.finish(rates.stop.kind, rates.stop.part.id, mode);
  }

  get over(): boolean {
    return this.end !== null;
  }

  get ended(): RunEnd {
    return this.end ?? { cause: "done", part: null, mode: 0, seconds: this.seconds };
  }

  get left(): Float64Array {
    return this.state.charges;
  }

  get startedWith(): Float64Array {
    return this.start;
  }

  /** Runs one mode for some time. `lasts`: how long the builder means it to last, for what rides through. */
  run(mode: number, seconds: number, lasts: number): void {
    let rest = Math.min(seconds, this.mostS - this.seconds);
    let rates = this.rates(mode, this.state, lasts);
    this.note(rates.volts);
    if (rates.room < 0) {
      this.acted(rates, mode);
      return;
    }
    while (rest > 0) {
      const drain = this.fastest(rates);
      const dt = Math.min(rest, this.step / Math.max(drain, STANDS_STILL));
      // Heun: the rate at the end of an Euler step is the next step's first.
      const guess = this.moved(this.state, rates, dt);
      if (dt === rest && drain * dt < this.step * HARDLY && !this.spent(guess)) {
        // So little that neither the rate nor the room changes worth asking the network again.
        this.state = guess;
        this.seconds += dt;
        return;
      }
      const after = this.rates(mode, guess, lasts);
      const mean = this.mean(rates, after);
      const next = this.moved(this.state, mean, dt);
      const gone = this.spent(next);
      if (after.room < 0 || gone) {
        this.place(mode, lasts, rates, dt, gone !== null);
        return;
      }
      this.state = next;
      this.seconds += dt;
      rest -= dt;
      rates = after;
      this.note(rates.volts);
    }
  }

  /** Fastest pack, shares a second by either count. */
  private fastest(rates: Rates): number {
    let most = 0;
    for (let p = 0; p < rates.drain.length; p++) most = Math.max(most, Math.abs(rates.drain[p] as number), rates.peukert[p] as number);
    return most;
  }

  private mean(a: Rates, b: Rates): Rates {
    const half = (x: Float64Array, y: Float64Array) => x.map((value, i) => (b.collapsed ? value : (value + (y[i] as number)) / 2));
    return { ...a, drain: half(a.drain, b.drain), peukert: half(a.peukert, b.peukert) };
  }

  /** Finds where inside a step the run ends, on its early side. */
  private place(mode: number, lasts: number, rates: Rates, dt: number, spent: boolean): void {
    let early = 0;
    let late = dt;
    let at = rates;
    for (let k = 0; k < BISECTIONS; k++) {
      const mid = (early + late) / 2;
      const state = this.moved(this.state, rates, mid);
      const found = this.rates(mode, state, lasts);
      if (found.room < 0 || this.spent(state)) {
        late = mid;
        at = found;
      } else early = mid;
    }
    const state = this.moved(this.state, rates, late);
    const gone = this.spent(state);
    if (at === rates) at = this.rates(mode, state, lasts);
    this.state = this.moved(this.state, rates, early);
    this.seconds += early;
    this.note(at.collapsed ? rates.volts : at.volts);
    if (at.room < 0) this.acted(at, mode);
    else if (gone) this.finish(gone.cause, this.discharge.packs[gone.p]?.pack.id ?? null, mode);
    else if (spent) this.finish("reserve", this.discharge.packs[0]?.pack.id ?? null, mode);
  }

  /**
   * Goes through a short cycle many times at once: every mode of it is solved at the present charge, and the packs move by
   * as many whole cycles as stay within one step. An end found within such a leap is looked for again cycle by cycle.
   * @returns whole cycles gone through
   */
  cycles(plan: MissionPlan): number {
    let rounds = 0;
    let before: Rates | null = null;
    while (!this.over && this.seconds + plan.cycleS <= this.mostS) {
      const leap = this.leap(plan, before ?? this.overCycle(plan, this.state));
      if (leap.cycles === 0) {
        for (const { mode, seconds } of plan.steps) {
          this.run(mode, seconds, seconds);
          if (this.over) return rounds;
        }
        rounds++;
      } else rounds += leap.cycles;
      before = leap.after;
    }
    if (!this.over) this.finish("endless", null, plan.steps[0]?.mode ?? 0);
    return rounds;
  }

  /**
   * As many cycles as change no charge by more than a step and end nothing, with the rates at their end; none: go on step
   * by step.
   */
  private leap(plan: MissionPlan, before: Rates): { cycles: number; after: Rates | null } {
    if (before.room < 0) return NO_LEAP;
    const drain = this.fastest(before) * plan.cycleS;
    const most = Math.floor(Math.min(this.step / Math.max(drain, STANDS_STILL), (this.mostS - this.seconds) / plan.cycleS));
    if (most < 1) return NO_LEAP;
    const guess = this.moved(this.state, before, most * plan.cycleS);
    const after = this.overCycle(plan, guess);
    if (after.room < 0) return this.fewer(plan, before, most);
    const next = this.moved(this.state, this.mean(before, after), most * plan.cycleS);
    if (this.spent(next)) return this.fewer(plan, before, most);
    this.accept(next, most * plan.cycleS, after.volts);
    return { cycles: most, after };
  }

  /** The largest number of cycles below `most` that ends nothing, by halving. */
  private fewer(plan: MissionPlan, before: Rates, most: number): { cycles: number; after: Rates | null } {
    let good = 0;
    let bad = most;
    while (bad - good > 1) {
      const mid = (good + bad) >> 1;
      const state = this.moved(this.state, before, mid * plan.cycleS);
      if (this.spent(state) || this.overCycle(plan, state).room < 0) bad = mid;
      else good = mid;
    }
    // The last one is walked through: its own middle may be where it ends.
    const cycles = Math.max(0, good - 1);
    if (cycles > 0) this.accept(this.moved(this.state, before, cycles * plan.cycleS), cycles * plan.cycleS, before.volts);
    return { cycles, after: null };
  }

  private accept(next: State, seconds: number, volts: Float64Array): void {
    this.state = next;
    this.seconds += seconds;
    this.note(volts);
  }

  /** Rates averaged over a cycle at one charge, with the least room of any of its steps; each mode is solved once. */
  private overCycle(plan: MissionPlan, state: State): Rates {
    const total = {
      drain: new Float64Array(state.charges.length),
      peukert: new Float64Array(state.charges.length),
      volts: new Float64Array(state.charges.length),
    };
    let room = Number.POSITIVE_INFINITY;
    let stop: Stop | null = null;
    let collapsed = false;
    const seen = new Map<number, { point: OperatingPoint; rates: Rates }>();
    for (const { mode, seconds } of plan.steps) {
      const drawn = seen.get(mode) ?? this.drawn(mode, state);
      seen.set(mode, drawn);
      // The same mode may be a dip in one step and last in another.
      const rates = this.looked(drawn.point, mode, seconds, { ...drawn.rates });
      const share = seconds / plan.cycleS;
      for (let p = 0; p < total.drain.length; p++) {
        total.drain[p] = (total.drain[p] as number) + (rates.drain[p] as number) * share;
        total.peukert[p] = (total.peukert[p] as number) + (rates.peukert[p] as number) * share;
        total.volts[p] = (total.volts[p] as number) + (rates.volts[p] as number) * share;
      }
      collapsed ||= rates.collapsed;
      if (rates.room < room) {
        room = rates.room;
        stop = rates.stop;
      }
    }
    return { ...total, room, stop, collapsed };
  }
}

function result(discharge: Discharge, run: Integration, rounds: number, modes: Iterable<number>): Run {
  const of = (value: (p: number) => number) => Object.fromEntries(discharge.packs.map(({ pack }, p) => [pack.id, value(p)] as const));
  return {
    end: run.ended,
    left: of((p) => Math.max(0, run.left[p] as number)),
    usedAh: of((p) => ((run.startedWith[p] as number) - (run.left[p] as number)) * (discharge.packs[p]?.capacityAh ?? 0)),
    trace: run.trace,
    atMost: [...modes].some((mode) => discharge.unknown(mode)),
    rounds,
  };
}

/** The mission from full packs until something ends it; a mission that does not repeat ends when it is done. */
export function runMission(discharge: Discharge, plan: MissionPlan, options: RunOptions = {}): Run {
  const run = new Integration(discharge, options);
  let rounds = 0;
  if (plan.repeats) rounds = run.cycles(plan);
  else {
    for (const { mode, seconds } of plan.steps) {
      if (!run.over) run.run(mode, seconds, seconds);
    }
    if (!run.over) rounds = 1;
  }
  return result(discharge, run, rounds, new Set(plan.steps.map(({ mode }) => mode)));
}

/** One mode for as long as it goes. */
export function runMode(discharge: Discharge, mode: number, options: RunOptions = {}): Run {
  const run = new Integration(discharge, options);
  run.run(mode, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY);
  if (!run.over && run.ended.seconds >= run.mostS) {
    const { ended } = run;
    return { ...result(discharge, run, 0, [mode]), end: { ...ended, cause: "endless", mode } };
  }
  return result(discharge, run, 0, [mode]);
}

/** Run times of a machine: its mission, and each mode without a time limit alone. */
export interface RunTimes {
  /** Packs that lack figures, in words; nothing is computed then. */
  readonly missing: readonly { id: string; name: string; figures: readonly string[] }[];
  readonly mission: Run | null;
  /** By mode index. */
  readonly alone: readonly { mode: number; run: Run }[];
}

/** How long the packs last, through the mission and in each mode alone. */
export function runTimes(machine: Machine, discharge = Discharge.of(machine), options: RunOptions = {}): RunTimes {
  const missing = discharge.missing.map(({ pack, figures }) => ({ id: pack.id, name: pack.name, figures }));
  if (missing.length > 0 || discharge.packs.length === 0) return { missing, mission: null, alone: [] };
  const plan = missionOf(machine);
  const mission = plan && plan.steps.length > 0 ? runMission(discharge, plan, options) : null;
  const alone = machine.modes.flatMap((mode, m) => (mode.lastsS === null ? [{ mode: m, run: runMode(discharge, m, options) }] : []));
  return { missing, mission, alone };
}
