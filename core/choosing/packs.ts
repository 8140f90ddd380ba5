import type { Figures } from "../figures/figures";
import { missionOf } from "../loads/mission";
import type { PartChanges } from "../machine/commands";
import { goesOn } from "../machine/lasting";
import type { Machine, Pack, Part } from "../machine/schema";
import { packModel } from "../packs/pack";
import { say, sayDuration } from "../quantity/format";
import { type RailDemand, railDemand, takersOf } from "../sources/demand";
import type { Discharge } from "../sources/discharge";
import { endWords } from "../sources/end";
import { runMission, runMode } from "../sources/run";
import { dischargeOf } from "../sources/sag";
import { type Composition, composed, compositionName, compositionsFor } from "./compose";
import { mostVolts, ruledOut } from "./offer";

/** The least a part gets, against the least it needs, V. */
export interface LowPoint {
  readonly part: string;
  readonly volts: number;
  readonly leastV: number;
}

/** Tightest first. */
export function byRoom(points: Iterable<LowPoint>): LowPoint[] {
  return [...points].sort((a, b) => a.volts / a.leastV - b.volts / b.leastV);
}

/** One thing that could feed a rail, weighed against it. */
export interface SourceCandidate {
  readonly id: string;
  readonly name: string;
  /** In the plan now, on the builder's shelf, a reference class, or composed on the spot. */
  readonly from: "plan" | "shelf" | "class" | "composed";
  /** Least room of any limit, share of what is asked; negative: it fails. */
  readonly margin: number;
  readonly continuousA: number | null;
  readonly peakA: number | null;
  /** Volts at its terminals at the worst moment, and nothing running when full. */
  readonly worstV: number | null;
  readonly fullV: number | null;
  /** What every part with a least voltage is left with at its worst moment, the tightest first. */
  readonly lows: readonly LowPoint[];
  /** s; null: not a battery, or nothing drains it. */
  readonly runS: number | null;
  readonly runEnds: string | null;
  readonly massKg: number | null;
  readonly cost: number | null;
  /** Heat it makes continuously, W, where that tells candidates apart. */
  readonly heatW: number | null;
  /** Why it fails, in the builder's words; empty: it fits. */
  readonly refused: readonly string[];
  /** What to write into the part at its place to plan it. */
  readonly changes: PartChanges | null;
}

/** Largest step of charge while candidates are weighed: a candidate's run time need not be exact to the minute. */
const COARSE_STEP = 0.06;
/** Most packs composed and weighed: the work is bounded, the rest would differ little. */
const COMPOSED_MOST = 300;
/** Run assumed wanted where the builder names none, s. */
const HOUR_S = 3600;

interface Weighing {
  readonly figures: Figures;
  readonly demand: RailDemand;
  readonly discharge: Discharge;
  readonly index: number;
  readonly takers: readonly Part[];
  readonly wantedS: number | null;
}

/** Ready to weigh packs for a rail; null where it hangs on no pack whose figures suffice to solve it. */
function weighing(figures: Figures, origin: string): Weighing | null {
  const rail = figures.ledger.rails.find((each) => each.origin === origin);
  const pack = figures.partOf.get(origin);
  if (!rail || pack?.kind !== "pack") return null;
  let discharge = dischargeOf(figures.solved.circuit);
  let index = discharge.packs.findIndex((model) => model.pack.id === origin);
  if (index < 0) {
    // Its own figures are missing: any model holds its place.
    const stand = {
      ...pack,
      ...composed({ chemistry: "lead_agm", series: Math.max(1, Math.round(pack.openCircuitV.value / 2)), parallel: 1, cellAh: 10 }),
    };
    const machine: Machine = {
      ...figures.machine,
      parts: figures.machine.parts.map((part) => (part.id === origin ? (stand as Pack) : part)),
    };
    discharge = dischargeOf({ ...figures.solved.circuit, machine });
    index = discharge.packs.findIndex((model) => model.pack.id === origin);
  }
  if (index < 0) return null;
  return {
    figures,
    demand: railDemand(figures, rail),
    discharge,
    index,
    takers: takersOf(figures, origin),
    wantedS: figures.machine.settings.wantedRunS ?? null,
  };
}

/** One pack against the rail: window, every mode at its lowest charge, ratings, run time. */
function weighPack(w: Weighing, pack: Pack, about: Pick<SourceCandidate, "id" | "name" | "from" | "changes">): SourceCandidate {
  const refused: string[] = [];
  const { machine } = w.figures;
  const read = packModel(pack, machine.settings.ambientC);
  const base = { ...about, massKg: pack.massKg?.value ?? null, cost: pack.cost ?? null, heatW: null, fullV: pack.fullV?.value ?? null };
  if ("missing" in read) {
    return {
      ...base,
      margin: Number.NEGATIVE_INFINITY,
      continuousA: pack.continuousA?.value ?? null,
      peakA: pack.peakA?.value ?? null,
      worstV: null,
      lows: [],
      runS: null,
      runEnds: null,
      refused: [`not known: ${read.missing.join(", ")}`],
    };
  }
  const { model } = read;
  const discharge = w.discharge.withPack(w.index, model);
  const charges = discharge.packs.map((each, p) => (p === w.index ? model.reserve : (each.pack.plannedCharge?.value ?? 1)));
  const rooms: number[] = [];

  const full = pack.fullV?.value;
  for (const taker of w.takers) {
    const most = mostVolts(taker);
    if (full === undefined || most === null) continue;
    rooms.push(most / full - 1);
    if (full > most) refused.push(`full it reaches ${say(full, "voltage", "up")}, ${taker.name} bears ${say(most, "voltage", "down")}`);
  }

  let continuous = 0;
  let peak = 0;
  let worstV = Number.POSITIVE_INFINITY;
  const points = new Map<string, LowPoint>();
  let starved: string | null = null;
  machine.modes.forEach((mode, m) => {
    const point = discharge.at(m, charges);
    if (point.status !== "solved") {
      starved ??= mode.name;
      return;
    }
    const amps = discharge.packA(point, w.index);
    if (goesOn(mode)) continuous = Math.max(continuous, amps);
    peak = Math.max(peak, amps);
    worstV = Math.min(worstV, discharge.packV(point, w.index));
    for (const stop of discharge.stops) {
      if (stop.kind === "cut-off" || (mode.lastsS ?? Number.POSITIVE_INFINITY) <= stop.ridesS || !discharge.live(stop, m)) continue;
      const volts = (point.nodeV[stop.pos] as number) - (point.nodeV[stop.neg] as number);
      const key = `${stop.kind} ${stop.part.id}`;
      if (volts < (points.get(key)?.volts ?? Number.POSITIVE_INFINITY))
        points.set(key, { part: stop.part.name, volts, leastV: stop.leastV });
    }
  });
  if (starved !== null) {
    refused.push(`the voltage collapses in ${starved}`);
    rooms.push(-1);
  }
  const lows = byRoom(points.values());
  const [low] = lows;
  if (low) {
    rooms.push(low.volts / low.leastV - 1);
    if (low.volts < low.leastV)
      refused.push(`${low.part} gets ${say(low.volts, "voltage", "down")}, needs ${say(low.leastV, "voltage", "up")}`);
  }
  for (const [limit, asked, words] of [
    [pack.continuousA?.value, continuous, "continuously"],
    [pack.peakA?.value ?? pack.continuousA?.value, peak, "for a short time"],
  ] as const) {
    if (limit === undefined) refused.push(`not known what it gives ${words}`);
    else if (asked > 0) {
      rooms.push(limit / asked - 1);
      if (limit < asked) refused.push(`gives ${say(limit, "current", "down")} ${words}, ${say(asked, "current", "up")} asked`);
    }
  }
  // What nothing here speaks against is judged by all the rules before it is offered.
  const ruled = refused.length === 0 && about.changes ? ruledOut(w.figures, w.demand.rail.origin, about.changes) : [];
  refused.push(...ruled);
  if (ruled.length > 0) rooms.push(-1);
  const run = starved === null ? runOf(w, discharge) : null;
  if (run && w.wantedS !== null && run.seconds < w.wantedS) {
    rooms.push(run.seconds / w.wantedS - 1);
    refused.push(`runs ${sayDuration(run.seconds)}, ${sayDuration(w.wantedS)} wanted`);
  } else if (run && w.wantedS !== null) rooms.push(run.seconds / w.wantedS - 1);
  return {
    ...base,
    margin: Math.min(...rooms, Number.POSITIVE_INFINITY),
    continuousA: pack.continuousA?.value ?? null,
    peakA: pack.peakA?.value ?? null,
    worstV: Number.isFinite(worstV) ? worstV : null,
    lows,
    runS: run?.seconds ?? null,
    runEnds: run?.ends ?? null,
    refused,
  };
}

/** Run through the mission, else in the hungriest mode that goes on continuously. */
function runOf(w: Weighing, discharge: Discharge): { seconds: number; ends: string } {
  const plan = missionOf(w.figures.machine);
  const options = { step: COARSE_STEP };
  const run = plan && plan.steps.length > 0 ? runMission(discharge, plan, options) : runMode(discharge, w.demand.continuousMode, options);
  const nameOf = (id: string) => (id === w.demand.rail.origin ? "it" : (w.figures.partOf.get(id)?.name ?? "a part"));
  const seconds = run.end.cause === "done" ? Math.max(run.end.seconds, w.wantedS ?? 0) : run.end.seconds;
  return { seconds, ends: endWords(run.end, nameOf, (m) => w.figures.modes[m]?.name ?? "a mode") };
}

/** Fits first, most room last: the smallest that fits stands at the top. */
export function ranked(candidates: readonly SourceCandidate[]): SourceCandidate[] {
  const rank = (each: SourceCandidate) => (each.from === "plan" ? 0 : each.refused.length === 0 ? 1 : 2);
  return [...candidates].sort(
    (a, b) => rank(a) - rank(b) || (rank(a) === 2 ? b.margin - a.margin : (a.massKg ?? Infinity) - (b.massKg ?? Infinity)),
  );
}

/**
 * Packs for a rail one after the other: the one planned, those on the shelf, then packs composed on the spot. A generator,
 * so that a worker can tell how far it is and stop when asked.
 */
export function* packCandidates(
  figures: Figures,
  origin: string,
  shelf: readonly { id: string; part: Part }[],
  most = COMPOSED_MOST,
): Generator<{ done: number; of: number; candidate: SourceCandidate }> {
  const w = weighing(figures, origin);
  const planned = figures.partOf.get(origin);
  if (!w || planned?.kind !== "pack") return;
  const plan = missionOf(figures.machine);
  const hours = (w.wantedS ?? HOUR_S) / 3600;
  const neededAh = Math.max(0.2, (plan ? (w.demand.meanA ?? 0) : w.demand.continuousA) * hours * 1.25);
  const compositions = compositionsFor(w.demand.rail.volts, neededAh, most);
  const own = shelf.flatMap(({ id, part }) => (part.kind === "pack" ? [{ id, part }] : []));
  const of = 1 + own.length + compositions.length;
  let done = 0;
  yield { done: ++done, of, candidate: weighPack(w, planned, { id: planned.id, name: planned.name, from: "plan", changes: null }) };
  for (const { id, part } of own) {
    yield { done: ++done, of, candidate: weighPack(w, part, { id, name: part.name, from: "shelf", changes: shelfChanges(id, part) }) };
  }
  const charge = planned.plannedCharge?.value ?? 0.5;
  for (const composition of compositions) {
    const changes = composed(composition, figures.machine.settings.coldestC ?? 25, charge);
    const pack = { ...planned, health: undefined, cost: undefined, ...changes } as Pack;
    const name = compositionName(composition);
    yield {
      done: ++done,
      of,
      candidate: weighPack(w, pack, { id: idOf(composition), name, from: "composed", changes: { ...changes, note: name } }),
    };
  }
}

function idOf({ chemistry, series, parallel, cellAh }: Composition): string {
  return `${chemistry}-${series}-${parallel}-${cellAh}`;
}

/** Everything of a part that is not its place in the plan. */
export function figuresToPlan(part: Part): PartChanges {
  const { id: _id, name: _name, kind: _kind, ...figures } = part;
  return figures;
}

/** The same of a part that lies on the shelf: the plan remembers where it was taken from. */
export function shelfChanges(id: string, part: Part): PartChanges {
  return { ...figuresToPlan(part), shelf: id };
}
