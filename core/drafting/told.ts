import { SEVERITY_WORDS } from "../verdicts/types";
import { type ReadList, spoken } from "./read-list";
import type { LeftOut } from "./sorted";
import type { Weighed } from "./weigh";

/** What an assumption could do to the verdicts, in a few words. */
export function effectWords({ weight, worst, assumption }: Weighed): string {
  if (worst) return `${worst.brings ? "could bring" : "could settle"} ${SEVERITY_WORDS[worst.severity]}: ${worst.headline}`;
  if (assumption.choice && weight > 0) return "a choice of yours";
  return "no verdict changed at either end of its range";
}

/** What a draft left out and what it assumed, a line each, for the command line. */
export function assumptionsText(list: ReadList, left: readonly LeftOut[], weighed: readonly Weighed[]): string {
  const total = spoken(list).length;
  const lines = [
    `${total - left.length} of ${total} lines are in the draft.`,
    ...left.map(({ number, text, why }) => `  line ${number}, left out: ${text.trim().slice(0, 100)}\n    ${why}`),
    ...(list.beyond > 0 ? [`  ${list.beyond} more lines were not read.`] : []),
    `${weighed.length} thing${weighed.length === 1 ? "" : "s"} assumed${weighed.length > 0 ? ", what could change most first:" : "."}`,
    ...weighed.map(
      (row) =>
        `  ${row.assumption.what}: ${row.assumption.now}${row.assumption.range ? ` (${row.assumption.range})` : ""}\n    ${effectWords(row)}`,
    ),
  ];
  return `${lines.join("\n")}\n`;
}
