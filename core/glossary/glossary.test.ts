import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { EVERYDAY } from "@/tests/words/everyday";
import { analyse } from "../analysis/analyse";
import { RULES } from "../verdicts/rules";
import { GLOSSARY } from "./entries";
import { explained, wordsOf } from "./find";
import { wordHere } from "./here";
import { PLAIN } from "./plain";

/** Words of a text that are neither everyday ones nor explained. */
function unexplained(text: string): string[] {
  const rest = explained(text)
    .filter(({ entry }) => entry === null)
    .map((piece) => piece.text)
    .join(" ");
  // What a found word leaves behind may hold it again.
  const again = GLOSSARY.reduce((left, { forms }) => left.replace(new RegExp(forms.source, "giu"), " "), rest);
  return (again.toLowerCase().match(/[a-zµ][a-zµ'’]*(?:-[a-z]+)*/g) ?? []).filter(
    (word) => !EVERYDAY.has(word) && !EVERYDAY.has(word.replace(/(?:'s|’s|s|ed|ing)$/, "")),
  );
}

/** Headings of the screens as they stand in their files: of sections, tables and views. */
function headings(): string[] {
  const found: string[] = [];
  const walk = (folder: string) => {
    for (const each of readdirSync(folder, { withFileTypes: true })) {
      const path = join(folder, each.name);
      if (each.isDirectory()) walk(path);
      else if (each.name.endsWith(".tsx")) {
        const text = readFileSync(path, "utf8");
        for (const match of text.matchAll(/<h[123][^>]*>\s*(?:<Explained>)?([A-Z][^<{]+)/g)) found.push((match[1] as string).trim());
        // Columns of tables and views of steps.
        for (const match of text.matchAll(/\{ id: "[\w-]+", label: "([^"]+)"/g)) found.push(match[1] as string);
        for (const match of text.matchAll(/label: "([^"]+)",\s*\n\s*(?:num|sortBy|width|cell|head)/g)) found.push(match[1] as string);
      }
    }
  };
  walk("ui");
  return [...new Set(found)];
}

describe("trade words", () => {
  it("every word of a verdict's title is everyday, or has an entry", () => {
    const missing = RULES.flatMap(({ says }) => says).flatMap(({ title }) => unexplained(title).map((word) => `${word} (${title})`));
    expect(missing).toEqual([]);
  });

  it("every word of a heading on the screens is everyday, or has an entry", () => {
    const found = headings();
    expect(found.length).toBeGreaterThan(100);
    expect(found.flatMap((heading) => unexplained(heading).map((word) => `${word} (${heading})`))).toEqual([]);
  });

  it("the words that stopped beginners have one", () => {
    for (const word of [
      "stall",
      "r.m.s.",
      "internal resistance",
      "bar",
      "rail",
      "gauge",
      "derate",
      "school",
      "provenance",
      "back-EMF",
      "selectivity",
      "precharge",
    ])
      expect(wordsOf(word).length, word).toBe(1);
  });

  it("are explained in two sentences, each of its own id", () => {
    expect(new Set(GLOSSARY.map(({ id }) => id)).size).toBe(GLOSSARY.length);
    for (const { word, says } of GLOSSARY) {
      expect(says.length, word).toBeLessThan(240);
      expect(says, word).toMatch(/\.$/);
    }
  });

  it("a text comes out as it went in", () => {
    for (const { title } of RULES)
      expect(
        explained(title)
          .map(({ text }) => text)
          .join(""),
      ).toBe(title);
  });

  it("are told with a machine's own numbers, finite ones, or not at all", () => {
    for (const { make } of EXAMPLES) {
      const { figures } = analyse(make());
      const told = GLOSSARY.flatMap(({ id }) => wordHere(figures, id) ?? []);
      expect(told.length).toBeGreaterThan(4);
      for (const { says, bars } of told) {
        expect([says, ...bars.map(({ text }) => text)].join(" ")).not.toMatch(/NaN|Infinity|undefined/);
        // The longest reaches the end, none beyond, and one alone would compare nothing.
        if (bars.length === 0) continue;
        expect(bars.length).toBeGreaterThan(1);
        expect(Math.max(...bars.map(({ share }) => share))).toBe(1);
        for (const { share } of bars) expect(share).toBeGreaterThanOrEqual(0);
      }
      expect(told.filter(({ bars }) => bars.length > 0).length).toBeGreaterThan(2);
    }
  });
});

describe("verdicts spelt out", () => {
  it("every rule has its plain words, short, without a word that is not everyday", () => {
    for (const { id } of RULES.flatMap(({ says }) => says)) {
      const plain = PLAIN[id];
      expect(plain, id).toBeDefined();
      expect((plain ?? "").length, id).toBeLessThan(80);
      const words = ((plain ?? "").toLowerCase().match(/[a-z][a-z'’]*/g) ?? []).filter(
        (word) => !EVERYDAY.has(word) && !EVERYDAY.has(word.replace(/(?:'s|s|ed|ing)$/, "")),
      );
      expect(words, id).toEqual([]);
    }
    expect(Object.keys(PLAIN).length).toBe(RULES.flatMap(({ says }) => says).length);
  });
});
