import type { Build } from "../../figures/build";
import { partName } from "../../figures/names";
import type { Pack } from "../../machine/schema";
import { stringsOf } from "../../machine/strings";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "series-blocks",
  title: "Blocks in series that differ or are tapped",
  step: "sources",
  needs: "Blocks of one kind, age and size, and nothing tapped between them.",
});

/**
 * Blocks in series give one current: the weakest ends the run and is then driven below empty by the others, and what is tapped
 * between them empties one before the rest.
 */
export const seriesBlocks = rule({ speak, reads: "build", evaluate });

/** Blocks count as alike within this share of their capacity (common practice, no source: the same make, age and capacity). */
const ALIKE = 0.05;

function evaluate(build: Build): Verdict[] {
  const { down, top, taps } = stringsOf(build.machine);
  return [...down].flatMap(([id, blocks]): Verdict[] => {
    if (blocks.length < 2 || top.get(id)?.id !== id) return [];
    return [...unlike(blocks), ...blocks.flatMap((block) => tapped(build, block, taps.get(block.id)))];
  });
}

function unlike(blocks: readonly Pack[]): Verdict[] {
  const [first] = blocks;
  if (!first) return [];
  const names = blocks.map(({ name }) => name).join(", ");
  const base = { part: first, also: blocks.map(({ id }) => id) };
  if (new Set(blocks.flatMap(({ chemistry }) => chemistry ?? [])).size > 1)
    return [
      speak({
        ...base,
        key: "kinds",
        severity: "stop",
        headline: `${names} in series are different kinds of battery`,
        detail: "They are full and empty at different volts: one is driven below empty or charged beyond full while the others are fine.",
      }),
    ];
  const charges = blocks.flatMap(({ capacityAh, health }) => (capacityAh ? [capacityAh.value * (health?.value ?? 1)] : []));
  const [least, most] = [Math.min(...charges), Math.max(...charges)];
  if (charges.length < 2 || least >= (1 - ALIKE) * most) return [];
  const weakest = blocks.find(({ capacityAh, health }) => capacityAh && capacityAh.value * (health?.value ?? 1) === least);
  return [
    speak({
      ...base,
      key: "capacity",
      severity: "fix",
      headline: `${weakest?.name ?? "One block"} holds less than the blocks in series with it`,
      detail: `${say(least, "capacity", "down")} against ${say(most, "capacity", "up")}: the string has the capacity of its weakest block, which is driven below empty by the others unless something watches each one. Blocks of one make, age and capacity, or a monitor on each.`,
    }),
  ];
}

function tapped(build: Build, block: Pack, at: readonly string[] | undefined): Verdict[] {
  if (!at) return [];
  const users = [...new Set(at.map((terminal) => terminal.split(".")[0] ?? ""))];
  return [
    speak({
      part: block,
      key: "tap",
      severity: "fix",
      also: users,
      headline: `${users.map((id) => partName(build, id)).join(", ")} ${users.length > 1 ? "hang" : "hangs"} between two blocks`,
      detail: `What is tapped there empties ${block.name} before the rest, and a charger for the whole string then overcharges the others. A converter from the full volts does it without.`,
    }),
  ];
}
