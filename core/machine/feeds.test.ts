import { describe, expect, it } from "vitest";
import { change } from "@/tests/support/judged";
import { at, must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { crossMates, plugsOf } from "../connectors/mates";
import { capBefore, postLead } from "../figures/before-fuse";
import { aliveWith } from "../network/alive";
import { buildCircuit } from "../network/build";
import { endOhm, fuseOhm, wireOhm } from "../network/circuit";
import { wholeSheet } from "../sheet/whole";
import { applyCommand } from "./apply";
import { datasheet as f } from "./figure";
import { readMachine } from "./read";
import type { Machine, Wire } from "./schema";
import { ledgerOf } from "./tree";

const wireOf = (machine: Machine, id: string) => machine.wires.find((wire) => wire.id === id) as Wire;
const feed = (machine: Machine, changes: object) => must(machine, { type: "setFeed", id: "w2", changes });

describe("the ends of a feed", () => {
  it("stand on the return the other way round, and go away the same way", () => {
    const both = feed(simple(), { fromEnd: { family: "ringM6" }, toEnd: { family: "key60" } });
    const [supply, back] = [wireOf(both, "w2"), both.wires.find(({ pair }) => pair === "w2")];
    expect([supply.fromEnd?.family, supply.toEnd?.family]).toEqual(["ringM6", "key60"]);
    expect([back?.fromEnd?.family, back?.toEnd?.family]).toEqual(["key60", "ringM6"]);
    const one = feed(both, { toEnd: undefined });
    expect(wireOf(one, "w2").toEnd).toBeUndefined();
    expect(one.wires.find(({ pair }) => pair === "w2")?.fromEnd).toBeUndefined();
    expect(one.wires.find(({ pair }) => pair === "w2")?.toEnd?.family).toBe("ringM6");
    const longer = feed(both, { lengthM: f(3) });
    expect(longer.wires.find(({ pair }) => pair === "w2")?.fromEnd?.family).toBe("key60");
  });

  it("add the resistance of worn contacts, shared by those of one pole, and less while new and cold", () => {
    const bare = simple();
    const ended = feed(bare, { toEnd: { family: "crimp396", perPole: 2 } });
    const more = wireOhm(ended, wireOf(ended, "w2")) - wireOhm(bare, wireOf(bare, "w2"));
    expect(more).toBeCloseTo(0.02 / 2, 9);
    expect(endOhm({ family: "crimp396" }, true)).toBeCloseTo(0.01, 9);
    expect(endOhm(undefined)).toBe(0);
    expect(wireOhm(ended, wireOf(ended, "w2"), true)).toBeLessThan(wireOhm(ended, wireOf(ended, "w2")));
    const drop = (machine: Machine) => analyse(machine).figures.wires.w2?.dropV[0] ?? 0;
    expect(drop(ended) - drop(bare)).toBeCloseTo(5 * 0.01, 4);
  });

  it("are counted as pairs of halves on the sheet, once for a feed and its return, with what their key is", () => {
    const machine = feed(simple(), { toEnd: { family: "key60", coding: "red" }, fromEnd: { family: "bul35" }, label: "F7" });
    const { sheet } = wholeSheet(machine);
    const rows = sheet.buy.lines.filter(({ detail }) => detail.includes("both halves"));
    expect(rows.map(({ need, spare }) => [need, spare])).toEqual([
      [2, 1],
      [1, 1],
    ]);
    expect(rows[1]?.detail).toContain("red");
    expect(sheet.cut.flatMap(({ lines }) => lines.map(({ tag }) => tag))).toEqual(["W1", "F7", "F7−"]);
  });

  it("name the plugs of a machine by rail, motor leads apart, and leave lugs out", () => {
    const machine = feed(simple(), { toEnd: { family: "key60" }, fromEnd: { family: "ringM6" } });
    const plugs = plugsOf(machine, ledgerOf(machine));
    expect(plugs).toEqual([{ wire: "w2", end: "to", family: "key60", coding: null, rail: "pack", phase: false }]);
    expect(crossMates(machine, ledgerOf(machine))).toEqual([]);
  });
});

describe("copper of a board", () => {
  const trace = { kind: "trace", widthMm: f(5), copperUm: f(35), layer: "outside" } as const;

  it("stands in place of a size, never beside one, and is not cut or bought as wire", () => {
    const machine = feed(simple({ amps: 1 }), { gauge: undefined, board: trace });
    expect(analyse(machine).analysis.verdicts.filter(({ rule }) => rule === "missing-figure")).toEqual([]);
    const { sheet } = wholeSheet(machine);
    expect(sheet.cut.flatMap(({ lines }) => lines)).toHaveLength(1);
    expect(sheet.feeds.find(({ name }) => name === "motor")?.conductor).toContain("5 mm trace");
    const both = applyCommand(machine, { type: "setFeed", id: "w2", changes: { gauge: "14 AWG" } });
    expect(both.ok).toBe(false);
  });

  it("has the resistance of its width and thickness, without crimped ends", () => {
    const machine = feed(simple({ metres: 0.05 }), { gauge: undefined, board: trace });
    expect(wireOhm(machine, wireOf(machine, "w2"), true)).toBeCloseTo(4.926e-3, 5);
    const pads = feed(machine, { board: { kind: "pads" } });
    expect(wireOhm(pads, wireOf(pads, "w2"), true)).toBeCloseTo((17.241e-9 * 0.05) / 0.24e-6, 6);
    const nothing = feed(pads, { lengthM: undefined });
    expect(wireOhm(nothing, wireOf(nothing, "w2"))).toBeGreaterThan(0);
  });
});

describe("fuses", () => {
  it("keep where they sit when another one is put in", () => {
    const placed = must(simple(), {
      type: "updateWire",
      id: "w2",
      changes: { fuse: { family: "blade_regular_32v", ratingA: 10, place: "block", atM: 0.1, outOfReach: true } },
    });
    const other = must(placed, { type: "setFuse", wireId: "w2", fuse: { family: "blade_maxi_32v", ratingA: 20 } });
    expect(wireOf(other, "w2").fuse).toEqual({ family: "blade_maxi_32v", ratingA: 20, place: "block", atM: 0.1, outOfReach: true });
    expect(wireOf(must(other, { type: "setFuse", wireId: "w2", fuse: null }), "w2").fuse).toBeUndefined();
  });

  it("without a known resistance count with a tenth of a volt at their rating", () => {
    expect(fuseOhm({ family: "ptc_radial_16v", ratingA: 2.5 })).toBeCloseTo(0.1 / 2.5 + 0.5e-3, 9);
  });

  it("before a wire are found where it starts, and the lead from a battery's post is made for the first of them", () => {
    const { figures } = analyse(simple());
    const [post, run] = [figures.wireOf.get("w1"), figures.wireOf.get("w2")];
    if (!post || !run) throw new Error("no wires");
    expect(postLead(figures.machine, post)).toBe(20);
    expect(postLead(figures.machine, run)).toBeNull();
    expect(capBefore(figures, run)).toBe(20);
    expect(capBefore(figures, post)).toBe(20);
    const back = figures.machine.wires.find(({ pair }) => pair === "w2");
    expect(back && capBefore(figures, back)).toBe(20);
  });
});

describe("a document", () => {
  const problems = (machine: object) => {
    const read = readMachine(machine);
    return read.ok ? [] : read.problems.map(({ path }) => path);
  };

  it("is refused with the path of a connector, size or fuse that is in no table", () => {
    const machine = JSON.parse(JSON.stringify(feed(simple(), { toEnd: { family: "key60" } })));
    expect(problems(machine)).toEqual([]);
    const wrong = structuredClone(machine);
    wrong.wires[1].toEnd.family = "plug of my own";
    expect(problems(wrong).join()).toContain("wires[1].toEnd.family");
    const stock = structuredClone(machine);
    stock.settings.stock = { gauges: ["14 AWG", "15.5 AWG"], fuses: [{ family: "blade_regular_32v", ratingA: 17 }] };
    expect(problems(stock)).toEqual(["settings.stock.gauges[1]", "settings.stock.fuses[0].ratingA"]);
    const both = structuredClone(machine);
    both.wires[1].board = { kind: "pads" };
    expect(problems(both)).toEqual(["wires[1].gauge"]);
  });
});

describe("what is alive with contacts open", () => {
  it("follows metal on both sides, through converters, and asks the driver for its motors", () => {
    let machine = part(simple(), "switch", "sw", { contactOhm: f(1e-3) }, { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.2) } });
    machine = part(
      machine,
      "converter",
      "buck",
      { outputV: f(5) },
      { from: "sw.out", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.2) } },
    );
    machine = part(
      machine,
      "load",
      "board",
      { loadKind: "board", nominalV: f(5) },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "22 AWG", lengthM: f(0.2) } },
    );
    machine = part(
      machine,
      "driver",
      "drive",
      { channels: 1 },
      { from: "sw.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(0.2) } },
    );
    machine = part(
      machine,
      "load",
      "wheel",
      { nominalV: f(12) },
      { from: "drive.1a", back: "drive.1b", wire: { gauge: "14 AWG", lengthM: f(0.2) } },
    );
    const circuit = buildCircuit(machine);
    expect([...aliveWith(circuit, () => false)].sort()).toEqual(["board", "buck", "drive", "motor", "wheel"]);
    expect([...aliveWith(circuit, () => true)]).toEqual(["motor"]);
  });

  it("knows a part whose return is cut as dead", () => {
    const machine = simple();
    const back = machine.wires.find(({ pair }) => pair === "w2");
    const cut = must(machine, { type: "removeWire", id: back?.id ?? "" });
    expect(aliveWith(buildCircuit(cut), () => false).has("motor")).toBe(false);
    const moved = must(change(machine, "motor", {}), { type: "reland", wireId: back?.id ?? "", end: "to", at: at("main.out") });
    expect(aliveWith(buildCircuit(moved), () => false).has("motor")).toBe(false);
  });
});
