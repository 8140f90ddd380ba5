import { type FullAnalysis, figuresOf, judged as judgedOf } from "../analysis/analyse";
import { type Correction, correctionsOf } from "../bringup/corrections";
import { type Described, inWords } from "../bringup/describe";
import type { SingleFault } from "../bringup/faults";
import { type Judged, judge } from "../bringup/judge";
import type { Log } from "../bringup/log";
import { meterOf } from "../bringup/next";
import { bringUpOf } from "../bringup/plan";
import type { Ranking } from "../bringup/rank";
import { Search, type Weighed } from "../bringup/search";
import type { BringUp, Kit, Observable } from "../bringup/types";
import { readWords } from "../bringup/words";
import type { Figures } from "../figures/figures";
import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import type { InstrumentId } from "../reference/instruments";
import { type Sheet, type SheetMeans, sheetOf } from "../sheet/sheet";
import { evaluateLog } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";

/** A bring-up against its log, with what the rules say of it and what readings would put right. */
export interface BringUpView {
  readonly judged: Judged;
  readonly verdicts: readonly Verdict[];
  readonly corrections: readonly Correction[];
}

/** A single fault as it is offered as an explanation. */
export interface Explained {
  readonly id: string;
  readonly words: string;
  readonly size: string;
  readonly look: string;
  readonly share: number;
}

/** Where to read next, to tell the two best explanations apart. */
export interface NextPlace extends Described {
  readonly at: Observable;
  readonly instrument: InstrumentId;
  /** What it would show by each of the two. */
  readonly first: string;
  readonly second: string;
}

/** What would explain the readings so far. */
export interface Explanation {
  readonly readings: number;
  readonly tried: number;
  readonly faults: readonly Explained[];
  readonly soundShare: number;
  readonly otherShare: number;
  readonly explains: boolean;
  readonly next: NextPlace | null;
}

/** What a change would do to a plan, before anybody takes it. */
export interface Tried {
  readonly modes: readonly { readonly name: string; readonly before: number; readonly after: number }[];
  readonly gained: readonly Verdict[];
  readonly lost: readonly Verdict[];
  /** Set where the plan would not take it. */
  readonly refused: string | null;
}

/** Readings taken beside the steps, for a search: at a next place, or in a drill. */
export interface Extra {
  readonly at: Observable;
  readonly instrument: InstrumentId;
  readonly value: number | null;
}

/** Share from which an explanation is the one. */
const SETTLED = 0.98;
/** Explanations shown. */
const SHOWN = 6;

/** Answers what Bring-up asks of one machine after the other; what was worked out for a search is kept while the plan stands. */
export class BringUpEngine {
  private known: { text: string; figures: Figures; full: Pick<FullAnalysis, "analysis"> } | null = null;
  private plan: { figures: Figures; kit: string; bringUp: BringUp; search: Search | null } | null = null;

  private figures(machine: Machine): Figures {
    const text = JSON.stringify(machine);
    if (this.known?.text !== text) {
      const figures = figuresOf(machine, new TopologyCache());
      this.known = { text, figures, full: { analysis: judgedOf(figures) } };
    }
    return this.known.figures;
  }

  private planned(machine: Machine, kit: Kit) {
    const figures = this.figures(machine);
    const key = JSON.stringify(kit);
    if (this.plan?.figures !== figures || this.plan.kit !== key)
      this.plan = { figures, kit: key, bringUp: bringUpOf(figures, kit), search: null };
    return this.plan;
  }

  view(machine: Machine, log: Log, kit: Kit): BringUpView {
    const { figures, bringUp } = this.planned(machine, kit);
    const judged = judge(figures, bringUp, log);
    return { judged, verdicts: evaluateLog(figures, { log, judged }), corrections: correctionsOf(figures, judged) };
  }

  /** Everything that is printed of a machine, with what was read; `verdicts`: all that is said of it, late ones too. */
  sheet(machine: Machine, log: Log, kit: Kit, verdicts: readonly Verdict[], shelf: SheetMeans["shelf"]): Sheet {
    const { figures, bringUp } = this.planned(machine, kit);
    const { modes, wires, parts } = figures;
    return sheetOf(figures, { modes, wires, parts, verdicts }, { judged: judge(figures, bringUp, log), shelf });
  }

  private search(machine: Machine, kit: Kit): Search {
    const plan = this.planned(machine, kit);
    plan.search ??= new Search(plan.figures, plan.bringUp);
    return plan.search;
  }

  /** Every single fault against what was read; null: cancelled. */
  explain(machine: Machine, log: Log, kit: Kit, extra: readonly Extra[] = [], cancelled?: () => boolean): Explanation | null {
    const search = this.search(machine, kit);
    const all: Weighed[] = [...search.weigh(log), ...extra.map((each) => weighedExtra(search, each))];
    const ranking = search.rank(all, cancelled);
    if (!ranking) return null;
    const figures = this.figures(machine);
    // Where one explanation is left there is nothing to tell apart.
    const next = (ranking.ranked[0]?.share ?? 0) > SETTLED ? null : search.next(ranking, all);
    return {
      readings: all.length,
      tried: ranking.tried,
      faults: explained(ranking),
      soundShare: ranking.ranked.find(({ fault }) => fault === null)?.share ?? 0,
      otherShare: ranking.otherShare,
      explains: ranking.explains,
      next: next && {
        ...inWords(figures, next.at),
        at: next.at,
        instrument: next.instrument,
        first: shown(next.at, next.first),
        second: shown(next.at, next.second),
      },
    };
  }

  /** All single faults of a machine by id, for guessing in a drill. */
  faults(machine: Machine, kit: Kit): { id: string; words: string }[] {
    return this.search(machine, kit).faults.map(({ id, words }: SingleFault) => ({ id, words }));
  }

  /** What a command would change in the budget and the quick verdicts. */
  try(machine: Machine, command: Command): Tried {
    const before = this.figures(machine);
    const analysis = this.known?.full.analysis;
    const applied = applyCommand(machine, command);
    if (!applied.ok) return { modes: [], gained: [], lost: [], refused: applied.message };
    const figures = figuresOf(applied.machine, new TopologyCache());
    const after = judgedOf(figures);
    const ids = (verdicts: readonly Verdict[]) => new Map(verdicts.map((verdict) => [`${verdict.id} ${verdict.severity}`, verdict]));
    const [was, is] = [ids(analysis?.verdicts ?? []), ids(after.verdicts)];
    return {
      modes: before.modes.map(({ name, worstA }, m) => ({ name, before: worstA, after: figures.modes[m]?.worstA ?? 0 })),
      gained: [...is].flatMap(([id, verdict]) => (was.has(id) ? [] : [verdict])),
      lost: [...was].flatMap(([id, verdict]) => (is.has(id) ? [] : [verdict])),
      refused: null,
    };
  }
}

function weighedExtra(search: Search, { at, instrument, value }: Extra): Weighed {
  return { seen: { at, value, meterU: meterOf(at, instrument, search.predictor.value(at, null)) }, state: "noted" };
}

function explained({ ranked }: Ranking): Explained[] {
  return ranked
    .flatMap(({ fault, size, share }) =>
      fault ? [{ id: fault.id, words: fault.words, size: fault.sizeWords(size), look: fault.look, share }] : [],
    )
    .slice(0, SHOWN);
}

function shown(at: Observable, value: number): string {
  const quantity = at.kind === "network" ? at.probe.kind : at.kind === "ohms" ? "ohms" : at.kind === "fuse" ? "rating" : "yes";
  return readWords(quantity, quantity === "ohms" && !(value < 1e7) ? null : value);
}
