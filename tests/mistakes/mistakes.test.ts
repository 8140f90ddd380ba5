import { beforeAll, describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { analyseFully } from "@/core/analysis/fully";
import type { Machine } from "@/core/machine/schema";
import { type Harmless, harmlessIn } from "./harmless";
import { MACHINES } from "./in-order";
import { KINDS, mistakesIn, placesIn } from "./kinds";
import { type Mistake, newVerdicts, noticed, type Sound, sound } from "./oracle";
import { spread } from "./spread";

/** A usual run tries each kind in two machines, always the same ones; `npm run test:long` tries all there are in every machine. */
const ALL = process.env.NODE_LEDGER_SEEDS === "all";
const TRIED = 2;

let sounds: Sound[] = [];
beforeAll(() => {
  sounds = MACHINES.map(([, make]) => sound(make()));
});

function judge(s: Sound, mistake: Mistake): ReturnType<typeof noticed> {
  // Most are seen by the rules that need no walk of shorts.
  const quick = noticed(mistake, newVerdicts(s.verdicts, analyse(mistake.machine).analysis.verdicts));
  return quick === "right" ? quick : noticed(mistake, newVerdicts(s.verdicts, analyseFully(mistake.machine).analysis.verdicts));
}

describe("single mistakes in machines that are in order", () => {
  let chosen: Mistake[][] = [];
  beforeAll(() => {
    chosen = ALL
      ? sounds.map((s) => [...mistakesIn(s)])
      : spread(
          sounds.map((s) => [...placesIn(s)]),
          TRIED,
          ({ mistake }) => mistake(),
        ).map((list) => list.map(({ made }) => made));
  });

  it("there are at least forty kinds, each made somewhere", () => {
    expect(KINDS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(chosen.flatMap((list) => list.map(({ kind }) => kind))).size).toBeGreaterThanOrEqual(60);
  });

  it.each(MACHINES.map(([key], i) => [key, i] as const))("%s: each is noticed, and as bad as it is", (_, i) => {
    const s = sounds[i] as Sound;
    expect(s.verdicts.filter(({ severity }) => severity !== "watch")).toEqual([]);
    const missed: string[] = [];
    for (const mistake of chosen[i] ?? []) {
      const result = judge(s, mistake);
      if (result !== "right") missed.push(`${mistake.kind} at ${mistake.place}: ${result}, ${mistake.least} is the least`);
    }
    expect(missed).toEqual([]);
  });
});

describe("changes that make nothing worse", () => {
  let chosen: { one: Harmless; made: Machine }[][] = [];
  beforeAll(() => {
    const lists = sounds.map(({ machine }) => [...harmlessIn(machine)]);
    const made = (list: Harmless[]) =>
      list.flatMap((one) => {
        const after = one.after();
        return after ? [{ one, made: after }] : [];
      });
    chosen = ALL ? lists.map(made) : spread(lists, TRIED, ({ after }) => after());
  });

  it.each(MACHINES.map(([key], i) => [key, i] as const))("%s: nothing new is said of any", (_, i) => {
    const { verdicts } = sounds[i] as Sound;
    const cried = (chosen[i] ?? []).flatMap(({ one, made }) =>
      newVerdicts(verdicts, analyseFully(made).analysis.verdicts).map(
        ({ severity, headline }) => `${one.kind} at ${one.place}: ${severity}, ${headline}`,
      ),
    );
    expect(cried).toEqual([]);
  });
});
