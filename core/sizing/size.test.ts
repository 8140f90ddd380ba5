import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { generateMachine } from "@/tests/support/generate";
import { seeds } from "@/tests/support/seeds";
import { must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { faultWalk } from "../faults/walk";
import { capBefore } from "../figures/before-fuse";
import type { Command } from "../machine/commands";
import { newMachine } from "../machine/defaults";
import { typical } from "../machine/figure";
import type { FuseRef, Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { ratingsOf } from "../reference/fuses";
import { type Gauge, gaugeById, usualSizes } from "../reference/gauges";
import { evaluateShorts, RULE_OF } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";
import { sizedAtOnce } from "./all";
import { boundsOf } from "./bounds";
import { gaugeLadder } from "./ladder";
import { needsOf } from "./needs";
import { sizePlan } from "./plan";
import { copperKg, type Unit, unitsOf } from "./units";
import { weigh } from "./weigh";

const isOpen = ({ rule, severity }: Verdict) => RULE_OF.get(rule)?.sized && (severity === "stop" || severity === "fix");

/** Stops and Fixes of the rules that sizing settles. */
function open(machine: Machine): string[] {
  const { figures, analysis } = analyse(machine);
  return [...analysis.verdicts, ...evaluateShorts(figures, faultWalk(figures))].filter(isOpen).map(({ id }) => id);
}

/** Whether there is one, without walking the shorts where the rest says so already: for trying many. */
function isClean(machine: Machine, cache: TopologyCache): boolean {
  const { figures, analysis } = analyse(machine, cache);
  return !analysis.verdicts.some(isOpen) && !evaluateShorts(figures, faultWalk(figures)).some(isOpen);
}

/** The units of a machine with the sizes that another one of the same wiring has. */
function unitsIn(units: readonly Unit[], machine: Machine): Unit[] {
  return units.map((unit) => ({ ...unit, lead: machine.wires.find(({ id }) => id === unit.lead.id) ?? unit.lead }));
}

function copper(machine: Machine, units = unitsOf(analyse(machine).figures)): number {
  return unitsIn(units, machine).reduce(
    (sum, unit) => sum + copperKg(unit, gaugeById(unit.lead.gauge ?? "")?.copperGPerM ?? 0, unit.lead.parallel),
    0,
  );
}

function grams(machine: Machine, units = unitsOf(analyse(machine).figures)): number {
  return unitsIn(units, machine).reduce(
    (sum, unit) =>
      sum + weigh(unit, { gauge: gaugeById(unit.lead.gauge ?? "") as Gauge, parallel: 1, fuse: unit.lead.fuse ?? null }, "mass"),
    0,
  );
}

function planOf(machine: Machine, options = { objective: "mass" as const }) {
  const steps = sizePlan(machine, options);
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value;
}

/** A pack, its main fuse and a feed or two, wrongly sized in a way of their own. */
function wrong(seed: number): Machine {
  const amps = [3, 9, 17, 26][seed % 4] as number;
  let machine = simple({ amps, gauge: ["24 AWG", "20 AWG", "14 AWG"][seed % 3] as string, metres: 0.5 + (seed % 5), internalOhm: 0.03 });
  machine = must(machine, {
    type: "updatePart",
    id: "main",
    changes: { fuse: { family: "blade_regular_32v", ratingA: [5, 15, 30, 40][(seed + 1) % 4] as number } },
  });
  if (seed % 2 === 0)
    machine = part(
      machine,
      "load",
      "lamp",
      { behaviour: "resistance", nominalV: typical(12), cells: { m1: { state: "amps", amps: typical(1 + (seed % 6)) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "26 AWG", lengthM: typical(1 + (seed % 3)) } },
    );
  return machine;
}

describe("a run so long that its amps alone say nothing", () => {
  it.each([
    [20, 50],
    [40, 50],
    [50, 50],
    [60, 50],
  ])("%d A over %d m at 12 V: no copper that no terminal takes, and what it does not cure is left open", (amps, metres) => {
    const machine = simple({ amps, metres, internalOhm: 0.001 });
    expect(analyse(machine).analysis.modes[0]?.collapsed).toBe(true);
    const { machine: sized, left } = sizedAtOnce(machine, { objective: "mass" });
    expect(left.some(({ rule }) => rule === "drop" || rule === "collapse")).toBe(true);
    const { figures } = analyse(sized);
    const needs = needsOf(figures, null);
    for (const unit of unitsOf(figures)) {
      expect(unit.lead.parallel).toBe(1);
      const { mostMm2 } = boundsOf(needs, unit, capBefore(figures, unit.lead));
      expect(gaugeById(unit.lead.gauge ?? "")?.areaMm2 ?? 0).toBeLessThanOrEqual(mostMm2);
    }
  });
});

/** Every combination of sizes and fuses of a small machine, until one without a Stop or Fix is found, lightest copper first. */
function exhaustive(machine: Machine): { clean: boolean; copperKg: number } {
  const sizes = usualSizes("awg").filter(({ areaMm2 }) => areaMm2 > 0.3 && areaMm2 < 14);
  const cache = new TopologyCache();
  const units = unitsOf(analyse(machine, cache).figures);
  const leads = units.filter(({ lead }) => lead.from.part !== "pack");
  const fuses: (FuseRef | null)[] = [
    null,
    ...[5, 10, 15, 20, 30, 40].map((ratingA): FuseRef => ({ family: "blade_regular_32v", ratingA })),
  ];
  const mains = ratingsOf("blade_regular_32v").filter((ratingA) => ratingA >= 5);
  let best = { clean: false, copperKg: Number.POSITIVE_INFINITY };
  const settle = (at: number, now: Machine): void => {
    const unit = leads[at];
    if (!unit) {
      const kg = copper(now, units);
      if (kg < best.copperKg && isClean(now, cache)) best = { clean: true, copperKg: kg };
      return;
    }
    for (const gauge of sizes) {
      for (const fuse of leads.length > 1 ? [null, ...fuses.slice(1, 4)] : fuses) {
        const command: Command = {
          type: "batch",
          label: "try",
          commands: [
            { type: "setFeed", id: unit.lead.id, changes: { gauge: gauge.id } },
            { type: "setFuse", wireId: unit.lead.id, fuse },
          ],
        };
        settle(at + 1, must(now, command));
      }
    }
  };
  for (const ratingA of leads.length > 1 ? mains.slice(-4) : mains) {
    const main = must(machine, { type: "updatePart", id: "main", changes: { fuse: { family: "blade_regular_32v", ratingA } } });
    for (const gauge of sizes.filter((_, i) => i % 2 === 1)) {
      const lead = main.wires.find(({ to }) => to.part === "main");
      if (lead) settle(0, must(main, { type: "setFeed", id: lead.id, changes: { gauge: gauge.id } }));
      if (best.clean) break;
    }
  }
  return best;
}

/** A source without a fuse, two loads that come home through one shared wire, one of them perhaps unknown; all of it too thin. */
function shared(limitA: number, known: boolean, metres: number): Machine {
  const thin = { gauge: "28 AWG", lengthM: typical(metres) };
  let machine = newMachine("Shared");
  machine = part(machine, "supply", "supply", {
    outputV: typical(12),
    ratedA: typical(limitA * 0.9),
    limitA: typical(limitA),
    outputOhm: typical(0.02),
  });
  machine = part(machine, "bar", "plus", {}, { from: "supply.+", wire: thin });
  machine = part(machine, "bar", "minus", { side: "negative" }, { back: "supply.-", wire: thin });
  for (const [i, amps] of [1.5, 3].entries())
    machine = part(
      machine,
      "load",
      `load-${i}`,
      { nominalV: typical(12), cells: i === 0 && !known ? {} : { m1: { state: "amps", amps: typical(amps) } } },
      { from: "plus", back: "minus", wire: thin },
    );
  return machine;
}

describe("with a shared return, unknown figures and a source without a fuse", () => {
  it.each([
    [6, true, 0.8],
    [10, true, 1.5],
    [6, false, 0.8],
  ])(
    "at a limit of %d A (all known: %s): no Stop or Fix is left that any combination of sizes avoids, and none is lighter",
    (limitA, known, metres) => {
      const machine = shared(limitA, known, metres);
      const sized = sizedAtOnce(machine, { objective: "mass" });
      expect(open(sized.machine)).toEqual([]);
      const sizes = usualSizes("awg").filter(({ areaMm2 }) => areaMm2 > 0.2 && areaMm2 < 2.2);
      const cache = new TopologyCache();
      const units = unitsOf(analyse(machine, cache).figures);
      const leads = units.map(({ lead }) => lead.id);
      let least = Number.POSITIVE_INFINITY;
      const fuses: (FuseRef | null)[] = [null, { family: "blade_regular_32v", ratingA: 2 }, { family: "blade_regular_32v", ratingA: 5 }];
      const trial = (at: number, now: Machine): void => {
        const lead = leads[at];
        if (lead === undefined) {
          const mass = grams(now, units);
          if (mass < least && isClean(now, cache)) least = mass;
          return;
        }
        const wire = now.wires.find(({ id }) => id === lead);
        for (const gauge of sizes)
          for (const fuse of wire?.to.part.startsWith("load") ? fuses : [null])
            trial(
              at + 1,
              must(now, {
                type: "batch",
                label: "try",
                commands: [
                  { type: "setFeed", id: lead, changes: { gauge: gauge.id } },
                  { type: "setFuse", wireId: lead, fuse },
                ],
              }),
            );
      };
      // The two trunks alike, so that all combinations can be tried.
      const [plus = "", minus = "", ...feeds] = leads;
      leads.splice(0, leads.length, ...feeds);
      for (const gauge of sizes) {
        const trunks = must(must(machine, { type: "setFeed", id: plus, changes: { gauge: gauge.id } }), {
          type: "setFeed",
          id: minus,
          changes: { gauge: gauge.id },
        });
        trial(0, trunks);
      }
      expect(Number.isFinite(least), "a machine that no choice settles proves nothing").toBe(true);
      const own = grams(sized.machine);
      // A wire kept out of Watch may weigh one size more, and no trunk is as thin as its amps alone would let it be.
      expect(own).toBeLessThanOrEqual(least * 2 + 5);
      // A run after a run changes nothing.
      expect(sizedAtOnce(sized.machine, { objective: "mass" }).machine.wires).toEqual(sized.machine.wires);
    },
  );
});

describe("sizing everything", () => {
  it.each(seeds(0, 5).map((k) => 2 * k + 1))(
    "never leaves a Stop or Fix that another choice avoids: small machine %d against every combination",
    (seed) => {
      const machine = wrong(seed);
      const sized = sizedAtOnce(machine, { objective: "mass" });
      const best = exhaustive(machine);
      expect(best.clean, "a machine that no choice settles proves nothing").toBe(true);
      expect(open(sized.machine), `seed ${seed}`).toEqual([]);
      expect(sized.left.map(({ id }) => id).sort()).toEqual(open(sized.machine).sort());
      // Copper may exceed the lightest by what keeps a wire out of Watch: one size here and there.
      expect(copper(sized.machine)).toBeLessThan(best.copperKg * 1.8 + 0.02);
    },
  );

  it.each([0, 2, 4, 6, 8])("leaves small machines with two feeds without a Stop or Fix: %d", (seed) => {
    expect(open(sizedAtOnce(wrong(seed), { objective: "mass" }).machine)).toEqual([]);
  });

  it.each([21, 22, 23])("mends most of what random machines hold, makes nothing worse, and names what is left: %d", (seed) => {
    const machine = generateMachine({ parts: 40, seed, modes: 3 });
    const sized = sizedAtOnce(machine, { objective: "mass" });
    const [before, after] = [open(machine), open(sized.machine)];
    expect(before.length).toBeGreaterThan(5);
    expect(after.length).toBeLessThanOrEqual(2);
    expect(sized.left.map(({ id }) => id).sort()).toEqual(after.sort());
    expect(sized.machine.parts.length).toBe(machine.parts.length);
  });

  it("leaves a settled machine settled, and what is pinned as it is", () => {
    const barge = settledBarge();
    expect(open(sizedAtOnce(barge, { objective: "mass" }).machine)).toEqual([]);
    const thin = must(must(simple({ amps: 15, gauge: "24 AWG" }), { type: "setFeed", id: "w2", changes: { pinned: true } }), {
      type: "rename",
      name: "Pinned",
    });
    const sized = sizedAtOnce(thin, { objective: "mass" });
    expect(sized.machine.wires.find(({ id }) => id === "w2")?.gauge).toBe("24 AWG");
    expect(open(sized.machine).length).toBeGreaterThan(0);
  });

  it("takes only what is at hand where that is said", () => {
    const machine = must(simple({ amps: 9, gauge: "24 AWG" }), {
      type: "setSettings",
      changes: { stock: { gauges: ["10 AWG", "16 AWG"], fuses: [{ family: "blade_regular_32v", ratingA: 15 }] } },
    });
    const { wires } = sizedAtOnce(machine, { objective: "mass" }).machine;
    expect(wires.every(({ gauge }) => gauge === "10 AWG" || gauge === "16 AWG")).toBe(true);
    for (const { fuse } of wires) if (fuse) expect(fuse.ratingA).toBe(15);
  });

  it("sizes one feed alone and leaves the rest", () => {
    const machine = wrong(4);
    const sized = sizedAtOnce(machine, { objective: "cost", only: [machine.wires.find(({ to }) => to.part === "lamp")?.id ?? ""] }).machine;
    const changed = sized.wires.filter((wire, i) => JSON.stringify(wire) !== JSON.stringify(machine.wires[i]));
    expect(new Set(changed.map(({ from, to, role }) => (role === "return" ? from.part : to.part)))).toEqual(new Set(["lamp"]));
  });

  it("lists every change with its reason, and taking all of them gives the sized machine", () => {
    const machine = wrong(2);
    const plan = planOf(machine);
    expect(plan.changes.length).toBeGreaterThan(1);
    for (const { why, before, after } of plan.changes) {
      expect(why.length).toBeGreaterThan(10);
      expect(before).not.toBe(after);
    }
    const taken = must(machine, { type: "batch", label: "Size", commands: plan.changes.map(({ command }) => command) });
    expect(open(taken)).toEqual([]);
    expect(taken.wires).toEqual(sizedAtOnce(machine, { objective: "mass" }).machine.wires);
    expect(plan.afterKg).toBeCloseTo(copper(taken), 9);
  });
});

describe("the gauge ladder", () => {
  it("cools, loses less and weighs more rung by rung, and proposes the thinnest that nothing speaks against", () => {
    const { figures } = analyse(simple({ amps: 12, gauge: "18 AWG", metres: 2 }));
    const ladder = gaugeLadder(figures, faultWalk(figures), "w2");
    const rungs = ladder?.rungs ?? [];
    expect(rungs.length).toBeGreaterThan(3);
    rungs.slice(1).forEach((rung, i) => {
      const thinner = rungs[i];
      expect(rung.temperatureC ?? 0).toBeLessThanOrEqual(thinner?.temperatureC ?? 0);
      expect(rung.lossW).toBeLessThan(thinner?.lossW ?? 0);
      expect(rung.massG).toBeGreaterThan(thinner?.massG ?? 1e9);
      expect(rung.largestFuseA ?? 0).toBeGreaterThanOrEqual(thinner?.largestFuseA ?? 0);
      expect(rung.reachesS ?? 0).toBeGreaterThanOrEqual(thinner?.reachesS ?? 0);
    });
    const proposed = rungs.findIndex((rung) => rung.proposed);
    expect(rungs[proposed]?.refusals).toEqual([]);
    if (proposed > 0) expect(rungs[proposed - 1]?.refusals.length).toBeGreaterThan(0);
    expect(rungs.filter((rung) => rung.now)).toHaveLength(1);
    expect(ladder?.reason.length).toBeGreaterThan(10);
  });

  it("is there for a lead, a lone return and a wire of unknown size, and not for one that is gone", () => {
    const barge = analyse(settledBarge()).figures;
    const sized = barge.machine.wires.filter(({ role }) => role !== "signal" && role !== "bond");
    for (const wire of sized) expect(gaugeLadder(barge, null, wire.id)?.rungs.length, wire.id).toBeGreaterThan(2);
    expect(gaugeLadder(barge, null, "gone")).toBeNull();
    const bare = analyse(must(simple(), { type: "setFeed", id: "w2", changes: { gauge: undefined } })).figures;
    expect(gaugeLadder(bare, null, "w2")?.rungs.some(({ now }) => now)).toBe(false);
  });
});
