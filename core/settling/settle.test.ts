import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { newcomer } from "@/tests/support/newcomer";
import { must } from "@/tests/support/small";
import { analyseFully } from "../analysis/fully";
import { applyCommand } from "../machine/apply";
import { datasheet } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { type Cause, causesOf } from "../verdicts/causes";
import { decisionOn } from "../verdicts/decided";
import { effectOf, isGrave } from "../verdicts/effect";
import type { Verdict } from "../verdicts/types";
import { offersFor } from "./offers";
import { AIMS, type Aim } from "./search";
import { type Progress, type Settlement, settle } from "./settle";
import { Trials } from "./trial";
import { massG } from "./weight";

const said = (machine: Machine): readonly Verdict[] => analyseFully(machine).analysis.verdicts;
const example = (key: string): Machine => {
  const found = EXAMPLES.find((each) => each.key === key);
  if (!found) throw new Error(key);
  return found.make();
};
/** Each example is searched once for each aim. */
const known = new Map<string, { found: Settlement; steps: Progress[] }>();
const settled = (key: string, aim: Aim = "fewest") => {
  const before = known.get(`${key} ${aim}`);
  if (before) return before;
  const made = through(example(key), aim);
  known.set(`${key} ${aim}`, made);
  return made;
};
const through = (machine: Machine, aim: Aim = "fewest"): { found: Settlement; steps: Progress[] } => {
  const steps: Progress[] = [];
  const search = settle(machine, aim);
  for (let step = search.next(); ; step = search.next()) {
    if (step.done) return { found: step.value, steps };
    steps.push(step.value);
  }
};

describe("settling", () => {
  it.each(["reedcutter", "carillon", "marble-lift"])(
    "%s: leaves no Stop and no Fix but what it names as the builder's, and makes none",
    (key) => {
      const machine = example(key);
      const { found } = settled(key);
      const [before, after] = [said(machine), said(found.machine)];
      expect(effectOf(before, after).brings.filter(isGrave)).toEqual([]);
      expect(
        after
          .filter(isGrave)
          .map(({ id }) => id)
          .sort(),
      ).toEqual(found.yours.map(({ id }) => id).sort());
      for (const { needs, headline } of found.yours) expect(needs.length, headline).toBeGreaterThan(20);
      expect(found.after).toEqual({
        stop: after.filter(({ severity }) => severity === "stop").length,
        fix: after.filter(({ severity }) => severity === "fix").length,
        all: after.length,
      });
    },
  );

  it("settles most of what Reedcutter and Carillon hold, by fewer changes than there are causes", () => {
    const reed = settled("reedcutter").found;
    expect(reed.before.stop + reed.before.fix).toBeGreaterThan(40);
    // The builder decides the rest: isolation of every link, or copper beyond any terminal, would settle it.
    expect(reed.after.stop + reed.after.fix).toBeLessThanOrEqual(6);
    expect(reed.changes.length).toBeLessThanOrEqual(18);
    const organ = settled("carillon").found;
    expect(organ.after).toMatchObject({ stop: 0, fix: 1 });
    expect(organ.changes.length).toBeLessThanOrEqual(6);
  });

  it.each(AIMS)("by %s: its changes are commands that make the machine it promises, in plain words, each settling something", (aim) => {
    const machine = example("carillon");
    const { found } = settled("carillon", aim);
    const taken = found.changes.reduce((plan, { command }) => must(plan, command), machine);
    expect({ ...taken, name: "" }).toEqual({ ...found.machine, name: "" });
    for (const { what, settles, lines } of found.changes) {
      expect(what.length).toBeGreaterThan(8);
      expect(settles.length + lines.length, what).toBeGreaterThan(0);
    }
    expect(new Set(found.changes.map(({ what }) => what)).size).toBe(found.changes.length);
  });

  it("aims at mass: what comes out weighs no more than what the fewest changes come to", () => {
    const [few, light] = [settled("carillon").found, settled("carillon", "mass").found];
    expect(massG(light.machine)).toBeLessThanOrEqual(massG(few.machine) * 1.001);
  });

  it("leaves a plan that is in order alone, and does nothing a second time", () => {
    for (const key of ["reedcutter-corrected", "carillon-corrected", "marble-lift-corrected"])
      expect(through(example(key)).found.changes, key).toEqual([]);
    const once = settled("carillon").found.machine;
    expect(through(once).found.changes).toEqual([]);
  });

  it("says what it found first early on, and how far it is", () => {
    const { steps } = settled("carillon");
    const first = steps.findIndex(({ sofar }) => sofar.length > 0);
    expect(first).toBeGreaterThanOrEqual(0);
    expect(first).toBeLessThan(steps.length / 2);
    for (const [i, { done }] of steps.entries()) expect(done).toBeGreaterThanOrEqual(steps[i - 1]?.done ?? 0);
  });

  it("gives a newcomer's wires their sizes, leaves alone what nobody knows, and no strip of 40 A feeds a meter", () => {
    for (const machine of [newcomer(), newcomer({ lengthM: datasheet(1.5) }), newcomer({ gauge: "16 AWG" })]) {
      const { found } = through(machine);
      const wires = found.machine.wires;
      expect(wires.filter(({ gauge, to }) => gauge === undefined && to.part !== "lamp").length).toBeLessThanOrEqual(2);
      const [meter, lamp] = ["meter", "lamp"].map((id) => wires.find(({ to, role }) => to.part === id && role === "supply"));
      expect(meter?.fuse?.ratingA ?? 0).toBeLessThanOrEqual(machine.wires[0]?.gauge ? 20 : 5);
      expect(lamp?.gauge).toBe(machine.wires.find(({ to }) => to.part === "lamp")?.gauge);
      expect(said(found.machine).filter(isGrave)).toEqual([]);
    }
  });

  it("does not touch what was accepted", () => {
    const machine = example("carillon");
    const [first] = said(machine).filter(({ rule }) => rule === "stepper-setting");
    if (!first) throw new Error("nothing to accept");
    const accepted = must(machine, { type: "decide", decision: decisionOn(first, "accepted", "measured, stays cool", new Date(0)) });
    const { found } = through(accepted);
    expect(found.changes.some(({ what }) => what.includes("Stepper drive 1: set"))).toBe(false);
    expect(said(found.machine).some(({ id, decided }) => id === first.id && decided)).toBe(true);
  });
});

describe("no remedy that was offered", () => {
  it("is left that would settle what is called the builder's without making something else", () => {
    for (const key of ["reedcutter", "carillon", "marble-lift"]) {
      const { machine } = settled(key).found;
      const before = said(machine);
      for (const verdict of before.filter(isGrave)) {
        for (const { label, command } of verdict.remedies) {
          const next = applyCommand(machine, command);
          if (!next.ok) continue;
          const { settles, brings } = effectOf(before, said(next.machine));
          const cures = settles.some(({ id }) => id === verdict.id) && !brings.some(isGrave);
          expect(cures, `${key} ${verdict.id}: ${label}`).toBe(false);
        }
      }
    }
  });
});

describe("what is offered for a cause", () => {
  it("is no copper without end where a fuse does as much", () => {
    const machine = example("marble-lift");
    const trials = new Trials();
    const cause = causesOf(machine, trials.whole(machine)).find(({ head }) => head.severity === "stop" && head.rule === "no-fuse");
    expect(cause).toBeDefined();
    const { offers } = offersFor(trials, machine, cause as Cause);
    expect(offers.length).toBeGreaterThan(0);
    // Three conductors of 4/0 AWG, once offered here, weigh 361 g.
    for (const { label, massG } of offers) expect(massG, label).toBeLessThan(50);
  });
});
