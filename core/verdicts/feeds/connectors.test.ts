import { describe, expect, it } from "vitest";
import { feed, one, remedied, said, schools } from "@/tests/support/judged";
import { must, part, simple } from "@/tests/support/small";
import { analyseFully } from "../../analysis/fully";
import type { FeedChanges } from "../../machine/commands";
import { datasheet as f } from "../../machine/figure";

describe("connectors over their current", () => {
  const plug = (family: string, amps: number, over = {}) => feed(simple({ amps, gauge: "12 AWG" }), { toEnd: { family, ...over } });

  it("watches, fixes and stops by how far over, and one remedy takes a family that carries it", () => {
    expect(said(plug("key60", 20), "connector-current")).toEqual([]);
    expect(one(plug("key60", 28), "connector-current")?.severity).toBe("watch");
    expect(one(plug("auto28", 24), "connector-current")?.severity).toBe("fix");
    expect(one(plug("crimp396", 16), "connector-current")?.severity).toBe("stop");
    const machine = plug("auto28", 24);
    const verdict = one(machine, "connector-current");
    expect(verdict).toMatchObject({ limit: 20, unit: "A" });
    expect(verdict?.value).toBeCloseTo(24, 6);
    expect(said(remedied(machine, verdict), "connector-current")).toEqual([]);
  });

  it("says it once for both poles of a housing", () => {
    expect(said(plug("auto28", 24), "connector-current")).toHaveLength(1);
  });

  it("lets a return speak for itself where others land on it", () => {
    let machine = feed(simple({ amps: 10, gauge: "12 AWG" }), { toEnd: { family: "auto28" } });
    machine = part(
      machine,
      "load",
      "lamp",
      { nominalV: f(12), cells: { m1: { state: "amps", amps: f(14) } } },
      { from: "main.out", back: "motor.-", wire: { gauge: "12 AWG", lengthM: f(0.5) } },
    );
    const back = machine.wires.find(({ pair }) => pair === "w2");
    const found = said(machine, "connector-current");
    expect(found.map(({ subject }) => subject.id)).toEqual([back?.id]);
    expect(found[0]?.value).toBeCloseTo(24, 6);
  });

  it("lowers for loaded contacts and for heat, and never below what is asked", () => {
    expect(said(plug("crimp420", 7), "connector-current")).toEqual([]);
    expect(one(plug("crimp420", 7, { loaded: 16 }), "connector-current")?.limit).toBeCloseTo(6.03, 2);
    const hot = must(plug("key60", 20), { type: "setSettings", changes: { ambientC: 90 } });
    expect(one(hot, "connector-current")?.limit).toBeCloseTo(30 * Math.sqrt(15 / 30), 6);
  });

  it("judges timed modes by what the class number promises for seconds", () => {
    let machine = must(plug("key30", 10), { type: "addMode", name: "Start", lastsS: 2 });
    const start = machine.modes[1]?.id ?? "";
    const draws = (amps: number) =>
      must(machine, { type: "setCell", loadId: "motor", modeId: start, cell: { state: "amps", amps: f(amps) } });
    expect(said(draws(25), "connector-current")).toEqual([]);
    machine = draws(35);
    expect(one(machine, "connector-current")).toMatchObject({ severity: "fix", limit: 30 });
  });

  it("says how warm it settles where it is over, and not where little room is left", () => {
    const rated = one(plug("key60", 29), "connector-current");
    expect(rated?.severity).toBe("watch");
    expect(rated?.detail).not.toMatch(/\d K above/);
    expect(one(plug("key60", 36), "connector-current")?.detail).toMatch(/\d K above/);
  });

  it("counts the rings of a rotary joint, and offers more of them", () => {
    const rings = (perPole: number) =>
      feed(simple({ amps: 12, gauge: "16 AWG" }), { toEnd: { family: "slip10", perPole, loaded: 2 * perPole } });
    const verdict = one(rings(1), "connector-current");
    expect(verdict?.severity).toBe("fix");
    expect(verdict?.remedies.map(({ label }) => label).join()).toContain("2 rings");
    expect(one(rings(2), "connector-current")?.severity).not.toBe("fix");
    expect(said(remedied(rings(1), verdict), "connector-current").every(({ severity }) => severity === "watch")).toBe(true);
  });

  it("does not let a hot wire end in a common housing", () => {
    const machine = schools(feed(simple({ amps: 36, gauge: "16 AWG" }), { insulation: "sil200", toEnd: { family: "key90" } }), {
      ampacity: "heat balance",
    });
    expect(one(machine, "connector-current", "hot")?.value).toBeGreaterThan(105);
  });
});

describe("what goes into a connector", () => {
  it("is too thin or too thick, two in one barrel count together, and another family settles it", () => {
    const end = (gauge: string, family: string, parallel = 1) => feed(simple({ amps: 5, gauge }), { toEnd: { family }, parallel });
    expect(said(end("14 AWG", "key60"), "connector-fit")).toEqual([]);
    expect(one(end("18 AWG", "key60"), "connector-fit")?.headline).toContain("too thin");
    expect(one(end("8 AWG", "key60"), "connector-fit")?.headline).toContain("too thick");
    expect(one(end("12 AWG", "key60", 2), "connector-fit")?.headline).toContain("too thick");
    const machine = end("18 AWG", "key60");
    expect(said(remedied(machine, one(machine, "connector-fit")), "connector-fit")).toEqual([]);
    expect(said(end("2.5 mm²", "key60"), "connector-fit")).toEqual([]);
  });

  it("must bear the rail's volts", () => {
    const machine = feed(simple({ amps: 2, gauge: "20 AWG" }), { toEnd: { family: "usba" } });
    expect(one(machine, "connector-fit", "volts")).toMatchObject({ severity: "fix", limit: 5 });
  });
});

describe("pins and places of plugs", () => {
  it("asks which half stays live, and takes the answer for all", () => {
    const machine = feed(simple(), { toEnd: { family: "key60" } });
    const verdict = one(machine, "live-pins");
    expect(verdict?.severity).toBe("ask");
    expect(said(remedied(machine, verdict), "live-pins")).toEqual([]);
    expect(said(feed(simple(), { toEnd: { family: "ringM5" } }), "live-pins")).toEqual([]);
  });

  it("fixes pins that show, and families that have no recessed half", () => {
    expect(one(feed(simple(), { toEnd: { family: "key60", live: "pins" } }), "live-pins")?.severity).toBe("fix");
    expect(one(feed(simple(), { toEnd: { family: "barrier95" } }), "live-pins")).toBeUndefined();
    expect(said(feed(simple(), { toEnd: { family: "bul35", live: "recessed" } }), "live-pins")).toEqual([]);
  });

  const twoRails = (a: string | undefined, b: string | undefined, family = "key60") => {
    let machine = feed(simple({ gauge: "14 AWG" }), { toEnd: { family, ...(a ? { coding: a } : {}) } });
    machine = part(
      machine,
      "converter",
      "buck",
      { outputV: f(5), ratedA: f(5), limitA: f(6) },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(0.5) } },
    );
    machine = part(
      machine,
      "load",
      "board",
      { loadKind: "board", nominalV: f(5), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "14 AWG", lengthM: f(0.4) } },
    );
    const wire = machine.wires.find(({ to }) => to.part === "board")?.id ?? "";
    return feed(machine, { toEnd: { family, ...(b ? { coding: b } : {}) } }, wire);
  };

  it("lists plugs of two rails that go into one another, until keys tell them apart", () => {
    const machine = twoRails(undefined, undefined);
    const verdict = one(machine, "mis-mate");
    expect(verdict?.also?.length).toBe(2);
    expect(said(remedied(machine, verdict), "mis-mate")).toEqual([]);
    expect(said(twoRails("red", "blue"), "mis-mate")).toEqual([]);
    expect(said(twoRails("red", "red"), "mis-mate")).toHaveLength(1);
    // A colour is no key where the family has none.
    expect(said(twoRails("red", "blue", "bul35"), "mis-mate")).toHaveLength(1);
  });
});

describe("wires that move, are doubled, or share a node", () => {
  it("asks and fixes strands and relief at a moving joint", () => {
    const severities = (changes: FeedChanges) =>
      said(feed(simple(), { moves: true, ...changes }), "moving-wire").map(({ severity }) => severity);
    expect(severities({})).toEqual(["ask", "ask"]);
    expect(severities({ strand: "solid", relief: false })).toEqual(["stop", "fix"]);
    expect(severities({ strand: "stranded", relief: true })).toEqual(["fix"]);
    expect(severities({ strand: "fine", relief: true })).toEqual([]);
    expect(severities({ strand: "fine", relief: true, insulation: "sil200" })).toEqual(["watch"]);
    expect(said(simple(), "moving-wire")).toEqual([]);
  });

  it("tells doubled conductors that differ, and a fuse that no longer protects the one left", () => {
    const doubled = (over: FeedChanges, amps = 5) => feed(simple({ amps, gauge: "18 AWG" }), { parallel: 2, ...over });
    expect(one(doubled({ unequal: true }), "parallel-wires")?.severity).toBe("fix");
    const single = one(doubled({}), "parallel-wires");
    expect(single).toMatchObject({ severity: "watch", value: 20 });
    expect(single?.limit).toBeCloseTo(16, 6);
    expect(said(feed(simple({ gauge: "14 AWG" }), { parallel: 2 }), "parallel-wires")).toEqual([]);
  });

  it("sums what a bar or a Y-lead's trunk carries", () => {
    const lead = (ratedA: number) => {
      let machine = part(
        simple({ amps: 2 }),
        "bar",
        "why",
        { side: "positive", form: "Y-lead", ratedA: f(ratedA) },
        { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.2) } },
      );
      for (const id of ["a", "b"])
        machine = part(
          machine,
          "load",
          id,
          { nominalV: f(12), cells: { m1: { state: "amps", amps: f(4) } } },
          { from: "why", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.5) } },
        );
      return machine;
    };
    expect(said(lead(20), "node-rating")).toEqual([]);
    expect(one(lead(8.5), "node-rating")?.severity).toBe("watch");
    expect(one(lead(6), "node-rating")).toMatchObject({ severity: "fix", limit: 6 });
    expect(one(lead(6), "node-rating")?.value).toBeCloseTo(8, 6);
  });

  it("offers a trace the width that carries its current, and never a wire size", () => {
    const trace = (mm: number) =>
      feed(simple({ amps: 9 }), { gauge: undefined, board: { kind: "trace", widthMm: f(mm), copperUm: f(35), layer: "outside" } });
    const thin = one(trace(2), "wire-overload");
    expect(thin?.severity === "fix" || thin?.severity === "stop").toBe(true);
    const wide = remedied(trace(2), thin);
    expect(said(wide, "wire-overload").filter(({ severity }) => severity !== "watch")).toEqual([]);
    for (const { remedies } of analyseFully(trace(2)).analysis.verdicts)
      for (const { label } of remedies) expect(label).not.toMatch(/^Use \d+ AWG/);
    const pads = feed(simple({ amps: 9 }), { gauge: undefined, board: { kind: "pads" } });
    expect(one(pads, "wire-overload")?.remedies).toEqual([]);
  });

  it("takes the heavier fuse of two schools' tables, and asks where the table ends", () => {
    const machine = schools(simple({ gauge: "14 AWG" }), { ampacity: "building" });
    // NEC 240.4(D) allows 14 AWG 15 A; the main fuse is 20 A.
    expect(one(machine, "fuse-over-wire")).toMatchObject({ severity: "fix", value: 20, limit: 15 });
    expect(said(remedied(machine, one(machine, "fuse-over-wire")), "fuse-over-wire")).toEqual([]);
    const thin = schools(simple({ amps: 0.5, gauge: "24 AWG" }), { ampacity: "boat" });
    const ask = one(thin, "missing-figure", "table");
    expect(ask?.severity).toBe("ask");
    expect(said(remedied(thin, ask), "missing-figure")).toEqual([]);
  });
});
