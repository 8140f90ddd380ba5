import { describe, expect, it } from "vitest";
import { analyse, analyseFully } from "@/core/analysis/analyse";
import { harmlessIn } from "./harmless";
import { MACHINES } from "./in-order";
import { KINDS, mistakesIn } from "./kinds";
import { type Mistake, newVerdicts, noticed, type Sound, sound } from "./oracle";

/** A usual run tries one of so many, always the same ones, all kinds among them; `npm run test:long` tries all. */
const EVERY = process.env.NODE_LEDGER_SEEDS === "all" ? 1 : 12;
/** Changes that make nothing worse, each analysed in full: about so many of a machine in a usual run. */
const TRIED_MOST = 5;

function judge(s: Sound, mistake: Mistake): ReturnType<typeof noticed> {
  // Most are seen by the rules that need no walk of shorts.
  const quick = noticed(mistake, newVerdicts(s.verdicts, analyse(mistake.machine).analysis.verdicts));
  return quick === "right" ? quick : noticed(mistake, newVerdicts(s.verdicts, analyseFully(mistake.machine).analysis.verdicts));
}

describe("single mistakes in machines that are in order", () => {
  it("there are at least forty kinds, each made somewhere", () => {
    const made = new Set<string>();
    for (const [, make] of MACHINES) for (const { kind } of mistakesIn(sound(make()))) made.add(kind);
    expect(KINDS.length).toBeGreaterThanOrEqual(60);
    expect(made.size).toBeGreaterThanOrEqual(60);
  });

  it.each(MACHINES)("%s: each is noticed, and as bad as it is", (_, make) => {
    const s = sound(make());
    expect(s.verdicts.filter(({ severity }) => severity !== "watch")).toEqual([]);
    const missed: string[] = [];
    let at = 0;
    const seen = new Set<string>();
    for (const mistake of mistakesIn(s)) {
      // The first of each kind, and every so many.
      const first = !seen.has(mistake.kind) && EVERY <= 12;
      seen.add(mistake.kind);
      if (!first && at++ % EVERY !== 0) continue;
      const result = judge(s, mistake);
      if (result !== "right") missed.push(`${mistake.kind} at ${mistake.place}: ${result}, ${mistake.least} is the least`);
    }
    expect(missed).toEqual([]);
  });
});

describe("changes that make nothing worse", () => {
  it.each(MACHINES)("%s: nothing new is said of any", (_, make) => {
    const s = sound(make());
    const cried: string[] = [];
    const changes = [...harmlessIn(s.machine)];
    const stride = EVERY === 1 ? 1 : Math.max(EVERY, Math.ceil(changes.length / TRIED_MOST));
    const seen = new Set<string>();
    for (const [i, { kind, place, machine }] of changes.entries()) {
      if (seen.has(kind) && i % stride !== 0) continue;
      seen.add(kind);
      const found = newVerdicts(s.verdicts, analyseFully(machine).analysis.verdicts);
      cried.push(...found.map(({ severity, headline }) => `${kind} at ${place}: ${severity}, ${headline}`));
    }
    expect(cried).toEqual([]);
  });
});
