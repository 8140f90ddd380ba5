import { describe, expect, it } from "vitest";
import { randomFrom } from "@/tests/support/random";
import { findBridges } from "./bridges";

/** Nodes reached from `start` without edge `without`. */
function reach(ends: readonly [number, number][], start: number, without: number): Set<number> {
  const seen = new Set([start]);
  for (let grew = true; grew; ) {
    grew = false;
    ends.forEach(([a, b], edge) => {
      if (edge === without || seen.has(a) === seen.has(b)) return;
      seen.add(a).add(b);
      grew = true;
    });
  }
  return seen;
}

describe("bridges of a graph", () => {
  it("are the edges whose removal cuts their ends apart, and name the end away from the root", () => {
    for (let seed = 1; seed <= 120; seed++) {
      const random = randomFrom(seed);
      const nodes = 2 + Math.floor(random() * 14);
      const any = () => Math.floor(random() * nodes);
      const ends = Array.from({ length: Math.floor(random() * 1.6 * nodes) }, (): [number, number] => [any(), any()]);
      const root = any();
      const { far, order, parent } = findBridges(nodes, ends, [root]);
      ends.forEach(([a, b], edge) => {
        const cut = !reach(ends, a, edge).has(b);
        expect((far[edge] ?? -1) >= 0, `seed ${seed} edge ${edge}`).toBe(cut);
        if (cut && reach(ends, root, -1).has(a)) expect(reach(ends, root, edge).has(far[edge] ?? -1)).toBe(false);
      });
      expect([...order].sort((x, y) => x - y)).toEqual(Array.from({ length: nodes }, (_, i) => i));
      const place = new Map([...order].map((node, k) => [node, k]));
      for (const [node, above] of parent.entries()) if (above >= 0) expect(place.get(above) ?? nodes).toBeLessThan(place.get(node) ?? -1);
    }
  });
});
