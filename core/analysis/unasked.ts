import type { Figures } from "../figures/figures";
import { partIncomplete, wireIncomplete } from "../figures/incomplete";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { evaluateLate } from "../verdicts/late";
import type { Verdict } from "../verdicts/types";
import { figuresOf, judged } from "./analyse";
import { type End, type Missing, missingFigures } from "./missing";

/** What need not be asked: missing figures that no verdict hangs on, wherever in their range they lie. */
export interface Unasked {
  readonly figures: readonly Pick<Missing, "row" | "step" | "what" | "range">[];
  /** Ids of the verdicts that ask for them. */
  readonly verdicts: readonly string[];
  /** Rows that still lack something, with these figures supposed. */
  readonly lacking: readonly string[];
}

/** Larger plans, and plans that lack more, are not weighed: it would take longer than somebody waits, and what is missing is asked. */
const PARTS_MOST = 150;
const MISSING_MOST = 40;
/** Missing figures that are tried one by one with all that is late: each takes as long as the late rules themselves, twice. */
const TRIED_FULLY = 6;

interface Trial {
  readonly figures: Figures;
  readonly verdicts: readonly Verdict[];
}

/** What is said of a machine with these figures given; `fully`: late verdicts too. */
function tried(machine: Machine, given: readonly Missing[], end: End, cache: TopologyCache, fully: boolean): Trial {
  const figures = figuresOf(
    given.reduce((now, each) => each.given(now, end), machine),
    cache,
  );
  const quick = judged(figures).verdicts;
  return { figures, verdicts: fully ? [...quick, ...evaluateLate(figures, quick, undefined, true).verdicts] : quick };
}

const key = ({ id, severity }: Verdict) => `${severity} ${id}`;

/** What a trial changes: nothing where it says of nothing that it is worse or better, and asks nothing that was not asked. */
function compared(before: ReadonlySet<string>, { verdicts }: Trial): { same: boolean; answers: boolean } {
  const after = new Set(verdicts.map(key));
  let same = true;
  let answers = false;
  for (const each of after) same &&= before.has(each);
  for (const each of before) {
    if (after.has(each)) continue;
    if (each.startsWith("ask ")) answers = true;
    else same = false;
  }
  return { same, answers };
}

/**
 * The missing figures that can change no verdict within their range, and the verdicts that would ask for them. Each is tried
 * alone at both ends, and those that change nothing together: all weak, all strong, and as they usually are. What changes
 * anything is asked, and so are all where together they do; a question that one of these trials still asks stays. Null: nothing
 * is missing that has a range, or it all matters.
 *
 * @param quick what the quick rules say of the machine
 * @param late what the late rules say of it
 */
export function unaskedOf(machine: Machine, quick: readonly Verdict[], late: readonly Verdict[]): Unasked | null {
  const said = [...quick, ...late];
  const asked = new Set(said.flatMap(({ severity, subject, also = [] }) => (severity === "ask" ? [subject.id, ...also] : [])));
  const missing = missingFigures(machine).filter(({ about }) => about.some((id) => asked.has(id)));
  if (missing.length === 0 || missing.length > MISSING_MOST || machine.parts.length > PARTS_MOST) return null;
  const cache = new TopologyCache();
  const before = { quick: new Set(quick.map(key)), fully: new Set(said.map(key)) };
  const at = (given: readonly Missing[], end: End, fully: boolean) => {
    const trial = tried(machine, given, end, cache, fully);
    return { trial, ...compared(fully ? before.fully : before.quick, trial) };
  };
  const ENDS = ["weak", "strong"] as const;
  // The quick rules find most of what matters; a figure that answers no question is not asked for to begin with.
  let idle = missing.filter((each) => {
    const ends = ENDS.map((end) => at([each], end, false));
    return ends.every(({ same }) => same) && ends.some(({ answers }) => answers);
  });
  const together = (given: readonly Missing[]) => (["weak", "usual", "strong"] as const).map((end) => at(given, end, true));
  const areIdle = (trials: readonly { same: boolean }[]) => trials.every(({ same }) => same);
  if (idle.length === 0) return null;
  let trials = together(idle);
  if (!areIdle(trials) && idle.length > 1 && idle.length <= TRIED_FULLY) {
    idle = idle.filter((each) => areIdle(together([each])));
    trials = idle.length > 0 ? together(idle) : trials;
  }
  if (!areIdle(trials)) return null;
  // What any of them still asks is asked.
  const still = new Set(trials.flatMap(({ trial }) => trial.verdicts.map(({ id }) => id)));
  const lacks = (row: (figures: Figures) => boolean) => trials.some(({ trial }) => row(trial.figures));
  return {
    figures: idle.map(({ row, step, what, range }) => ({ row, step, what, range })),
    verdicts: said.filter(({ id, severity }) => severity === "ask" && !still.has(id)).map(({ id }) => id),
    lacking: [
      ...machine.parts.filter((part) => lacks((figures) => partIncomplete(figures, figures.partOf.get(part.id) ?? part))),
      ...machine.wires.filter(({ id }) => lacks((figures) => wireIncomplete(figures, id))),
    ].map(({ id }) => id),
  };
}
