import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import type { Reading } from "../bringup/log";
import { newPart } from "../machine/defaults";
import { datasheet, measured } from "../machine/figure";
import { readMachineText } from "../machine/read";
import type { Machine } from "../machine/schema";
import { type ShelfEntry, shelfEntrySchema } from "../machine/shelf";
import { CONNECTOR_IDS } from "../reference/connectors";
import { FUSE_FAMILY_IDS, ratingsOf } from "../reference/fuses";
import { usualSizes } from "../reference/gauges";
import { sheetOf } from "../sheet/sheet";
import { asTable, guessMapping } from "./columns";
import { csvText, readCells, readHeaded, safeCell, unsafeCell } from "./csv";
import { toJson } from "./json";
import { sheetMarkdown } from "./markdown";
import { READING_COLUMNS, readingRows, readReadings } from "./readings";
import { readShelf, SHELF_COLUMNS, shelfTable, withRatings } from "./shelf-csv";
import { toSpice } from "./spice";
import { TABLE_NAMES, tableOf } from "./tables";

const HOSTILE = [
  "<script>alert(1)</script>",
  '=HYPERLINK("http://evil.example","x")',
  "=1+1",
  "+cmd|' /C calc'!A0",
  "@SUM(1)",
  "-2+3",
  "'=1+1",
  "../../etc/passwd",
  "C:\\con",
  "Motor 🚜🔋",
  "\u05de\u05e0\u05d5\u05e2",
  'a "quoted", name; with\ttabs',
  "x".repeat(10_000),
] as const;

describe("CSV", () => {
  it("gives every text back as it was, and no cell that a spreadsheet would compute", () => {
    const cell = fc.oneof(fc.string({ unit: "grapheme", maxLength: 40 }), fc.constantFrom(...HOSTILE)).map((text) => text.trim());
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 12 }), (rows) => {
        const text = csvText({ head: ["one", "two", "three"], rows });
        const back = readCells(text).slice(1);
        const kept = rows.filter((cells) => cells.some((each) => each !== ""));
        expect(back).toEqual(kept);
        for (const cells of rows)
          for (const each of cells)
            expect(/^[=+@\t\r]/.test(safeCell(each))).toBe(/^\+?\d+([.,]\d+)?(e[+-]?\d+)?$/i.test(each) && each.startsWith("+"));
      }),
      { numRuns: 200 },
    );
    for (const text of HOSTILE) expect(unsafeCell(safeCell(text))).toBe(text);
    // A figure is a figure, with its sign.
    expect(["-12.5", "3", "+4e-3"].map(safeCell)).toEqual(["-12.5", "3", "+4e-3"]);
  });

  it("is read with commas, semicolons or tabs, with either line end and a byte order mark", () => {
    const cells = [
      ["Name", "Volts"],
      ["Winch, left", "24"],
    ];
    expect(readCells('\ufeffName,Volts\r\n"Winch, left",24\r\n\r\n')).toEqual(cells);
    expect(readCells('Name;Volts\n"Winch, left";24')).toEqual(cells);
    expect(readCells("Name\tVolts\nWinch, left\t24\n")).toEqual(cells);
  });

  it.each(EXAMPLES.map(({ key, make }) => [key, make()] as const))(
    "%s: every table has its head, no hole, and reads back",
    (_, machine) => {
      const { figures, analysis } = analyse(machine);
      const sheet = sheetOf(figures, analysis);
      for (const name of TABLE_NAMES) {
        const table = tableOf(name, machine, analysis, sheet);
        for (const row of table.rows) expect(row).toHaveLength(table.head.length);
        const text = csvText(table);
        expect(text).not.toMatch(/NaN|undefined|Infinity|\[object/);
        expect(readCells(text)).toHaveLength(table.rows.length + 1);
      }
      const parts = readHeaded(csvText(tableOf("parts", machine, analysis, sheet)));
      expect(parts.rows.map((row) => row.part)).toEqual(machine.parts.map((part) => part.name));
    },
  );

  it("carries hostile names through every table, the text and the netlist", () => {
    for (const name of HOSTILE.map((each) => each.slice(0, 80))) {
      const base = simple();
      const machine: Machine = { ...base, parts: base.parts.map((part) => (part.id === "motor" ? { ...part, name } : part)) };
      const { figures, analysis } = analyse(machine);
      const sheet = sheetOf(figures, analysis);
      const back = readCells(csvText(tableOf("feeds", machine, analysis, sheet)));
      expect(back.some((row) => row.includes(name.trim()))).toBe(true);
      expect(sheetMarkdown(machine, sheet)).not.toMatch(/<script/i);
      expect(toSpice(machine, "m1").text).toMatch(/^[\x20-\x7e\n]*$/);
    }
  });
});

describe("JSON", () => {
  it("is read back to the same machine, and written again to the same file", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 3, max: 60 }), (seed, parts) => {
        const machine = generateMachine({ parts, seed, converters: true, meshed: seed % 2 === 0 });
        const read = readMachineText(toJson(machine));
        expect(read.ok && toJson(read.machine)).toBe(toJson(machine));
      }),
      { numRuns: 40 },
    );
  });
});

describe("readings", () => {
  it("come back from a table as they were", () => {
    const reading = fc.record({
      queueId: fc.integer({ min: 1, max: 9e8 }).map((n) => `reading-${n}`),
      place: fc
        .string({ unit: "grapheme", minLength: 1, maxLength: 30 })
        .map((text) => `at ${text.replace(/[^\p{L}\p{N} =+@-]/gu, "")}`.trim()),
      note: fc.constantFrom("", "=1+1", "-3", "two words"),
      value: fc.oneof(
        fc.constant(null),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((value) => value + 0),
      ),
      struck: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(reading, { minLength: 1, maxLength: 20 }), (some) => {
        const log = some.map(
          (each): Reading => ({
            step: null,
            stage: null,
            quantity: "volts",
            instrument: "hand",
            uncertainty: null,
            takenAt: "2026-11-28T10:00:00.000Z",
            way: "typed",
            expected: null,
            basis: null,
            ...each,
          }),
        );
        const text = csvText({ head: READING_COLUMNS, rows: readingRows(log) });
        const { readings, wrong } = readReadings(readHeaded(text).rows, () => "reading-0000");
        expect(wrong).toEqual([]);
        expect(readings).toEqual(log);
        for (const cells of readCells(text.replace(/'/g, "~")).slice(1)) for (const cell of cells) expect(cell).not.toMatch(/^[=+@]/);
      }),
      { numRuns: 60 },
    );
  });
});

describe("the shelf as a table", () => {
  const entries: fc.Arbitrary<ShelfEntry> = fc
    .record({
      thing: fc.oneof(
        fc.record({
          sort: fc.constant("wire" as const),
          gauge: fc.constantFrom(...usualSizes("awg").map(({ id }) => id), ...usualSizes("metric").map(({ id }) => id)),
          insulation: fc.constantFrom("pvc80", "xlpe125", "sil180"),
          colour: fc.constantFrom("red", "black", "blue/white"),
        }),
        fc
          .constantFrom(...FUSE_FAMILY_IDS)
          .filter((family) => ratingsOf(family).length > 0)
          .chain((family) =>
            fc.record({ sort: fc.constant("fuse" as const), family: fc.constant(family), ratingA: fc.constantFrom(...ratingsOf(family)) }),
          ),
        fc.record({ sort: fc.constant("connector" as const), family: fc.constantFrom(...CONNECTOR_IDS) }),
      ),
      count: fc.oneof(fc.constant(null), fc.integer({ min: 0, max: 900 })),
      cost: fc.oneof(fc.constant(null), fc.integer({ min: 0, max: 90 })),
      note: fc.constantFrom("", "=blue box", "drawer 3; left"),
      quirks: fc.constantFrom("", "runs warm\nabove 8 A"),
    })
    .map((each) => shelfEntrySchema.parse(each));

  it("comes back as it was, figures of parts by their main ratings", () => {
    fc.assert(
      fc.property(fc.array(entries, { minLength: 1, maxLength: 20 }), (some) => {
        const back = readShelf(asTable(csvText(shelfTable(some)), SHELF_COLUMNS));
        expect(back.flatMap(({ troubles }) => troubles)).toEqual([]);
        expect(back.map(({ value }) => value)).toEqual(some);
      }),
      { numRuns: 80 },
    );
    const text =
      "Kind,Name,How many,Volts,Amps,Printed A,Input most V,Capacity Ah,Channels,Family,Known by\ndriver,Board,2,,10,30,32,,2,,measured\npack,Spare,1,12.8,50,,,33,,lifepo4 energy,\nbuck converter,Five,3,5,3,5,30,,,,\nservo,Rudder servo,4,6,0.2,,,,,,\n";
    const read = readShelf(asTable(text, SHELF_COLUMNS));
    expect(read.flatMap(({ troubles }) => troubles)).toEqual([]);
    const things = read.flatMap(({ value }) => value ?? []);
    expect(things.map(({ thing }) => thing)).toMatchObject([
      {
        part: {
          kind: "driver",
          channels: 2,
          continuousA: { value: 10, provenance: "measured" },
          headlineA: { value: 30 },
          inputMaxV: { value: 32 },
        },
      },
      { part: { kind: "pack", openCircuitV: { value: 12.8 }, capacityAh: { value: 33 }, chemistry: "lifepo4_energy" } },
      { part: { kind: "converter", topology: "buck", outputV: { value: 5 }, ratedA: { value: 3 }, printedA: { value: 5 } } },
      { part: { kind: "load", loadKind: "servo", nominalV: { value: 6 }, levels: { run: { value: 0.2 } } } },
    ]);
    const again = readShelf(asTable(csvText(shelfTable(things)), SHELF_COLUMNS)).map(({ value }) => value);
    expect(again).toEqual(things);
  });

  it("takes new ratings of a part and leaves what no column shows as it was", () => {
    const board = newPart("driver", "p1", "Board", {
      channels: 2,
      continuousA: measured(12),
      headlineA: datasheet(30),
      bridgeOhm: measured(0.02),
    });
    const before = { sort: "part" as const, part: board };
    const table = shelfTable([{ thing: before, count: 2, cost: null, note: "", quirks: "" }]);
    const [same] = readShelf(asTable(csvText(table), SHELF_COLUMNS));
    expect(same?.value && withRatings(before, same.value.thing)).toEqual({ sort: "part", part: { ...board, layers: undefined } });
    const wider = csvText({
      ...table,
      rows: table.rows.map((row) => row.map((cell) => (cell === "30" ? "" : cell === "12" ? "14" : cell))),
    });
    const [changed] = readShelf(asTable(wider, SHELF_COLUMNS));
    const after = changed?.value ? withRatings(before, changed.value.thing) : null;
    expect(after).toMatchObject({ part: { continuousA: { value: 14 }, bridgeOhm: measured(0.02), channels: 2 } });
    expect(after).not.toHaveProperty("part.headlineA");
  });

  it("says what is wrong with a row in the words of its kind", () => {
    const text =
      "kind,name,amps,gauge,family\nfuse,,17,,blade regular 32\nwire,,,13.5 feet,\nconnector,,,,no such thing\nthing,x,,,\ndriver,,,,\n";
    const troubles = readShelf(asTable(text, SHELF_COLUMNS)).map(({ troubles: [first] }) => first?.column);
    expect(troubles).toEqual(["Amps", "Wire size", "Family", "Kind", "Name"]);
  });

  it("takes no first of several that may be meant, cuts no text, and reads how a converter works off its name", () => {
    const [plug, cells, note, half, up, odd] = readShelf(
      asTable(
        `kind,name,count,volts,family,note\nconnector,,2,,bullet,\npack,Cells,1,13,lifepo4,\nmotor,M,1,12,,${"x".repeat(600)}\ndriver,D,2.5,,,\nconverter,Step-up module,1,24,,\nconverter,C,1,5,magic,\n`,
        SHELF_COLUMNS,
      ),
    );
    for (const row of [plug, cells, odd]) expect(row).toMatchObject({ value: null, troubles: [{ column: "Family" }] });
    expect(note).toMatchObject({ value: null, troubles: [{ column: "Note" }] });
    expect(half).toMatchObject({ value: null, troubles: [{ column: "How many" }] });
    expect(up).toMatchObject({ value: { thing: { part: { topology: "boost" } } } });
  });

  it("finds its own headings again, each once", () => {
    const mapping = guessMapping(shelfTable([]).head, SHELF_COLUMNS);
    expect(Object.entries(mapping)).toEqual(
      SHELF_COLUMNS.map(({ key }, i) => [key, i]).sort(
        ([a], [b]) => Object.keys(mapping).indexOf(a as string) - Object.keys(mapping).indexOf(b as string),
      ),
    );
  });
});
