import { describe, expect, it } from "vitest";
import { reedcutter } from "@/demo/reedcutter";
import { must, part, simple } from "@/tests/support/small";
import { newPart } from "./defaults";
import { alignedTo, arrow, differenceWords } from "./difference-words";
import { datasheet, measured } from "./figure";
import type { Machine } from "./schema";

const words = (before: Machine, after: Machine) =>
  differenceWords(before, after).map(({ what, said }) => `${what}: ${said.join(", ")}`.replace(/\u00a0/g, " "));

describe("what tells two versions apart", () => {
  it("is said of a feed once for both its conductors, the unit once for both figures", () => {
    let after = must(simple({ gauge: "16 AWG" }), { type: "setFeed", id: "w2", changes: { gauge: "12 AWG" } });
    after = must(after, { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 20 } });
    const before = must(simple({ gauge: "16 AWG" }), { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 15 } });
    expect(words(before, after)).toEqual(["Motor feed: 16 → 12 AWG, fuse 15 → 20 A"]);
    const alone = must(before, { type: "updateWire", id: "w3", changes: { gauge: "10 AWG" } });
    expect(words(before, alone)).toEqual(["Motor feed: return: 16 → 10 AWG"]);
    expect(words(must(before, { type: "setFuse", wireId: "w2", fuse: null }), before)).toEqual(["Motor feed: fuse 15 A added"]);
  });

  it("tells how a figure is known where that is what changed", () => {
    const rated = (figure: ReturnType<typeof datasheet>) =>
      must(simple(), { type: "updatePart", id: "pack", changes: { capacityAh: figure } });
    expect(words(rated(datasheet(60)), rated(datasheet(105)))).toEqual(["Pack: capacity 60 → 105 Ah"]);
    expect(words(rated(datasheet(60)), rated(measured(60)))).toEqual(["Pack: capacity 60 Ah, datasheet → 60 Ah, measured"]);
    expect(words(simple(), rated(datasheet(60)))).toEqual(["Pack: capacity 60 Ah, datasheet"]);
    expect(words(rated(datasheet(60)), simple())).toEqual(["Pack: capacity taken out, was 60 Ah"]);
  });

  it("names a part that came or went, without its wires", () => {
    const more = part(simple(), "load", "lamp", newPart("load", "lamp", "Lamp", { loadKind: "light" }), { from: "main.out", wire: {} });
    const [line] = words(simple(), more);
    expect(words(simple(), more)).toHaveLength(1);
    expect(line).toMatch(/^Lamp: added$/i);
    expect(words(more, simple())[0]).toMatch(/^Lamp: removed$/i);
  });

  it("is nothing between a machine and itself, and everything it says has two different sides", () => {
    expect(words(reedcutter(false), reedcutter(false))).toEqual([]);
    for (const line of words(reedcutter(false), alignedTo(reedcutter(false), reedcutter(true)))) {
      const [before, after] = (/ ([^ ,:]+) → ([^ ,]+)$/.exec(line) ?? []).slice(1);
      if (before !== undefined) expect(before === after && !line.includes(",")).toBe(false);
    }
  });

  it("holds for machines that were not copied from each other: alike is what is called alike", () => {
    const renamed = (machine: Machine): Machine =>
      JSON.parse(JSON.stringify(machine).replace(/"(id|part|pair)":"/g, '"$1":"x-')) as Machine;
    const other = renamed(must(simple({ gauge: "16 AWG" }), { type: "setFeed", id: "w2", changes: { gauge: "12 AWG" } }));
    expect(words(simple({ gauge: "16 AWG" }), alignedTo(simple({ gauge: "16 AWG" }), other))).toEqual(["Motor feed: 16 → 12 AWG"]);
  });

  it("says a unit once only where both have it", () => {
    expect([arrow("16 AWG", "12 AWG"), arrow("2.5 mm²", "12 AWG"), arrow("nothing", "3 A"), arrow("1 h 20 min", "1 h 30 min")]).toEqual([
      "16 → 12 AWG",
      "2.5 mm² → 12 AWG",
      "nothing → 3 A",
      "1 h 20 min → 1 h 30 min",
    ]);
  });
});
