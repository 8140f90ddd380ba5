import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { change } from "@/tests/support/judged";
import { at, backedUp, beside, driven, lampOn, must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { newMachine } from "../machine/defaults";
import { datasheet as f, typical } from "../machine/figure";
import type { FuseRef, Machine } from "../machine/schema";
import { crossedFaults } from "./crossed";
import { DANGERS, type FaultResult, faultWalk } from "./walk";
import { wireFate, wireWithstand } from "./withstand";

const walkOf = (machine: Machine) => faultWalk(analyse(machine).figures);
const bolted = (machine: Machine, place: string): FaultResult | undefined =>
  walkOf(machine).results.find((result) => result.place === place && result.bolted);

/** Two packs side by side on one bar, each with its own fuse, and a load on the bar. */
function twins(second: FuseRef | undefined): Machine {
  let machine = newMachine("Twins");
  const pack = { openCircuitV: f(12), fullV: f(12.8), lowV: f(11.8), internalOhm: f(0.02) };
  const run = { gauge: "8 AWG", lengthM: f(0.5) };
  const blade = (ratingA: number): FuseRef => ({ family: "blade_maxi_32v", ratingA });
  machine = part(machine, "pack", "one", pack);
  machine = part(machine, "pack", "two", pack);
  machine = part(machine, "bar", "plus", { side: "positive" }, { from: "one.+", wire: { ...run, fuse: blade(30) } });
  machine = part(machine, "bar", "minus", { side: "negative" }, { back: "one.-", wire: run });
  machine = beside(machine, "two", "plus", "minus", run, second);
  return lampOn(machine);
}

describe("the short-circuit walk", () => {
  it("judges what a supply goes on giving apart from what flowed until the battery's fuse opened", () => {
    const [small, large] = [bolted(backedUp(10), "lamp"), bolted(backedUp(90), "lamp")];
    expect(small?.opens).toMatchObject({ kind: "wire" });
    expect(small?.mostA).toBeGreaterThan(300);
    // Ten amps continuously are nothing to 12 AWG, and the fuse lets through less than it bears.
    expect(small).toMatchObject({ danger: "held", wire: { fate: { fate: "bears" } } });
    expect(large).toMatchObject({ danger: "burns", wire: { fate: { fate: "burns" } } });
  });

  it("drives what the loop's resistance allows, more with a new pack and cold wire than with an old one and hot wire", () => {
    const machine = simple({ gauge: "14 AWG", metres: 1 });
    const found = bolted(machine, "motor");
    // 14.6 V through 20 mΩ × 0.6 (a typical figure may be 40 % off), 0.2 m of 10 AWG, 2 m of 14 AWG, joints and the 20 A fuse.
    const ohm = 0.02 * 0.6 + 0.1 * 3.343e-3 + 2 * 8.451e-3 + 6 * 2e-4 + (3.38e-3 + 2e-3);
    expect(found?.mostA).toBeCloseTo(14.6 / ohm, 0);
    expect(found?.leastA).toBeLessThan(found?.mostA ?? 0);
    expect(found?.opens).toMatchObject({ kind: "part", id: "main" });
    expect(found?.opens?.fastestS).toBeLessThan(found?.opens?.slowestS ?? 0);
    expect(found?.danger).toBe("clears");
  });

  it("lists the worst first, and a resistive short beside every bolted one", () => {
    const { results } = walkOf(settledBarge());
    const ranks = results.map(({ danger }) => DANGERS.indexOf(danger));
    expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
    const pairs = results.filter(({ place }) => place === "drive-left");
    const [hard, soft] = [pairs.find((each) => each.bolted), pairs.find((each) => !each.bolted)];
    expect(soft?.mostA).toBeLessThan(hard?.mostA ?? 0);
  });

  it("is walked in every state of the switches that some mode has, and only where there is voltage", () => {
    const { results } = walkOf(settledBarge());
    const stopped = settledBarge().modes.findIndex(({ id }) => id === "stopped");
    const states = (place: string) =>
      results.filter((each) => each.place === place && each.bolted).map(({ modes }) => modes.includes(stopped));
    expect(states("bar-p0").sort()).toEqual([false, true]);
    expect(states("drive-left")).toEqual([false]);
  });

  it("calls no fuse unselective that sits beside the first one: both must open", () => {
    const beside = bolted(twins({ family: "blade_maxi_32v", ratingA: 30 }), "lamp");
    expect(beside).toMatchObject({ along: [] });
    // One fuse for both in line with them: which of the three opens first decides what goes dark.
    let machine = twins({ family: "blade_maxi_32v", ratingA: 30 });
    const feed = machine.wires.find(({ to, role }) => to.part === "lamp" && role === "supply");
    machine = must(machine, { type: "setFuse", wireId: feed?.id ?? "", fuse: { family: "blade_maxi_32v", ratingA: 40 } });
    expect(bolted(machine, "lamp")?.along.length).toBeGreaterThan(0);
  });

  it("looks at the fuse before two that open one after the other: it is in line with the second", () => {
    // Battery, main fuse, then two ways of one fuse each to the lamp: the main one sees both open.
    const strip = (ratingA: number): FuseRef => ({ family: "blade_maxi_32v", ratingA });
    const run = { gauge: "8 AWG", lengthM: f(0.3) };
    let machine = part(newMachine("Two ways"), "pack", "pack", { openCircuitV: f(12), fullV: f(12.8), internalOhm: f(0.01) });
    machine = part(machine, "bar", "plus", { side: "positive" }, { from: "pack.+", wire: { ...run, fuse: strip(80) } });
    machine = part(
      machine,
      "load",
      "lamp",
      { behaviour: "resistance", nominalV: f(12), cells: { m1: { state: "amps", amps: f(5) } } },
      { from: "plus", back: "pack.-", wire: { ...run, fuse: strip(30) } },
    );
    const second = {
      role: "supply" as const,
      from: at("plus"),
      to: at("lamp.+"),
      parallel: 1,
      insulation: "pvc80",
      fuse: strip(40),
      ...run,
    };
    machine = must(machine, { type: "addWire", wire: second });
    const main = machine.wires.find(({ to }) => to.part === "plus")?.id;
    expect(bolted(machine, "lamp")?.along.map(({ id }) => id)).toContain(main);
  });

  it("goes on until every source is cut: two packs, two fuses, the second one later; without the second nothing ends it", () => {
    const both = bolted(twins({ family: "strip_m5_32v", ratingA: 100 }), "lamp");
    const one = bolted(twins({ family: "blade_maxi_32v", ratingA: 30 }), "lamp");
    expect(both?.opens?.fuse.ratingA).toBe(30);
    expect(both?.opens?.slowestS ?? 0).toBeGreaterThan(one?.opens?.slowestS ?? 1e9);
    expect(both?.opens?.slowestS).toBeLessThan(1e5);
    const open = bolted(twins(undefined), "lamp");
    expect(open?.opens?.slowestS).toBe(Number.POSITIVE_INFINITY);
    expect(["burns", "never"]).toContain(open?.danger);
  });

  it("knows a short that nothing clears because the source holds its current, and a fuse too big for that", () => {
    let machine = part(newMachine("Bench"), "supply", "supply", {
      outputV: f(24),
      outputOhm: f(0.01),
      ratedA: f(10),
      limitA: f(11),
      overload: "constant current",
    });
    const feed = (ratingA: number) => ({ gauge: "14 AWG", lengthM: f(1), fuse: { family: "blade_regular_32v" as const, ratingA } });
    const withFuse = (ratingA: number) =>
      part(
        machine,
        "load",
        "lamp",
        { nominalV: f(24), cells: { m1: { state: "amps", amps: f(2) } } },
        { from: "supply.+", back: "supply.-", wire: feed(ratingA) },
      );
    expect(bolted(withFuse(10), "lamp")).toMatchObject({ opens: null, held: { id: "supply", how: "constant current" }, danger: "held" });
    expect(bolted(withFuse(10), "lamp")?.mostA).toBeCloseTo(11, 6);
    const slow = bolted(withFuse(5), "lamp");
    expect(slow?.opens?.slowestS).toBeLessThan(6);
    // Held all the same whether the fuse opens in three minutes or never: a larger fuse is not safer.
    expect(bolted(withFuse(7.5), "lamp")?.danger).toBe("held");
    // Neither limit nor rating known: nobody says that it is cleared.
    machine = change(change(machine, "supply", { limitA: undefined }), "supply", { ratedA: undefined });
    expect(bolted(withFuse(5), "lamp")?.unknown).toEqual(["supply"]);
    expect(bolted(withFuse(5), "lamp")?.danger).toBe("unknown");
  });

  it("asks for a pack's resistance, and never clears what hangs on it", () => {
    const machine = change(simple(), "pack", { internalOhm: undefined });
    expect(bolted(machine, "motor")?.danger).toBe("unknown");
    expect(bolted(machine, "motor")?.unknown).toEqual(["pack"]);
  });

  it("tells a fuse that must break more than it can, and the posts that no fuse guards", () => {
    const strong = change(simple(), "pack", { internalOhm: f(0.001) });
    expect(bolted(strong, "main")?.danger).toBe("breaks");
    expect(bolted(strong, "pack")?.danger).toBe("posts");
  });

  it("goes through a driver's bridge into a motor's leads", () => {
    const motor = bolted(driven(), "motor");
    const drive = bolted(driven(), "drive");
    expect(motor?.mostA).toBeLessThan(drive?.mostA ?? 0);
    expect(motor?.opens?.id).toBe("main");
  });
});

describe("what a short does to a wire", () => {
  const { figures } = analyse(simple({ gauge: "16 AWG" }));
  const wire = figures.wireOf.get("w2");
  const ampacity = figures.wires.w2?.ampacity ?? null;
  const fate = (amps: number, seconds: number, over = {}) =>
    wireFate({ ...wire, ...over } as NonNullable<typeof wire>, ampacity, amps, seconds, 0.3).fate;

  it("is decided by energy up to 5 s, by heating above, and by its limit continuously", () => {
    const withstand = wireWithstand(wire as NonNullable<typeof wire>, 80) ?? 0;
    const amps = Math.sqrt(withstand / 0.5);
    expect(fate(amps * 0.99, 0.5)).toBe("bears");
    expect(fate(amps * 1.01, 0.5)).toBe("burns");
    expect(fate(21, Number.POSITIVE_INFINITY)).toBe("bears");
    expect(fate(30, Number.POSITIVE_INFINITY)).toBe("overheats");
    expect(fate(60, Number.POSITIVE_INFINITY)).toBe("burns");
    expect(fate(30, 20)).toBe("bears");
    expect(fate(60, 3600)).toBe("burns");
  });

  it("is worse with solder in the path of hot insulation, and not known where no final temperature is", () => {
    expect(wireWithstand({ ...wire, insulation: "sil200", soldered: true } as NonNullable<typeof wire>, 120)).toBeLessThan(
      wireWithstand({ ...wire, insulation: "sil200" } as NonNullable<typeof wire>, 120) ?? 0,
    );
    expect(fate(100, 1, { insulation: "ptfe200" })).toBe("unknown");
    expect(wireFate(wire as NonNullable<typeof wire>, null, 1, 1, 0).fate).toBe("unknown");
  });
});

describe("crossed wires", () => {
  it("tells which parts two joined rails would kill, and that rails without a common minus make no circuit", () => {
    const { figures } = analyse(settledBarge());
    const { joined, reversed } = crossedFaults(figures, faultWalk(figures));
    const pair = joined.find(({ high, low }) => high.tag === "A24" && low.tag.endsWith("5"));
    expect(pair?.killed).toEqual(expect.arrayContaining(["controller", "computer", "camera"]));
    expect(pair?.volts).toBeCloseTo(29.2, 6);
    expect(pair?.amps).toBe(0);
    expect(joined.every(({ high, low }) => high.volts > low.volts)).toBe(true);
    expect(reversed.find(({ part: id }) => id === "drive-left")?.opens?.slowestS).toBeLessThan(1);
    const safe = analyse(change(settledBarge(), "computer", { reverseSafe: true })).figures;
    expect(crossedFaults(safe, faultWalk(safe)).reversed.find(({ part: id }) => id === "computer")?.safe).toBe(true);
  });

  it("finds the current from one battery into another", () => {
    let machine = simple();
    machine = part(machine, "pack", "logic", { openCircuitV: typical(6), fullV: typical(6.4), internalOhm: typical(0.05) });
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: "return",
        from: at("logic.-"),
        to: at("pack.-"),
        gauge: "14 AWG",
        parallel: 1,
        insulation: "pvc80",
        lengthM: typical(0.3),
      },
    });
    const { figures } = analyse(machine);
    const [pair] = crossedFaults(figures, faultWalk(figures)).joined;
    expect(pair?.amps).toBeGreaterThan(50);
  });
});
