import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { burdenOf, effectOf, isGrave } from "../verdicts/effect";
import type { Verdict } from "../verdicts/types";
import { type Named, named } from "./offers";
import { type Row, rowsIn, wordsOf } from "./rows";
import { type Aim, played, Search } from "./search";
import { type Takes, takesOf } from "./takes";
import type { Trials } from "./trial";
import { massG } from "./weight";

/** A decision: one or several steps that go together, taken in one action that can be undone. */
export interface SettleChange {
  /** In plain words: what to do. */
  what: string;
  /** What it is made of, a line each, where it is more than one step. */
  lines: readonly string[];
  command: Command;
  /** What is gone once it is taken after those before it. */
  settles: readonly Named[];
  /** Watches and Asks that come with it. */
  brings: readonly Named[];
  massG: number;
  /** Money class and work. */
  takes: Takes;
}

/** What only the builder can decide: a figure to measure, a part to buy, a school to choose. */
export interface Yours extends Named {
  needs: string;
  /** Answers that settle it where they are true of the machine: nothing is built or changed by them. */
  answers: readonly { readonly label: string; readonly command: Command }[];
}

/** The changes that settle a plan, and what no change settles. */
export interface Settlement {
  changes: readonly SettleChange[];
  yours: readonly Yours[];
  /** Stops and Fixes before and after. */
  before: { stop: number; fix: number; all: number };
  after: { stop: number; fix: number; all: number };
  machine: Machine;
  /** Machines that were analysed on the way. */
  tried: number;
}

/** How far a search is: what it is doing, and the best found so far. */
export interface Progress {
  done: number;
  of: number;
  doing: string;
  /** First changes found, before the search is through. */
  sofar: readonly string[];
}

/** Rounds of looking at what is left. */

/** Leaves out every decision without which nothing more is open, those that settle least first. */
function* pruned(search: Search, rows: Row[]): Generator<void, Row[]> {
  const { trials, start, now } = search;
  const quickLeast = burdenOf(trials.at(now).quick.filter(isGrave));
  const least = burdenOf(trials.at(now).swift.filter(isGrave));
  let kept = rows;
  for (const row of [...rows].reverse()) {
    yield;
    const without = kept.filter((each) => each !== row);
    const machine = played(trials, start, without.flat());
    if (!machine) continue;
    // A wire without a size is no calm plan, whatever is said of it; and most others are needed, as is seen without walking shorts.
    if (row.some(({ sizes }) => sizes?.before.startsWith("?"))) continue;
    if (burdenOf(trials.at(machine).quick.filter(isGrave)) > quickLeast) continue;
    const after = trials.at(machine).swift;
    const brings = effectOf(trials.at(start).swift, after).brings.some(isGrave);
    if (!brings && burdenOf(after.filter(isGrave)) <= least) kept = without;
  }
  return kept;
}

/**
 * What settles most first, as far as one does not need another before it: taken in this order no change makes a Stop that a
 * later one has to cure, where any order has that.
 */
function byWeight(trials: Trials, start: Machine, rows: readonly Row[]): Row[] {
  const gainOf = (row: Row) => row.reduce((sum, { gain }) => sum + gain, 0);
  const left = [...rows].sort((a, b) => gainOf(b) - gainOf(a));
  const ordered: Row[] = [];
  let machine = start;
  while (left.length > 0) {
    const at = machine;
    const quick = (row: Row) => {
      const next = played(trials, at, row);
      return next && effectOf(trials.at(at).quick, trials.at(next).quick).brings.filter(isGrave);
    };
    const quiet = left.findIndex((row) => quick(row)?.length === 0);
    const [row] = left.splice(Math.max(0, quiet), 1) as [Row];
    ordered.push(row);
    machine = played(trials, at, row) ?? at;
  }
  return played(trials, start, ordered.flat()) ? ordered : [...rows];
}

/** What is said with and without a change, and whether it may be taken before the others. */
function described(trials: Trials, start: Machine, rows: readonly Row[]): { changes: SettleChange[]; machine: Machine } {
  let machine = start;
  const changes: SettleChange[] = [];
  for (const row of rows) {
    const words = wordsOf(row);
    const commands = row.map(({ command }) => command);
    const next = played(trials, machine, row);
    if (!next) continue;
    const [only] = commands;
    const command: Command = commands.length === 1 && only ? only : { type: "batch", label: words.what.slice(0, 200), commands };
    const { settles, brings } = effectOf(trials.at(machine).swift, trials.at(next).swift);
    changes.push({
      ...words,
      command,
      settles: settles.map(named),
      brings: brings.map(named),
      massG: massG(next) - massG(machine),
      takes: takesOf(machine, next),
    });
    machine = next;
  }
  return { changes, machine };
}

function counts(verdicts: readonly Verdict[]) {
  const open = verdicts.filter(({ decided }) => !decided);
  const of = (severity: Verdict["severity"]) => open.filter((verdict) => verdict.severity === severity).length;
  return { stop: of("stop"), fix: of("fix"), all: open.length };
}

/**
 * The changes that settle every Stop and Fix of a plan that a change can settle, without making a new one; every combination
 * is analysed. First what is built wrong (each rule's own remedies), then sizes, then what is left of both; then every
 * decision is taken out again that turns out not to be needed. Yields how far it is.
 */
export function* settle(start: Machine, aim: Aim): Generator<Progress, Settlement> {
  const search = new Search(start, aim);
  const { trials } = search;
  const sofar = () => rowsIn(search.steps).map((row) => wordsOf(row).what);
  const at = (done: number, doing: string): Progress => ({ done, of: 10, doing, sofar: sofar() });
  yield at(0, "reading the plan");
  yield* search.through((done, doing) => at(done, doing));
  let rows = rowsIn(search.steps);
  for (const pruning = pruned(search, rows); ; ) {
    const step = pruning.next();
    if (step.done) {
      rows = step.value;
      break;
    }
    yield at(7, "leaving out what is not needed");
  }
  yield at(8, "looking at the whole");
  // What was left out may have kept something quiet that only the whole shows.
  const lean = played(trials, start, rows.flat());
  if (!lean || effectOf(trials.whole(start), trials.whole(lean)).brings.some(isGrave)) rows = rowsIn(search.steps);
  const { changes, machine } = described(trials, start, byWeight(trials, start, rows));
  return {
    changes,
    yours: trials
      .whole(machine)
      .filter(isGrave)
      .map((verdict) => ({
        ...named(verdict),
        needs: verdict.needs ?? "",
        answers: verdict.remedies.flatMap(({ label, command, way }) => (way === "fact" ? [{ label, command }] : [])),
      })),
    before: counts(trials.at(start).shown),
    after: counts(trials.at(machine).shown),
    machine,
    tried: trials.count,
  };
}
