import { describe, expect, it } from "vitest";
import { boatBundleFactor, bundleFactor, freeAirBundleFactor } from "@/core/wires/ampacity";

/**
 * A bundle of n alike wires solved as one cylinder, by hand and with nothing of core: film of a horizontal cylinder in still
 * air (Churchill and Chu 1975) and radiation, heat spread evenly inside (q / 4πk), then each wire's own insulation.
 * Bundle diameter 1.15·√n·D and k 0.15 W/m·K: handbook harness section 8, derived.
 */
const COPPER_MM2 = 3.3088;
const OHM_PER_M_20 = (0.0052086 * 1.02) as number;
const [D_COPPER, D_WIRE] = [Math.sqrt((4 * COPPER_MM2) / (0.75 * Math.PI)), Math.sqrt((4 * COPPER_MM2) / (0.75 * Math.PI)) + 1.6];
const PVC_W_PER_MK = 0.17;

function film(diameterMm: number, surfaceC: number, airC: number): number {
  const d = diameterMm / 1000;
  const t = (surfaceC + airC) / 2 + 273.15;
  const mu = (1.716e-5 * (t / 273.15) ** 1.5 * 383.55) / (t + 110.4);
  const k = (0.02414 * (t / 273.15) ** 1.5 * 467.15) / (t + 194);
  const rho = 101325 / (287.05 * t);
  const [nu, alpha] = [mu / rho, k / (rho * 1006)];
  const ra = ((9.80665 / t) * (surfaceC - airC) * d ** 3) / (nu * alpha);
  const nusselt = (0.6 + (0.387 * ra ** (1 / 6)) / (1 + (0.559 / (nu / alpha)) ** (9 / 16)) ** (8 / 27)) ** 2;
  const [s, a] = [surfaceC + 273.15, airC + 273.15];
  return (nusselt * k) / d + 0.9 * 5.670374e-8 * (s * s + a * a) * (s + a);
}

/** Heat in W/m that n wires together give off with the hottest conductor at `hotC`. */
function heat(n: number, hotC: number, airC: number, kBundle: number): number {
  const outer = n === 1 ? D_WIRE : 1.15 * Math.sqrt(n) * D_WIRE;
  const inside = n === 1 ? 0 : 1 / (4 * Math.PI * kBundle);
  const wall = Math.log(D_WIRE / D_COPPER) / (2 * Math.PI * PVC_W_PER_MK) / n;
  let [low, high] = [airC, hotC];
  for (let i = 0; i < 80; i++) {
    const surface = (low + high) / 2;
    const q = ((Math.PI * outer) / 1000) * film(outer, surface, airC) * (surface - airC);
    if (surface + q * (inside + wall) > hotC) high = surface;
    else low = surface;
  }
  const surface = (low + high) / 2;
  return ((Math.PI * outer) / 1000) * film(outer, surface, airC) * (surface - airC);
}

function ampsEach(n: number, kBundle = 0.15, hotC = 80, airC = 40): number {
  return Math.sqrt(heat(n, hotC, airC, kBundle) / n / (OHM_PER_M_20 * (1 + 0.00393 * (hotC - 20))));
}

/** Rise of the hottest conductor at a current each, K, by bisection of the balance above. */
function riseAt(n: number, amps: number, airC = 40): number {
  let [low, high] = [airC, 400];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (ampsEach(n, 0.15, middle, airC) > amps) high = middle;
    else low = middle;
  }
  return (low + high) / 2 - airC;
}

const COUNTS = [2, 4, 6, 10, 20, 30, 40];

describe("wires that run together, against a heat balance of the bundle", () => {
  it("finds what the handbook derived (HN21, HN22): 0.550 for 6, 0.364 for 20 loaded 12 AWG wires", () => {
    expect(ampsEach(6) / ampsEach(1)).toBeCloseTo(0.55, 1);
    expect(Math.abs(ampsEach(6) / ampsEach(1) / 0.55 - 1)).toBeLessThan(0.02);
    expect(Math.abs(ampsEach(20) / ampsEach(1) / 0.364 - 1)).toBeLessThan(0.02);
  });

  it.each(COUNTS)("%d loaded wires: the factor on free-air values is the balance's within 4 %", (n) => {
    expect(Math.abs(freeAirBundleFactor(n) / (ampsEach(n) / ampsEach(1)) - 1)).toBeLessThan(0.04);
  });

  it.each(COUNTS)("%d loaded wires with the reserve of the heat balance stay within the allowed rise, loose or tight", (n) => {
    const each = 0.85 * freeAirBundleFactor(n) * ampsEach(1);
    expect(riseAt(n, each)).toBeLessThan(40);
    // Half as much conduction inside as planned with takes what the reserve leaves, no more.
    expect(each).toBeLessThanOrEqual(ampsEach(n, 0.1));
  });

  it("the spacecraft rule on free-air values would let through 1.4 to 1.6 times the rise, reserve and all", () => {
    const spacecraft = (n: number) => (n <= 15 ? (29 - n) / 28 : 0.5);
    expect(riseAt(6, 0.85 * spacecraft(6) * ampsEach(1)) / 40).toBeGreaterThan(1.4);
    expect(riseAt(20, 0.85 * spacecraft(20) * ampsEach(1)) / 40).toBeGreaterThan(1.3);
  });

  it("published chains agree: table for bundles over table for free air, times their factor", () => {
    // NFPA 70 tables 310.16 and 310.17, 12 AWG at 75 °C: 25 and 35 A (from memory).
    for (const n of [10, 20, 30]) {
      const chain = (25 / 35) * bundleFactor(n);
      expect(freeAirBundleFactor(n)).toBeGreaterThan(chain * 0.95);
      expect(freeAirBundleFactor(n) * 0.85).toBeLessThan(chain * 1.15);
    }
    // ABYC E-11's own factors on its own table are no looser from ten wires down.
    for (const n of [3, 6]) expect(Math.abs(boatBundleFactor(n) / freeAirBundleFactor(n) - 1)).toBeLessThan(0.12);
  });

  it("one wire alone is not lowered, and more never carry more each", () => {
    expect(freeAirBundleFactor(1)).toBe(1);
    for (let n = 1; n < 60; n++) expect(freeAirBundleFactor(n + 1)).toBeLessThan(freeAirBundleFactor(n));
  });
});
