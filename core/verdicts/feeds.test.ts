import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { change, settle } from "@/tests/support/judged";
import { at, driven, must, part, simple } from "@/tests/support/small";
import { analyseFully } from "../analysis/analyse";
import { contactsOf } from "../analysis/contacts";
import type { FeedChanges } from "../machine/commands";
import { newMachine } from "../machine/defaults";
import { datasheet as f } from "../machine/figure";
import type { Cell, FuseRef, Machine, Settings } from "../machine/schema";
import { sizedAtOnce } from "../sizing/all";
import type { Verdict } from "./types";

const said = (machine: Machine, rule: string): Verdict[] =>
  analyseFully(machine).analysis.verdicts.filter((verdict) => verdict.rule === rule);
const one = (machine: Machine, rule: string, key = "") => said(machine, rule).find(({ id }) => id.includes(key));
const feed = (machine: Machine, changes: FeedChanges, id = "w2") => must(machine, { type: "setFeed", id, changes });
const schools = (machine: Machine, over: Partial<Settings["schools"]>) =>
  must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, ...over } } });
/** After the verdict's first remedy nothing of the rule is left there. */
const remedied = (machine: Machine, verdict: Verdict | undefined) => {
  expect(verdict?.remedies.length, verdict?.headline).toBeGreaterThan(0);
  return settle(machine, verdict?.remedies[0]?.command);
};

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
    expect(one(machine, "fuse-over-wire")).toMatchObject({ severity: "stop", value: 20, limit: 15 });
    expect(said(remedied(machine, one(machine, "fuse-over-wire")), "fuse-over-wire")).toEqual([]);
    const thin = schools(simple({ amps: 0.5, gauge: "24 AWG" }), { ampacity: "boat" });
    const ask = one(thin, "missing-figure", "table");
    expect(ask?.severity).toBe("ask");
    expect(said(remedied(thin, ask), "missing-figure")).toEqual([]);
  });
});

describe("contacts", () => {
  /** Pack, fuse, a contact that opens in the second mode, and a load behind it. */
  function switched(over: object, amps = 15, packV = 24, rest: Cell = { state: "off" }): Machine {
    let machine = must(newMachine("Switched"), { type: "addMode", name: "Off", lastsS: null });
    machine = must(machine, { type: "addMode", name: "Ready", lastsS: null });
    const [on = "", off = "", ready = ""] = machine.modes.map(({ id }) => id);
    machine = part(machine, "pack", "pack", {
      openCircuitV: f(packV),
      fullV: f(packV * 1.1),
      lowV: f(packV * 0.95),
      internalOhm: f(0.01),
      continuousA: f(100),
    });
    machine = part(
      machine,
      "switch",
      "main",
      { contactOhm: f(3e-4), openIn: [off], ...over },
      { from: "pack.+", wire: { gauge: "10 AWG", lengthM: f(0.1), fuse: { family: "strip_m5_58v", ratingA: 40 } } },
    );
    return part(
      machine,
      "load",
      "heater",
      {
        loadKind: "heater",
        nominalV: f(packV),
        cells: { [on]: { state: "amps", amps: f(amps) }, [off]: { state: "amps", amps: f(amps) }, [ready]: rest },
      },
      { from: "main.out", back: "pack.-", wire: { gauge: "10 AWG", lengthM: f(0.5) } },
    );
  }

  it("that open under load say what they break, or are asked", () => {
    expect(one(switched({}), "dc-contact")?.severity).toBe("ask");
    expect(said(switched({ breakA: f(30), breakV: f(32) }), "dc-contact")).toEqual([]);
    expect(one(switched({ breakA: f(10), breakV: f(32) }), "dc-contact", "amps")).toMatchObject({ severity: "stop", limit: 10 });
    expect(one(switched({ breakA: f(30), breakV: f(24) }), "dc-contact", "volts")?.severity).toBe("stop");
    expect(one(switched({ acOnly: true }), "dc-contact", "ac")?.severity).toBe("stop");
    expect(one(switched({ acOnly: true, openIn: [] }), "dc-contact", "ac")?.severity).toBe("fix");
    expect(said(switched({}, 15, 9), "dc-contact")).toEqual([]);
  });

  it("precharge capacitors that would weld them, enough and for long enough", () => {
    const bank = (over: object, farads = 6e-3) =>
      change(switched({ breakA: f(30), breakV: f(32), ...over }), "heater", { inputF: f(farads) });
    expect(one(bank({}), "precharge")?.severity).toBe("fix");
    expect(one(bank({}), "precharge")?.value).toBeCloseTo(0.5 * 6e-3 * 26.4 ** 2, 6);
    expect(said(bank({}, 100e-6), "precharge")).toEqual([]);
    const good = { prechargeOhm: f(33), prechargeS: f(1.2), prechargeJ: f(10), makeA: f(200) };
    expect(said(bank(good), "precharge")).toEqual([]);
    expect(one(bank({ ...good, prechargeS: f(0.3) }), "precharge", "gap")?.severity).toBe("fix");
    expect(one(bank({ ...good, prechargeJ: f(1) }), "precharge", "pulse")?.severity).toBe("fix");
    expect(one(bank({ ...good, prechargeJ: undefined }), "precharge", "pulse")?.severity).toBe("ask");
    expect(one(bank({ ...good, prechargeS: undefined }), "precharge", "time")?.severity).toBe("ask");
    expect(one(bank({ ...good, prechargeS: f(0.3), makeA: f(20) }), "precharge", "make")?.severity).toBe("fix");
  });

  it("do not fill what something behind them keeps empty", () => {
    const good = { breakA: f(30), breakV: f(32), prechargeOhm: f(33), prechargeS: f(1.2), prechargeJ: f(10) };
    const drawing = change(switched(good, 15, 24, { state: "amps", amps: f(0.2) }), "heater", { inputF: f(6e-3) });
    expect(one(drawing, "precharge", "gap")?.value).toBeCloseTo(26.4 * Math.exp(-1.2 / (33 * 6e-3)) + 0.2 * 33, 6);
    const held = change(switched(good, 15, 24, { state: "amps", amps: f(10) }), "heater", { inputF: f(6e-3) });
    expect(one(held, "precharge", "gap")?.value).toBeCloseTo(26.4, 6);
    expect(contactsOf(analyseFully(held).figures).contacts[0]?.precharge?.gapV).toBeCloseTo(26.4, 6);
  });

  it("ask for the capacitors of drivers nobody told of, with a precharge or without", () => {
    let machine = driven({}, {}, 36);
    machine = part(machine, "switch", "sw", { contactOhm: f(3e-4) }, { from: "main.out", wire: { gauge: "4 AWG", lengthM: f(0.1) } });
    const wire = machine.wires.find(({ to }) => to.part === "drive");
    machine = must(machine, { type: "reland", wireId: wire?.id ?? "", end: "from", at: at("sw.out") });
    expect(one(machine, "precharge", "ask")?.also).toEqual(["drive"]);
    expect(one(change(machine, "sw", { prechargeOhm: f(33) }), "precharge", "ask")?.also).toEqual(["drive"]);
  });

  it("of a charging port are recessed, fused by the battery, and hold motion", () => {
    const port = (over: object) =>
      part(
        simple(),
        "switch",
        "port",
        { device: "charging port", contactOhm: f(1e-3), ratedA: f(10), ...over },
        { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.4) } },
      );
    const severities = (over: object) => said(port(over), "charging-port").map(({ severity }) => severity);
    expect(severities({})).toEqual(["fix", "ask", "ask"]);
    expect(severities({ recessed: false, holdsMotion: false, ratedA: f(30) })).toEqual(["stop", "fix"]);
    expect(severities({ recessed: true, holdsMotion: true, ratedA: f(30) })).toEqual([]);
  });
});

describe("the emergency stop", () => {
  const stop = { devices: 2, normallyClosed: true, deliberateReset: true };

  it("says nothing without a school, and wants a marked contact under the one that opens power", () => {
    expect(said(driven(), "stop-circuit")).toEqual([]);
    expect(one(schools(driven(), { stop: "opens power" }), "stop-circuit")?.severity).toBe("fix");
  });

  it("finds what still moves and which boards go dark", () => {
    const barge = settledBarge();
    const before = said(barge, "stop-circuit").filter(({ severity }) => severity !== "watch");
    expect(before).toEqual([]);
    const cutter = barge.wires.find(({ to }) => to.part === "drive-cutter");
    const around = must(barge, { type: "reland", wireId: cutter?.id ?? "", end: "from", at: at("bar-p0") });
    const moving = one(around, "stop-circuit", "moving");
    expect(moving?.severity).toBe("stop");
    expect(moving?.also).toContain("cutter");
    const logic = barge.wires.find(({ to }) => to.part === "buck-5");
    const dark = must(barge, { type: "reland", wireId: logic?.id ?? "", end: "from", at: at("bar-p1") });
    expect(one(dark, "stop-circuit", "logic")?.also).toEqual(expect.arrayContaining(["controller", "computer"]));
  });

  it("wants loops that stop when they break, and a reset of its own", () => {
    const barge = settledBarge();
    const loop = (over: object) =>
      said(change(barge, "stop", { stop: { ...stop, ...over } }), "stop-circuit").filter(({ severity }) => severity !== "watch");
    expect(loop({ normallyClosed: false }).map(({ severity }) => severity)).toEqual(["stop"]);
    expect(loop({ deliberateReset: false }).map(({ severity }) => severity)).toEqual(["fix"]);
    expect(loop({})).toEqual([]);
  });

  it("asks for an input of each drive under the school that disables them, and does not trust enable lines alone", () => {
    const machine = schools(driven(), { stop: "disables drives" });
    expect(one(machine, "stop-circuit", "input")?.severity).toBe("ask");
    expect(one(change(machine, "drive", { stopInput: "enable" }), "stop-circuit", "silicon")?.severity).toBe("watch");
    const certified = change(machine, "drive", { stopInput: "certified" });
    expect(said(certified, "stop-circuit")).toEqual([]);
    const fan = part(
      certified,
      "load",
      "thrower",
      { loadKind: "motor", nominalV: f(24), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(0.5) } },
    );
    expect(one(fan, "stop-circuit", "undriven")).toMatchObject({ severity: "stop", also: ["thrower"] });
  });

  it("counts coils among what moves", () => {
    const barge = settledBarge();
    const latch = part(
      barge,
      "load",
      "latch",
      { loadKind: "coil", nominalV: f(24), cells: {} },
      { from: "bar-p0", back: "bar-n1", wire: { gauge: "18 AWG", lengthM: f(0.5) } },
    );
    expect(one(latch, "stop-circuit", "moving")?.also).toContain("latch");
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
    expect(one(thin(0.5), "fuse-place", "run")).toMatchObject({ severity: "fix", value: 0.5 });
    expect(one(thin(2.5), "fuse-place", "run")?.severity).toBe("stop");
    expect(said(remedied(thin(0.5), one(thin(0.5), "fuse-place")), "fuse-place")).toEqual([]);
    // The 20 A fuse before it protects 14 AWG anyway.
    expect(said(fused({ ...blade, atM: 1 }), "fuse-place")).toEqual([]);
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

  it("open for good by 2.1 times their rating, so their wire must bear half as much again", () => {
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
    expect(never).toMatchObject({ severity: "stop", limit: 30 });
    expect(never?.value).toBeLessThan(30 * 1.35);
    const small = change(weak(30, 0.2), "main", { fuse: { family: "blade_regular_32v", ratingA: 5 } });
    expect(said(small, "short-circuit")).toEqual([]);
  });

  it("let a thin wire burn in a short although they suit it for good, and thicker wire settles it", () => {
    // A slow fuse of 40 A and 30 cm of wire that carries 40 A but not the short of a strong pack for so long.
    const strong = (gauge: string, fuse: FuseRef, ohm: number) =>
      change(change(simple({ amps: 5, gauge }), "main", { fuse }), "pack", { internalOhm: f(ohm) });
    const machine = strong("12 AWG", { family: "strip_m5_58v", ratingA: 30 }, 0.005);
    expect(said(machine, "fuse-over-wire")).toEqual([]);
    const burnt = one(machine, "short-circuit", "w2");
    expect(burnt).toMatchObject({ severity: "stop", unit: "A²s" });
    expect(burnt?.value).toBeGreaterThan(burnt?.limit ?? Number.POSITIVE_INFINITY);
    expect(one(remedied(machine, burnt), "short-circuit", "w2")).toBeUndefined();
    const unsaid = feed(strong("14 AWG", { family: "blade_maxi_32v", ratingA: 20 }, 0.05), { insulation: "ptfe200" });
    expect(one(unsaid, "short-circuit", "ask")?.severity).toBe("ask");
  });

  it("go on another way after the first fuse has opened: a stop, not silence", () => {
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
    expect(verdict).toMatchObject({ severity: "stop", limit: 20 });
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
    expect(one(schools(thin("10 AWG"), { driverFeeds: undefined }), "fuse-over-wire")?.severity).toBe("stop");
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
