import { describe, expect, it } from "vitest";
import { newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Driver, Load } from "@/core/machine/schema";
import { drawIn } from "../loads/draw";
import { bridgeDrop, bridgeHeat, linearHeat, thermalLimit } from "./bridge";
import { actingLimit, bridgeOf, channelDraw } from "./channel";
import { deliverableAt } from "./deliverable";
import { driverLimits } from "./limits";
import { capacitorRms, pulsedRms } from "./pwm";

const driver = (over: Partial<Driver> = {}): Driver =>
  newPart("driver", "p1", "Driver", {
    continuousA: typical(10),
    heatsinkA: typical(15),
    airA: typical(20),
    peakA: typical(40),
    inputMaxV: typical(30),
    ...over,
  });

describe("the lowest layer wins", () => {
  it.each([
    ["none", 10],
    ["heatsink", 15],
    ["air", 20],
  ] as const)("cooled by %s it carries %d A", (cooling, amps) => {
    expect(driverLimits(driver({ cooling })).continuous).toMatchObject({ value: amps });
  });

  it("every limit is taken from its own lowest layer, each named", () => {
    const layers: Driver["layers"] = [
      { layer: "chip", continuousA: typical(8), maxV: typical(45) },
      { layer: "controller board", name: "base", peakA: typical(12), maxV: typical(20) },
    ];
    const { continuous, peak, volts } = driverLimits(driver({ layers }));
    expect(continuous).toEqual({ value: 8, layer: "the chip" });
    expect(peak).toEqual({ value: 12, layer: "the controller board (base)" });
    expect(volts).toEqual({ value: 20, layer: "the controller board (base)" });
  });

  it("without a peak the continuous figure stands for it, without anything nothing does", () => {
    expect(driverLimits(driver({ peakA: undefined })).peak?.value).toBe(10);
    const bare = newPart("driver", "p1", "Driver", { headlineA: typical(43) });
    expect(driverLimits(bare)).toEqual({ board: null, continuous: null, peak: null, volts: null });
  });

  it("a limit acts up to the peak of its lowest layer", () => {
    expect(actingLimit(driver({ limitA: typical(40) }))).toBe(40);
    expect(actingLimit(driver({ limitA: typical(41) }))).toBeUndefined();
    expect(actingLimit(driver({ limitA: typical(20), layers: [{ layer: "chip", peakA: typical(15) }] }))).toBeUndefined();
    expect(actingLimit(driver())).toBeUndefined();
  });
});

describe("bridges", () => {
  it("keep nothing while nothing flows, and more the more flows", () => {
    const bridge = { dropV: 1.4, ohm: 1.15 };
    expect(bridgeDrop(bridge, 0)).toBe(0);
    expect(bridgeHeat(bridge, 0)).toBe(0);
    const drops = [0.1, 0.5, 1, 2].map((amps) => bridgeDrop(bridge, amps));
    expect([...drops].sort((a, b) => a - b)).toEqual(drops);
    expect(bridgeHeat(bridge, 2)).toBeCloseTo(2 * bridgeDrop(bridge, 2), 9);
  });

  it("assume a typical resistance until it is known", () => {
    expect(bridgeOf(driver({ bridgeOhm: undefined })).ohm).toBeGreaterThan(0);
    expect(bridgeOf(driver({ bridgeOhm: typical(0.3), bridgeV: typical(1) }))).toEqual({ dropV: 1, ohm: 0.3 });
  });

  it("carry less the warmer it is around them and the more channels share the package", () => {
    const at = (rise: number, channels: number) => thermalLimit({ dropV: 1.4, ohm: 1.15 }, rise, 35, channels);
    expect(at(60, 1)).toBeLessThan(at(105, 1));
    expect(at(105, 4)).toBeLessThan(at(105, 2));
    expect(thermalLimit({ dropV: 0, ohm: 0 }, 105, 35, 1)).toBe(Number.POSITIVE_INFINITY);
    expect(thermalLimit({ dropV: 1, ohm: 0 }, 35, 35, 1)).toBeCloseTo(1, 9);
  });

  it("a linear regulator below its output turns nothing into heat", () => {
    expect(linearHeat(4, 5, 1)).toBe(0);
    expect(linearHeat(9, 5, 0.5)).toBeCloseTo(2, 9);
  });
});

describe("pulses", () => {
  it("capacitor and feed share the motor's r.m.s. at every duty", () => {
    for (const duty of [0.1, 0.3, 0.5, 0.9]) {
      const [feed, cap] = [pulsedRms(10, duty), capacitorRms(10, duty)];
      // Pulses are their mean and their ripple: I²D = (ID)² + I²D(1 − D).
      expect(feed ** 2).toBeCloseTo((10 * duty) ** 2 + cap ** 2, 9);
    }
    expect(capacitorRms(10, 0.5)).toBeCloseTo(5, 9);
  });
});

describe("what a channel passes round", () => {
  const motor = (over: Partial<Load> = {}): Load =>
    newPart("load", "p2", "Motor", { nominalV: typical(24), levels: { run: typical(6), stall: typical(48) }, ...over });

  it("nothing while the bridge is fully on and nothing limits", () => {
    const cell = { state: "run" as const, percent: 100 };
    const { loop, motor: draw } = channelDraw(driver(), cell, drawIn(motor(), cell), 0.02);
    expect([loop.amps, loop.siemens, loop.watts].every((each) => each === 0)).toBe(true);
    expect(draw.amps).toBe(6);
  });

  it("what was typed is what flows: no duty is guessed behind it", () => {
    const cell = { state: "amps" as const, amps: typical(5) };
    expect(channelDraw(driver({ dutyCap: typical(0.3) }), cell, drawIn(motor(), cell), 0).loop.amps).toBe(0);
  });

  it("an unknown current stays unknown behind any driver", () => {
    const cell = { state: "stall" as const };
    const bare = motor({ levels: {} });
    expect(channelDraw(driver({ limitA: typical(5) }), cell, drawIn(bare, cell), 0).motor.missing).toBe("stall");
  });

  it("what it could deliver falls with bridge and leads, and is not known where the stall is not", () => {
    const at = (ohm: number, lead: number) => deliverableAt(motor(), { dropV: 0, ohm }, 24, lead) ?? Number.NaN;
    expect(at(0, 0)).toBeCloseTo(48, 9);
    expect(at(0.1, 0)).toBeLessThan(48);
    expect(at(0, 0.1)).toBeCloseTo(at(0.1, 0), 9);
    expect(deliverableAt(motor({ levels: {} }), { dropV: 0, ohm: 0 }, 24, 0)).toBeNull();
    expect(deliverableAt(motor({ loadKind: "board" }), { dropV: 0, ohm: 0 }, 24, 0)).toBeNull();
  });
});
