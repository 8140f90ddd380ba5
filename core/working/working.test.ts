import { describe, expect, it } from "vitest";
import { must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { guess, measured, typical } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { explain } from "./explain";
import type { FigureRef, Working } from "./types";

function working(machine: Machine, ref: FigureRef): Working {
  const found = explain(analyse(machine).figures, ref);
  if (!found) throw new Error(`no working for ${JSON.stringify(ref)}`);
  return found;
}

const input = (of: Working, label: RegExp) => of.inputs.find((each) => label.test(each.label));

describe("workings", () => {
  it("a load's current says how it was known and how it follows its voltage", () => {
    const known = must(simple(), {
      type: "setCell",
      loadId: "motor",
      modeId: "m1",
      cell: { state: "amps", amps: { ...measured(5), tolerance: 0.1 } },
    });
    const running = working(known, { kind: "partAmps", part: "motor", mode: 0 });
    expect(input(running, /I entered/)).toMatchObject({ known: "measured" });
    expect(input(running, /I entered/)?.text).toContain("± 10 %");
    const board = working(must(known, { type: "updatePart", id: "motor", changes: { behaviour: "power" } }), {
      kind: "partAmps",
      part: "motor",
      mode: 0,
    });
    expect(board.formula).toContain("U_n / U");
    expect(board.value).toBeGreaterThan(5);
    const stalled = working(must(known, { type: "updatePart", id: "motor", changes: { behaviour: "resistance" } }), {
      kind: "partAmps",
      part: "motor",
      mode: 0,
    });
    expect(stalled.value).toBeLessThan(5);
  });

  it("an unknown current is said to be unknown, not nought", () => {
    const machine = must(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: null });
    expect(working(machine, { kind: "partAmps", part: "motor", mode: 0 }).formula).toBe("not known");
    expect(working(machine, { kind: "wireAmps", wire: "w2", mode: 0 }).notes.join(" ")).toContain("least");
    expect(working(machine, { kind: "wireWorst", wire: "w2" }).notes.join(" ")).toContain("least");
    expect(working(machine, { kind: "sourceAmps", mode: 0 }).notes.join(" ")).toContain("least");
  });

  it("resistance shows length, temperature and ends with where each comes from", () => {
    const machine = must(simple(), { type: "setFeed", id: "w2", changes: { lengthM: guess(2), parallel: 2 } });
    const ohms = working(machine, { kind: "wireOhm", wire: "w2" });
    expect(input(ohms, /Length/)).toMatchObject({ known: "guess" });
    expect(input(ohms, /R′₂₀/)).toMatchObject({ known: "table" });
    expect(input(ohms, /temperature/)).toMatchObject({ known: "setting" });
    expect(ohms.formula).toContain("/ n");
    expect(ohms.source).toContain("ASTM B258");
  });

  it("a limit names its school, its factors and the size it was read from", () => {
    const limit = working(must(simple(), { type: "setFeed", id: "w2", changes: { gauge: "2.5 mm²", bundle: 5, insulation: "sil200" } }), {
      kind: "wireLimit",
      wire: "w2",
    });
    expect(limit.school).toContain("chassis");
    expect(input(limit, /k_B/)?.text).toBe("0.579 for 5");
    expect(limit.notes.join(" ")).toContain("14 AWG");
    expect(limit.notes.join(" ")).toContain("Hotter insulation earns nothing");
  });

  it("the least fuse shows the school's share and the warm-air factor", () => {
    const least = working(must(simple({ amps: 6 }), { type: "setSettings", changes: { ambientC: 60 } }), { kind: "fuseLeast", wire: "w2" });
    expect(least.value).toBeCloseTo(6 / (0.75 * Math.sqrt(359 / 394)), 9);
    expect(input(least, /share/)?.text).toBe("75\u00a0%");
  });

  it("a drop lists every conductor out and back", () => {
    const drop = working(simple(), { kind: "partDrop", part: "motor", mode: 0 });
    expect(drop.inputs.map((each) => each.label)).toEqual(["Out: motor", "Out: main", "Back: motor"]);
  });

  it("a source without a known resistance says so", () => {
    const machine = must(simple(), { type: "updatePart", id: "pack", changes: { internalOhm: undefined } });
    expect(working(machine, { kind: "outputVolts", part: "pack", mode: 0 }).numbers).toContain("not known");
  });

  it("a current against the drawn direction is explained", () => {
    const machine = part(simple(), "bar", "a", {}, { from: "main.out", wire: { gauge: "14 AWG", lengthM: typical(1) } });
    const turned = must(machine, {
      type: "addWire",
      wire: {
        id: "odd",
        role: "supply",
        from: { part: "motor", terminal: "+" },
        to: { part: "a", terminal: "bar" },
        gauge: "14 AWG",
        lengthM: typical(1),
        parallel: 1,
        insulation: "pvc80",
      },
    });
    expect(working(turned, { kind: "wireAmps", wire: "odd", mode: 0 }).notes.join(" ")).toContain("against the direction");
  });

  it("what is gone has no working", () => {
    const { figures } = analyse(simple());
    expect(explain(figures, { kind: "wireAmps", wire: "gone", mode: 0 })).toBeNull();
    expect(explain(figures, { kind: "partVolts", part: "gone", mode: 0 })).toBeNull();
    expect(explain(figures, { kind: "sourceAmps", mode: 9 })).toBeNull();
    expect(explain(figures, { kind: "lossInside", part: "motor", mode: 0 })).toBeNull();
  });
});
