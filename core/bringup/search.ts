import type { Figures } from "../figures/figures";
import { readingU, type Standing } from "./compare";
import { singleFaults } from "./faults";
import { compare, ownUncertainty } from "./judge";
import type { Log, Reading } from "./log";
import { type Candidate, candidatesOf, halvingOf, type NextReading, nextReading } from "./next";
import { observableKey, Predictor } from "./predict";
import { lastOfEach, Ranker, type Ranking, type Seen } from "./rank";
import type { Situation } from "./situation";
import { type Stand, standOf } from "./stand";
import type { BringUp, Step } from "./types";

/** Most readings of the powered network that a search takes in: the outside ones, then the newest. */
const MOST_SEEN = 24;

/** A reading as a search weighs it. */
export interface Weighed {
  readonly seen: Seen;
  /** How it stands to what was expected; a reading taken for the search's own sake is "noted". */
  readonly state: Standing | "noted";
}

/** Whether a reading is why a search is made. */
function isOff({ state }: Weighed): boolean {
  return state === "outside" || state === "look";
}

/** A reading at a step, as a search takes it; null where it is of nothing that can be worked out. */
export function weighed(step: Step, value: number | null, uncertainty: number | null): Weighed | null {
  // Where nothing could be expected nothing can be missed either.
  if (!step.at || step.expect.kind === "ask") return null;
  const meterU = uncertainty ?? readingU(step.instrument, step.quantity, value ?? 0) ?? 0;
  return { seen: { at: step.at, value, meterU }, state: compare(step.expect, value, uncertainty).state };
}

/** What a search goes by: everything of metal and eyes, what is off, and the newest of the rest, the last of each. */
export function trimmed(all: readonly Weighed[]): Seen[] {
  const last = lastOfEach(all.map(({ seen }) => seen));
  const kept = new Set(last);
  const network = all.filter(({ seen }) => kept.has(seen) && seen.at.kind === "network");
  const off = network.filter(isOff).slice(-MOST_SEEN);
  const room = MOST_SEEN - off.length;
  const rest = room > 0 ? network.filter((each) => !isOff(each)).slice(-room) : [];
  const chosen = new Set([...off, ...rest].map(({ seen }) => seen));
  return last.filter((seen) => seen.at.kind !== "network" || chosen.has(seen));
}

/** Looks for the single fault that explains what was read of one plan. Keeps what it worked out from reading to reading. */
export class Search {
  readonly predictor: Predictor;
  private readonly ranker: Ranker;
  private readonly steps: ReadonlyMap<string, Step>;
  private readonly pools = new Map<string, readonly Candidate[]>();

  constructor(
    private readonly figures: Figures,
    private readonly bringUp: BringUp,
  ) {
    const stands = new Map<string, Stand>();
    this.predictor = new Predictor(figures, (situation) => {
      const found = stands.get(situation.id) ?? standOf(figures.machine, situation);
      stands.set(situation.id, found);
      return found;
    });
    this.ranker = new Ranker(this.predictor, singleFaults(figures));
    this.steps = new Map(bringUp.stages.flatMap((stage) => stage.steps).map((step) => [step.id, step]));
  }

  get faults() {
    return this.ranker.faults;
  }

  /** Readings of a log that can be worked out. */
  weigh(log: Log): Weighed[] {
    return log.readings.flatMap((reading: Reading) => {
      const step = reading.step === null || reading.struck ? undefined : this.steps.get(reading.step);
      return (step && weighed(step, reading.value, ownUncertainty(step, reading))) ?? [];
    });
  }

  /** Null: cancelled. */
  rank(all: readonly Weighed[], cancelled?: () => boolean): Ranking | null {
    return this.ranker.rank(trimmed(all), cancelled);
  }

  /**
   * The reading that tells most of what is still open: without power, and in the situations in which something was off. Null when
   * none would.
   */
  next(ranking: Ranking, all: readonly Weighed[]): NextReading | null {
    const situations = new Map<string, Situation>();
    for (const each of all)
      if (isOff(each) && each.seen.at.kind === "network") situations.set(each.seen.at.situation.id, each.seen.at.situation);
    const last = all.at(-1)?.seen.at;
    if (situations.size === 0 && last?.kind === "network") situations.set(last.situation.id, last.situation);
    const taken = new Set(all.map(({ seen }) => observableKey(seen.at)));
    const pool = [...halvingOf(this.figures, ranking, this.bringUp.kit), ...this.poolOf([...situations.values()].slice(-MOST_SITUATIONS))];
    return nextReading(this.predictor, ranking, pool, taken);
  }

  private poolOf(situations: readonly Situation[]): readonly Candidate[] {
    const key = situations.map(({ id }) => id).join("|");
    const found = this.pools.get(key) ?? candidatesOf(this.figures, this.predictor, this.bringUp.kit, situations, true);
    this.pools.set(key, found);
    return found;
  }
}

/** Most situations in which a next reading is looked for. */
const MOST_SITUATIONS = 2;
