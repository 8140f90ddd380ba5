import { describe, expect, it } from "vitest";
import { busAtStallA, heatingS } from "@/core/choosing/fuse-picture";
import { contactRating, hotFactor, loadedFactor, wireFit } from "@/core/connectors/contact";
import { bankJ, bleedOhm, inrushA, inrushA2s, needsPrecharge, prechargeGapV, prechargeOhm, prechargeS } from "@/core/connectors/precharge";
import { leastRating, wireMustBear } from "@/core/fuses/rating";
import { CONNECTORS, type ConnectorRow, connectorById } from "@/core/reference/connectors";
import { breakingAt, FUSE_FAMILIES, type FuseFamilyId, fuseRow, gatesOf, ratingsOf } from "@/core/reference/fuses";
import { type Gauge, gaugeById } from "@/core/reference/gauges";
import { parallelFactor } from "@/core/wires/ampacity";
import { runResistance } from "@/core/wires/resistance";

/** Check values of the handbook's chapters on protection (numbers) and on wires and connectors (letters), with their sources. */
const near = (value: number | null | undefined, expected: number, relative = 0.01) =>
  expect(Math.abs((value ?? Number.NaN) - expected) / Math.abs(expected), `${value} against ${expected}`).toBeLessThan(relative);
const row = (id: string) => connectorById(id) as ConnectorRow;
const gauge = (id: string) => gaugeById(id) as Gauge;

describe("inrush and precharge (derived; checks 29 to 33, 35, C03)", () => {
  const bank = { farads: 6e-3, volts: 54.6 };

  it("a bare contact onto 6 mF at 54.6 V", () => {
    near(inrushA(bank.farads, bank.volts, 0.02), 2730);
    near(bankJ(bank.farads, bank.volts), 8.943);
    near(inrushA2s(bank.farads, bank.volts, 0.02), 447.2);
  });

  it("with 3 µH of loop the current is held lower, until resistance rules", () => {
    near(inrushA(bank.farads, bank.volts, 0.02, 3e-6), 1404 * Math.sqrt(6e-3 / 3e-6) * (1 / Math.sqrt(6e-3 / 3e-6)), 0.75);
    expect(inrushA(bank.farads, bank.volts, 0.02, 3e-6)).toBeLessThan(inrushA(bank.farads, bank.volts, 0.02));
    expect(inrushA(bank.farads, bank.volts, 1, 3e-6)).toBeCloseTo(54.6, 9);
    // 2·√(L/C) is the critical resistance: 44.72 mΩ.
    near(2 * Math.sqrt(3e-6 / 6e-3), 0.04472);
  });

  it("through 47 Ω: five time constants, the gap that is left, and what a standing load does to it", () => {
    near(prechargeS(47, bank.farads), 1.41);
    near(bank.volts / 47, 1.162);
    near(bank.volts ** 2 / 47, 63.43);
    const gap = prechargeGapV(bank.volts, 47, bank.farads, prechargeS(47, bank.farads), 0);
    near(gap, 0.368);
    near(gap / 0.02, 18.4);
    near(prechargeGapV(bank.volts, 47, bank.farads, 1e6, 0.15), 7.05);
    near(7.05 / 0.02, 352, 0.02);
    near(prechargeOhm(2, bank.farads), 66.67);
  });

  it("bleeds 10 mF from 54 V to 5 V in a minute, and small banks want nothing", () => {
    near(bleedOhm(0.01, 54, 5, 60), 2521);
    near(54 ** 2 / 2521, 1.156);
    near(bankJ(2000e-6, 48), 2.304);
    near(inrushA(2000e-6, 48, 0.02), 2400);
    near(prechargeS(100, 2000e-6), 1);
    expect([needsPrecharge(400e-6, 24), needsPrecharge(600e-6, 24), needsPrecharge(6e-3, 12), needsPrecharge(10e-6, 48)]).toEqual([
      false,
      true,
      false,
      false,
    ]);
  });
});

describe("contacts (C01, C02, C04, V06, section 7)", () => {
  it("lowers for a hot place as √((T − Ta)/ΔT), never above 1", () => {
    near(hotFactor(30, 85), 0.8165, 1e-3);
    expect(hotFactor(30, 25)).toBe(1);
    expect(hotFactor(30, 105)).toBe(0);
    expect(hotFactor(30, 140)).toBe(0);
  });

  it("lowers for loaded contacts: sixteen of a 9 A family carry 6.03 A each", () => {
    near(contactRating(row("crimp420"), { family: "crimp420", loaded: 16 }, 25)?.contactA, 6.03, 2e-3);
    expect([1, 2, 3, 6, 7, 12, 13, 24, 25].map(loadedFactor)).toEqual([1, 1, 0.9, 0.9, 0.8, 0.8, 0.67, 0.67, 0.5]);
    expect(contactRating(row("crimp420"), { family: "crimp420", loaded: 24 }, 25)?.contactA).toBe(6);
  });

  it("takes the figure with all contacts loaded where a housing has only two", () => {
    expect(contactRating(row("gl50"), { family: "gl50" }, 25)?.contactA).toBe(40);
    expect(contactRating(row("key60"), { family: "key60" }, 25)?.contactA).toBe(30);
    expect(contactRating(row("buttsplice"), { family: "buttsplice" }, 25)).toBeNull();
  });

  it("shares parallel contacts and rings at n × 0.8", () => {
    near(contactRating(row("slip10"), { family: "slip10", perPole: 3, loaded: 2 }, 25)?.limitA, 24);
    expect(contactRating(row("slip10"), { family: "slip10", perPole: 1, loaded: 2 }, 25)?.limitA).toBe(10);
  });

  it("has the heat of its resistance", () => {
    near(60 ** 2 * 0.5e-3 * 2, 3.6);
    near(60 * row("key60").milliohm * 2e-3, 0.06);
  });

  it("takes the wires its table says, by size number or by area", () => {
    expect(["18 AWG", "16 AWG", "12 AWG", "10 AWG"].map((id) => wireFit(row("key60"), gauge(id), 1, 1))).toEqual([
      "too thin",
      "fits",
      "fits",
      "too thick",
    ]);
    expect(["1 mm²", "1.5 mm²", "2.5 mm²", "6 mm²"].map((id) => wireFit(row("key60"), gauge(id), 1, 1))).toEqual([
      "too thin",
      "fits",
      "fits",
      "too thick",
    ]);
    expect(wireFit(row("gl350"), gauge("1/0 AWG"), 1, 1)).toBe("fits");
    expect(wireFit(row("gl350"), gauge("4/0 AWG"), 1, 1)).toBe("fits");
    expect(wireFit(row("gl350"), gauge("2 AWG"), 1, 1)).toBe("too thin");
    expect(wireFit(row("key60"), gauge("16 AWG"), 2, 1)).toBe("fits");
    expect(wireFit(row("key60"), gauge("12 AWG"), 2, 2)).toBe("fits");
  });

  it("every family carries more with fewer contacts, wears to more resistance, and has a range of wires", () => {
    for (const each of CONNECTORS) {
      expect(each.agedMilliohm, each.id).toBeGreaterThanOrEqual(each.milliohm);
      expect(each.mm2Max, each.id).toBeGreaterThan(each.mm2Min);
      if (each.contactA !== null && each.allContactA !== null) expect(each.contactA, each.id).toBeGreaterThanOrEqual(each.allContactA);
    }
    expect(new Set(CONNECTORS.map(({ id }) => id)).size).toBe(CONNECTORS.length);
    expect(new Set(CONNECTORS.map(({ short }) => short)).size).toBe(CONNECTORS.length);
  });
});

describe("conductors in parallel (R01 to R03)", () => {
  const share = (ohms: readonly number[], amps: number) => {
    const siemens = ohms.map((ohm) => 1 / ohm);
    const all = siemens.reduce((a, b) => a + b, 0);
    return siemens.map((each) => (amps * each) / all);
  };

  it("divide by resistance, lugs included", () => {
    const [a = 0, b = 0] = share([2, 2.2], 60);
    near(a, 31.429, 1e-4);
    near(b, 28.571, 1e-4);
    const wire = runResistance(5.2108, 1, 20, 0, 1);
    const [c = 0, d = 0] = share([wire + 1e-3, wire + 3e-3], 60);
    near(c, 34.16, 5e-4);
    near(d, 25.84, 5e-4);
    expect(3 * 40 * parallelFactor(3)).toBeCloseTo(96, 9);
  });
});

describe("fuses (checks 9, 12, 14 to 16, 22, 24, 46)", () => {
  it("least rating of 18 A on zinc at 60 °C, and what the families of IEC 60127 ask of their wire", () => {
    near(leastRating(18, "blade_regular_32v", "75 %", 60), 25.14);
    near(leastRating(0.9, "cart_5x20_T_glass", "75 %", 25), 1, 0.02);
    near(10 / (wireMustBear({ family: "cart_5x20_F_glass", ratingA: 10 }, 25) / 10) / 10, 0.69, 2e-3);
  });

  it("a 20 A blade with 15 A: warm resistance, drop and loss (common practice, 10 %)", () => {
    const cold = (fuseRow("blade_regular_32v", 20)?.coldMilliohm ?? 0) / 1000;
    const warm = cold * (1 + 0.42 * (15 / 20) ** 2);
    near(warm, 4.179e-3, 0.1);
    near(15 * warm, 62.7e-3, 0.1);
    near(15 ** 2 * warm, 0.94, 0.1);
  });

  it("breaks what its family breaks at the volts there, and nothing is claimed beyond", () => {
    const cube = fuseRow("cube_single_bolt", 100);
    expect(cube && [14, 32, 48, 58, 60].map((volts) => breakingAt(cube, volts))).toEqual([10000, 5000, 2000, 2000, null]);
    const glass = fuseRow("cart_5x20_F_glass", 2);
    expect(glass?.maxV).toBeNull();
    expect(glass && breakingAt(glass, 5)).toBeNull();
  });

  it("holds every family's ratings with gates, resistance where it is known, and a larger fuse never resists more", () => {
    for (const family of Object.keys(FUSE_FAMILIES) as FuseFamilyId[]) {
      const ratings = ratingsOf(family);
      expect(ratings.length, family).toBeGreaterThan(2);
      let last = Number.POSITIVE_INFINITY;
      for (const ratingA of ratings) {
        expect(gatesOf(family, ratingA).length, `${family} ${ratingA}`).toBeGreaterThan(0);
        const ohm = fuseRow(family, ratingA)?.coldMilliohm;
        if (ohm == null) continue;
        expect(ohm, `${family} ${ratingA}`).toBeLessThanOrEqual(last * 1.35);
        last = ohm;
      }
    }
    expect(gatesOf("blade_regular_32v", 17)).toEqual([]);
  });
});

describe("a motor's branch (checks 25 to 28)", () => {
  it("heats its winding first order, from cold and from warm, and not at all below its rise", () => {
    near(heatingS(40, 6, 90, 0, 115), 1.446);
    near(heatingS(40, 6, 90, 90, 115), 0.319);
    near(heatingS(40, 2, 90, 0, 115), 15.39);
    expect(heatingS(40, 1.1, 90, 0, 115)).toBe(Number.POSITIVE_INFINITY);
  });

  it("draws little from the bus while a chopper holds it still", () => {
    near(busAtStallA(30, 0.2, 24, 1), 7.5);
    near(busAtStallA(30, 0.2, 24, 0.9), 8.333);
  });

  it("starts with an energy a fuse bears ten thousand times: 60 A dying away in 0.1 s against a 30 A blade", () => {
    near((60 ** 2 * 0.1) / 2, 180);
    const melts = 0.02 * 6 ** 2 * 30 ** 2;
    near(melts, 648);
    expect(180 / melts).toBeLessThan(0.29);
  });
});
