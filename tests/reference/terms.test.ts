import { describe, expect, it } from "vitest";
import { hotFactor, loadedFactor } from "@/core/connectors/contact";
import { inrushA, inrushA2s, prechargeGapV } from "@/core/connectors/precharge";
import { carryCapacitance, carryTime, lowPassGain, nextCapacitor } from "@/core/converters/capacitor";
import { heatsinkMost, linearLoss, linearMost } from "@/core/converters/linear";
import { efficiencyAt, fitLoss, inputPower, type LossModel, moduleMost } from "@/core/converters/switched";
import { thermalLimit } from "@/core/drivers/bridge";
import { deliverableAt } from "@/core/drivers/deliverable";
import { selectivityAt } from "@/core/faults/selectivity";
import { faultMaxC } from "@/core/faults/withstand";
import { inflow, type Way } from "@/core/figures/flow-capacity";
import { fuseOpening, openingTime } from "@/core/fuses/opening";
import { leastRating } from "@/core/fuses/rating";
import { motorConstant } from "@/core/loads/drive";
import { newPart } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Converter, Load, Pack, Wire } from "@/core/machine/schema";
import { agedOhmFactor, capacityFactor, chargeOhmFactor, coldOhmFactor, packVolts, peukertHours } from "@/core/packs/chemistry";
import { packModel, reserveOf } from "@/core/packs/pack";
import { CHEMISTRIES, chemistryOf } from "@/core/reference/chemistries";
import { gatesOf, ratingsOf } from "@/core/reference/fuses";
import { gaugeById } from "@/core/reference/gauges";
import { insulationById } from "@/core/reference/insulation";
import { converterRating } from "@/core/sources/ratings";
import { bondMm2 } from "@/core/verdicts/returns/chassis-bond";
import { adiabaticC, adiabaticK } from "@/core/wires/adiabatic";
import { ampacityOf, bundleFactor, temperatureAfter } from "@/core/wires/ampacity";
import { bearsFor } from "@/core/wires/brief";
import { surfaceHeat, wireBody } from "@/core/wires/heat";
import { film, withstand } from "../support/physics";
import { simple } from "../support/small";

/** Second terms of formulas, each by hand: the term that is small in the usual case and decides in the bad one. */
const LOSS: LossModel = { watts: 0.6, volts: 0.1, ohm: 0.05, atInput: false, atV: 24 };
const converter = (over: Partial<Converter>) => newPart("converter", "c", "c", { outputV: f(5), efficiency: f(0.9), ...over }) as Converter;
const wire = (over: Partial<Wire> = {}): Wire => ({ ...(simple().wires[1] as Wire), gauge: "14 AWG", bundle: 1, ...over });
const SETTINGS = simple().settings;

describe("converters", () => {
  it("lose a fixed part with the input volts, one with the amps that goes half with them, and one with the square", () => {
    expect(inputPower(LOSS, 50, 4, 24)).toBeCloseTo(50 + 0.6 + 0.1 * 4 + 0.05 * 16, 9);
    expect(inputPower(LOSS, 50, 4, 48)).toBeCloseTo(50 + 0.6 * 2 + 0.1 * 1.5 * 4 + 0.05 * 16, 9);
    expect(inputPower({ ...LOSS, atV: null }, 50, 4, 48)).toBeCloseTo(50 + 0.6 + 0.4 + 0.8, 9);
    expect(efficiencyAt(LOSS, 12.5, 4, 24)).toBeCloseTo(50 / 51.8, 9);
  });

  it("with the square at the input take it from the current that flows there: P = I·U, P = 51 + 0.05·I²", () => {
    const watts = inputPower({ ...LOSS, atInput: true }, 50, 4, 24);
    expect(watts).toBeCloseTo(51 + 0.05 * (watts / 24) ** 2, 9);
    expect(inputPower({ ...LOSS, atInput: true, ohm: 4 }, 50, 4, 24)).toBeNaN();
  });

  it("are fitted through three points, and a loss that is none is told", () => {
    const at = (amps: number) => 60 / (60 + (0.5 + 0.2 * amps + 0.03 * amps ** 2) * (60 / (12 * amps)));
    const { loss, forced } = fitLoss(12, [
      [1, at(1)],
      [3, at(3)],
      [6, at(6)],
    ]);
    expect([loss.watts, loss.volts, loss.ohm].map((each) => Number(each.toFixed(6)))).toEqual([0.5, 0.2, 0.03]);
    expect(forced).toBe(false);
    expect(
      fitLoss(12, [
        [1, 0.9],
        [3, 0.97],
        [6, 0.99],
      ]).forced,
    ).toBe(true);
  });

  it("in warm air may make what is left to their hottest: (105 − 65)/(105 − 25) of it", () => {
    const amps = moduleMost(LOSS, 5, 65);
    expect(0.6 + 0.1 * amps + 0.05 * amps ** 2).toBeCloseTo(0.5 * (0.6 + 0.5 + 0.05 * 25), 9);
    expect(moduleMost(LOSS, 5, 105)).toBe(0);
    expect(moduleMost({ ...LOSS, ohm: 0 }, 5, 35)).toBeCloseTo((1.1 * (70 / 80) - 0.6) / 0.1, 9);
    const rated = converter({ topology: "buck", ratedA: f(5), lossW: f(0.6), lossV: f(0.1), lossOhm: f(0.05) });
    expect(converterRating(rated, 65, 24).continuousA).toBeCloseTo(amps, 9);
    expect(converterRating(rated, 25, 24).continuousA).toBe(5);
  });

  it("of the linear kind burn the difference and their own current", () => {
    expect(linearLoss(12, 5, 0.5, 0.01)).toBeCloseTo(7 * 0.5 + 12 * 0.01, 12);
    expect(linearMost(12, 5, 0.01, 40, 110, 50)).toBeCloseTo((70 / 50 - 0.12) / 7, 12);
    expect(heatsinkMost(5, 110, 40, 5, 0.5)).toBeCloseTo(14 - 5.5, 12);
    const part = converter({ topology: "linear", ratedA: f(1.5), kelvinPerWatt: f(50), quiescentA: f(0.01) });
    expect(converterRating(part, 40, 12).continuousA).toBeCloseTo((70 / 50 - 0.12) / 7, 12);
  });
});

describe("capacitors", () => {
  it("carry less by what their own resistance takes: C = I·t/(ΔV − I·ESR), ½·C·(U² − (U_end + I·ESR)²) = P·t", () => {
    expect(carryCapacitance(2, 0.01, 1, 0.1)).toBeCloseTo(0.02 / 0.8, 12);
    expect(carryCapacitance(2, 0.01, 1, 0.5)).toBeNull();
    expect(carryTime(0.01, 0.1, 10, 12, 5)).toBeCloseTo((0.01 * (144 - (5 + 2 * 0.1) ** 2)) / 20, 12);
    expect(carryTime(0.01, 4, 10, 12, 5)).toBe(0);
  });

  it("with a choke damp by their resistance too, and come in steps of six", () => {
    const [w, l, c, r] = [2 * Math.PI * 20000, 100e-6, 220e-6, 0.1];
    const by = 20 * Math.log10(Math.hypot(r, 1 / (w * c)) / Math.hypot(r, w * l - 1 / (w * c)));
    expect(lowPassGain(l, c, r, 20000)).toBeCloseTo(by, 9);
    expect(by).toBeLessThan(-40);
    expect([2.2e-3, 2.3e-3, 7e-3].map(nextCapacitor)).toEqual([2.2e-3, 3.3e-3, 0.01]);
  });

  it("behind a precharge are short of what time and a standing load leave, and rush in by the square", () => {
    expect(prechargeGapV(24, 33, 6e-3, 0.5, 0)).toBeCloseTo(24 * Math.exp(-0.5 / 0.198), 9);
    expect(prechargeGapV(24, 33, 6e-3, 0.5, 0.1)).toBeCloseTo(24 * Math.exp(-0.5 / 0.198) + 3.3, 9);
    expect(prechargeGapV(24, 33, 6e-3, 0, 1)).toBe(24);
    expect(inrushA2s(6e-3, 24, 0.02)).toBeCloseTo((6e-3 * 576) / 0.04, 9);
    // A choke of the wiring holds it: U·√(C/L) below the resistance's own.
    expect(inrushA(6e-3, 24, 0.02, 10e-6)).toBeCloseTo(24 / Math.sqrt(10e-6 / 6e-3), 6);
    expect(inrushA(6e-3, 24, 0.2, 10e-6)).toBeCloseTo(120, 9);
  });
});

describe("drives", () => {
  it("push through a stalled motor what bridge and leads leave: (U − U_b)/(R + R_b + R_l)", () => {
    const motor = newPart("load", "m", "m", { loadKind: "motor", nominalV: f(12), levels: { stall: f(30) }, count: 2 }) as Load;
    expect(deliverableAt(motor, { dropV: 1.4, ohm: 0.05 }, 14, 0.03)).toBeCloseTo(12.6 / (0.2 + 0.05 + 0.03), 9);
  });

  it("in one package share its heat: I·U + I²·R = ΔT/θ/n", () => {
    const amps = thermalLimit({ dropV: 1.4, ohm: 0.3 }, 105, 35, 2);
    expect(1.4 * amps + 0.3 * amps ** 2).toBeCloseTo(1.5, 9);
    expect(thermalLimit({ dropV: 1.4, ohm: 0 }, 105, 35, 2)).toBeCloseTo(1.5 / 1.4, 9);
  });

  it("know a motor's constant less what its winding drops at no load", () => {
    expect(motorConstant(12, 3000, 1, 0.5)).toBeCloseTo(11.5 / (100 * Math.PI), 12);
  });
});

describe("packs", () => {
  const pack = (over: Partial<Pack>): Pack =>
    newPart("pack", "p", "p", {
      openCircuitV: f(13),
      chemistry: "lifepo4_energy",
      series: 4,
      capacityAh: f(20),
      internalOhm: f(0.02),
      ...over,
    }) as Pack;

  it("keep back what their chemistry's usable depth leaves, unless it is told", () => {
    const { usable } = chemistryOf("lifepo4_energy");
    expect(reserveOf(pack({}))).toBeCloseTo(1 - usable, 12);
    expect(reserveOf(pack({ lowCharge: f(0.35) }))).toBe(0.35);
    expect(reserveOf(pack({ chemistry: undefined }))).toBeNull();
    const found = packModel(pack({ health: f(0.8) }), 0);
    if (!("model" in found)) throw new Error(found.missing.join());
    expect(found.model.reserve).toBeCloseTo(1 - usable, 12);
    expect(found.model.peukertAh).toBeCloseTo(16, 12);
    expect(found.model.capacityAh).toBeCloseTo(16 * chemistryOf("lifepo4_energy").capacity0C, 12);
  });

  it.each(CHEMISTRIES.map((chemistry) => [chemistry.id, chemistry] as const))("%s: cold, age and charge by its row", (_, row) => {
    expect(capacityFactor(row, 12.5)).toBeCloseTo((1 + row.capacity0C) / 2, 9);
    expect(capacityFactor(row, -10)).toBeCloseTo(Math.max(0.1, row.capacityM10C), 9);
    expect(coldOhmFactor(row, 0)).toBeCloseTo(row.ohm0C, 9);
    expect(coldOhmFactor(row, -5)).toBeCloseTo((row.ohm0C + row.ohmM10C) / 2, 9);
    if (row.ageing < 1) expect(agedOhmFactor(row, row.ageing)).toBeCloseTo(row.ohmAged, 9);
    expect(chargeOhmFactor(row, 0)).toBeCloseTo(row.family === "alkaline" ? 3 : 2, 9);
    expect(chargeOhmFactor(row, 0.075)).toBeCloseTo(row.family === "alkaline" ? 2.85 : 1.5, 9);
  });

  it("of lead charge higher in the cold, 4 mV a kelvin and cell", () => {
    const lead = chemistryOf("lead_agm");
    expect(packVolts(lead, 6, 0).highestV - packVolts(lead, 6).highestV).toBeCloseTo(6 * 25 * 0.004, 9);
    expect(packVolts(lead, 6, 40).highestV).toBe(packVolts(lead, 6).highestV);
  });

  it("give Peukert's hours above their rated current and C/I below", () => {
    expect(peukertHours(100, 20, 1.2, 25)).toBeCloseTo(20 * (100 / 500) ** 1.2, 9);
    expect(peukertHours(100, 20, 1.2, 4)).toBe(25);
  });
});

describe("fuses", () => {
  it("carry less in the heat, and are sized by what they may carry continuously", () => {
    // Zinc melts at 419 °C: √((419 − 60)/(419 − 25)).
    expect(leastRating(10, "blade_regular_32v", "75 %", 60)).toBeCloseTo(10 / 0.75 / Math.sqrt((419 - 60) / (419 - 25)), 2);
    expect(leastRating(10, "blade_regular_32v", "75 %", -20)).toBeCloseTo(10 / 0.75, 9);
  });

  it("open by the energy of their last gate beyond it, and never with less between two gates", () => {
    const gates = gatesOf("blade_regular_32v", 20);
    const last = gates.at(-1);
    const before = gates.at(-2);
    if (!last?.maxS || !before?.maxS) throw new Error("no gates");
    expect(openingTime(gates, last.multiple * 2, true).maxS).toBeCloseTo(last.maxS / 4, 9);
    const middle = (last.multiple + before.multiple) / 2;
    expect(openingTime(gates, middle, true).maxS).toBeGreaterThanOrEqual(before.maxS * (before.multiple / middle) ** 2 - 1e-12);
    expect(openingTime(gates, middle, true).maxS).toBeGreaterThanOrEqual(openingTime(gates, middle, false).maxS);
  });

  it("count as alone to open by the share of what melts the larger one: 75 %", () => {
    // Over many pairs and currents: the largest share that is still called so, and the smallest that is not.
    let [most, least] = [0, Number.POSITIVE_INFINITY];
    const families = ["blade_regular_32v", "strip_m5_32v", "blade_maxi_32v"] as const;
    for (const near of families.flatMap((family) => ratingsOf(family).map((ratingA) => ({ family, ratingA }))))
      for (const far of ratingsOf("strip_m5_32v").map((ratingA) => ({ family: "strip_m5_32v" as const, ratingA })))
        for (let amps = 40; amps < 900; amps *= 1.03) {
          const { maxS } = fuseOpening(near, amps, 25, 25, true);
          const { minS } = fuseOpening(far, amps, 25, 25, true);
          if (!(maxS < 0.1 && maxS < minS)) continue;
          if (selectivityAt(near, amps, far, amps, 25, 25) === "assured") most = Math.max(most, maxS / minS);
          else least = Math.min(least, maxS / minS);
        }
    expect(most).toBeLessThanOrEqual(0.75);
    expect(most).toBeGreaterThan(0.735);
    expect(least).toBeGreaterThan(0.75);
    expect(least).toBeLessThan(0.765);
  });

  it("and sources in parallel add, and no more flows than the narrowest cut before lets through", () => {
    const ways: Way[] = [
      { from: -1, to: 0, limitA: 100, id: -1 },
      { from: 0, to: 1, limitA: 20, id: 1 },
      { from: 0, to: 1, limitA: 15, id: 2 },
      { from: 1, to: 2, limitA: 50, id: 3 },
      { from: -1, to: 2, limitA: 6, id: -2 },
    ];
    expect(inflow(ways, 1)).toMatchObject({ amps: 41 });
    expect(inflow(ways, 2)).toMatchObject({ amps: 41 });
    expect(
      inflow(ways, 2)
        .cut.map(({ id }) => id)
        .sort(),
    ).toEqual([-2, 1, 2]);
    expect(inflow(ways, 2, 1).amps).toBe(21);
    expect(inflow([{ from: -1, to: 0, limitA: Number.POSITIVE_INFINITY, id: -1 }], 0).amps).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("what something bears for a time", () => {
  it("is its peak up to that time, then a first-order body's, and what holds continuously from ten minutes on", () => {
    const tau = -10 / Math.log(1 - (20 / 30) ** 2);
    expect(bearsFor(5, 20, 30)).toBe(30);
    expect(bearsFor(10, 20, 30)).toBe(30);
    expect(bearsFor(30, 20, 30)).toBeCloseTo(20 / Math.sqrt(1 - Math.exp(-30 / tau)), 9);
    expect(bearsFor(600, 20, 30)).toBe(20);
    expect(bearsFor(null, 20, 30)).toBe(20);
    expect(bearsFor(30, 20, 30, 40)).toBe(30);
    expect(bearsFor(1, 20, 10)).toBe(20);
  });
});

describe("wires", () => {
  it("shed heat as a cylinder in still air does (Churchill and Chu) and by radiation", () => {
    const gauge = gaugeById("14 AWG");
    const insulation = insulationById("pvc80");
    if (!gauge || !insulation) throw new Error("no table");
    const body = wireBody(gauge, insulation);
    for (const [surface, air] of [
      [60, 25],
      [80, 40],
      [120, -10],
    ] as const)
      expect(surfaceHeat(body, surface, air) / (Math.PI * body.outerM * film(body.outerM, surface, air) * (surface - air))).toBeCloseTo(
        1,
        1,
      );
    expect(surfaceHeat(body, 25, 25)).toBe(0);
  });

  it("heat by first order from where they were, and never more than copper does that keeps its heat", () => {
    const ampacity = ampacityOf(wire(), SETTINGS);
    if (!ampacity) throw new Error("no ampacity");
    const { limitA, maxC, airC, tauS } = ampacity;
    const amps = limitA * 1.3;
    const settles = temperatureAfter(wire(), ampacity, amps, Number.POSITIVE_INFINITY, 0);
    expect(temperatureAfter(wire(), ampacity, amps, tauS, 0)).toBeCloseTo(airC + (settles - airC) * (1 - Math.exp(-1)), 6);
    const before = (maxC - airC) * 0.25;
    expect(temperatureAfter(wire(), ampacity, amps, tauS, 0.5)).toBeCloseTo(
      airC + before * Math.exp(-1) + (settles - airC) * (1 - Math.exp(-1)),
      6,
    );
    const thin = wire({ gauge: "18 AWG" });
    const own = ampacityOf(thin, SETTINGS);
    if (!own) throw new Error("no ampacity");
    const warm = own.airC + (own.maxC - own.airC) * 0.25;
    expect(temperatureAfter(thin, own, 60, 3, 0.5)).toBeCloseTo(adiabaticC(warm, 60, gaugeById("18 AWG")?.areaMm2 ?? 0, 3), 6);
  });

  it("of a board carry by IPC-2221 at 20 K of rise, or what is left to the 105 °C of its laminate", () => {
    const board = { kind: "trace" as const, widthMm: f(5), copperUm: f(70), layer: "outside" as const };
    const trace = { ...wire(), gauge: undefined, board } as Wire;
    const by = (riseK: number) => 0.048 * riseK ** 0.44 * ((5000 / 25.4) * (70 / 25.4)) ** 0.725;
    expect(ampacityOf(trace, SETTINGS)?.limitA).toBeCloseTo(by(20), 6);
    expect(ampacityOf(trace, { ...SETTINGS, ambientC: 100 })?.limitA).toBeCloseTo(by(5), 6);
    expect(ampacityOf({ ...trace, parallel: 2 }, SETTINGS)?.limitA).toBeCloseTo(2 * by(20), 6);
    expect(ampacityOf({ ...trace, board: { ...board, layer: "inside" } }, SETTINGS)?.limitA).toBeCloseTo(by(20) / 2, 6);
  });

  it("carry less in warm air, in a sleeve and beside others, by the factors of their school", () => {
    const limit = (over: Partial<Wire>, settings = SETTINGS) => ampacityOf(wire(over), settings)?.limitA ?? 0;
    const free = limit({});
    expect(limit({}, { ...SETTINGS, ambientC: 55 }) / free).toBeCloseTo(Math.sqrt(25 / 55), 6);
    expect(limit({ surroundings: "sleeve" }) / free).toBeCloseTo(0.8, 6);
    expect(limit({ bundle: 6 }) / free).toBeCloseTo(6 ** -0.34, 6);
    expect(limit({ parallel: 2 }) / free).toBeCloseTo(2 * 0.9, 1);
    expect(limit({}, { ...SETTINGS, ambientC: 5 })).toBeCloseTo(free, 9);
  });

  it("reach by energy what their k allows (IEC 60364-5-54 annex A), soldered joints 160 °C", () => {
    expect(adiabaticC(80, Math.sqrt(withstand("14 AWG", 80)), gaugeById("14 AWG")?.areaMm2 ?? 0, 1)).toBeCloseTo(160, 0);
    expect(adiabaticK(70, 160)).toBeCloseTo(115, 0);
    expect(adiabaticK(90, 250)).toBeCloseTo(143, 0);
    expect(faultMaxC(wire({ insulation: "xlpe125", soldered: true }))).toBe(160);
    expect(faultMaxC(wire({ insulation: "xlpe125" }))).toBe(250);
  });
});

describe("tables that go in steps, at each step", () => {
  const steps = (of: (n: number) => number, ...ns: number[]) => ns.map(of);

  it("current-carrying conductors together (NEC 310.15(C)(1), from memory)", () => {
    expect(steps(bundleFactor, 1, 3, 4, 6, 7, 9, 10, 20, 21, 30, 31, 40, 41)).toEqual([
      1, 1, 0.8, 0.8, 0.7, 0.7, 0.5, 0.5, 0.45, 0.45, 0.4, 0.4, 0.35,
    ]);
  });

  it("loaded contacts of a housing (typical)", () => {
    expect(steps(loadedFactor, 1, 2, 3, 6, 7, 12, 13, 24, 25)).toEqual([1, 1, 0.9, 0.9, 0.8, 0.8, 0.67, 0.67, 0.5]);
  });

  it("copper of a bond beside its supply (IEC 60204-1, from memory)", () => {
    expect(steps(bondMm2, 2.5, 16, 25, 35, 50, 95)).toEqual([2.5, 16, 16, 16, 25, 47.5]);
  });

  it("a hot place takes from a contact what is left to its housing's 105 °C", () => {
    expect(hotFactor(30, 75)).toBe(1);
    expect(hotFactor(30, 97.5)).toBeCloseTo(0.5, 9);
    expect(hotFactor(30, 110)).toBe(0);
  });
});
