import { describe, expect, it } from "vitest";
import { simple } from "@/tests/support/small";
import type { Wire } from "../machine/schema";
import { fuseRow } from "../reference/fuses";
import { gaugeById, usualSizes } from "../reference/gauges";
import { largestFuse, limitAt, smallestFuse, thinnest } from "./pick";

const machine = simple({ gauge: "14 AWG" });
const wire = machine.wires[1] as Wire;

describe("picking a size", () => {
  it("takes the thinnest usual one that bears the current, in the wire's own system", () => {
    const needs = (amps: number, gauge: string) =>
      thinnest({ ...wire, gauge }, (size) => limitAt(size, wire, machine.settings) >= amps)?.id;
    expect(needs(15, "14 AWG")).toBe("18 AWG");
    expect(needs(33, "14 AWG")).toBe("12 AWG");
    expect(needs(33, "1 mm²")).toBe("4 mm²");
    expect(needs(1000, "14 AWG")).toBeUndefined();
  });

  it("offers sizes a builder can buy, thin to thick", () => {
    for (const system of ["awg", "metric"] as const) {
      const areas = usualSizes(system).map((size) => size.areaMm2);
      expect(areas).toEqual([...areas].sort((a, b) => a - b));
    }
    expect(usualSizes("awg").some((size) => size.id === "13 AWG")).toBe(false);
    expect(gaugeById("13 AWG")).toBeDefined();
  });
});

describe("picking a fuse", () => {
  it("stays in the present family where it can", () => {
    expect(smallestFuse(16, 30, 29, "blade_maxi_32v")).toEqual({ family: "blade_maxi_32v", ratingA: 20 });
    expect(largestFuse(16, 32, 29, "blade_regular_32v")).toEqual({ family: "blade_regular_32v", ratingA: 30 });
  });

  it("changes family for the voltage or the rating, and gives up honestly", () => {
    const high = smallestFuse(10, 20, 54, "blade_regular_32v");
    expect(high && fuseRow(high.family, high.ratingA)?.maxV).toBeGreaterThanOrEqual(54);
    expect(smallestFuse(250, 320, 29, "blade_regular_32v")?.ratingA).toBeGreaterThanOrEqual(250);
    expect(smallestFuse(11, 14, 29, null)).toBeNull();
    expect(smallestFuse(10, 20, 200, null)).toBeNull();
  });
});
