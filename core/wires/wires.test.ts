import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { GAUGES } from "../reference/gauges";
import { bundleFactor, chassisAmpacity, conductorTemperature } from "./ampacity";
import { overloadTime } from "./overload";
import { runResistance } from "./resistance";

const gauges = fc.constantFrom(...GAUGES);

describe("what may be said of any wire", () => {
  it("more heat around it, more wires beside it or cooler insulation never raise its limit", () => {
    fc.assert(
      fc.property(
        gauges,
        fc.integer({ min: -20, max: 100 }),
        fc.integer({ min: 1, max: 50 }),
        fc.constantFrom(60, 70, 80, 105, 200),
        (gauge, ambient, bundle, insulation) => {
          const limit = (a: number, b: number, i: number) => chassisAmpacity(gauge, i, a, b, 1)?.limitA ?? 0;
          const here = limit(ambient, bundle, insulation);
          expect(limit(ambient + 5, bundle, insulation)).toBeLessThanOrEqual(here);
          expect(limit(ambient, bundle + 1, insulation)).toBeLessThanOrEqual(here);
          expect(limit(ambient, bundle, insulation - 5)).toBeLessThanOrEqual(here);
          expect(Number.isFinite(here)).toBe(true);
        },
      ),
    );
    expect(bundleFactor(1000)).toBeGreaterThan(0);
  });

  it("a thicker wire of the same system never carries less nor resists more", () => {
    for (const system of ["awg", "metric"] as const) {
      const sizes = GAUGES.filter((gauge) => gauge.system === system);
      sizes.slice(1).forEach((gauge, i) => {
        const thinner = sizes[i] as (typeof sizes)[number];
        expect(gauge.r20OhmPerKm).toBeLessThan(thinner.r20OhmPerKm);
        expect(chassisAmpacity(gauge, 80, 25, 1, 1)?.limitA ?? 0).toBeGreaterThanOrEqual(
          chassisAmpacity(thinner, 80, 25, 1, 1)?.limitA ?? 0,
        );
      });
    }
  });

  it("settles at its rating's temperature at its limit, at the ambient without current, and hotter above", () => {
    expect(conductorTemperature(10, 10, 40, 80)).toBe(80);
    expect(conductorTemperature(0, 10, 40, 80)).toBe(40);
    expect(conductorTemperature(14.142, 10, 40, 80)).toBeCloseTo(120, 2);
    expect(conductorTemperature(1, 0, 90, 80)).toBe(Number.POSITIVE_INFINITY);
    expect(conductorTemperature(0, 0, 90, 80)).toBe(90);
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

  it("of no length is its two ends", () => {
    expect(runResistance(20, 0, 60, 2e-4, 1)).toBeCloseTo(4e-4, 12);
    expect(runResistance(20, 0, 60, 2e-4, 4)).toBeCloseTo(1e-4, 12);
  });
});
