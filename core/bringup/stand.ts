import type { Machine } from "../machine/schema";
import type { OperatingPoint } from "../network/point";
import { buildTopology, openKey } from "../network/topology";
import { type Built, built } from "./built";
import { covariance, type Doubt, type Uncertain, uncertainOf } from "./doubts";
import { doubtsAt, type Probe, shows, unknownAt } from "./probe";
import { Linear } from "./sensitivity";
import { nominalsOf, settle } from "./settle";
import { NOW, type Situation, sourcesOf } from "./situation";

/** A machine on the bench in one situation, solved as planned: what to expect there, and how sure that is. */
export interface Stand {
  readonly built: Built;
  readonly point: OperatingPoint;
  readonly linear: Linear;
  readonly nominals: Float64Array;
  /** What in it may be off. */
  readonly uncertain: readonly Uncertain[];
  /** Where each bench supply is to hold its current, A, by the source it stands in for. */
  readonly limits: ReadonlyMap<string, number>;
  /** Loads that are on and whose draw nobody knows. */
  readonly unknown: readonly string[];
}

/** A limit of a bench supply: half as much again as expected and a little (handbook grounding section 9). */
export function limitFor(expectedA: number, unknown: boolean): number {
  return Math.ceil((1.5 * Math.max(0, expectedA) + (unknown ? 0.5 : 0.1)) * 20) / 20;
}

/** Puts a machine on the bench. `limitOf`: where bench supplies hold, when that is not to follow from this situation. */
export function standOf(machine: Machine, situation: Situation, limitOf?: ReadonlyMap<string, number>): Stand {
  const free = built(machine, situation);
  const nominals = nominalsOf(free.circuit, free.topology);
  const open = settle(free.circuit, free.topology, nominals);
  const unknown = free.circuit.loads.flatMap((load) => (load.unknown[0] === 1 ? [load.id] : []));
  const limits = new Map<string, number>();
  if (situation.fedBy === "bench") {
    for (const { id } of sourcesOf(machine)) {
      const emf = free.circuit.emfs.findIndex((each) => each.id === id && each.converter < 0);
      limits.set(id, limitOf?.get(id) ?? limitFor(open.emfA[emf] ?? 0, unknown.length > 0));
    }
  }
  const held = limits.size > 0 ? built(machine, situation, limits) : free;
  const point = limits.size > 0 ? settle(held.circuit, held.topology, nominals) : open;
  // A topology of its own: whoever solves something else on the machine's would take its factor away.
  const alone = { ...held, topology: buildTopology(held.circuit, openKey(held.circuit, NOW)) };
  return { built: held, point, linear: new Linear(alone, point), nominals, uncertain: uncertainOf(held, point), limits, unknown };
}

/** What is expected at a probe. */
export interface Expected {
  readonly value: number;
  /** Expanded uncertainty of the plan alone, k = 2 (JCGM 100). */
  readonly planU: number;
  readonly doubts: readonly Doubt[];
}

/** No plan knows the last milliamps and millivolts: indicator lamps, leakage, pick-up in the leads (common practice, no source). */
const UNPLANNED = { volts: 0.002, amps: 0.002 } as const;

/** What a perfect meter would show at a probe and how far the machine as built may be from the plan; null without such a place. */
export function expectedAt(stand: Stand, probe: Probe): Expected | null {
  const value = shows(stand.built, stand.point, probe);
  if (value === null) return null;
  const doubts = doubtsAt(stand.built, stand.point, stand.linear, stand.uncertain, probe);
  const u = Math.sqrt(Math.max(0, covariance(doubts, doubts)));
  return { value, planU: Math.hypot(2 * u, UNPLANNED[probe.kind]), doubts };
}

/** What an unknown draw does to a reading: which loads decide it, and by how much the rest may move it. */
export interface Undecided {
  /** Loads without whose current nothing can be expected here. */
  readonly decide: readonly string[];
  /** How far loads of unknown current may move it, at most; all one way. */
  readonly moves: number;
}

/** Share of a voltage that unknown draws may move before nothing is expected of it. */
const MAY_MOVE = 0.03;

/**
 * Currents hang on every load that adds to them. Volts move by what an unknown load draws at most: as much as when it works, or
 * else when it is held.
 */
export function undecided(stand: Stand, probe: Probe, value: number): Undecided {
  const by = unknownAt(stand.built, stand.point, stand.linear, probe);
  const parts = new Map(stand.built.machine.parts.map((part) => [part.id, part]));
  let moves = 0;
  const decide: string[] = [];
  for (const { id, perAmp } of by) {
    const part = parts.get(id);
    const most = part?.kind === "load" ? (part.levels?.run ?? part.levels?.stall)?.value : undefined;
    if (probe.kind === "amps" ? Math.abs(perAmp) > 1e-3 : most === undefined) decide.push(id);
    else moves += perAmp * (most ?? 0) * (part?.kind === "load" ? part.count : 1);
  }
  if (probe.kind === "volts" && Math.abs(moves) > MAY_MOVE * Math.abs(value)) return { decide: by.map(({ id }) => id), moves: 0 };
  return { decide, moves };
}
