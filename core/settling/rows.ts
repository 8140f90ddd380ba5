import { capital } from "../quantity/format";
import { countWord } from "../verdicts/together";
import { lower } from "./places";
import type { Step } from "./search";

/** Steps of one decision. */
export type Row = readonly [Step, ...Step[]];

/** Most places named in one line. */
const NAMED = 3;

/** "A, B and 3 more". */
function some(names: readonly string[]): string {
  if (names.length <= NAMED + 1) return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
  return `${names.slice(0, NAMED).join(", ")} and ${names.length - NAMED} more`;
}

/** Steps that are one decision: sizes behind one source, and what is done in the same words for the same reason. */
export function rowsIn(steps: readonly Step[]): Row[] {
  const rows = new Map<string, [Step, ...Step[]]>();
  for (const [i, step] of steps.entries()) {
    const key = step.sizes ? `sizes ${step.sizes.behind}` : step.alike ? `${step.rule} ${step.label}` : `step ${i}`;
    const row = rows.get(key);
    if (row) row.push(step);
    else rows.set(key, [step]);
  }
  return [...rows.values()];
}

/** What a decision is called, and what it is made of where it is more than one step. */
export function wordsOf(row: Row): { what: string; lines: readonly string[] } {
  const [first] = row;
  const sizes = row.flatMap((step) => (step.sizes ? [step.sizes] : []));
  if (sizes.length === 0)
    return row.length === 1
      ? { what: first.place === "" ? first.label : `${capital(first.place)}: ${lower(first.label)}`, lines: [] }
      : {
          what: `${first.label.replace(/^Land it /, "Land ")}: ${some([...new Set(row.map(({ place }) => place))])}`,
          lines: row.map((step) => `${step.place}: ${lower(step.label)}`),
        };
  const lines = sizes.map(({ name, before, after }) => `${name}: ${before} → ${after}`);
  const [only] = sizes;
  if (sizes.length === 1 && only) return { what: `${only.name}: ${only.after}`, lines };
  const count = countWord(sizes.length);
  const behind = first.sizes?.behind ?? "";
  // All that is new is a fuse: the wire stays.
  const fusesOnly = sizes.every(({ before, after }) => after.startsWith(`${before}, `));
  return {
    what: fusesOnly ? `A fuse of its own in ${count} feeds behind ${behind}` : `New sizes for ${count} wires behind ${behind}`,
    lines,
  };
}
