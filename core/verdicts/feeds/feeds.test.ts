import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { change, feed, one, remedied, said, schools } from "@/tests/support/judged";
import { at, driven, must, part, simple } from "@/tests/support/small";
import { datasheet as f } from "../../machine/figure";
import type { FuseRef, Machine } from "../../machine/schema";
import { sizedAtOnce } from "../../sizing/all";

describe("the lead from a post to the first fuse", () => {
  /** A fuse that takes its time behind a short lead of some size. */
  function slowly(gauge: string): Machine {
    let machine = simple({ amps: 30, gauge: "2/0 AWG", metres: 1, internalOhm: 0.006 });
    machine = change(machine, "main", { fuse: { family: "class_t", ratingA: 100 } });
    return feed(machine, { gauge }, "w1");
  }

  it("burns in a short behind that fuse where it is thin, which no other rule says", () => {
    expect(one(slowly("8 AWG"), "short-circuit", "w1")?.severity).toBe("stop");
    expect(one(slowly("2/0 AWG"), "short-circuit", "w1")).toBeUndefined();
    expect(one(sizedAtOnce(slowly("8 AWG"), { objective: "mass" }).machine, "short-circuit", "w1")).toBeUndefined();
  });

  it("is offered a smaller fuse only where that ends the short, breaks the strongest one and holds every start", () => {
    for (const starts of [40, 70, 105, 200]) {
      // A maxi blade takes up to 7 s at 3.5 times its rating: a weak pack drives little more.
      const weak = change(change(slowly("2/0 AWG"), "main", { fuse: { family: "blade_maxi_32v", ratingA: 100 } }), "pack", {
        internalOhm: f(0.03),
      });
      let machine = must(weak, { type: "addMode", name: "Start", lastsS: 0.5 });
      const mode = machine.modes.at(-1)?.id ?? "";
      machine = must(machine, { type: "setCell", loadId: "motor", modeId: mode, cell: { state: "amps", amps: f(starts) } });
      const slow = one(machine, "short-circuit", "slow");
      expect(slow).toBeDefined();
      for (const { command } of slow?.remedies ?? []) {
        const after = must(machine, command);
        for (const rule of ["short-circuit", "breaking-capacity", "fuse-too-small"])
          expect(said(after, rule), `${rule}, ${starts} A`).toEqual([]);
      }
    }
  });
});

describe("a return that another load lands on", () => {
  /** A motor of 10.5 A on 20 AWG, and a lamp of 14 A that lands on the motor's minus instead of a bar. */
  function landed(back: string): Machine {
    const load = (amps: number) => ({ nominalV: f(12), cells: { m1: { state: "amps" as const, amps: f(amps) } } });
    const run = (gauge: string, ratingA: number) => ({
      wire: { gauge, lengthM: f(1), fuse: { family: "blade_regular_32v" as const, ratingA } },
    });
    let machine = part(simple({ amps: 1 }), "bar", "p", {}, { from: "main.out", wire: { gauge: "6 AWG", lengthM: f(0.2) } });
    machine = part(machine, "bar", "n", { side: "negative" }, { back: "pack.-", wire: { gauge: "6 AWG", lengthM: f(0.2) } });
    machine = must(machine, { type: "updatePart", id: "main", changes: { fuse: { family: "strip_m5_58v", ratingA: 60 } } });
    machine = part(machine, "load", "winch", load(10.5), { from: "p", back: "n", ...run("20 AWG", 15) });
    return part(machine, "load", "lamp", { loadKind: "light", ...load(14) }, { from: "p", back, ...run("14 AWG", 20) });
  }
  const back = (machine: Machine) => machine.wires.find(({ role, from }) => role === "return" && from.part === "winch")?.id ?? "";
  const of = (machine: Machine, rule: string) => said(machine, rule).find(({ subject }) => subject.id === back(machine));

  it("is judged by its own amps, not by its feed's", () => {
    expect(of(landed("winch.-"), "wire-overload")?.value).toBeCloseTo(24.5, 1);
    expect(of(landed("winch.-"), "wire-overload")?.severity).not.toBe("watch");
    // Alone it says nothing its feed has not said.
    expect(of(landed("n"), "wire-overload")).toBeUndefined();
    expect(said(landed("n"), "wire-overload").some(({ also }) => also?.includes(back(landed("n"))))).toBe(true);
  });

  it("is protected against all that may come home through it; landing the other elsewhere settles that", () => {
    const verdict = of(landed("winch.-"), "fuse-over-wire");
    expect(verdict).toMatchObject({ severity: "stop", value: 35 });
    expect(verdict?.remedies[0]?.command.type).toBe("reland");
    const apart = remedied(landed("winch.-"), verdict);
    expect(of(apart, "fuse-over-wire")).toBeUndefined();
    expect(said(apart, "fuse-over-wire").map(({ id }) => id)).toEqual(said(landed("n"), "fuse-over-wire").map(({ id }) => id));
  });

  it("is sized for all of it", () => {
    const sized = sizedAtOnce(landed("winch.-"), { objective: "mass" }).machine;
    expect(said(sized, "fuse-over-wire")).toEqual([]);
    expect(of(sized, "wire-overload")).toBeUndefined();
  });
});

describe("a fuse in the closed box", () => {
  it("carries less, in its verdict, its least rating and what is chosen for it", () => {
    const warm = must(simple({ amps: 15, gauge: "10 AWG" }), { type: "setSettings", changes: { boxRiseK: 40 } });
    const machine = must(warm, { type: "updateWire", id: "w2", changes: { fuse: { family: "blade_regular_32v", ratingA: 20 } } });
    expect(said(machine, "fuse-too-small").filter(({ subject }) => subject.id === "w2")).toEqual([]);
    const boxed = feed(machine, { surroundings: "box" });
    const verdict = said(boxed, "fuse-too-small").find(({ subject }) => subject.id === "w2");
    expect(verdict?.severity).toBe("fix");
    const chosen = sizedAtOnce(boxed, { objective: "mass" }).machine;
    expect(chosen.wires.find(({ id }) => id === "w2")?.fuse?.ratingA).toBeGreaterThan(20);
  });
});

describe("fuses, where they sit and what they are", () => {
  const fused = (fuse: FuseRef, machine = simple({ gauge: "14 AWG" })) =>
    must(machine, { type: "updateWire", id: "w2", changes: { fuse } });

  it("out of reach are watched, and wire before them is judged by what is upstream", () => {
    const blade: FuseRef = { family: "blade_regular_32v", ratingA: 10 };
    expect(one(fused({ ...blade, outOfReach: true }), "fuse-place")?.severity).toBe("watch");
    const thin = (atM: number) => fused({ ...blade, ratingA: 5, atM }, feed(simple({ amps: 2, gauge: "20 AWG" }), {}));
    expect(said(thin(0.1), "fuse-place")).toEqual([]);
    // A blade of 20 A before it ends a short in it long before it is hot; a strip of 60 A lets it burn.
    expect(said(thin(2.5), "fuse-place")).toEqual([]);
    const behind = (atM: number) => change(thin(atM), "main", { fuse: { family: "strip_m5_58v", ratingA: 60 } });
    expect(said(behind(0.15), "fuse-place")).toEqual([]);
    expect(one(behind(0.5), "fuse-place", "run")).toMatchObject({ severity: "stop", value: 0.5 });
    expect(said(remedied(behind(0.5), one(behind(0.5), "fuse-place")), "fuse-place")).toEqual([]);
    // Sheathed it is accepted by its practice up to 1.83 m, where something ends a short at last.
    const sleeve = (machine: Machine) => must(machine, { type: "updateWire", id: "w2", changes: { surroundings: "sleeve" } });
    expect(said(sleeve(behind(0.5)), "fuse-place")).toEqual([]);
    expect(one(sleeve(behind(2)), "fuse-place", "run")?.severity).toBe("stop");
  });

  it("of silicon or polymer are not all that guards a battery", () => {
    const soft = (fuse: FuseRef) => change(simple({ amps: 2 }), "main", { fuse });
    const machine = soft({ family: "efuse_internal", ratingA: 5 });
    expect(one(machine, "backup-fuse")?.severity).toBe("fix");
    expect(said(remedied(machine, one(machine, "backup-fuse")), "backup-fuse")).toEqual([]);
    expect(one(soft({ family: "ptc_radial_30v", ratingA: 5 }), "backup-fuse")?.severity).toBe("fix");
    expect(said(fused({ family: "efuse_internal", ratingA: 10 }), "backup-fuse")).toEqual([]);
  });

  it("with an AC rating only are asked about, once for volts and once for amps", () => {
    const machine = fused({ family: "cart_5x20_T_glass", ratingA: 6.3 });
    expect(one(machine, "fuse-voltage")?.severity).toBe("ask");
    expect(said(remedied(machine, one(machine, "fuse-voltage")), "fuse-voltage")).toEqual([]);
  });

  it("open continuously by 2.1 times their rating, so their wire must bear half as much again", () => {
    const cartridge = fused({ family: "cart_5x20_T_glass", ratingA: 10 }, feed(simple({ amps: 3, gauge: "20 AWG" }), {}));
    expect(one(cartridge, "fuse-over-wire")?.value).toBeCloseTo((10 * 2.1) / 1.45, 6);
  });

  it("must break the strongest short there, or another family is offered", () => {
    const machine = change(simple(), "pack", { internalOhm: f(0.002) });
    const verdict = one(machine, "breaking-capacity");
    expect(verdict).toMatchObject({ severity: "stop", limit: 1000 });
    expect(verdict?.value).toBeGreaterThan(1000);
    const mended = remedied(machine, verdict);
    expect(said(mended, "breaking-capacity").filter(({ severity }) => severity === "stop")).toEqual([]);
  });

  it("that open with the one behind them are watched", () => {
    const close = fused({ family: "blade_regular_32v", ratingA: 15 });
    expect(one(close, "selective")?.severity).toBe("watch");
    expect(said(fused({ family: "blade_regular_32v", ratingA: 3 }, simple({ amps: 1 })), "selective")).toEqual([]);
  });

  it("too slow for what flows at the far end, or not opened at all by it, are told, and a smaller one settles it", () => {
    const weak = (ratingA: number, ohm: number) =>
      change(simple({ amps: 2, gauge: "10 AWG", metres: 6, internalOhm: ohm }), "main", { fuse: { family: "blade_maxi_32v", ratingA } });
    const slow = one(weak(30, 0.04), "short-circuit", "slow");
    expect(slow).toMatchObject({ severity: "fix", limit: 5 });
    expect(slow?.also).toContain("motor");
    expect(said(remedied(weak(30, 0.04), slow), "short-circuit").length).toBeLessThanOrEqual(1);
    const never = one(weak(30, 0.2), "short-circuit", "never");
    // Nothing ends it, but no wire gets hotter than it bears: the pack and the place itself heat.
    expect(never).toMatchObject({ severity: "fix", limit: 30 });
    expect(never?.value).toBeLessThan(30 * 1.35);
    const small = change(weak(30, 0.2), "main", { fuse: { family: "blade_regular_32v", ratingA: 5 } });
    expect(said(small, "short-circuit")).toEqual([]);
  });

  it("let a thin wire burn in a short although they suit it continuously, and thicker wire settles it", () => {
    // A slow fuse of 40 A and 30 cm of wire that carries 40 A but not the short of a strong pack for so long.
    const strong = (gauge: string, fuse: FuseRef, ohm: number) =>
      change(change(simple({ amps: 5, gauge }), "main", { fuse }), "pack", { internalOhm: f(ohm) });
    const machine = strong("14 AWG", { family: "strip_m5_58v", ratingA: 30 }, 0.05);
    expect(said(machine, "fuse-over-wire")).toEqual([]);
    const burnt = one(machine, "short-circuit", "w2");
    expect(burnt).toMatchObject({ severity: "stop", unit: "A²s" });
    expect(burnt?.value).toBeGreaterThan(burnt?.limit ?? Number.POSITIVE_INFINITY);
    expect(one(remedied(machine, burnt), "short-circuit", "w2")).toBeUndefined();
    const unsaid = feed(strong("14 AWG", { family: "blade_maxi_32v", ratingA: 20 }, 0.05), { insulation: "ptfe200" });
    expect(one(unsaid, "short-circuit", "ask")?.severity).toBe("ask");
  });

  it("go on another way after the first fuse has opened: said, not silence", () => {
    // Two ways to a bar: 5 A, and a 20 A that a weak short need not open.
    let machine = change(simple({ amps: 1, gauge: "10 AWG" }), "main", { fuse: { family: "blade_maxi_32v", ratingA: 40 } });
    machine = change(machine, "pack", { internalOhm: f(0.45) });
    const way = (ratingA: number) => ({
      gauge: "10 AWG",
      lengthM: f(0.5),
      fuse: { family: "blade_regular_32v" as const, ratingA },
    });
    machine = part(machine, "bar", "both", { side: "positive" }, { from: "main.out", wire: way(5) });
    machine = must(machine, {
      type: "addWire",
      wire: { role: "supply", from: at("main.out"), to: at("both"), parallel: 1, insulation: "pvc80", ...way(20) },
    });
    machine = part(
      machine,
      "load",
      "lamp",
      { nominalV: f(12), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "both", back: "pack.-", wire: { gauge: "10 AWG", lengthM: f(0.5) } },
    );
    const verdict = said(machine, "short-circuit").find(({ also }) => also?.includes("lamp"));
    expect(verdict).toMatchObject({ severity: "fix", limit: 20 });
  });
});

describe("schools of driver feeds", () => {
  it("each fused: a driver without a fuse of its own gets one", () => {
    let machine = schools(driven(), { driverFeeds: "each fused" });
    // The main fuse guards nothing but this driver: it is its own.
    expect(said(machine, "driver-feeds")).toEqual([]);
    machine = part(
      machine,
      "load",
      "lamp",
      { nominalV: f(24), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(1) } },
    );
    const verdict = one(machine, "driver-feeds");
    expect(verdict?.severity).toBe("fix");
    expect(said(remedied(machine, verdict), "driver-feeds")).toEqual([]);
  });

  it("main only: what the main fuse lets through is judged by the short, not by its rating", () => {
    const thin = (gauge: string, metres = 1) => {
      const machine = schools(driven(), { driverFeeds: "main only" });
      const wire = machine.wires.find(({ to }) => to.part === "drive");
      return feed(machine, { gauge, lengthM: f(metres) }, wire?.id);
    };
    expect(one(schools(thin("10 AWG"), { driverFeeds: undefined }), "fuse-over-wire")?.severity).toBe("fix");
    expect(said(thin("10 AWG"), "fuse-over-wire")).toEqual([]);
    expect(one(thin("10 AWG"), "driver-feeds")?.severity).toBe("watch");
    expect(one(thin("10 AWG", 4), "driver-feeds")?.severity).toBe("fix");
    expect(one(thin("20 AWG"), "driver-feeds")?.severity).toBe("stop");
    // Nobody can say that it survives what is not known.
    const wire = thin("10 AWG").wires.find(({ to }) => to.part === "drive")?.id ?? "";
    expect(one(feed(thin("10 AWG"), { lengthM: undefined }, wire), "driver-feeds")?.severity).toBe("ask");
    expect(one(change(thin("10 AWG"), "pack", { internalOhm: undefined }), "driver-feeds")?.severity).toBe("ask");
  });
});

describe("labels", () => {
  it("are missed on machines with more than a handful of feeds, and numbered in one step", () => {
    expect(said(simple(), "labels")).toEqual([]);
    const bare = settledBarge();
    expect(said(bare, "labels")).toEqual([]);
    const first = bare.wires[0]?.id ?? "";
    const machine = feed(bare, { label: undefined }, first);
    const verdict = one(machine, "labels");
    expect(verdict?.headline).toContain("1 of");
    const after = remedied(machine, verdict);
    expect(said(after, "labels")).toEqual([]);
    const labels = after.wires.filter(({ pair }) => pair === undefined).flatMap(({ label }) => label ?? []);
    expect(new Set(labels).size).toBe(labels.length);
  });
});
