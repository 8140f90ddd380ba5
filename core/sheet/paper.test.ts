import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { must, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import type { Machine } from "../machine/schema";
import type { Shape } from "../returns/pen";
import { drawingOf } from "./drawing";
import { textWidth, wrapText } from "./measure";
import { paperOf } from "./pages";
import { MEASURES, PAPERS, type Paper, type PaperChunk, type PaperId } from "./paper";
import { rowHeight } from "./pour";
import { type Sheet, sheetOf } from "./sheet";

const sheets = new Map(
  EXAMPLES.map(({ key, make }) => {
    const { figures, analysis } = analyse(make());
    return [key, sheetOf(figures, analysis)] as const;
  }),
);
const laidOut = (sheet: Sheet, paper: PaperId = "a4", labels = true): Paper =>
  paperOf(sheet, { paper, lists: true, bringUp: true, labels, revision: 38, date: "28 Nov 2026" });
const chunksOf = (paper: Paper): PaperChunk[] =>
  paper.pages.flatMap(({ strips }) => strips.flatMap((strip) => (strip.kind === "columns" ? strip.columns.flat() : [])));
/** All text of a section on paper, in its order, blanks between lines left out. */
const textOf = (paper: Paper, title: string) =>
  chunksOf(paper)
    .filter((chunk) => chunk.title.startsWith(title))
    .flatMap(({ rows }) => rows)
    .map((row) =>
      row.kind === "cells"
        ? row.cells.map(({ lines }) => lines.join(" ")).join(" ")
        : row.kind === "steps"
          ? row.steps.map(({ text }) => text).join(" ")
          : row.kind === "text"
            ? `${row.lead} ${row.lines.join(" ")}`
            : row.lines.join(" "),
    )
    .join(" ");

/** Height of everything on a page, mm. */
function heightsOf(paper: Paper): number[] {
  return paper.pages
    .filter(({ labels }) => labels.length === 0)
    .map(({ strips }) =>
      strips.reduce<number>((sum, strip) => {
        if (strip.kind === "picture") return sum + strip.heightMm + MEASURES.pictureTitle + MEASURES.stripGap;
        const column = (chunks: readonly PaperChunk[]) =>
          chunks.reduce(
            (all, { card, note, head, rows }) =>
              all +
              (card ? MEASURES.cardEdge : 0) +
              MEASURES.title +
              note.length * MEASURES.line +
              (head.some(({ text }) => text !== "") ? MEASURES.head : 0) +
              rows.reduce((own, row) => own + rowHeight(row), 0),
            0,
          );
        return sum + Math.max(...strip.columns.map(column)) + MEASURES.stripGap;
      }, MEASURES.header),
    );
}

describe("pages", () => {
  it.each(["a4", "letter"] as const)("Reedcutter lies on at most four pages of %s, labels apart", (paper) => {
    for (const key of ["reedcutter", "reedcutter-corrected"]) {
      const { pages, labelPages } = laidOut(sheets.get(key) as Sheet, paper);
      expect(pages.length - labelPages).toBeLessThanOrEqual(4);
    }
  });

  it("say on each what it is of, when, and which of how many; the drawing comes first and verdicts last", () => {
    for (const [key, sheet] of sheets) {
      const { pages, header, labelPages } = laidOut(sheet);
      expect(pages.map(({ number }) => number)).toEqual(pages.map((_, i) => i + 1));
      expect(header).toMatchObject({ name: sheet.name, dated: "revision 38, 28 Nov 2026", standing: sheet.standing });
      expect(pages[0]?.strips[0]).toMatchObject({ kind: "picture", title: "Distribution" });
      const last = chunksOf({ ...laidOut(sheet), pages: pages.slice(0, pages.length - labelPages) }).at(-1);
      if (sheet.open.length > 0) expect(last?.title, key).toBe("Open verdicts");
    }
  });

  it.each([...sheets.keys()])("%s: nothing is left out, and no page is fuller than its paper", (key) => {
    const sheet = sheets.get(key) as Sheet;
    for (const size of ["a4", "letter"] as const) {
      const paper = laidOut(sheet, size);
      const rows = (title: string) =>
        chunksOf(paper)
          .filter((chunk) => chunk.title.startsWith(title))
          .flatMap((chunk) => chunk.rows);
      expect(rows("Feeds")).toHaveLength(sheet.feeds.length);
      expect(rows("Lid card")).toHaveLength(sheet.fuses.length);
      expect(rows("Cut").filter(({ kind }) => kind === "cells")).toHaveLength(sheet.cut.flatMap(({ lines }) => lines).length);
      const printed = textOf(paper, "Bring-up");
      for (const { title, stopWhen } of sheet.bringUp) {
        expect(printed).toContain(title);
        expect(printed.replace(/\s+/g, " ")).toContain(stopWhen.slice(0, 30));
      }
      const blanks = rows("Bring-up").reduce(
        (sum, row) => sum + (row.kind === "steps" ? row.steps.filter(({ kind }) => kind === "step").length : 0),
        0,
      );
      expect(blanks).toBe(sheet.bringUp.flatMap(({ groups }) => groups.flatMap(({ steps }) => steps)).length);
      for (const caution of sheet.cautions) expect(printed.replace(/\s+/g, " ")).toContain(caution);
      expect(paper.pages.reduce((sum, { labels }) => sum + labels.length, 0)).toBe(sheet.labels.length);
      for (const height of heightsOf(paper))
        expect(height).toBeLessThanOrEqual(PAPERS[size].height - 2 * MEASURES.margin + MEASURES.stripGap);
      // The card is cut out of one column.
      expect(chunksOf(paper).filter(({ card }) => card)).toHaveLength(sheet.fuses.length > 0 ? 1 : 0);
    }
  });

  it("hold for machines nobody has seen, with names of any letters", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 4, max: 90 }),
        fc.string({ unit: "grapheme", maxLength: 70 }),
        (seed, parts, name) => {
          const made = generateMachine({ parts, seed, converters: true });
          const called = name.trim() || "x";
          const machine: Machine = {
            ...made,
            parts: made.parts.map((part, i) => (i % 3 === 0 ? { ...part, name: `${called} ${i}` } : part)),
          };
          const { figures, analysis } = analyse(machine);
          const sheet = sheetOf(figures, analysis);
          const paper = laidOut(sheet, "letter");
          for (const height of heightsOf(paper))
            expect(height).toBeLessThanOrEqual(PAPERS.letter.height - 2 * MEASURES.margin + MEASURES.stripGap);
          expect(
            chunksOf(paper)
              .filter(({ title }) => title === "Feeds")
              .flatMap(({ rows }) => rows),
          ).toHaveLength(machine.parts.length);
          for (const { rows, widths } of chunksOf(paper))
            for (const row of rows)
              if (row.kind === "cells")
                row.cells.forEach(({ lines, face }, c) => {
                  for (const line of lines) expect(textWidth(line, MEASURES.type, face)).toBeLessThanOrEqual((widths[c] ?? 0) + 4);
                });
        },
      ),
      { numRuns: 6, seed: 21 },
    );
  });
});

describe("lines of text", () => {
  it("hold every letter in its order and none is wider than its room", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme", maxLength: 120 }),
        fc.integer({ min: 8, max: 90 }),
        fc.integer({ min: 0, max: 6 }),
        (text, width, indent) => {
          const lines = wrapText(text, width, 2.3, "regular", indent);
          expect(lines.join("").replace(/ /g, "")).toBe(text.replace(/ /g, ""));
          lines.forEach((line, i) => {
            if ([...line].length > 1) expect(textWidth(line, 2.3)).toBeLessThanOrEqual(width - (i === 0 ? indent : 0) + 1e-9);
          });
        },
      ),
      { numRuns: 300 },
    );
    // A name of ten thousand letters costs no more than its lines.
    expect(wrapText("x".repeat(10_000), 60, 2.3).join("")).toHaveLength(10_000);
  });
});

describe("the distribution drawing", () => {
  const boxes = (shapes: readonly Shape[]) => shapes.filter((shape) => shape.kind === "box");
  const texts = (shapes: readonly Shape[]) => shapes.filter((shape) => shape.kind === "text");

  const overlaps = (shapes: readonly Shape[]) => {
    const all = boxes(shapes);
    return all.flatMap((a, i) =>
      all.slice(i + 1).filter((b) => a.x < b.x + b.w - 0.01 && b.x < a.x + a.w - 0.01 && a.y < b.y + b.h - 0.01 && b.y < a.y + a.h - 0.01),
    );
  };

  it.each([...sheets.keys()])("%s: shows every fed part and fuse once, boxes apart, within its frame", (key) => {
    const machine = (EXAMPLES.find((each) => each.key === key) as (typeof EXAMPLES)[number]).make();
    const { drawing, fuses } = sheets.get(key) as Sheet;
    const said = texts(drawing.shapes).map(({ text }) => text);
    for (const part of machine.parts) {
      if (part.kind === "fuse" || (part.kind === "bar" && part.side === "negative")) continue;
      expect(
        said.filter((text) => text === part.name || text === `${part.name} × ${part.kind === "load" ? part.count : 1}`),
        part.name,
      ).toHaveLength(1);
    }
    for (const { tag, rating } of fuses) expect(said.filter((text) => text === `${tag} ${rating}`)).toHaveLength(1);
    expect(overlaps(drawing.shapes)).toEqual([]);
    for (const { x, y, w, h } of boxes(drawing.shapes)) {
      expect(Math.min(x, y)).toBeGreaterThanOrEqual(0);
      expect(x + w).toBeLessThanOrEqual(drawing.width);
      expect(y + h).toBeLessThanOrEqual(drawing.height);
    }
  });

  it("is legible at sixty parts: on one page, in type of at least 1.9 mm", () => {
    for (const seed of [3, 8, 21]) {
      const machine = generateMachine({ parts: 60, seed, converters: true });
      const drawing = drawingOf(machine, analyse(machine).analysis);
      const scale = Math.min(
        (297 - 2 * MEASURES.margin) / drawing.width,
        (210 - 2 * MEASURES.margin - MEASURES.header - 6) / drawing.height,
      );
      for (const { size } of texts(drawing.shapes)) expect(size * scale).toBeGreaterThanOrEqual(1.9);
      expect(overlaps(drawing.shapes)).toEqual([]);
    }
  });

  it("says in words what a tree cannot show, and names what nothing feeds", () => {
    const second = must(simple(), {
      type: "addWire",
      wire: {
        role: "supply",
        from: { part: "pack", terminal: "+" },
        to: { part: "motor", terminal: "+" },
        parallel: 1,
        insulation: "pvc80",
        gauge: "18 AWG",
      },
    });
    const drawing = drawingOf(second, analyse(second).analysis);
    expect(drawing.also).toHaveLength(1);
    expect(drawing.also[0]).toContain("18 AWG");
    const loose = must(simple(), { type: "removeWire", id: "w1" });
    expect(drawingOf(loose, analyse(loose).analysis).unfed.length).toBeGreaterThan(0);
  });
});
