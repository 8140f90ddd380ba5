import { describe, expect, it } from "vitest";
import { at, must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { analyseFully } from "../analysis/fully";
import type { PartChanges } from "../machine/commands";
import { typical } from "../machine/figure";
import type { Machine } from "../machine/schema";
import type { Verdict } from "./types";

const verdictsOf = (machine: Machine) => analyse(machine).analysis.verdicts;
const byRule = (machine: Machine, rule: string) => verdictsOf(machine).filter((verdict) => verdict.rule === rule);
const first = (machine: Machine, rule: string): Verdict => {
  const [verdict] = byRule(machine, rule);
  if (!verdict) throw new Error(`${rule} said nothing: ${JSON.stringify(verdictsOf(machine).map((each) => each.headline))}`);
  return verdict;
};
const edit = (machine: Machine, id: string, changes: Record<string, unknown>) => must(machine, { type: "updatePart", id, changes });
/** Applies each remedy in turn; every one must silence the rule it belongs to. */
const eachRemedySettles = (machine: Machine, verdict: Verdict) => {
  expect(verdict.remedies.length).toBeGreaterThan(0);
  for (const remedy of verdict.remedies) {
    const after = verdictsOf(must(machine, remedy.command));
    expect(
      after.some((each) => each.id === verdict.id && each.severity !== "watch"),
      remedy.label,
    ).toBe(false);
  }
};
const timed = (machine: Machine, amps: number, lastsS: number) => {
  const next = must(machine, { type: "addMode", name: "Start", lastsS });
  return must(next, { type: "setCell", loadId: "motor", modeId: "m2", cell: { state: "amps", amps: typical(amps) } });
};

it("a coherent small machine is clear, row by row", () => {
  const { analysis } = analyse(simple());
  expect(analysis.verdicts).toEqual([]);
  expect(new Set(Object.values(analysis.status))).toEqual(new Set(["clear"]));
});

describe("wire over its continuous rating", () => {
  it("fixes, watches and stays silent as the current falls", () => {
    expect(first(simple({ amps: 14, gauge: "20 AWG" }), "wire-overload").severity).toBe("fix");
    expect(first(simple({ amps: 10.5, gauge: "20 AWG" }), "wire-overload").severity).toBe("watch");
    expect(byRule(simple({ amps: 9, gauge: "20 AWG" }), "wire-overload")).toEqual([]);
  });

  it("stops where the insulation would be destroyed", () => {
    expect(first(simple({ amps: 20, gauge: "22 AWG" }), "wire-overload").severity).toBe("stop");
  });

  it("takes ambient and bundling into account", () => {
    const machine = simple({ amps: 14, gauge: "16 AWG" });
    expect(byRule(machine, "wire-overload")).toEqual([]);
    expect(first(must(machine, { type: "setSettings", changes: { ambientC: 60 } }), "wire-overload").limit).toBeCloseTo(
      22 * Math.sqrt(20 / 55),
      6,
    );
    expect(first(simple({ amps: 14, gauge: "16 AWG", bundle: 8 }), "wire-overload").limit).toBeCloseTo(22 * 8 ** -0.34, 6);
  });

  it("has remedies that settle it, feed and return together", () => {
    const machine = simple({ amps: 16, gauge: "20 AWG" });
    const verdict = first(machine, "wire-overload");
    eachRemedySettles(machine, verdict);
    expect(byRule(machine, "wire-overload")).toHaveLength(1);
    expect(verdict.also).toHaveLength(1);
    expect(analyse(machine).analysis.status[verdict.also?.[0] ?? ""]).not.toBe("clear");
  });

  it("judges a timed mode by what the wire bears that long", () => {
    const machine = simple({ amps: 5, gauge: "20 AWG", fuse: { family: "strip_m5_58v", ratingA: 60 } });
    expect(byRule(timed(machine, 15, 1), "wire-overload")).toEqual([]);
    const long = timed(machine, 15, 200);
    expect(first(long, "wire-overload").id).toContain("brief");
    eachRemedySettles(long, first(long, "wire-overload"));
  });
});

describe("fuse and wire", () => {
  it("stops when a fuse lets more through than its wire bears, and offers wire or fuse", () => {
    const machine = simple({ amps: 5, gauge: "20 AWG" });
    const verdict = first(machine, "fuse-over-wire");
    expect(verdict).toMatchObject({ severity: "stop", value: 20, limit: 11 });
    expect(verdict.remedies).toHaveLength(2);
    eachRemedySettles(machine, verdict);
  });

  it("judges a bar's own way back by the largest fuse behind it", () => {
    let machine = simple({ amps: 5 });
    machine = part(machine, "bar", "n1", { side: "negative" }, { back: "pack.-", wire: { gauge: "22 AWG", lengthM: typical(0.3) } });
    const back = machine.wires.find((wire) => wire.role === "return" && wire.from.part === "motor");
    machine = must(machine, { type: "reland", wireId: back?.id ?? "", end: "to", at: at("n1") });
    const verdict = first(machine, "fuse-over-wire");
    expect(verdict.subject.id).toBe(machine.wires.find((wire) => wire.from.part === "n1")?.id);
    expect(verdict.step).toBe("returns");
  });

  it("judges wires behind a converter by where it limits, and asks when that is not known", () => {
    const converter = { outputV: typical(5), efficiency: typical(0.9), ratedA: typical(5), inputMinV: typical(7), inputMaxV: typical(30) };
    const feed = { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: typical(0.3) } };
    const build = (limitA?: number) =>
      part(
        part(simple(), "converter", "buck", { ...converter, ...(limitA ? { limitA: typical(limitA) } : {}) }, feed),
        "load",
        "sensor",
        { nominalV: typical(5), loadKind: "sensor", cells: { m1: { state: "amps", amps: typical(0.1) } } },
        { from: "buck.out+", back: "buck.out-", wire: { gauge: "26 AWG", lengthM: typical(0.3) } },
      );
    expect(first(build(4), "fuse-over-wire").severity).toBe("fix");
    expect(first(build(9), "fuse-over-wire").severity).toBe("stop");
    expect(byRule(build(2), "fuse-over-wire")).toEqual([]);
    const unknown = build();
    expect(first(unknown, "fuse-over-wire")).toMatchObject({ severity: "ask", subject: { id: "buck" } });
    const sensorFeed = unknown.wires.find((wire) => wire.to.part === "sensor");
    expect(analyse(unknown).analysis.status[sensorFeed?.id ?? ""]).toBe("ask");
  });

  it("stops at a pack feeding wires without any fuse, once, with every bare wire marked", () => {
    let machine = simple();
    const lead = machine.wires[1];
    machine = must(machine, { type: "reland", wireId: lead?.id ?? "", end: "from", at: at("pack.+") });
    const verdicts = byRule(machine, "no-fuse");
    expect(verdicts).toHaveLength(1);
    expect(verdicts[0]?.severity).toBe("stop");
    eachRemedySettles(machine, verdicts[0] as Verdict);
  });

  it("accepts 180 mm before the first fuse and watches a longer lead", () => {
    const lead = (metres: number) => must(simple(), { type: "setFeed", id: "w1", changes: { lengthM: typical(metres) } });
    const late = (machine: Machine) => analyseFully(machine).analysis.verdicts.filter(({ rule }) => rule === "fuse-place");
    const sheathed = (machine: Machine) => must(machine, { type: "updateWire", id: "w1", changes: { surroundings: "sleeve" } });
    expect(late(lead(0.18))).toEqual([]);
    expect(late(lead(0.4))[0]?.severity).toBe("stop");
    expect(late(sheathed(lead(0.4)))[0]?.severity).toBe("watch");
    expect(late(sheathed(lead(2.5)))[0]?.severity).toBe("stop");
  });

  it("asks for a larger fuse where the school's share is passed, and the school changes the answer", () => {
    const machine = simple({ amps: 15.5, gauge: "10 AWG" });
    const verdict = first(machine, "fuse-too-small");
    expect(verdict.limit).toBeCloseTo(15, 6);
    eachRemedySettles(machine, verdict);
    expect(byRule(must(machine, { type: "setSettings", changes: { schools: { fuseLoadFactor: "80 %" } } }), "fuse-too-small")).toEqual([]);
  });

  it("judges a dip of seconds by a part's window, and by its share where nobody told one: never by nothing", () => {
    // 10 m of 18 AWG, out and back, resist 0.42 Ω (NEC chapter 9 table 8, from memory): 8 A lose 3.4 of 12 V, 0.3 A next to nothing.
    const dipping = (over: PartChanges) =>
      must(timed(simple({ amps: 0.3, gauge: "18 AWG", metres: 10, internalOhm: 0.001 }), 8, 5), {
        type: "updatePart",
        id: "motor",
        changes: { loadKind: "radio", ...over },
      });
    expect(byRule(dipping({}), "drop")[0]?.severity).toBe("fix");
    expect(byRule(dipping({ inputMinV: typical(6) }), "drop")).toEqual([]);
    expect(byRule(dipping({ inputMinV: typical(10) }), "input-window")[0]?.severity).toBe("fix");
    expect(byRule(dipping({ loadKind: "motor" }), "drop")).toEqual([]);
  });

  it("sees that a start opens the fuse by the middle of its curve, and that the quickest of a lot may open", () => {
    // ISO 8820-3: a 20 A blade takes 0.15 to 5 s at 2 times, 0.04 to 0.5 s at 3.5 times; 60 A are 3 times its rating.
    const starting = (amps: number, seconds: number) => timed(simple({ amps: 5, gauge: "10 AWG", internalOhm: 0.001 }), amps, seconds);
    const verdict = first(starting(60, 0.8), "fuse-too-small");
    expect(verdict).toMatchObject({ severity: "fix" });
    expect(verdict.id).toContain("brief");
    eachRemedySettles(starting(60, 0.8), verdict);
    expect(first(starting(34, 0.8), "fuse-too-small").severity).toBe("watch");
    expect(byRule(starting(34, 0.1), "fuse-too-small")).toEqual([]);
  });

  it("stops a fuse below the voltage of a full pack", () => {
    const machine = edit(edit(simple(), "pack", { openCircuitV: typical(30), fullV: typical(33.6), lowV: typical(29) }), "motor", {
      nominalV: typical(30),
    });
    const verdict = first(machine, "fuse-voltage");
    expect(verdict).toMatchObject({ severity: "stop", value: 33.6, limit: 32 });
    eachRemedySettles(machine, verdict);
  });
});

describe("sources", () => {
  it("over the rating continuously, near it, and for a short time", () => {
    const pack = (changes: Record<string, unknown>) => edit(simple({ amps: 10, gauge: "10 AWG" }), "pack", changes);
    expect(first(pack({ continuousA: typical(8) }), "source-rating").severity).toBe("fix");
    expect(first(pack({ continuousA: typical(12) }), "source-rating").severity).toBe("watch");
    expect(byRule(pack({ continuousA: typical(13) }), "source-rating")).toEqual([]);
    const start = timed(pack({ continuousA: typical(20), peakA: typical(25) }), 30, 0.1);
    expect(first(start, "source-rating")).toMatchObject({ severity: "fix", limit: 25 });
  });

  it("asks when the rating is missing", () => {
    expect(first(edit(simple(), "pack", { continuousA: undefined }), "source-rating").severity).toBe("ask");
  });

  it("stops above the maximum at full charge, fixes below the minimum at the worst sag", () => {
    const motor = (changes: Record<string, unknown>) => edit(simple(), "motor", changes);
    expect(first(motor({ inputMaxV: typical(14) }), "input-window")).toMatchObject({ severity: "stop", value: 14.6, limit: 14 });
    expect(byRule(motor({ inputMaxV: typical(14.6) }), "input-window")).toEqual([]);
    const short = first(motor({ inputMinV: typical(11.5) }), "input-window");
    expect(short.severity).toBe("fix");
    expect(short.value ?? 12).toBeLessThan(11.5);
    expect(first(motor({ inputMinV: typical(11.3) }), "input-window").severity).toBe("watch");
  });

  it("asks for the pack's extremes instead of calling a window clear", () => {
    const machine = edit(edit(simple(), "motor", { inputMinV: typical(9), inputMaxV: typical(16) }), "pack", {
      fullV: undefined,
      lowV: undefined,
    });
    expect(first(machine, "input-window").severity).toBe("ask");
    const certain = edit(machine, "motor", { inputMaxV: typical(11) });
    expect(byRule(certain, "input-window").map((verdict) => verdict.severity)).toContain("stop");
  });

  it("names the mode in which the voltage collapses and calls nothing clear", () => {
    const machine = simple({ amps: 200, behaviour: "power", metres: 20 });
    expect(first(machine, "collapse")).toMatchObject({ severity: "stop", subject: { kind: "mode", id: "m1" } });
    expect(Object.values(analyse(machine).analysis.status)).not.toContain("clear");
  });

  it("marks worst figures as lower bounds when one of the modes has none", () => {
    const machine = must(must(simple({ behaviour: "power", metres: 20 }), { type: "addMode", name: "Too much", lastsS: null }), {
      type: "setCell",
      loadId: "motor",
      modeId: "m2",
      cell: { state: "amps", amps: typical(300) },
    });
    const { analysis } = analyse(machine);
    expect(analysis.modes.map((mode) => mode.collapsed)).toEqual([false, true]);
    expect(Object.values(analysis.wires).every((wire) => wire.worstAtLeast)).toBe(true);
  });
});

describe("ways there and back", () => {
  const cutReturn = () => {
    const machine = simple();
    const back = machine.wires.find((wire) => wire.role === "return");
    return must(machine, { type: "removeWire", id: back?.id ?? "" });
  };

  it("stops a load without a return and can add it", () => {
    const machine = cutReturn();
    const verdict = first(machine, "wiring");
    expect(verdict).toMatchObject({ severity: "stop", subject: { id: "motor" } });
    eachRemedySettles(machine, verdict);
  });

  it("stops a return that lands where no metal leads back, and can re-land it", () => {
    let machine = part(simple(), "bar", "lonely", { side: "negative" });
    const back = machine.wires.find((wire) => wire.role === "return");
    machine = must(machine, { type: "reland", wireId: back?.id ?? "", end: "to", at: at("lonely") });
    const verdict = byRule(machine, "wiring").find((each) => each.severity === "stop");
    expect(verdict?.subject.id).toBe("motor");
    eachRemedySettles(machine, verdict as Verdict);
  });

  it("names the cut-off driver, not everything behind it, and metal tied to nothing", () => {
    let machine = part(simple(), "driver", "drive", {}, { back: "pack.-", wire: { gauge: "14 AWG", lengthM: typical(1) } });
    machine = part(
      machine,
      "load",
      "wheel",
      { cells: { m1: { state: "amps", amps: typical(1) } } },
      { from: "drive.1a", back: "drive.1b", wire: { gauge: "14 AWG", lengthM: typical(1) } },
    );
    expect(byRule(machine, "wiring").map((verdict) => verdict.subject.id)).toEqual(["drive"]);
    expect(first(part(simple(), "bar", "loose", {}), "wiring")).toMatchObject({ severity: "ask", subject: { id: "loose" } });
  });

  it("fixes a drop over the limit at the conductor that costs the most", () => {
    const machine = simple({ amps: 10, gauge: "16 AWG", metres: 3 });
    const verdict = first(machine, "drop");
    expect(verdict.value ?? 0).toBeGreaterThan(5);
    eachRemedySettles(machine, verdict);
  });
});

describe("missing figures", () => {
  it("asks, marks everything upstream as a lower bound, and calls none of it clear", () => {
    const machine = must(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: null });
    expect(first(machine, "missing-figure").severity).toBe("ask");
    const { analysis } = analyse(machine);
    expect(analysis.modes[0]?.atLeast).toBe(true);
    for (const wire of machine.wires) expect(analysis.wires[wire.id]?.atLeast[0]).toBe(1);
    expect(Object.values(analysis.status)).not.toContain("clear");
  });

  it("carries the doubt through a converter to the pack, but not sideways", () => {
    let machine = part(
      simple(),
      "converter",
      "buck",
      { outputV: typical(5), limitA: typical(2), ratedA: typical(2), inputMinV: typical(7), inputMaxV: typical(30) },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: typical(0.5) } },
    );
    machine = part(
      machine,
      "load",
      "board",
      { nominalV: typical(5), cells: {} },
      { from: "buck.out+", back: "buck.out-", wire: { gauge: "18 AWG", lengthM: typical(0.5) } },
    );
    const { analysis } = analyse(machine);
    const feedOf = (id: string) => machine.wires.find((wire) => wire.to.part === id)?.id ?? "";
    expect(analysis.wires[feedOf("buck")]?.atLeast[0]).toBe(1);
    expect(analysis.wires[feedOf("main")]?.atLeast[0]).toBe(1);
    expect(analysis.wires[feedOf("motor")]?.atLeast[0]).toBe(0);
  });

  it("asks for sizes, lengths, internal resistance and windows", () => {
    const bare = must(simple(), { type: "setFeed", id: "w2", changes: { gauge: undefined, lengthM: undefined } });
    expect(byRule(bare, "missing-figure")).toHaveLength(1);
    expect(byRule(edit(simple(), "pack", { internalOhm: undefined }), "missing-figure")).toHaveLength(1);
    expect(byRule(edit(simple(), "motor", { loadKind: "board" }), "missing-figure")).toHaveLength(1);
  });
});
