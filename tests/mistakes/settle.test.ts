import { describe, expect, it } from "vitest";
import { analyseFully } from "@/core/analysis/fully";
import { applyCommand } from "@/core/machine/apply";
import type { Machine } from "@/core/machine/schema";
import { offersFor } from "@/core/settling/offers";
import { type Settlement, settle } from "@/core/settling/settle";
import { Trials } from "@/core/settling/trial";
import { causesOf } from "@/core/verdicts/causes";
import { burdenOf, effectOf, isGrave } from "@/core/verdicts/effect";
import { randomFrom } from "@/tests/support/random";
import { MACHINES } from "./in-order";
import { mistakesIn } from "./kinds";
import { type Mistake, sound } from "./oracle";

/** Machines tried of each: all kinds of mistakes among them, about 200 in all with `npm run test:long`. */
const ALL = process.env.NODE_LEDGER_SEEDS === "all";
const TRIED = ALL ? 26 : 2;
/** The largest takes as long as all others together: it is for the long run. */
const SETTLED = ALL ? MACHINES : MACHINES.filter(([key]) => key !== "reedcutter-corrected");

const said = (machine: Machine) => analyseFully(machine).analysis.verdicts;

function settled(machine: Machine): Settlement {
  const search = settle(machine, "fewest");
  for (let step = search.next(); ; step = search.next()) if (step.done) return step.value;
}

/** Some of the mistakes that can be made in a machine, spread over all of them; every third time two at once. */
function* planted(make: () => Machine, tried: number): Generator<{ what: string; machine: Machine }> {
  const s = sound(make());
  const all: Mistake[] = [...mistakesIn(s)];
  for (let k = 0; k < tried; k++) {
    const one = all[Math.floor(((k + 0.5) / tried) * all.length)];
    if (!one) return;
    const twice = k % 3 === 2 ? [...mistakesIn({ ...s, machine: one.machine })][(k * 7) % all.length] : undefined;
    yield { what: `${one.kind} at ${one.place}${twice ? ` and ${twice.kind} at ${twice.place}` : ""}`, machine: (twice ?? one).machine };
  }
}

describe("settling machines with planted mistakes", () => {
  it.each(SETTLED)("%s: ends, makes no Stop and no Fix, and leaves none that a single remedy would settle", (_, make) => {
    for (const { what, machine } of planted(make, TRIED)) {
      const found = settled(machine);
      const [before, after] = [said(machine), said(found.machine)];
      expect(
        effectOf(before, after)
          .brings.filter(isGrave)
          .map(({ id }) => id),
        what,
      ).toEqual([]);
      expect(
        after
          .filter(isGrave)
          .map(({ id }) => id)
          .sort(),
        what,
      ).toEqual(found.yours.map(({ id }) => id).sort());
      for (const { headline, needs } of found.yours) expect(needs, `${what}: ${headline}`).not.toBe("");
      for (const verdict of after.filter(isGrave))
        for (const { label, command } of verdict.remedies) {
          const next = applyCommand(found.machine, command);
          if (!next.ok) continue;
          const { settles, brings } = effectOf(after, said(next.machine));
          expect(settles.some(({ id }) => id === verdict.id) && !brings.some(isGrave), `${what}: ${verdict.id}, ${label}`).toBe(false);
        }
    }
  });
});

describe("remedies that are offered", () => {
  it.each(MACHINES)("%s: taken in any order they make it better each time, bring no Stop, and end", (_, make) => {
    for (const [k, { what, machine }] of [...planted(make, ALL ? 9 : 1)].entries()) {
      const random = randomFrom(97 + k);
      const trials = new Trials();
      let at = machine;
      const first = trials.whole(at);
      const most = 3 * first.length;
      for (let taken = 0; ; taken++) {
        expect(taken, what).toBeLessThanOrEqual(most);
        const open = causesOf(at, trials.whole(at)).filter(({ head }) => isGrave(head));
        const offers = open.map((cause) => ({ cause, offered: offersFor(trials, at, cause) }));
        // Each Stop and Fix has something to click, or is told what it needs.
        for (const { cause, offered } of offers)
          expect(offered.offers.length > 0 || offered.needs !== null, `${what}: ${cause.head.id}`).toBe(true);
        const all = offers.flatMap(({ offered }) => offered.offers);
        const offer = all[Math.floor(random() * all.length)];
        if (!offer) break;
        const next = trials.after(at, offer.command);
        if (!next) throw new Error(`${what}: ${offer.label} does not go`);
        const [was, is] = [trials.whole(at), trials.whole(next)];
        expect(burdenOf(is), `${what}: ${offer.label}`).toBeLessThan(burdenOf(was));
        expect(
          effectOf(was, is).brings.filter(({ severity }) => severity === "stop"),
          `${what}: ${offer.label}`,
        ).toEqual([]);
        at = next;
      }
    }
  });
});
