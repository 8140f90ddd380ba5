import type { BringUp, Step } from "../bringup/types";
import { expectWords } from "../bringup/words";
import { say } from "../quantity/format";

/** A bring-up as text: stage by stage, what to read and what it should be. */
export function bringUpTable({ stages }: BringUp): string {
  if (stages.length === 0) return "A bring-up begins at a source: the machine has none.";
  return stages
    .map(({ title, setUp, supply, cautions, stopWhen, steps }, i) =>
      [
        `${i + 1}. ${title}`,
        `   ${setUp}`,
        ...supply.map(
          ({ name, volts, limitA }) => `   Bench supply in place of ${name}: ${say(volts, "voltage")}, limit ${say(limitA, "current")}.`,
        ),
        ...cautions.map((caution) => `   ! ${caution}`),
        `   Stop at once: ${stopWhen}.`,
        ...steps.map(stepLine),
      ].join("\n"),
    )
    .join("\n\n");
}

function stepLine({ title, quantity, expect, places }: Step): string {
  const { value, bounds } = expectWords(quantity, expect);
  const at = places.map((place) => place.at).join(" to ");
  const wanted =
    expect.kind === "ask" ? `not known: ${expect.missing}` : [value, bounds && bounds !== value ? `(${bounds})` : ""].join(" ").trim();
  return `   [ ] ${title}: ${wanted}${at === "" ? "" : `  at ${at}`}`;
}
