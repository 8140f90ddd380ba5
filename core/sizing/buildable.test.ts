import { describe, expect, it } from "vitest";
import { generateMachine } from "@/tests/support/generate";
import { seeds } from "@/tests/support/seeds";
import { capBefore } from "../figures/before-fuse";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { gaugeById } from "../reference/gauges";
import { sizedAtOnce } from "./all";
import { boundsOf } from "./bounds";
import { needsOf } from "./needs";
import { copperKg, unitsOf } from "./units";

const made = (seed: number): Machine => generateMachine({ parts: 16, seed, driven: seed % 2 === 0, meshed: seed % 3 === 0 });
const sized = (machine: Machine, keep = false) =>
  sizedAtOnce(machine, { objective: "mass", ...(keep ? { keep } : {}) }, new TopologyCache());

describe("sizes of random machines are buildable", () => {
  it.each(seeds(1, 48))("no size beyond a terminal, none too thin for a hand: machine %d", (seed) => {
    const machine = made(seed);
    const { figures } = sized(machine);
    const old = new Map(machine.wires.map((wire) => [wire.id, wire]));
    const needs = needsOf(figures, null);
    for (const unit of unitsOf(figures)) {
      const was = old.get(unit.lead.id);
      if (unit.lead.pinned || unit.lead.board || was?.gauge === unit.lead.gauge) continue;
      const area = gaugeById(unit.lead.gauge ?? "")?.areaMm2 ?? 0;
      const { leastMm2, mostMm2 } = boundsOf(needs, unit, capBefore(figures, unit.lead));
      expect(area, `${unit.lead.id} ${unit.lead.gauge}`).toBeLessThanOrEqual(mostMm2 * 1.02);
      expect(area, `${unit.lead.id} ${unit.lead.gauge}`).toBeGreaterThanOrEqual(leastMm2 * 0.98);
    }
  });

  it.each(seeds(1, 24))("where what is there is kept no wire gets thinner: machine %d", (seed) => {
    const machine = made(seed);
    const after = new Map(sized(machine, true).machine.wires.map((wire) => [wire.id, wire]));
    for (const { id, gauge, parallel } of machine.wires) {
      const now = after.get(id);
      const area = (size: string | undefined, many: number) => (gaugeById(size ?? "")?.areaMm2 ?? 0) * many;
      expect(area(now?.gauge, now?.parallel ?? 1), id).toBeGreaterThanOrEqual(area(gauge, parallel) * 0.999);
    }
  });

  it.each(seeds(1, 24))("sized twice is sized once: machine %d", (seed) => {
    const once = sized(made(seed)).machine;
    expect(sized(once).machine.wires).toEqual(once.wires);
  });

  it.each(seeds(1, 16))("a larger pack makes no wire thinner than its fuse needs: machine %d", (seed) => {
    const machine = made(seed);
    const larger: Machine = {
      ...machine,
      parts: machine.parts.map((part) =>
        part.kind === "pack" && part.internalOhm
          ? { ...part, internalOhm: { ...part.internalOhm, value: part.internalOhm.value / 3 } }
          : part,
      ),
    };
    const { figures, left } = sized(larger);
    if (left.length > 0) return;
    for (const { lead } of unitsOf(figures)) {
      const limit = figures.wires[lead.id]?.ampacity?.fuseLimitA;
      if (lead.fuse && limit !== undefined && !lead.pinned) expect(lead.fuse.ratingA, lead.id).toBeLessThanOrEqual(limit * 1.001);
    }
  });

  it.each(seeds(1, 16))("copper stays near what heat alone asks for: machine %d", (seed) => {
    const { figures } = sized(made(seed));
    const needs = needsOf(figures, null);
    const kg = (areaOf: (unit: ReturnType<typeof unitsOf>[number]) => number) =>
      unitsOf(figures).reduce((sum, unit) => sum + copperKg(unit, areaOf(unit) * 8.89, 1), 0);
    const now = kg(({ lead }) => (gaugeById(lead.gauge ?? "")?.areaMm2 ?? 0) * lead.parallel);
    const most = kg((unit) => boundsOf(needs, unit, capBefore(figures, unit.lead)).mostMm2);
    expect(now).toBeLessThanOrEqual(most * 1.02);
  });
});
