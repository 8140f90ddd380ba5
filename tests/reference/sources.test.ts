import { describe, expect, it } from "vitest";
import { carryCapacitance, lowPass, lowPassGain } from "@/core/converters/capacitor";
import { heatsinkMost, junction, linearLoss, linearMost } from "@/core/converters/linear";
import { bestAt, boostMost, buckLeastInput, efficiencyAt, fitLoss, inputPower, moduleMost } from "@/core/converters/switched";
import { computeFigures } from "@/core/figures/figures";
import { solveMachine } from "@/core/figures/solved";
import { amplifierCurrent as supplyCurrent } from "@/core/loads/others";
import { newMachine } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import { buildCircuit } from "@/core/network/build";
import { cellOhm, chargeAt, faultAmps, ocvAt, ohmFromReadings, packOhm, packVolts, peukertHours } from "@/core/packs/chemistry";
import { CHEMISTRIES, chemistryOf, ocvCurve } from "@/core/reference/chemistries";
import { REGULATORS } from "@/core/reference/regulators";
import { USB_PORTS } from "@/core/reference/supplies";
import { busAfter, busCapacitance, derating, startTime } from "@/core/sources/supply";
import { runResistance } from "@/core/wires/resistance";
import { must, part } from "../support/small";

/**
 * Check values of the handbook's section 8 (CV n there). Source of each in brackets; D: derived by arithmetic and re-computed
 * there; inputs from its tables are from memory.
 */
const within = (value: number, expected: number, share: number) =>
  expect(Math.abs(value - expected)).toBeLessThanOrEqual(Math.abs(expected) * share);

describe("batteries", () => {
  it("CV 1: Peukert's law and re-rating [Peukert's equation; Linden, from memory]", () => {
    within(peukertHours(100, 20, 1.2, 20), 3.789, 0.005);
    within(peukertHours(100, 20, 1.2, 20) * 20, 75.79, 0.005);
    within(peukertHours(100, 20, 1.2, 5), 20, 0.005);
  });

  it("CV 2: a mission in steps uses the sum of its shares [D from CV 1]", () => {
    const used = [
      [5, 2],
      [20, 1],
      [40, 0.25],
    ].reduce((sum, [amps = 0, hours = 0]) => sum + hours / peukertHours(100, 20, 1.2, amps), 0);
    within(used, 0.5155, 0.005);
  });

  it("CV 4: open-circuit volts between table points [D from table 1.2]", () => {
    expect(6 * ocvAt(chemistryOf("lipo"), 0.45)).toBeCloseTo(22.92, 2);
  });

  it("CV 5: resistance of a composed pack [D from table 1.3]", () => {
    const cell = cellOhm(chemistryOf("nmc_power"), 2.5);
    expect(cell * 1e3).toBeCloseTo(22, 6);
    expect(packOhm(cell, 10, 4, 0) * 1e3).toBeCloseTo(55, 6);
    expect(packOhm(cell, 10, 4, 0.005) * 1e3).toBeCloseTo(60, 6);
  });

  it("CV 6: sag of a lead pack and where it cuts off [D]", () => {
    const agm = chemistryOf("lead_agm");
    const ohm = packOhm(cellOhm(agm, 18), 6, 1, 0);
    expect(ohm * 1e3).toBeCloseTo(20, 6);
    const open = 6 * ocvAt(agm, 0.6);
    expect(open).toBeCloseTo(12.42, 2);
    expect(open - 60 * ohm).toBeCloseTo(11.22, 2);
    expect(chargeAt(agm, (11 + 60 * ohm) / 6) * 100).toBeCloseTo(41.7, 1);
  });

  it("CV 7: the same cut-off, warm and at three times the resistance [D]", () => {
    const lipo = chemistryOf("lipo");
    const ohm = packOhm(cellOhm(lipo, 5), 6, 1, 0);
    expect(chargeAt(lipo, (19.8 + 60 * ohm) / 6) * 100).toBeCloseTo(3.97, 0);
    expect(chargeAt(lipo, (19.8 + 60 * ohm * 3) / 6) * 100).toBeCloseTo(80, 0);
  });

  it("CV 8: constant power from a sagging source, through the network, and the most it can give [maximum power theorem]", () => {
    let machine = newMachine("cv8");
    machine = part(machine, "pack", "pack", { openCircuitV: typical(22.2), internalOhm: typical(0.03) });
    machine = part(
      machine,
      "load",
      "load",
      { behaviour: "power", nominalV: typical(20), cells: { m1: { state: "amps", amps: typical(50) } } },
      { from: "pack.+", back: "pack.-" },
    );
    const ohm = 0.03 + buildCircuit(machine).branches.reduce((sum, branch) => sum + branch.ohm, 0);
    const underPower = (watts: number, inside: number) => (22.2 - Math.sqrt(22.2 ** 2 - 4 * inside * watts)) / (2 * inside);
    within(underPower(1000, 0.03), 48.18, 0.002);
    expect(computeFigures(solveMachine(machine)).parts.load?.amps[0]).toBeCloseTo(underPower(1000, ohm), 6);
    // U²/4R: just below it there is a point, just above there is none.
    const most = 22.2 ** 2 / (4 * ohm);
    within(22.2 ** 2 / (4 * 0.03), 4107, 0.002);
    const collapses = (watts: number) =>
      computeFigures(
        solveMachine(must(machine, { type: "setCell", loadId: "load", modeId: "m1", cell: { state: "amps", amps: typical(watts / 20) } })),
      ).modes[0]?.collapsed;
    expect([collapses(most * 0.999), collapses(most * 1.001)]).toEqual([false, true]);
  });

  it("CV 9: a cold lead charger raises the rail [−4 mV/K a cell, common practice, from memory]", () => {
    expect(packVolts(chemistryOf("lead_flooded"), 12, 0).chargeStdV ?? 0).toBeCloseTo(30, 2);
  });

  it("CV 11: alkaline cells under load [D from table 1.3]", () => {
    expect(9.6 - 0.5 * 1.7).toBeCloseTo(8.75, 2);
    const aa = cellOhm(chemistryOf("alkaline_aa"), 2.6);
    expect(4 * 1.6 - 2 * 4 * aa).toBeCloseTo(4.8, 2);
    within(cellOhm(chemistryOf("alkaline_9v"), 0.55) * 6, 1.7, 0.005);
  });

  it("CV 12: fault current, bare and through wiring; two packs apart [D]", () => {
    const agm = chemistryOf("lead_agm");
    const open = 6 * ocvAt(agm, 1);
    const fault = faultAmps(agm, 6, 1, 18);
    within(fault, 1542, 0.01);
    within(open / (open / fault + 0.005), 964, 0.01);
    within(1 / 0.03, 33.3, 0.01);
  });

  it("CV 36 and section 3: marks of common packs [D from table 1.1]", () => {
    const marks = (id: (typeof CHEMISTRIES)[number]["id"], series: number) => packVolts(chemistryOf(id), series);
    const seven = marks("lipo", 7);
    expect([seven.chargeMaxV, seven.nominalV, seven.cutV, seven.cutAbsV].map((v) => Number((v ?? 0).toFixed(2)))).toEqual([
      29.4, 25.9, 23.1, 21,
    ]);
    const lfp = marks("lifepo4_energy", 8);
    expect([lfp.chargeMaxV, lfp.chargeStdV, lfp.nominalV, lfp.cutV, lfp.cutAbsV].map((v) => Number((v ?? 0).toFixed(2)))).toEqual([
      29.2, 28.8, 25.6, 22.4, 20,
    ]);
    const lead = marks("lead_agm", 12);
    expect([lead.chargeMaxV, lead.chargeStdV, lead.cutV].map((v) => Number((v ?? 0).toFixed(2)))).toEqual([30, 28.8, 21]);
    expect(marks("nimh_aa", 10).chargeMaxV).toBeCloseTo(15.5, 6);
    expect(marks("alkaline_aa", 4).chargeMaxV).toBeNull();
    expect(marks("alkaline_aa", 4).highestV).toBeCloseTo(6.4, 6);
    // Flooded equalise is 62.4 V on 24 cells: over what may be touched.
    expect(marks("lead_flooded", 24).highestV).toBeCloseTo(62.4, 6);
  });

  it("tables rise with charge, and every row has what it needs", () => {
    for (const chemistry of CHEMISTRIES) {
      const { points } = ocvCurve(chemistry);
      expect(points[0]?.[0]).toBe(0);
      expect(points.at(-1)?.[0]).toBe(1);
      points.slice(1).forEach(([charge, volts], i) => {
        expect(charge).toBeGreaterThan(points[i]?.[0] ?? 2);
        expect(volts).toBeGreaterThan(points[i]?.[1] ?? 10);
      });
      expect(ocvAt(chemistry, 1)).toBeCloseTo(chemistry.restV, 3);
      expect(chemistry.kDc === null).toBe(chemistry.cellOhm !== null);
      for (const charge of [0.02, 0.33, 0.77]) expect(chargeAt(chemistry, ocvAt(chemistry, charge))).toBeCloseTo(charge, 9);
    }
  });

  it("two readings give the resistance, and refuse to when they contradict each other", () => {
    expect(ohmFromReadings(12.7, 12.1, 30)).toBeCloseTo(0.02, 12);
    expect(ohmFromReadings(12.1, 12.7, 30)).toBeNull();
    expect(ohmFromReadings(12.7, 12.1, 0)).toBeNull();
  });
});

describe("supplies", () => {
  it("CV 13: ambient derating [common practice, no source; from memory]", () => {
    expect(derating(60)).toBeCloseTo(0.75, 9);
    expect(20 * derating(60) * 0.8).toBeCloseTo(12, 9);
    expect(derating(25)).toBe(1);
    expect(derating(200)).toBe(0);
  });
  it("CV 15: a bus that braking lifts, and what would hold it [D]", () => {
    within(busAfter(24, 2, 4700e-6), 37.8, 0.005);
    within(busCapacitance(24, 2, 30) * 1e6, 12346, 0.005);
  });
  it("CV 16: start into capacitance [D]", () => {
    within(startTime(0.01, 24, 11, 5) * 1e3, 40, 0.005);
    expect(startTime(0.01, 24, 5, 5)).toBe(Number.POSITIVE_INFINITY);
  });
  it("protection.md section 8, worked: 378 J into 4.7 mF at 48 V, the bank that holds 58 V, the resistor [D]", () => {
    within(busAfter(48, 378, 4.7e-3), 404, 0.01);
    within(busCapacitance(48, 378, 58), 0.71, 0.01);
  });
  it("USB allowances by their standards [USB 2.0, USB 3.2, BC 1.2, Type-C, PD; from memory]", () => {
    expect(
      ["usb2_unconfigured", "usb2", "usb3", "charging", "c_1a5", "c_3a"].map((port) => USB_PORTS[port as keyof typeof USB_PORTS].allowedA),
    ).toEqual([0.1, 0.5, 0.9, 1.5, 1.5, 3]);
    expect(USB_PORTS.pd_20_5a.volts * USB_PORTS.pd_20_5a.allowedA).toBe(100);
  });
  it("CV 30: a USB cable's drop [ASTM B258 diameter law, copper of IEC 60028, from memory; rest D]", () => {
    const diameterMm = 0.127 * 92 ** ((36 - 24) / 39);
    const ohmPerM = 0.017241 / ((Math.PI / 4) * diameterMm ** 2);
    within(ohmPerM * 1e3, 84.2, 0.005);
    within(5.1 - 2.5 * (2 * ohmPerM + 0.06), 4.529, 0.005);
    // The same wire by the tool's own conductor figures (stranded, so 2 % more).
    within(runResistance(ohmPerM * 1000, 1, 20, 1e-5, 1), ohmPerM, 0.01);
  });
});

describe("converters", () => {
  it("CV 17: what a linear regulator holds continuously [D; θ from memory]", () => {
    within(linearMost(12, 5, 0.006, 40, 125, 90) * 1e3, 124.6, 0.01);
    within(linearMost(9, 5, 0.006, 40, 125, 90) * 1e3, 222.6, 0.01);
    expect(junction(40, linearLoss(12, 5, 0.1246, 0.006), 90)).toBeCloseTo(125, 0);
  });
  it("CV 18: its heatsink [thermal Ohm's law; Horowitz and Hill, from memory]", () => {
    const watts = linearLoss(12, 5, 1, 0.005);
    within(watts, 7.06, 0.01);
    within(heatsinkMost(watts, 110, 40, 5, 0.5), 4.42, 0.01);
  });
  const buck = { watts: 0.08, volts: 0.25, ohm: 0.04, atInput: false, atV: null };
  it("CV 19: efficiency of a buck against load [D]", () => {
    expect([0.1, 1, 3.5].map((amps) => Number((efficiencyAt(buck, 5, amps, 12) * 100).toFixed(1)))).toEqual([82.6, 93.1, 92.4]);
    // √(Pq/b) = √2.
    within(bestAt(buck), Math.SQRT2, 0.002);
  });
  it("CV 20: input current follows the input voltage down [D]", () => {
    const watts = (6 * 5) / 0.88;
    within(watts, 34.09, 0.002);
    within(watts / 12.6, 2.706, 0.002);
    within(watts / 9, 3.788, 0.002);
  });
  it("CV 22: a boost with its losses at the input [D]", () => {
    const boost = { watts: 0.3, volts: 0.5, ohm: 0.08, atInput: true, atV: null };
    const watts = inputPower(boost, 60, 2.5, 12);
    within(watts / 12, 5.318, 0.003);
    within((60 / watts) * 100, 94, 0.003);
    expect(inputPower({ ...boost, ohm: 0.8 }, 60, 2.5, 12)).toBeNaN();
  });
  it("CV 23: a boost's switch limits its output [D]", () => {
    within(boostMost(4, 0.3, 5, 0.9, 12), 1.304, 0.005);
    within(boostMost(4, 0.3, 3.3, 0.9, 12), 0.861, 0.005);
  });
  it("CV 24: least input of a buck [volt-second balance; Erickson and Maksimovic, from memory]", () =>
    expect(buckLeastInput(5, 2, 0.95, 0.05, 0.1, 0.5)).toBeCloseTo(5.595, 2));
  it("CV 26: a module on a warm day [D; rule common practice]", () => {
    const module = { watts: 0.1, volts: 0.85, ohm: 0.1, atInput: false, atV: null };
    within(moduleMost(module, 2, 50), 1.423, 0.01);
    expect(moduleMost(module, 2, 25)).toBeCloseTo(2, 9);
    expect(moduleMost(module, 2, 120)).toBe(0);
  });
  it("CV 27: a capacitor that carries a step [D]", () => {
    within((carryCapacitance(6, 200e-6, 0.3, 0.02) ?? 0) * 1e6, 6667, 0.005);
    within((carryCapacitance(5, 100e-6, 0.5, 0) ?? 0) * 1e6, 1000, 0.005);
    expect(carryCapacitance(20, 1, 0.3, 0.02)).toBeNull();
  });
  it("CV 28: choke and capacitor [D]", () => {
    const { cornerHz, ohm } = lowPass(10e-6, 470e-6);
    within(cornerHz, 2322, 0.005);
    within(ohm, 0.1459, 0.005);
    expect(lowPassGain(10e-6, 470e-6, 0, 20e3)).toBeCloseTo(-37.3, 0);
    expect(Math.abs(lowPassGain(10e-6, 470e-6, 0.1, 20e3) + 21.8)).toBeLessThan(0.2);
  });
  it("CV 35: losses through three sheet points [D]", () => {
    const { loss, forced } = fitLoss(5, [
      [0.5, 0.86],
      [1.5, 0.9],
      [3, 0.87],
    ]);
    expect(forced).toBe(false);
    within(loss.watts, 0.3475, 0.01);
    within(loss.volts, 0.0165, 0.05);
    within(loss.ohm, 0.2049, 0.01);
  });
  it("the class table agrees with its own losses: efficiency at what holds in still air", () => {
    for (const row of REGULATORS) {
      if (row.lossW === null || row.lossV === null || row.lossOhm === null) continue;
      const loss = { watts: row.lossW, volts: row.lossV, ohm: row.lossOhm, atInput: row.basis === "in", atV: null };
      within(efficiencyAt(loss, row.atOutV, row.stillAirA, row.atInV), row.efficiency, 0.01);
    }
  });
});

describe("architecture", () => {
  it("CV 29: the same watts through the same wire at 12, 24 and 48 V [D], solved", () => {
    const lossAt = (volts: number) => {
      const amps = 480 / volts;
      return { watts: amps ** 2 * 0.02, percent: ((amps * 0.02) / volts) * 100 };
    };
    expect([12, 24, 48].map((volts) => lossAt(volts).watts)).toEqual([32, 8, 2]);
    [6.67, 1.67, 0.417].forEach((expected, i) => {
      within(lossAt([12, 24, 48][i] ?? 0).percent, expected, 0.002);
    });
  });
  it("CV 32: an amplifier's supply current [1/8 of full power: IEC 60065, from memory]", () => {
    within(supplyCurrent(40, 0.88, 12), 3.788, 0.005);
    within(supplyCurrent(40 / 8, 0.7, 12), 0.595, 0.005);
  });
});
