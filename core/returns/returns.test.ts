import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { flowSvg, pictureSvg } from "@/core/exchange/flow-svg";
import { applyCommand } from "@/core/machine/apply";
import { inverted, withChanges } from "@/core/machine/changes";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { CONNECTORS } from "@/core/reference/connectors";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { backOf, join, land, link, workshop } from "@/tests/support/grounds";
import { seeds } from "@/tests/support/seeds";
import { must, part, simple } from "@/tests/support/small";
import { talking } from "@/tests/support/talking";
import { explain } from "../working/explain";
import { compareLayouts } from "./arrange";
import { flowOf } from "./flow";
import { groundOf } from "./ground";
import { landCommand } from "./land";
import { layoutOf, thickness } from "./layout";
import { linksOf } from "./links";
import { compareLogicSupply } from "./logic-supply";
import { looseReturns } from "./loose";
import { pictureOf } from "./picture";
import { adviceFor, usualAtLeast } from "./practice";
import { homesOf, returning } from "./shared";
import { returnsOf } from "./summary";

const random = (seed: number, parts = 30) => talking(generateMachine({ parts, seed, meshed: seed % 2 === 0 }), seed);

describe("the ground as a forest with chords", () => {
  it("adds up to the same volts along any way, and every chord's way closes with it", () => {
    for (const seed of seeds(1, 12)) {
      const { figures } = analyse(random(seed));
      const ground = groundOf(figures);
      const { circuit, planned } = figures.solved;
      const volts = (steps: readonly { branch: number; sign: number }[]) =>
        steps.reduce((sum, { branch, sign }) => sum + sign * (planned[0]?.branchA[branch] ?? 0) * (circuit.branches[branch]?.ohm ?? 0), 0);
      const at = (node: number) => planned[0]?.nodeV[node] ?? Number.NaN;
      const parts = returning(figures);
      let ways = 0;
      for (const a of parts) {
        const b = parts[(parts.indexOf(a) * 7 + 3) % parts.length];
        const way = b && ground.way(ground.nodeOf(a.id), ground.nodeOf(b.id));
        if (!b || !way) continue;
        ways++;
        expect(volts(way)).toBeCloseTo(at(ground.nodeOf(a.id)) - at(ground.nodeOf(b.id)), 8);
      }
      expect(ways).toBeGreaterThan(3);
      for (const { branch, way } of ground.chords) expect(volts(way)).toBeCloseTo(volts([{ branch, sign: 1 }]), 8);
    }
  });

  it("brings a part home by the heavier of two ways, whichever was laid first", () => {
    for (const [first, second] of [
      ["18 AWG", "8 AWG"],
      ["8 AWG", "18 AWG"],
    ] as const) {
      const machine = must(simple({ gauge: first }), {
        type: "addWire",
        wire: {
          role: "return",
          from: { part: "motor", terminal: "-" },
          to: { part: "pack", terminal: "-" },
          gauge: second,
          lengthM: typical(1),
          parallel: 1,
          insulation: "pvc80",
        },
      });
      const { figures } = analyse(machine);
      const motor = figures.partOf.get("motor");
      const home = motor && groundOf(figures).home(motor);
      expect(home?.map(({ branch }) => machine.wires[branch]?.gauge)).toEqual(["8 AWG"]);
    }
  });

  it("takes a signal ground for a chord wherever a return joins the same places, and for the only way where none does", () => {
    const looped = join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", "6 AWG");
    expect(groundOf(analyse(looped).figures).chords.map(({ wire }) => wire.role)).toEqual(["signal"]);
    const alone = must(looped, { type: "removeWire", id: backOf(looped, "mind").id });
    expect(groundOf(analyse(alone).figures).chords).toEqual([]);
    expect(linksOf(analyse(alone).figures)[0]?.joined).toBe(true);
  });

  it("brings every part of a tree home by the conductors that carry its current", () => {
    const { figures } = analyse(workshop());
    const homes = homesOf(figures);
    expect(homes.of.get("drive")?.map(({ from }) => from.part)).toEqual(["drive", "n2", "n1"]);
    for (const wire of figures.machine.wires.filter(({ role }) => role === "return")) {
      const amps = (homes.through.get(wire.id) ?? []).reduce((sum, { id }) => sum + (figures.parts[id]?.amps[1] ?? 0), 0);
      expect(Math.abs(figures.wires[wire.id]?.amps[1] ?? 0)).toBeCloseTo(amps, 9);
    }
  });
});

describe("links as commands", () => {
  it("come and go with their own ground, undo exactly, and travel as JSON", () => {
    const talked = join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", "26 AWG");
    expect(readMachine(JSON.parse(JSON.stringify(talked)))).toMatchObject({ ok: true, machine: talked });
    const gone = applyCommand(talked, { type: "removeSignal", id: "s1" });
    if (!gone.ok) throw new Error(gone.message);
    expect(gone.machine.signals).toBeUndefined();
    expect(gone.machine.wires.some(({ role }) => role === "signal")).toBe(false);
    expect(withChanges(gone.machine, inverted(gone.changes)).machine).toEqual(talked);
  });

  it("go with a board that is removed, and do not keep it from being removed", () => {
    const talked = join(link(workshop(), "mind", "sense"), "signal", "mind.-", "sense.-", "26 AWG");
    const without = must(talked, { type: "removePart", id: "mind" });
    expect(without.signals).toBeUndefined();
    expect(without.wires.some(({ role }) => role === "signal")).toBe(false);
  });

  it("are refused where they make no sense, in words", () => {
    const refusals = [
      { type: "addSignal", signal: { from: "mind", to: "mind", kind: "logic" } },
      { type: "addSignal", signal: { from: "mind", to: "plus", kind: "logic" } },
      { type: "updateSignal", id: "gone", changes: { kind: "serial" } },
      {
        type: "addWire",
        wire: {
          role: "signal",
          from: { part: "mind", terminal: "-" },
          to: { part: "drive", terminal: "in-" },
          parallel: 1,
          insulation: "pvc80",
        },
      },
      {
        type: "addWire",
        wire: {
          role: "bond",
          from: { part: "mind", terminal: "-" },
          to: { part: "n1", terminal: "bar" },
          parallel: 1,
          insulation: "pvc80",
        },
      },
    ] as const;
    for (const command of refusals) {
      const result = applyCommand(workshop(), command);
      expect(result.ok, JSON.stringify(command)).toBe(false);
    }
  });
});

describe("landing a return", () => {
  const at = { part: "n2", terminal: "bar" };

  it("moves the own return, makes one where there is none, and is nothing where it lands already", () => {
    const moved = landCommand(workshop(), "mind", at);
    expect(moved).toMatchObject({ type: "reland" });
    expect(landCommand(workshop(), "drive", at)).toBeNull();
    const open = must(workshop(), { type: "removeWire", id: backOf(workshop(), "mind").id });
    const made = landCommand(open, "mind", at);
    const again = made && must(open, made);
    expect(again && backOf(again, "mind")).toMatchObject({ to: at, gauge: "18 AWG" });
  });
});

describe("a return that comes loose", () => {
  it("tells the signal ground that takes it, and the pins where no metal is left", () => {
    const machine = join(link(link(workshop(), "sense", "mind"), "mind", "drive"), "signal", "mind.-", "drive.in-", "26 AWG");
    const loose = looseReturns(analyse(machine).figures);
    const of = (id: string) => loose.find((each) => each.part === id);
    expect(of("drive")?.into?.amps).toBeGreaterThan(18);
    expect(of("drive")?.beforeA).toBeLessThan(2);
    expect(of("sense")).toMatchObject({ into: null, pins: ["s1"] });
  });
});

describe("arrangements", () => {
  it("of the barge: one action each, undone at once; single points free the boards of motors and loops", () => {
    const barge = EXAMPLES.find(({ key }) => key === "reedcutter")?.make() as Machine;
    const layouts = compareLayouts(analyse(barge).figures);
    expect(layouts.map(({ id }) => id)).toEqual(["as drawn", "single point", "linked bars", "joined at one point"]);
    const [drawn, single, linked, apart] = layouts;
    expect(single?.worstLift).toBeNull();
    expect(apart?.worstLift).toBeNull();
    expect(single?.loops).toBe(0);
    expect(single?.linksOver).toBeLessThan(drawn?.linksOver ?? 0);
    expect(linked?.copperKg).toBeGreaterThan(drawn?.copperKg ?? 0);
    for (const { command } of layouts) {
      if (!command) continue;
      const done = applyCommand(barge, command);
      if (!done.ok) throw new Error(done.message);
      expect(withChanges(done.machine, inverted(done.changes)).machine).toEqual(barge);
      // What was promised is what comes of it.
      const [after] = compareLayouts(analyse(done.machine).figures);
      expect(after).toMatchObject({ linksOver: layouts.find((each) => each.command === command)?.linksOver });
    }
  });

  it("offer nothing where the returns are a single point already", () => {
    const layouts = compareLayouts(analyse(land(workshop(), "drive", "n1")).figures);
    expect(layouts.some(({ id }) => id === "single point")).toBe(false);
  });

  it("compare logic from the motors' pack with a pack of its own, by volts and offset, both ways", () => {
    const barge = EXAMPLES.find(({ key }) => key === "reedcutter-corrected")?.make() as Machine;
    const supplies = compareLogicSupply(analyse(barge).figures);
    expect(supplies?.map(({ id, present }) => [id, present])).toEqual([
      ["main pack", true],
      ["own pack", false],
    ]);
    expect(supplies?.[1]?.swingV).toBeLessThanOrEqual((supplies?.[0]?.swingV ?? 0) + 1e-9);
    const own = supplies?.[1]?.command && must(barge, supplies[1].command);
    const back = own && compareLogicSupply(analyse(own).figures);
    expect(back?.map(({ id, present }) => [id, present])).toEqual([
      ["main pack", false],
      ["own pack", true],
    ]);
    expect(compareLogicSupply(analyse(workshop()).figures)).toBeNull();
  });
});

describe("workings of offsets", () => {
  it("add up conductor by conductor to the figure shown", () => {
    const machine = join(link(land(workshop(), "mind", "n2"), "mind", "sense"), "signal", "mind.-", "sense.-", "26 AWG");
    const { figures } = analyse(machine);
    const returns = returnsOf(figures);
    for (const mode of [0, 1]) {
      expect(explain(figures, { kind: "groundOffset", of: "mind", mode })?.value).toBeCloseTo(
        returns.offsets.mind?.volts[mode] ?? Number.NaN,
        9,
      );
      const offset = explain(figures, { kind: "linkOffset", signal: "s1", mode });
      expect(offset?.value).toBeCloseTo(returns.links[0]?.offsetV[mode] ?? Number.NaN, 9);
      expect(offset?.inputs.length).toBeGreaterThan(1);
    }
    expect(explain(figures, { kind: "linkBudget", signal: "s1", mode: 1 })?.value).toBeCloseTo(0.2, 9);
    expect(explain(figures, { kind: "linkOffset", signal: "gone", mode: 0 })).toBeNull();
  });
});

/** Stretches on one axis that lie on each other. */
function overlaps(lanes: readonly { y: number; thick: number }[]): number {
  const sorted = [...lanes].sort((a, b) => a.y - b.y);
  return sorted.filter((lane, i) => {
    const before = sorted[i - 1];
    return before !== undefined && lane.y - lane.thick / 2 < before.y + before.thick / 2 - 1e-9;
  }).length;
}

describe("the flow picture", () => {
  const flowIn = (machine: Machine, mode: number) => {
    const { figures, analysis } = analyse(machine);
    return flowOf(machine, analysis, returnsOf(figures), mode);
  };

  it("keeps lanes apart over and under the axis, inside its width, on random machines up to sixty parts and more", () => {
    for (const seed of seeds(20, 33)) {
      const machine = random(seed, 20 + (seed - 20) * 5);
      const flow = flowIn(machine, 0);
      const layout = layoutOf(flow, { width: 980, height: 460 }, 2);
      const loads = [...layout.loads.values()];
      expect(loads.length).toBeGreaterThan(4);
      expect(overlaps(loads.map(({ over, thick }) => ({ y: over, thick })))).toBe(0);
      expect(overlaps(loads.flatMap(({ under, thick }) => (under === null ? [] : [{ y: under, thick }])))).toBe(0);
      for (const { x, over, under } of loads) {
        expect(x + layout.slotW / 2).toBeLessThanOrEqual(layout.width);
        expect(over).toBeLessThan(layout.axisTop);
        expect(under ?? layout.lowest).toBeGreaterThan(layout.axisBottom);
        expect(under ?? 0).toBeLessThanOrEqual(layout.height);
      }
      expect(layout.slotW).toBeGreaterThan(30);
    }
  });

  it("shows amps by width: what is twice as wide carries twice as much", () => {
    const flow = flowIn(workshop(), 1);
    const { scale } = layoutOf(flow, { width: 980, height: 460 }, 0);
    const drive = flow.loads.find(({ id }) => id === "drive");
    expect(thickness(drive?.amps ?? 0, scale) / thickness((drive?.amps ?? 0) / 2, scale)).toBeCloseTo(2, 6);
    expect(drive?.name).toBe("motor");
  });

  it("carries a load's amps through every band on its way out and home, and marks the metal a board shares", () => {
    const machine = link(land(workshop(), "mind", "n2"), "mind", "sense");
    const picture = pictureOf(machine, flowIn(machine, 1), { width: 980, height: 460 });
    const bands = picture.shapes.filter((shape) => shape.kind === "band" && shape.loads.includes("mind"));
    // Trunk out, own lane out, own lane home, the shared link, the trunk home, and the mark on its way.
    expect(bands.length).toBeGreaterThanOrEqual(5);
    const said = picture.shapes.flatMap((shape) => (shape.kind === "text" ? [shape.text] : []));
    expect(said.some((text) => text.includes("Shared metal") && text.includes("mind"))).toBe(true);
    expect(picture.loads.map(({ id }) => id)).toContain("mind");
    expect(picture.landings.map(({ id }) => id)).toEqual(expect.arrayContaining(["n1", "n2", "pack"]));
  });

  it("draws a machine from its first part on", () => {
    let machine = part(newMachine("First"), "pack", "pack", { openCircuitV: typical(12) });
    const drawn = () => pictureSvg(pictureOf(machine, flowIn(machine, 0), { width: 900, height: 400 }), "First");
    expect(drawn()).not.toMatch(/NaN|undefined|Infinity/);
    machine = part(machine, "bar", "minus", { side: "negative" }, { back: "pack.-" });
    expect(drawn()).not.toMatch(/NaN|undefined|Infinity/);
    machine = part(machine, "converter", "buck", {}, { from: "pack.+", back: "minus" });
    machine = part(machine, "load", "lamp", { nominalV: typical(5) }, { from: "buck.out+", back: "minus" });
    expect(drawn()).toContain("lamp");
    expect(drawn()).not.toMatch(/NaN|undefined|Infinity/);
  });

  it("tells of a load without a return and of one that nothing feeds, without a NaN", () => {
    let machine = must(workshop(), { type: "removeWire", id: backOf(workshop(), "mind").id });
    machine = part(machine, "load", "orphan", { nominalV: typical(5) });
    const svg = pictureSvg(pictureOf(machine, flowIn(machine, 1), { width: 700, height: 400 }), 'A <b> & "c"');
    expect(svg).toContain("no return");
    expect(svg).toContain("A &lt;b&gt; &amp; &quot;c&quot;");
    expect(svg).not.toMatch(/NaN|undefined|Infinity/);
  });

  it.each(EXAMPLES.map(({ key, make }) => [key, make] as const))("is an SVG document of %s in every mode", (_key, make) => {
    const machine = make();
    machine.modes.forEach((_, mode) => {
      const svg = flowSvg(machine, mode);
      expect(svg.startsWith("<svg ")).toBe(true);
      expect(svg).not.toMatch(/NaN|undefined|Infinity/);
      // Every part on the axis is named for those who cannot see it.
      expect(svg.match(/<title>/g)?.length).toBeGreaterThan(5);
    });
  });
});

describe("advice against noise", () => {
  it("names capacitors by this machine's amps, and takes what is fitted already", () => {
    const advice = adviceFor(analyse(workshop()).figures);
    const bulk = advice.find(({ id }) => id === "bulk:drive");
    expect(bulk?.what).toContain("1000 µF");
    expect(bulk?.done).toBe(false);
    for (const id of ["bulk:drive", "twist:drive"]) {
      const given = advice.find((each) => each.id === id)?.command;
      const after = given ? adviceFor(analyse(must(workshop(), given)).figures) : [];
      expect(after.find((each) => each.id === id)?.done, id).toBe(true);
    }
  });

  it("carries a part behind a brush that lifts, as long as its least volts leave room", () => {
    const family = CONNECTORS.find(({ sort }) => sort === "rotary")?.id;
    const turning = (leastV: number) => {
      const feed = workshop().wires.find(({ role, to }) => role === "supply" && to.part === "mind");
      const machine = must(workshop(), {
        type: "setFeed",
        id: feed?.id ?? "",
        changes: family ? { toEnd: { family, perPole: 1, loaded: 2 } } : {},
      });
      return must(machine, { type: "updatePart", id: "mind", changes: { inputMinV: typical(leastV) } });
    };
    const lifts = (machine: Machine) => adviceFor(analyse(machine).figures).filter(({ id }) => id === "lift:mind");
    const volts = analyse(turning(1)).figures.parts.mind?.lowestV?.volts ?? 0;
    expect(lifts(turning(volts * 0.9))).toHaveLength(1);
    expect(lifts(turning(volts * 1.02))).toEqual([]);
    expect(lifts(workshop())).toEqual([]);
  });

  it("rounds a capacitor up to what can be bought", () => {
    expect([90e-6, 100e-6, 101e-6, 400e-6, 470e-6, 7e-4].map((farad) => Math.round(usualAtLeast(farad) * 1e6))).toEqual([
      100, 100, 150, 470, 470, 1000,
    ]);
  });
});
