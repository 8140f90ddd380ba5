import { describe, expect, it } from "vitest";
import { openingTime } from "@/core/fuses/opening";
import { carryingFactor, leastRating } from "@/core/fuses/rating";
import { gatesOf, ratingsOf } from "@/core/reference/fuses";
import { GAUGES, type Gauge, gaugeById, parseGauge } from "@/core/reference/gauges";
import { insulationById } from "@/core/reference/insulation";
import { ambientFactor, bundleFactor, parallelFactor, wireAmpacity } from "@/core/wires/ampacity";
import { overloadTime } from "@/core/wires/overload";
import { areaMm2, awgDiameterMm, runResistance, solidOhmPerKm, temperatureFactor } from "@/core/wires/resistance";

const near = (value: number, expected: number, relative: number) =>
  expect(Math.abs(value - expected) / Math.abs(expected)).toBeLessThan(relative);
const design = (id: string) => gaugeById(id)?.r20OhmPerKm ?? Number.NaN;

describe("conductor sizes", () => {
  it.each([
    // ASTM B258 diameter formula; 4/0 is exactly 0.46 in.
    [12, 2.0525, 3.3088],
    [-3, 11.684, 107.219],
    [30, 0.25464, 0.050926],
  ])("AWG n = %i has the diameter and area of ASTM B258", (n, diameter, area) => {
    near(awgDiameterMm(n), diameter, 1e-4);
    near(areaMm2(awgDiameterMm(n)), area, 1e-4);
  });

  it.each([
    // NBS Handbook 100 copper wire tables, ohm per 1000 ft at 20 °C, from memory.
    [30, 103.2],
    [26, 40.81],
    [22, 16.14],
    [18, 6.385],
    [14, 2.525],
    [10, 0.9989],
    [6, 0.3951],
    [2, 0.1563],
    [-3, 0.04901],
  ])("AWG n = %i solid copper agrees with NBS Handbook 100", (n, ohmPerKft) => {
    near(solidOhmPerKm(areaMm2(awgDiameterMm(n))) * 0.3048, ohmPerKft, 1e-3);
  });

  it.each([
    // NEC Chapter 9 Table 8, stranded uncoated copper at 75 °C, ohm per 1000 ft, from memory.
    ["18 AWG", 7.95],
    ["14 AWG", 3.14],
    ["12 AWG", 1.98],
    ["10 AWG", 1.24],
    ["8 AWG", 0.778],
    ["4 AWG", 0.308],
    ["1/0 AWG", 0.122],
    ["4/0 AWG", 0.0608],
  ])("%s stranded at 75 °C agrees with NEC Chapter 9 Table 8", (id, ohmPerKft) => {
    near(design(id) * temperatureFactor(75) * 0.3048, ohmPerKft, 0.006);
  });

  it.each([
    // IEC 60228 Table 3, class 5, plain copper, maximum ohm/km at 20 °C, from memory.
    ["0.5 mm²", 39.0],
    ["0.75 mm²", 26.0],
    ["1 mm²", 19.5],
    ["1.5 mm²", 13.3],
    ["2.5 mm²", 7.98],
    ["4 mm²", 4.95],
    ["6 mm²", 3.3],
    ["10 mm²", 1.91],
    ["16 mm²", 1.21],
    ["70 mm²", 0.272],
  ])("%s is the IEC 60228 class 5 maximum", (id, ohmPerKm) => {
    expect(design(id)).toBe(ohmPerKm);
  });

  it("every AWG row of the table is the ASTM B258 value with 2 % for stranding", () => {
    for (const gauge of GAUGES) {
      if (gauge.awgN === null) continue;
      near(gauge.areaMm2, areaMm2(awgDiameterMm(gauge.awgN)), 2e-4);
      near(gauge.r20OhmPerKm, solidOhmPerKm(gauge.areaMm2) * 1.02, 1e-3);
    }
  });

  it("every metric row has the resistance IEC 60228 allows class 5: solid copper of its area and a tenth to a sixth more", () => {
    for (const { system, areaMm2: area, r20OhmPerKm } of GAUGES) {
      if (system !== "metric") continue;
      expect(r20OhmPerKm / solidOhmPerKm(area)).toBeGreaterThan(1.1);
      expect(r20OhmPerKm / solidOhmPerKm(area)).toBeLessThan(1.165);
    }
  });

  it("every row weighs what 8.89 g/cm³ of copper does (IEC 60028)", () => {
    for (const { areaMm2: area, copperGPerM } of GAUGES) near(copperGPerM, area * 8.89, 5e-4);
  });

  it.each<[string, (gauge: Gauge) => number | null | undefined]>([
    ["chassis wiring", ({ chassisA }) => chassisA],
    ["building wire, 60 °C ends", ({ buildingA }) => buildingA?.[0]],
    ["building wire, 75 °C ends", ({ buildingA }) => buildingA?.[1]],
    ["building wire, 90 °C ends", ({ buildingA }) => buildingA?.[2]],
    ["largest fuse for building wire", ({ buildingFuseA }) => buildingFuseA],
    ["boat practice", ({ boatA }) => boatA],
  ])("no thicker wire may carry less by the column of %s", (_column, printed) => {
    const amps = GAUGES.flatMap((gauge) => printed(gauge) ?? []);
    expect(amps.length).toBeGreaterThan(4);
    expect(amps).toEqual([...amps].sort((a, b) => a - b));
  });

  it("corrects for temperature as NEC and the 234.5 form do", () => {
    near(temperatureFactor(75), 1.21615, 1e-4);
    for (const t of [-20, 60, 105, 160]) near(temperatureFactor(t), (234.5 + t) / 254.5, 2e-3);
  });

  it("works the handbook's drop examples", () => {
    // 12 V, 20 A, 3 m each way of 12 AWG solid: 0.6253 V cold, 0.7605 V at 75 °C. 2.5 mm² class 5, 10 A, 5 m: 0.798 V.
    const solid = solidOhmPerKm(areaMm2(awgDiameterMm(12)));
    near(2 * 20 * runResistance(solid, 3, 20, 0, 1), 0.6253, 1e-3);
    near(2 * 20 * runResistance(solid, 3, 75, 0, 1), 0.7605, 1e-3);
    near(2 * 10 * runResistance(7.98, 5, 20, 0, 1), 0.798, 1e-3);
  });

  it("reads sizes as people write them", () => {
    expect(["14awg", "14 AWG", "#14", "awg 14", "14"].map((text) => parseGauge(text)?.id)).toEqual(Array(5).fill("14 AWG"));
    expect(["1.5mm2", "1,5 mm²", "1.5 mm^2"].map((text) => parseGauge(text)?.id)).toEqual(Array(3).fill("1.5 mm²"));
    expect(["2/0", "2/0 awg"].map((text) => parseGauge(text)?.id)).toEqual(["2/0 AWG", "2/0 AWG"]);
    expect(["", "fat", "14mm2", "99", "-3"].map((text) => parseGauge(text))).toEqual(Array(5).fill(null));
  });
});

describe("continuous current, handbook chassis school", () => {
  const at25 = (id: string, bundle = 1, ambient = 25, insulation = 80, parallel = 1) => {
    const gauge = gaugeById(id);
    const pvc = insulationById("pvc80");
    const wall = pvc && { ...pvc, id: `pvc${insulation}`, maxC: insulation };
    return gauge && wall ? (wireAmpacity("chassis", gauge, wall, ambient, bundle, parallel)?.limitA ?? Number.NaN) : Number.NaN;
  };

  it("is the table's figure for one wire in 25 °C air", () => {
    expect(["22 AWG", "16 AWG", "12 AWG", "10 AWG"].map((id) => at25(id))).toEqual([7, 22, 41, 55]);
  });

  it("uses the next AWG that is not thicker for metric sizes", () => {
    expect(at25("2.5 mm²")).toBe(at25("14 AWG"));
    expect(at25("1.5 mm²")).toBe(at25("16 AWG"));
  });

  it("lowers for warm air as NEC Table 310.15(B)(1) and IEC 60204-1 do, and never credits cold air", () => {
    near(ambientFactor(90, 30, 50), 0.8165, 1e-3);
    near(ambientFactor(105, 30, 50), 0.8563, 1e-3);
    near(ambientFactor(70, 40, 55), Math.SQRT1_2, 1e-3);
    expect(at25("14 AWG", 1, 0)).toBe(32);
    expect(at25("14 AWG", 1, 80)).toBe(0);
    expect(at25("14 AWG", 1, 95)).toBe(0);
  });

  it("lowers for bundles by NEC 310.15(C)(1) and for parallel wires by common practice", () => {
    expect([1, 3, 4, 6, 7, 9, 10, 20, 21, 31, 41].map(bundleFactor)).toEqual([1, 1, 0.8, 0.8, 0.7, 0.7, 0.5, 0.5, 0.45, 0.4, 0.35]);
    expect([1, 2, 3].map(parallelFactor)).toEqual([1, 0.9, 0.8]);
    near(at25("14 AWG", 1, 25, 80, 2), 2 * 0.9 * 32, 1e-12);
  });

  it("lets cooler insulation lower the limit and hotter insulation earn nothing", () => {
    expect(at25("14 AWG", 1, 25, 60)).toBeLessThan(32);
    expect(at25("14 AWG", 1, 25, 200)).toBe(32);
  });

  it("allows short overloads as the handbook's check values", () => {
    // t/τ = 0.28768 at twice the limit from cold, 0.22314 after running at half of it.
    near(overloadTime(2, 0, 100, 60), 28.768, 1e-4);
    near(overloadTime(2, 0.5, 100, 60), 22.314, 1e-4);
    expect(overloadTime(1, 0.5, 100, 60)).toBe(Number.POSITIVE_INFINITY);
    expect(overloadTime(1.5, 1, 100, 60)).toBe(0);
  });
});

describe("fuses", () => {
  it.each([
    // ISO 8820-3 gates, from memory: blade 20 A at 50 A and 200 A; maxi 60 A at 300 A; strip 100 A at 400 A.
    ["blade_regular_32v", 2.5, false, 0.0886, 1.996],
    // Strict: 5 s at the gate of 2 ×, and no more energy above it: 5 · (2 / 2.5)².
    ["blade_regular_32v", 2.5, true, 0.04, 3.2],
    ["blade_regular_32v", 10, false, 0.0072, 0.036],
    ["blade_maxi_32v", 5, false, 0.0689, 1.931],
    ["strip_m5_32v", 4, false, 0.2285, 3.356],
  ] as const)("%s at %f × its rating, strict %s", (family, multiple, strict, min, max) => {
    const time = openingTime(gatesOf(family, ratingsOf(family).at(-1) ?? 0), multiple, strict);
    near(time.minS, min, 0.01);
    near(time.maxS, max, 0.01);
  });

  it("a blade fuse need not open at its rating and holds 100 hours at 1.1 times it", () => {
    const blade = gatesOf("blade_regular_32v", 20);
    expect(openingTime(blade, 1, true).maxS).toBe(Number.POSITIVE_INFINITY);
    expect(openingTime(blade, 1.1, true).minS).toBeGreaterThanOrEqual(360000);
  });

  it("needs the rating the handbook works out: 18 A at 60 °C", () => {
    near(carryingFactor("blade_regular_32v", 60), 0.9546, 1e-3);
    near(leastRating(18, "blade_regular_32v", "75 %", 60), 25.14, 1e-3);
    near(leastRating(18, "blade_regular_32v", "80 %", 60), 23.57, 1e-3);
    expect(carryingFactor("blade_regular_32v", -20)).toBe(1);
  });

  it("lists ratings in rising order with strict gates that only fall", () => {
    const ratings = ratingsOf("blade_regular_32v");
    expect(ratings).toEqual([...ratings].sort((a, b) => a - b));
    let last = Number.POSITIVE_INFINITY;
    for (let multiple = 1; multiple < 20; multiple += 0.05) {
      const { minS, maxS } = openingTime(gatesOf("blade_maxi_32v", 40), multiple, true);
      expect(minS).toBeLessThanOrEqual(maxS);
      expect(maxS).toBeLessThanOrEqual(last);
      last = maxS;
    }
  });
});
