import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCurrentLog } from "../exchange/current-log";
import { READING_COLUMNS, readingRows, readReadings } from "../exchange/readings";
import { logFigures } from "./current-log";
import { readingSchema } from "./log";
import { parseReading } from "./typed";

const read = (text: string) => readCurrentLog(text.split("\n").map((line) => line.split(/[;\t]/)));

describe("a log of a current", () => {
  it("shows mean, r.m.s. and duty of a square wave", () => {
    // 10 A for a second, nothing for three, with steep edges.
    const seconds = [0, 0.999999, 1, 3.999999, 4];
    const figures = logFigures({ seconds, amps: [10, 10, 0, 0, 0], volts: [24, 23, 24, 25, 25] });
    expect(figures?.mean).toBeCloseTo(2.5, 4);
    expect(figures?.rms).toBeCloseTo(5, 4);
    expect(figures?.duty).toBeCloseTo(0.25, 4);
    expect(figures?.onMean).toBeCloseTo(10, 3);
    expect(figures).toMatchObject({ most: 10, least: 0, peaks: 1, leastVolts: 23 });
  });

  it("of a ramp: mean a half, r.m.s. one over root three", () => {
    const seconds = Array.from({ length: 11 }, (_, i) => i);
    const figures = logFigures({ seconds, amps: seconds, volts: null });
    expect(figures?.mean).toBeCloseTo(5, 9);
    expect(figures?.rms).toBeCloseTo(10 / Math.sqrt(3), 9);
    expect(figures?.usualMost).toBeCloseTo(9.5, 1);
    expect(figures?.meanVolts).toBeNull();
  });

  it("is read with headings in any order, milliseconds and milliamps, decimal commas, clocks, or without headings", () => {
    expect(read("volts;time (ms);current (mA)\n24;0;1500\n23,5;500;2500")).toMatchObject({
      ok: true,
      log: { seconds: [0, 0.5], amps: [1.5, 2.5], volts: [24, 23.5] },
    });
    expect(read("0\t1\n1\t2\n2\t3")).toMatchObject({ ok: true, log: { seconds: [0, 1, 2], amps: [1, 2, 3], volts: null } });
    expect(read("time;amps\n10:00:01;1\n10:00:03,5;2")).toMatchObject({ ok: true, log: { seconds: [0, 2.5] } });
    expect(read("time;amps\n2026-03-01T10:00:00Z;1\n2026-03-01T10:01:00Z;2")).toMatchObject({ ok: true, log: { seconds: [0, 60] } });
  });

  it("leaves out what has no number or goes back in time, says how many, and says what a file lacks", () => {
    expect(read("time;amps\n0;1\n1;x\n0,5;3\n2;4\n2;5\n3;6")).toMatchObject({ ok: true, skipped: 2, log: { seconds: [0, 0.5, 2, 3] } });
    expect(read("time;temperature\n0;1")).toMatchObject({ ok: false, message: expect.stringContaining("amps") });
    expect(read("time;amps\n0;1")).toMatchObject({ ok: false });
    expect(logFigures({ seconds: [0], amps: [1], volts: null })).toBeNull();
  });
});

describe("readings as a table", () => {
  const text = fc.string({ minLength: 1, maxLength: 40 }).map((each) => each.replace(/[^\x20-\x7e]/g, "x").trim() || "x");
  // A table has no negative nought.
  const figure = (min: number, max: number) => fc.option(fc.double({ min, max, noNaN: true }).map((each) => each + 0));
  const reading = fc.record({
    queueId: fc.uuid(),
    step: fc.option(text),
    stage: fc.constantFrom("tree" as const, "inspect" as const, null),
    place: text,
    quantity: fc.constantFrom("volts" as const, "amps" as const, "ohms" as const),
    value: figure(-1e6, 1e6),
    instrument: fc.constantFrom("hand" as const, "clamp" as const),
    uncertainty: figure(0, 10),
    takenAt: fc.date({ min: new Date("2020-01-01"), max: new Date("2030-01-01"), noInvalidDate: true }).map((each) => each.toISOString()),
    note: fc.constantFrom("", "=SUM(A1)", "+1", "-x", "@home", "'quoted", "plain, with a comma"),
    way: fc.constantFrom("typed" as const, "phone" as const),
    expected: figure(-1e3, 1e3),
    basis: fc.constantFrom("abc12", null),
    struck: fc.boolean(),
  });

  it("come back as they went out", () => {
    fc.assert(
      fc.property(fc.array(reading, { maxLength: 8 }), (all) => {
        const kept = all.map((each) => readingSchema.parse(each));
        const rows = readingRows(kept).map((cells) => Object.fromEntries(cells.map((cell, i) => [READING_COLUMNS[i] as string, cell])));
        const back = readReadings(rows, () => "fresh-id-00");
        expect(back.wrong).toEqual([]);
        expect(back.readings).toEqual(kept);
      }),
    );
  });

  it("name the row and what is wrong with it", () => {
    const found = readReadings(
      [
        { time: "soon", place: "x", quantity: "volts", value: "1" },
        { time: "2026-03-01", place: "x", quantity: "volts", value: "one" },
        { time: "2026-03-01", place: "here", quantity: "volts", value: "1.5" },
      ],
      () => "fresh-id-00",
    );
    expect(found.wrong.map(({ row }) => row)).toEqual([1, 2]);
    expect(found.readings).toMatchObject([{ place: "here", value: 1.5, queueId: "fresh-id-00", way: "imported" }]);
  });
});

describe("a reading as it is typed", () => {
  it.each([
    ["25.12", "volts", "V", 25.12],
    ["3.7", "volts", "mV", 0.0037],
    ["3.7 V", "volts", "mV", 3.7],
    ["−0.5", "volts", "V", -0.5],
    ["250 mA", "amps", "A", 0.25],
    ["OL", "ohms", "Ω", null],
    ["0,3", "ohms", "Ω", 0.3],
    ["41", "celsius", "°C", 41],
  ] as const)("%s in %s, %s", (text, quantity, unit, value) => {
    const found = parseReading(text, quantity, unit);
    expect(found.ok && found.value).toEqual(value === null ? null : expect.closeTo(value, 9));
  });

  it("that is none is told so", () => {
    for (const [text, quantity] of [
      ["", "volts"],
      ["hot", "celsius"],
      ["OL", "volts"],
      ["5 A", "volts"],
    ] as const)
      expect(parseReading(text, quantity, "V").ok).toBe(false);
  });
});
