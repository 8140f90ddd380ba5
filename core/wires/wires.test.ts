import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEFAULT_SETTINGS } from "../machine/defaults";
import { AMPACITY_SCHOOLS, type Wire } from "../machine/schema";
import { GAUGES } from "../reference/gauges";
import { INSULATIONS, insulationById } from "../reference/insulation";
import { ampacityOf, bundleFactor, isOutsideTable, settledTemperature, wireAmpacity } from "./ampacity";
import { overloadRatio, overloadTime } from "./overload";
import { runResistance } from "./resistance";

const gauges = fc.constantFrom(...GAUGES);

describe("what may be said of any wire", () => {
  const schools = fc.constantFrom(...AMPACITY_SCHOOLS);
  const insulations = fc.constantFrom(...INSULATIONS);

  it("more heat around it, more wires beside it, a sleeve or cooler insulation never raise its limit, in any school", () => {
    fc.assert(
      fc.property(
        schools,
        gauges,
        fc.integer({ min: -20, max: 100 }),
        fc.integer({ min: 1, max: 50 }),
        insulations,
        (school, gauge, ambient, bundle, insulation) => {
          const limit = (a: number, b: number, i = insulation, sleeved = false) =>
            wireAmpacity(school, gauge, i, a, b, 1, sleeved)?.limitA ?? 0;
          const here = limit(ambient, bundle);
          expect(limit(ambient + 5, bundle)).toBeLessThanOrEqual(here);
          expect(limit(ambient, bundle + 1)).toBeLessThanOrEqual(here);
          expect(limit(ambient, bundle, insulation, true)).toBeLessThanOrEqual(here);
          const cooler = { ...insulation, id: `${insulation.id}-cooler`, maxC: insulation.maxC - 5 };
          expect(limit(ambient, bundle, cooler)).toBeLessThanOrEqual(here + 1e-9);
          expect(Number.isFinite(here)).toBe(true);
        },
      ),
    );
    expect(bundleFactor(1000)).toBeGreaterThan(0);
  });

  it("a thicker wire of the same system never carries less nor resists more", () => {
    const pvc = insulationById("pvc80") as (typeof INSULATIONS)[number];
    for (const school of AMPACITY_SCHOOLS) {
      for (const system of ["awg", "metric"] as const) {
        const sizes = GAUGES.filter((gauge) => gauge.system === system);
        sizes.slice(1).forEach((gauge, i) => {
          const thinner = sizes[i] as (typeof sizes)[number];
          expect(gauge.r20OhmPerKm).toBeLessThan(thinner.r20OhmPerKm);
          const limit = (size: typeof gauge) => wireAmpacity(school, size, pvc, 25, 1, 1)?.limitA ?? 0;
          expect(limit(gauge), `${school} ${gauge.id}`).toBeGreaterThanOrEqual(limit(thinner));
        });
      }
    }
  });

  it("settles at its rating's temperature at its limit, at the air without current, and hotter above, in any school", () => {
    fc.assert(
      fc.property(schools, gauges, insulations, fc.integer({ min: -10, max: 50 }), (school, gauge, insulation, ambientC) => {
        const wire = { gauge: gauge.id, insulation: insulation.id, parallel: 1, bundle: 4 } as Wire;
        const settings = { ...DEFAULT_SETTINGS, ambientC, schools: { ...DEFAULT_SETTINGS.schools, ampacity: school } };
        const ampacity = ampacityOf(wire, settings);
        if (!ampacity) return;
        const at = (share: number) => settledTemperature(wire, ampacity, ampacity.limitA * share);
        expect(at(0)).toBe(ambientC);
        // A table may allow a little more than the heat balance with its reserve of 15 % finds, or less: in cooler air than its own.
        expect(at(1)).toBeLessThanOrEqual(ampacity.maxC + 0.5 * (ampacity.maxC - ambientC));
        expect(at(1)).toBeGreaterThan(ambientC);
        expect(at(1.3)).toBeGreaterThanOrEqual(at(1));
        expect(at(20)).toBeGreaterThan(at(1));
        if (school === "heat balance") expect(at(1)).toBeGreaterThan(ampacity.maxC - 0.01);
      }),
    );
    const dead = { gauge: "14 AWG", insulation: "pvc80", parallel: 1 } as Wire;
    const oven = ampacityOf(dead, { ...DEFAULT_SETTINGS, ambientC: 90 });
    // In air hotter than its rating it may carry nothing; 1 A still warms 14 AWG by a kelvin, not without end.
    const warm = oven ? settledTemperature(dead, oven, 1) : Number.NaN;
    expect(warm).toBeGreaterThan(90);
    expect(warm).toBeLessThan(95);
    expect(oven && settledTemperature(dead, oven, 0)).toBe(90);
  });

  it("judges by heat balance and says so where a table has no entry, and warms by what is around it", () => {
    const wire = { gauge: "22 AWG", insulation: "pvc80", parallel: 1 } as Wire;
    const under = (ampacity: (typeof AMPACITY_SCHOOLS)[number], over: Partial<Wire> = {}, boxRiseK = 0) =>
      ampacityOf({ ...wire, ...over }, { ...DEFAULT_SETTINGS, boxRiseK, schools: { ...DEFAULT_SETTINGS.schools, ampacity } });
    for (const school of ["boat", "building"] as const) {
      const beyond = under(school);
      expect(beyond).toEqual(under("heat balance"));
      expect(beyond && isOutsideTable(beyond, { ...DEFAULT_SETTINGS, schools: { ...DEFAULT_SETTINGS.schools, ampacity: school } })).toBe(
        true,
      );
    }
    expect(under("chassis")?.limitA).toBe(7);
    expect(under("chassis", { surroundings: "sleeve" })?.limitA).toBeCloseTo(5.6, 9);
    expect(under("chassis", { surroundings: "box" }, 20)?.airC).toBe(45);
    expect(under("chassis", { surroundings: "box" }, 20)?.limitA).toBeLessThan(7);
  });

  it("of a board is a trace of some width, or a row of pads", () => {
    const board = (over: Partial<Wire>) => ampacityOf({ insulation: "pvc80", parallel: 1, ...over } as Wire, DEFAULT_SETTINGS);
    const trace = (mm: number, layer: "outside" | "inside") =>
      board({
        board: { kind: "trace", widthMm: { value: mm, provenance: "datasheet" }, copperUm: { value: 35, provenance: "typical" }, layer },
      });
    expect(trace(5, "outside")?.limitA).toBeCloseTo(10.42, 1);
    expect(trace(5, "inside")?.limitA).toBeLessThan(trace(5, "outside")?.limitA ?? 0);
    expect(board({ board: { kind: "pads" } })?.limitA).toBe(2);
    expect(board({ board: { kind: "pads" }, parallel: 2 })?.limitA).toBe(4);
  });

  it("bears a larger overload for a shorter time, and less when it starts warm", () => {
    fc.assert(
      fc.property(fc.double({ min: 1.01, max: 8, noNaN: true }), fc.double({ min: 0, max: 0.99, noNaN: true }), (m, p) => {
        expect(overloadTime(m * 1.1, p, 60, 30)).toBeLessThanOrEqual(overloadTime(m, p, 60, 30));
        expect(overloadTime(m, Math.min(0.99, p + 0.1), 60, 30)).toBeLessThanOrEqual(overloadTime(m, p, 60, 30));
        expect(overloadTime(m, p, 60, 30)).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it("bears for just that long what is asked of a time", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 500, noNaN: true }), fc.double({ min: 0, max: 0.99, noNaN: true }), (seconds, p) => {
        const m = overloadRatio(seconds, p, 60, 30);
        expect(m).toBeGreaterThanOrEqual(1);
        expect(overloadTime(m * 0.9999, p, 60, 30)).toBeGreaterThanOrEqual(seconds * 0.99);
        expect(overloadTime(m * 1.0001, p, 60, 30)).toBeLessThanOrEqual(seconds * 1.01);
      }),
    );
    expect(overloadRatio(10, 1, 60, 30)).toBe(1);
    expect(overloadRatio(1e6, 0, 60, 30)).toBe(1);
  });

  it("of no length is its two ends", () => {
    expect(runResistance(20, 0, 60, 2e-4, 1)).toBeCloseTo(4e-4, 12);
    expect(runResistance(20, 0, 60, 2e-4, 4)).toBeCloseTo(1e-4, 12);
  });
});
