import { finish } from "../machine/finish";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { Trials } from "../settling/trial";
import { sizeEverything } from "../sizing/all";
import { namesSource, type SourceChoice, sourceChoices, supposedLine, withLine } from "./choose-source";
import { fitted } from "./fit";
import { type DraftOptions, planOf } from "./plan";
import type { ReadList } from "./read-list";
import { refined } from "./refine";
import { type LeftOut, sorted } from "./sorted";

/** A draft: a whole machine, sized, with the lines that are not in it. */
export interface Draft {
  readonly machine: Machine;
  readonly left: readonly LeftOut[];
}

/** How far a draft is. */
export interface DraftProgress {
  readonly done: number;
  readonly of: number;
}

/** Steps a draft is told in: the plan, sizing, and what sizing alone does not reach. */
const STEPS = 26;

/** Makes a list into a machine, fed from `source` where it names none: the plan, then sizes, then what sizing alone does not reach. Yields how far it is. */
export function* draft(list: ReadList, options: DraftOptions, source?: SourceChoice): Generator<DraftProgress, Draft> {
  yield { done: 0, of: STEPS };
  const fed = source ? withLine(list, supposedLine(source.line)) : yield* withSource(list);
  const plan = planOf(sorted(fed.lines), options);
  yield { done: 1, of: STEPS };
  return { machine: yield* sizedDraft(plan.machine, 1), left: plan.left };
}

/** The list with the best source of the chooser, supposed, where it names none. */
function* withSource(list: ReadList): Generator<DraftProgress, ReadList> {
  if (namesSource(sorted(list.lines))) return list;
  const steps = sourceChoices(list);
  for (let step = steps.next(); ; step = steps.next()) {
    if (!step.done) {
      yield { done: 0, of: STEPS };
      continue;
    }
    const [best] = step.value;
    return best ? withLine(list, supposedLine(best.line)) : list;
  }
}

/** The same plan with its sizes. */
export function* sizedDraft(machine: Machine, done: number, only?: readonly string[]): Generator<DraftProgress, Machine> {
  if (machine.wires.length === 0) return machine;
  const cache = new TopologyCache();
  const steps = sizeEverything(machine, { objective: "mass", ...(only ? { only } : {}) }, cache);
  for (let step = steps.next(); ; step = steps.next()) {
    if (!step.done) {
      yield { done: done + step.value.done, of: STEPS };
      continue;
    }
    yield { done: STEPS - 1, of: STEPS };
    const trials = new Trials(cache);
    return fitted(refined(step.value.machine, trials), trials);
  }
}

/** A draft without stopping for progress. */
export function draftAtOnce(list: ReadList, options: DraftOptions): Draft {
  return finish(draft(list, options));
}
