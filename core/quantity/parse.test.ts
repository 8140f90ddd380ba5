import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { editText, formatQuantity, inSentence, say, sayDuration, withArticle } from "./format";
import { parseQuantity } from "./parse";
import type { Dimension } from "./units";

const value = (text: string, dimension: Dimension) => {
  const parsed = parseQuantity(text, dimension);
  return parsed.ok ? parsed.value : Number.NaN;
};

describe("quantities as people write them", () => {
  it.each<[string, Dimension, number]>([
    ["2.3A", "current", 2.3],
    ["800 mA", "current", 0.8],
    ["800ma", "current", 0.8],
    ["250W @ 24V", "current", 250 / 24],
    ["2,3 A", "current", 2.3],
    ["0,125", "current", 0.125],
    [".5", "current", 0.5],
    ["3 ft", "length", 0.9144],
    ["18 in", "length", 0.4572],
    ["180mm", "length", 0.18],
    ["12 mohm", "resistance", 0.012],
    ["12mΩ", "resistance", 0.012],
    ["0.5 ohm", "resistance", 0.5],
    ["2600 mAh", "capacity", 2.6],
    ["5 min", "time", 300],
    ["40 °C", "temperature", 40],
  ])("%s as %s", (text, dimension, expected) => {
    expect(value(text, dimension)).toBeCloseTo(expected, 12);
  });

  it.each<[string, Dimension]>([
    ["-3 A", "current"],
    ["−3 A", "current"],
    ["abc", "current"],
    ["1e9", "current"],
    ["1e999", "current"],
    ["", "current"],
    ["1,500", "current"],
    ["1.2.3", "current"],
    ["3 V", "current"],
    ["250 W", "current"],
    ["0", "length"],
    ["MΩ", "resistance"],
    ["5 MΩ", "resistance"],
  ])("refuses %s as %s with a message", (text, dimension) => {
    const parsed = parseQuantity(text, dimension);
    expect(parsed.ok).toBe(false);
    expect(parsed.ok ? "" : parsed.message.length).toBeGreaterThan(10);
  });

  it("reads back what an editor opens with, exactly", () => {
    const cases: [Dimension, number, number][] = [
      ["current", 0, 2000],
      ["voltage", 0, 120],
      ["resistance", 1e-6, 1e5],
      ["length", 0.001, 200],
    ];
    for (const [dimension, min, max] of cases) {
      fc.assert(
        fc.property(fc.double({ min, max, noNaN: true }), (number) => {
          const parsed = parseQuantity(editText(number, dimension), dimension);
          expect(parsed.ok && Math.abs(parsed.value - number) <= Math.abs(number) * 1e-12).toBe(true);
        }),
      );
    }
  });
});

describe("printing", () => {
  const printed = (number: number, dimension: Dimension, rounding: "nearest" | "up" | "down") => {
    const { digits, unit } = formatQuantity(number, dimension, rounding);
    return `${digits} ${unit}`;
  };

  it("never rounds a demand below itself or a limit above itself", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 1500, noNaN: true }), (amps) => {
        const up = Number(formatQuantity(amps, "current", "up").digits);
        const down = Number(formatQuantity(amps, "current", "down").digits);
        expect(up).toBeGreaterThanOrEqual(amps * (1 - 1e-8));
        expect(down).toBeLessThanOrEqual(amps * (1 + 1e-8));
      }),
    );
  });

  it("chooses readable units and keeps the sign", () => {
    expect(printed(0.08, "current", "nearest")).toBe("80 mA");
    expect(printed(30.62, "current", "nearest")).toBe("30.6 A");
    expect(printed(-0.36, "current", "nearest")).toBe("−0.36 A");
    expect(printed(0.0032, "resistance", "nearest")).toBe("3.20 mΩ");
    expect(printed(4.1, "current", "up")).toBe("4.10 A");
  });

  it("speaks of a size with the article it is read with", () => {
    for (const size of ["8 A fuse", "8.4 V motor", "80 V fuse", "11.1 V motor", "18 AWG wire", "insulated splice"])
      expect(withArticle(size)).toBe(`an ${size}`);
    for (const size of ["10 A fuse", "1.8 A fuse", "110 V supply", "185 A fuse", "2-pole housing"])
      expect(withArticle(size)).toBe(`a ${size}`);
  });

  it("keeps the capitals of a name that are not there for its first letter alone", () => {
    for (const name of ["NiMH, AA", "USB type A", "D-sub", "XLPE 90 C", "2-pole housing"]) expect(inSentence(name)).toBe(name);
    expect(inSentence("Lead-acid, sealed (AGM)")).toBe("lead-acid, sealed (AGM)");
  });

  it("has no NaN and no infinity to show", () => {
    for (const number of [Number.NaN, Number.POSITIVE_INFINITY]) expect(formatQuantity(number, "voltage").digits).toBe("–");
  });
});

describe("capacitance, energy and long times", () => {
  it.each([
    ["1000 µF", "capacitance", 1e-3],
    ["4700uF", "capacitance", 4.7e-3],
    ["4.7 mF", "capacitance", 4.7e-3],
    ["100nF", "capacitance", 1e-7],
    ["540 J", "energy", 540],
    ["1.5 kJ", "energy", 1500],
    ["2 h", "time", 7200],
  ] as const)("%s", (text, dimension, value) => {
    const parsed = parseQuantity(text, dimension);
    expect(parsed.ok ? parsed.value : parsed.message).toBeCloseTo(value, 12);
    if (parsed.ok) expect(parseQuantity(editText(parsed.value, dimension), dimension)).toEqual({ ok: true, value: parsed.value });
  });

  it("are printed as they are sold, run times never rounded up", () => {
    expect([470e-6, 4.7e-3, 1.5].map((farad) => say(farad, "capacitance").replace(/\u00a0/, " "))).toEqual(["470 µF", "4.70 mF", "1.50 F"]);
    expect([59.9, 3599, 7199, 360000 + 3599].map((seconds) => sayDuration(seconds).replace(/\u00a0/g, " "))).toEqual([
      "59 s",
      "59 min",
      "1 h 59 min",
      "100 h",
    ]);
  });
});
