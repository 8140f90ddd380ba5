import { describe, expect, it } from "vitest";
import { generateMachine } from "@/tests/support/generate";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { at, must, part, simple } from "@/tests/support/small";
import type { Command } from "../machine/commands";
import { newMachine } from "../machine/defaults";
import { typical } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { buildCircuit } from "../network/build";
import { exposuresOf } from "./exposure";

const wire = (gauge = "14 AWG", metres = 0.5) => ({ gauge, lengthM: typical(metres) });

function exposures(machine: Machine) {
  const circuit = buildCircuit(machine);
  const found = exposuresOf(circuit);
  return (partId: string, role: "supply" | "return" | "phase" = "supply") => {
    const index = machine.wires.findIndex((each) => each.role === role && (role === "return" ? each.from.part : each.to.part) === partId);
    return found[index] ?? null;
  };
}

/** Pack, bar without a fuse, and two fused ways from it to a second bar. */
function ring(): Machine {
  let machine = part(newMachine("Ring"), "pack", "pack", { openCircuitV: typical(24) });
  machine = part(machine, "bar", "a", {}, { from: "pack.+", wire: { ...wire(), fuse: { family: "strip_m5_58v", ratingA: 100 } } });
  machine = part(machine, "bar", "b", {}, { from: "a", wire: { ...wire(), fuse: { family: "blade_regular_32v", ratingA: 10 } } });
  return part(machine, "load", "lamp", {}, { from: "b", back: "pack.-", wire: wire() });
}

describe("what limits a fault on a wire", () => {
  it("is its own fuse, or the smallest on the way to it", () => {
    const exposure = exposures(ring());
    expect(exposure("a")).toMatchObject({ limitA: 100, by: { kind: "wire" } });
    expect(exposure("b")?.limitA).toBe(10);
    expect(exposure("lamp")?.limitA).toBe(10);
  });

  it("adds up over several ways: a second feed comes on top of the first one", () => {
    const machine = must(ring(), {
      type: "addWire",
      wire: {
        role: "supply",
        from: at("a"),
        to: at("b"),
        parallel: 1,
        insulation: "pvc80",
        ...wire(),
        fuse: { family: "blade_regular_32v", ratingA: 40 },
      },
    });
    const exposure = exposures(machine);
    expect(exposure("lamp")?.limitA).toBe(50);
    expect(
      exposure("lamp")
        ?.shares?.map(({ ratingA }) => ratingA)
        .sort(),
    ).toEqual([10, 40]);
    // The first feed itself: its own fuse at one end, the second one at the other.
    expect(exposure("b")?.limitA).toBe(40);
  });

  it("does not count a fuse that sits at the far end of what it should protect", () => {
    const before = ring();
    const feed = before.wires.find((each) => each.to.part === "b");
    const machine = must(before, {
      type: "batch",
      label: "turn the feed round",
      commands: [
        { type: "reland", wireId: feed?.id ?? "", end: "from", at: at("b") },
        { type: "reland", wireId: feed?.id ?? "", end: "to", at: at("a") },
      ],
    });
    const circuit = buildCircuit(machine);
    const index = machine.wires.findIndex((each) => each.id === feed?.id);
    expect(exposuresOf(circuit)[index]?.limitA).toBe(100);
  });

  it("reaches motor leads through the driver, and their way back through the pair", () => {
    let machine = part(ring(), "driver", "drive", {}, { from: "b", back: "pack.-", wire: wire() });
    machine = part(machine, "load", "motor", {}, { from: "drive.1a", back: "drive.1b", wire: wire("18 AWG") });
    const exposure = exposures(machine);
    expect(exposure("motor", "phase")?.limitA).toBe(10);
    expect(exposure("drive", "return")?.limitA).toBe(10);
  });

  it("stops at a converter, whose own limit takes over, known or not", () => {
    const build = (limit: Record<string, unknown>) => {
      const machine = part(ring(), "converter", "buck", { outputV: typical(5), ...limit }, { from: "b", back: "pack.-", wire: wire() });
      return exposures(part(machine, "load", "board", {}, { from: "buck.out+", back: "buck.out-", wire: wire("26 AWG") }));
    };
    expect(build({ limitA: typical(3) })("board")).toMatchObject({ limitA: 3, by: { kind: "source", id: "buck" }, unknown: false });
    expect(build({})("board")?.unknown).toBe(true);
  });

  it("measures the bare run from the pack along the shortest way", () => {
    let machine = part(newMachine("Bare"), "pack", "pack", { openCircuitV: typical(24) });
    machine = part(machine, "switch", "main", {}, { from: "pack.+", wire: wire("6 AWG", 0.2) });
    machine = part(machine, "load", "lamp", {}, { from: "main.out", back: "pack.-", wire: wire("14 AWG", 0.7) });
    const exposure = exposures(machine);
    expect(exposure("main")?.unfused?.runM).toBeCloseTo(0.2, 9);
    expect(exposure("lamp")?.unfused?.runM).toBeCloseTo(0.9, 9);
    expect(exposure("lamp")?.limitA).toBe(Number.POSITIVE_INFINITY);
  });

  /** A winch on a fused feed, and a lamp on one of its own that lands on the winch's minus. */
  function landed(main = 100): Machine {
    const fuse = (ratingA: number) => ({ ...wire("20 AWG"), fuse: { family: "blade_regular_32v" as const, ratingA } });
    let machine = part(newMachine("Landed"), "pack", "pack", { openCircuitV: typical(24) });
    machine = part(
      machine,
      "bar",
      "a",
      {},
      { from: "pack.+", wire: { ...wire("2 AWG"), fuse: { family: "strip_m5_58v", ratingA: main } } },
    );
    machine = part(machine, "load", "winch", {}, { from: "a", back: "pack.-", wire: fuse(20) });
    return part(machine, "load", "lamp", {}, { from: "a", back: "winch.-", wire: fuse(15) });
  }

  it("is for a return that others share the sum of what their guards let through, each guard once", () => {
    const exposure = exposures(landed());
    expect(exposure("lamp", "return")?.limitA).toBe(15);
    expect(exposure("winch")?.limitA).toBe(20);
    const shared = exposure("winch", "return");
    expect(shared).toMatchObject({ limitA: 35, ratingA: null });
    expect(shared?.shares?.map(({ limitA }) => limitA).sort()).toEqual([15, 20]);
    const twice = part(landed(), "load", "second", {}, { from: "lamp.+", back: "winch.-", wire: wire() });
    expect(exposures(twice)("winch", "return")?.limitA).toBe(35);
  });

  it("is never more than the guard before them all lets through", () => {
    const shared = exposures(landed(30))("winch", "return");
    expect(shared).toMatchObject({ limitA: 30, ratingA: 30, by: { kind: "wire" } });
    expect(shared?.shares).toBeUndefined();
  });

  it("is not lessened by a signal ground beside it", () => {
    let machine = part(landed(), "load", "board", { loadKind: "board" }, { from: "a", back: "pack.-", wire: wire() });
    machine = must(machine, { type: "addSignal", signal: { id: "s1", from: "winch", to: "board", kind: "serial" } });
    machine = must(machine, {
      type: "addWire",
      wire: { role: "signal", signal: "s1", from: at("winch.-"), to: at("board.-"), parallel: 1, insulation: "pvc80", ...wire("26 AWG") },
    });
    expect(exposures(machine)("winch", "return")?.limitA).toBe(35);
  });

  it("counts what a converter gives at the converter's own minus: on its way there, not on the converter's input", () => {
    const rail = (limitA: number) => {
      let machine = part(landed(), "bar", "n", { side: "negative" }, { back: "pack.-", wire: wire("6 AWG") });
      const fused = { ...wire(), fuse: { family: "blade_regular_32v" as const, ratingA: 5 } };
      machine = part(machine, "converter", "buck", { outputV: typical(5), limitA: typical(limitA) }, { from: "a", back: "n", wire: fused });
      return exposures(part(machine, "load", "board", {}, { from: "buck.out+", back: "n", wire: wire() }));
    };
    expect(rail(3)("buck", "return")?.limitA).toBe(5);
    // The board's amps come back to the buck's minus through the buck's own return, against its input.
    expect(rail(12)("buck", "return")).toMatchObject({ limitA: 12, by: { kind: "source", id: "buck" } });
    expect(rail(12)("n", "return")?.limitA).toBe(5);
  });

  it("takes a return that nobody paired for what its part's feed lets through", () => {
    const machine = landed();
    const unpaired = { ...machine, wires: machine.wires.map(({ pair: _, ...each }) => each) };
    const exposure = exposures(unpaired);
    expect(exposure("lamp", "return")?.limitA).toBe(15);
    expect(exposure("winch", "return")?.limitA).toBe(35);
  });

  it("claims nothing for a return that is one of several ways", () => {
    let machine = part(simple(), "bar", "n1", { side: "negative" }, { back: "pack.-", wire: wire("22 AWG") });
    const back = machine.wires.find((each) => each.role === "return" && each.from.part === "motor");
    machine = must(machine, { type: "reland", wireId: back?.id ?? "", end: "to", at: at("n1") });
    expect(exposures(machine)("n1", "return")?.limitA).toBe(20);
    const meshed = must(machine, {
      type: "addWire",
      wire: { role: "return", from: at("n1"), to: at("pack.-"), parallel: 1, insulation: "pvc80", ...wire() },
    });
    expect(exposures(meshed)("n1", "return")).toBeNull();
  });
});

/**
 * What must come home through each return, looked for the long way: without the return, whose feeds' currents no longer reach a
 * pack or supply, or the minus of an isolated converter? Returns that cut off a converter's minus are left out: currents run
 * both ways there.
 * @returns by wire index, the feeds; null where another way is left
 */
function cutOff(machine: Machine): (Set<number> | null | undefined)[] {
  const { branches, emfs } = buildCircuit(machine);
  const ways = machine.wires.map(({ role }, i) => ({ i, role, a: branches[i]?.a ?? -1, b: branches[i]?.b ?? -1 }));
  const feedAt = (id: string | undefined) => machine.wires.findIndex((wire) => wire.id === id);
  const reachedFrom = (starts: Iterable<number>, without?: number) => {
    const reached = new Set(starts);
    for (let grown = -1; grown !== reached.size; ) {
      grown = reached.size;
      for (const { i, role, a, b } of ways)
        if (i !== without && role !== "signal" && role !== "bond" && (reached.has(a) || reached.has(b))) reached.add(a).add(b);
    }
    return reached;
  };
  const sources = emfs.filter(({ converter }) => converter < 0).map(({ neg }) => neg);
  const minuses = emfs.filter(({ converter }) => converter >= 0).map(({ neg }) => neg);
  const joined = reachedFrom(sources);
  const homes = [...sources, ...minuses.filter((node) => !joined.has(node))];
  return ways.map((cut) => {
    if (cut.role !== "return") return undefined;
    const reached = reachedFrom(homes, cut.i);
    if (reached.has(cut.a) && reached.has(cut.b)) return null;
    if (minuses.some((node) => !reached.has(node))) return undefined;
    return new Set(ways.flatMap(({ i, role, a }) => (role === "return" && !reached.has(a) ? [feedAt(machine.wires[i]?.pair)] : [])));
  });
}

/** Half of the loads' returns land on the minus of another load before them. */
function landed(machine: Machine, random: () => number): Machine {
  const returns = machine.wires.filter(
    ({ role, from }) => role === "return" && machine.parts.some(({ id, kind }) => id === from.part && kind === "load"),
  );
  const commands = returns.flatMap(({ id }, i): Command[] => {
    const before = returns[Math.floor(random() * i)];
    return before && i > 0 && random() < 0.5 ? [{ type: "reland", wireId: id, end: "to", at: before.from }] : [];
  });
  return must(machine, { type: "batch", label: "Land on neighbours", commands });
}

describe("what limits a fault on a return, of random machines", () => {
  it("is the sum of the guards of those cut off without it; a guard before others stands for them", () => {
    let summed = 0;
    for (const seed of seeds(1, 18)) {
      const options = { parts: 30 + seed, seed, meshed: seed % 3 === 0, driven: seed % 2 === 0 };
      const machine = landed(generateMachine(options), randomFrom(seed));
      const found = exposuresOf(buildCircuit(machine));
      cutOff(machine).forEach((feeds, i) => {
        const [exposure, wire] = [found[i], machine.wires[i]];
        const place = `seed ${seed}, ${wire?.id}`;
        if (feeds === null) expect(exposure?.limitA, place).toBe(found[machine.wires.findIndex(({ id }) => id === wire?.pair)]?.limitA);
        const guards = new Map([...(feeds ?? [])].flatMap((feed) => (found[feed] ? [[found[feed].by?.id, found[feed].limitA]] : [])));
        if (guards.size === 0 || !exposure) return;
        const largest = Math.max(...guards.values());
        expect(exposure.limitA, place).toBeGreaterThanOrEqual(largest);
        const named = exposure.shares?.map(({ by }) => by?.id) ?? [exposure.by?.id];
        expect(new Set(named).size, place).toBe(named.length);
        // A guard from outside lets less through than those behind it; otherwise each of the named lets its own through.
        const sum = (ids: Iterable<string | undefined>) => [...ids].reduce((amps, id) => amps + (guards.get(id) ?? 0), 0);
        if (named.some((id) => !guards.has(id))) expect(exposure.limitA, place).toBeLessThan(sum(guards.keys()));
        else expect(exposure.limitA, place).toBeCloseTo(sum(named), 9);
        if (exposure.limitA > largest) summed++;
      });
    }
    expect(summed).toBeGreaterThan(2);
  });
});
