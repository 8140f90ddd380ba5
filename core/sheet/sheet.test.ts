import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { must, part, simple } from "@/tests/support/small";
import { UNREAD } from "@/tests/support/unread";
import { analyse } from "../analysis/analyse";
import type { Reading } from "../bringup/log";
import { bringUpOf } from "../bringup/plan";
import { weightOf } from "../exchange/compare";
import { ownRuns } from "../loads/phases";
import { newPart } from "../machine/defaults";
import { datasheet, typical } from "../machine/figure";
import type { Machine, Part } from "../machine/schema";
import { entryOf, type ShelfItem, type ShelfPart } from "../machine/shelf";
import { terminalsOf } from "../machine/terminals";
import { sheetOf as sheetFrom } from "./sheet";
import { isLaid, tagsOf } from "./tags";
import { wholeSheet } from "./whole";

const sheetOf = (machine: Machine, shelf: readonly ShelfItem[] = []) => {
  const { figures, analysis } = analyse(machine);
  return sheetFrom(figures, analysis, { shelf, judged: UNREAD });
};
const lineOf = (machine: Machine, start: string, shelf: readonly ShelfItem[] = []) =>
  sheetOf(machine, shelf).buy.lines.find(({ what }) => what.startsWith(start));
const cutOf = (machine: Machine) => sheetOf(machine).cut.flatMap(({ gauge, lines }) => lines.map((line) => ({ ...line, gauge })));
/** Spaces that keep a unit with its figure, as plain ones. */
const loose = (text: string | undefined) => (text ?? "").replace(/\u00a0/g, " ");

describe("the buy list", () => {
  it("totals wire by size with a tenth to spare, and says what is not counted", () => {
    let machine = simple({ metres: 2, gauge: "14 AWG" });
    machine = must(machine, { type: "setFeed", id: "w2", changes: { parallel: 2 } });
    expect(lineOf(machine, "Wire 14 AWG")?.need).toBeCloseTo(2 * 2 * 2 * 1.1, 9);
    const unknown = must(machine, { type: "setFeed", id: "w2", changes: { lengthM: undefined } });
    expect(lineOf(unknown, "Wire 14 AWG")?.detail).toContain("unknown length");
  });

  it("cuts, buys and weighs the leads that loads bring along: two for each piece of a group, four to a stepper", () => {
    const lead = { gauge: "22 AWG", insulation: "pvc80", lengthM: typical(0.5) };
    const plain = must(simple(), { type: "updatePart", id: "motor", changes: { count: 3 } });
    const grouped = must(plain, { type: "updatePart", id: "motor", changes: { ownLead: lead } });
    const stepper = must(plain, { type: "updatePart", id: "motor", changes: { loadKind: "stepper", count: 1, phaseLead: lead } });
    const bought = (machine: Machine) => lineOf(machine, "Wire 22 AWG")?.need.toFixed(2);
    expect([plain, grouped, stepper].map(bought)).toEqual([undefined, "3.30", "2.20"]);
    expect(cutOf(grouped).at(-1)).toMatchObject({ gauge: "22 AWG", pieces: 6 });
    const copper = (machine: Machine) => weightOf(machine).copperKg - weightOf(plain).copperKg;
    expect(copper(grouped) / copper(stepper)).toBeCloseTo(6 / 4, 9);
  });

  it("counts fuses of a rating together, with spares of that rating, and a holder for each that has none", () => {
    const machine = must(simple(), { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 20 } });
    const fuses = sheetOf(machine).buy.lines.filter(({ what }) => what.startsWith("Fuse "));
    expect(fuses).toHaveLength(1);
    expect(fuses[0]).toMatchObject({ need: 2, spare: 2 });
    expect(lineOf(machine, "In-line holder")?.need).toBe(2);
    const inBlock = must(machine, { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 20, place: "block" } });
    expect(lineOf(inBlock, "In-line holder")?.need).toBe(1);
    const five = must(machine, { type: "setFuse", wireId: "w2", fuse: { family: "strip_m8_70v", ratingA: 100 } });
    expect(lineOf(five, "Fuse 100")).toMatchObject({ need: 1, spare: 1 });
  });

  it("names ratings, never what a program calls a thing", () => {
    for (const { make } of EXAMPLES)
      for (const { what } of sheetOf(make()).buy.lines)
        expect(what).not.toMatch(/^(Load|Converter|Pack|Part|Switch$|Motor driver$)\b(?!,)/);
    const driver = newPart("driver", "d", "Anything", { channels: 2, headlineA: datasheet(60), continuousA: datasheet(30) });
    const machine = part(simple(), "driver", "d", driver, { from: "main.out", wire: {} });
    expect(loose(lineOf(machine, "Motor driver")?.what)).toBe("Motor driver, 2 channels, 60 A printed");
  });

  it("takes a box with two outputs for one supply, and blocks of a pack for blocks", () => {
    const twelve = newPart("supply", "s1", "Twelve", { outputV: datasheet(12), ratedA: datasheet(16) });
    const five = newPart("supply", "s2", "Five", { outputV: datasheet(5), ratedA: datasheet(20), box: "s1" });
    const boxed: Machine = { ...simple(), parts: [...simple().parts, twelve, five] };
    const supplies = sheetOf(boxed).buy.lines.filter(({ what }) => what.startsWith("DC supply"));
    expect(supplies).toHaveLength(1);
    expect(supplies[0]).toMatchObject({ need: 1 });
    expect(loose(supplies[0]?.what)).toBe("DC supply, 2 outputs, 12 V 16 A and 5 V 20 A");
    const blocks = must(simple(), { type: "updatePart", id: "pack", changes: { blocks: 2, series: 12, chemistry: "lead_agm" } });
    expect(lineOf(blocks, "Battery block")).toMatchObject({ need: 2 });
  });

  it("asks for lugs by wire and stud, ferrules by section, and for a spare of what a first power-up kills", () => {
    const studs = must(simple(), { type: "updatePart", id: "pack", changes: { stud: "M8" } });
    const lugs = sheetOf(studs).buy.lines.filter(({ what }) => what.startsWith("Ring lug"));
    expect(lugs.some(({ what }) => what.endsWith("M8"))).toBe(true);
    const converter = newPart("converter", "c", "C", { outputV: datasheet(5), ratedA: datasheet(3) });
    const machine = part(simple(), "converter", "c", converter, { from: "main.out", wire: { gauge: "18 AWG" } });
    expect(lineOf(machine, "Step-down converter")?.spare).toBe(1);
    // 18 AWG is 0.82 mm²: the next ferrule of the series is 1 mm².
    expect(loose(sheetOf(machine).buy.lines.find(({ what }) => what.startsWith("Ferrule"))?.what)).toBe("Ferrule 1 mm²");
    expect(lineOf(machine, "DC motor")?.spare).toBe(0);
  });

  it("takes what lies on the shelf off the list, each piece once, and adds up what the rest costs", () => {
    const machine = must(simple(), { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 20 } });
    const motor = machine.parts.find(({ id }) => id === "motor") as ShelfPart;
    const entry = { cost: 0.5, note: "", quirks: "" };
    const shelf: ShelfItem[] = [
      { id: "f1", thing: { sort: "fuse", family: "blade_regular_32v", ratingA: 20 }, count: 3, ...entry },
      { id: "m1", ...entryOf(motor), count: 5 },
    ];
    expect(lineOf(machine, "Fuse 20", shelf)).toMatchObject({ need: 2, spare: 2, have: 3, buy: 1, costEach: 0.5 });
    expect(lineOf(machine, "DC motor", shelf)).toMatchObject({ have: 1, buy: 0 });
    expect(sheetOf(machine, shelf).buy.cost).toBeCloseTo(0.5, 9);
    const uncounted = shelf.map((item) => ({ ...item, count: null }));
    expect(lineOf(machine, "Fuse 20", uncounted)).toMatchObject({ have: "some", buy: 0 });
    // The same item under two names is not counted twice.
    const twice = part(machine, "load", "other", { ...motor, id: "other", name: "Other", nominalV: datasheet(13), shelf: "m1" } as Part, {
      from: "main.out",
      wire: {},
    });
    const lines = sheetOf(twice, [{ id: "m1", ...entryOf(motor), count: 1 }]).buy.lines.filter(({ what }) => what.startsWith("DC motor"));
    expect(lines.reduce((sum, { have }) => sum + (have === "some" ? 0 : have), 0)).toBe(1);
  });
});

describe("the lists one works from", () => {
  it("mark what is not known and what is a lower bound", () => {
    const machine = must(must(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: null }), {
      type: "setFeed",
      id: "w2",
      changes: { gauge: undefined },
    });
    const row = sheetOf(machine).feeds.find((each) => each.name === "motor");
    expect(row).toMatchObject({ conductor: "?", limit: "?" });
    expect(row?.worst.startsWith("≥")).toBe(true);
  });

  it("put a fuse into the cut list at its place, and name both ends with what goes on them", () => {
    const machine = must(simple(), { type: "setFuse", wireId: "w2", fuse: { family: "blade_mini_32v", ratingA: 10, atM: 0.15 } });
    const line = cutOf(machine).find(({ fuseTag }) => fuseTag !== "");
    expect(loose(line?.fuse)).toBe("F2 10 A: in-line holder, mini blade, 0.15 m from its start");
    expect(cutOf(machine)[0]).toMatchObject({ from: "pack +", to: "main in", fromEnd: expect.stringContaining("ring lug") });
  });

  it.each(EXAMPLES.map(({ key, make }) => [key, make()] as const))(
    "%s: every conductor has one tag, two labels and stands at both its parts",
    (_, machine) => {
      const { wires } = tagsOf(machine);
      const laid = machine.wires.filter(isLaid);
      expect(new Set(wires.values()).size).toBe(laid.length);
      const { labels, connections, fuses } = sheetOf(machine);
      for (const tag of wires.values()) expect(labels.filter((label) => label.tag === tag).length % 2).toBe(0);
      expect(labels.filter(({ tag }) => new Set(wires.values()).has(tag))).toHaveLength(
        2 * laid.reduce((sum, { parallel }) => sum + parallel, 0),
      );
      for (const { tag } of fuses) expect(labels.filter((label) => label.tag === tag)).toHaveLength(1);
      const ends = connections.flatMap(({ terminals }) => terminals);
      expect(ends).toHaveLength(2 * machine.wires.length);
      // A terminal that is connected is one the part has.
      for (const { part: name, terminals } of connections) {
        const own = machine.parts.find((each) => each.name === name);
        const known = own ? terminalsOf(own).map((each) => (each === "bar" ? "" : each.replace("-", "−"))) : [];
        for (const { terminal } of terminals) expect(known).toContain(terminal);
      }
      const runs = machine.parts.reduce((sum, each) => sum + (each.kind === "load" ? ownRuns(each).length : 0), 0);
      expect(cutOf(machine)).toHaveLength(laid.length + runs);
    },
  );

  it("give pins and colours of a link at both its boards", () => {
    const { make } = EXAMPLES[0] as (typeof EXAMPLES)[number];
    const machine = must(make(), {
      type: "updateSignal",
      id: "s-left",
      changes: { pins: [{ name: "PWM", fromPin: "D9", toPin: "IN1", colour: "yellow" }] },
    });
    const at = (name: string) =>
      sheetOf(machine)
        .connections.find((each) => each.part === name)
        ?.pins.find(({ colour }) => colour === "yellow");
    expect(at("Controller")).toEqual({ pin: "D9", signal: "PWM", to: "→ Paddle left driver IN1", colour: "yellow" });
    expect(at("Paddle left driver")).toEqual({ pin: "IN1", signal: "PWM", to: "← Controller D9", colour: "yellow" });
    const label = { tag: "PWM", where: "SIG · Controller D9 → Paddle left driver IN1", what: "yellow" };
    expect(sheetOf(machine).labels.filter(({ tag }) => tag === "PWM")).toEqual([label, label]);
  });

  it("keep a label that was given, and count past it", () => {
    const machine = must(simple(), { type: "setFeed", id: "w2", changes: { label: "W1" } });
    expect([...tagsOf(machine).wires.values()].sort()).toEqual(["W1", "W1−", "W2"]);
    const called = must(simple(), { type: "setFeed", id: "w2", changes: { label: "F1" } });
    expect(tagsOf(called).fuses.map(({ tag }) => tag)).toEqual(["FU1"]);
  });

  it("tell in the lid what is dead without a fuse, and what an emergency stop leaves alive", () => {
    const { make } = EXAMPLES[1] as (typeof EXAMPLES)[number];
    const sheet = sheetOf(make());
    expect(sheet.fuses[0]?.guards).toBe("everything");
    const paddle = sheet.fuses.find(({ guards }) => guards.includes("Paddle left"));
    expect(paddle?.guards).toBe("Paddle left driver, Paddle left");
    expect(sheet.stopped?.[0]).toMatch(/^Dead: .*Paddle left/);
    expect(sheet.stopped?.[1]).toMatch(/^Alive: .*Controller/);
    expect(sheetOf(simple()).stopped).toBeNull();
  });

  it("leave blanks for what was not read, and print what was, with a mark where it is off", () => {
    const { make } = EXAMPLES[0] as (typeof EXAMPLES)[number];
    const machine = make();
    const blank = wholeSheet(machine).sheet.bringUp;
    const steps = (stages: typeof blank) => stages.flatMap(({ groups }) => groups.flatMap((group) => group.steps));
    expect(steps(blank).every(({ read }) => read === null)).toBe(true);
    const reading: Reading = {
      queueId: "reading-0001",
      step: "tree:rail pack",
      stage: "tree",
      place: "pack",
      quantity: "volts",
      value: 3,
      instrument: "hand",
      uncertainty: null,
      takenAt: "2026-11-28T10:00:00.000Z",
      note: "",
      way: "typed",
      expected: 26.4,
      basis: null,
      struck: false,
    };
    const known = wholeSheet(machine).sheet;
    const ids = new Set(known.bringUp.map(({ title }) => title));
    expect(ids.size).toBe(known.bringUp.length);
    const { figures } = wholeSheet(machine);
    const log = { readings: stepIdOf(figures).map((step) => ({ ...reading, step })), waivers: [] };
    const printed = steps(wholeSheet(machine, { log }).sheet.bringUp).filter(({ read }) => read !== null);
    expect(printed).toHaveLength(1);
    expect(printed[0]).toMatchObject({ off: true });
    expect(loose(printed[0]?.read ?? "")).toBe("3.00 V");
  });
});

/** A step that reads volts of a rail. */
function stepIdOf(figures: ReturnType<typeof wholeSheet>["figures"]): string[] {
  const stages = bringUpOf(figures).stages;
  const step = stages
    .find(({ id }) => id === "tree")
    ?.steps.find(({ quantity, expect: wanted }) => quantity === "volts" && wanted.kind === "band");
  return step ? [step.id] : [];
}
