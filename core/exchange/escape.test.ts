import fc from "fast-check";
import { JSDOM } from "jsdom";
import { marked } from "marked";
import { describe, expect, it } from "vitest";
import { must, simple } from "@/tests/support/small";
import { UNREAD } from "@/tests/support/unread";
import { analyse } from "../analysis/analyse";
import { plain } from "../machine/plain-text";
import { readMachine } from "../machine/read";
import type { Machine } from "../machine/schema";
import { sheetOf } from "../sheet/sheet";
import { drawingSvg } from "./drawing-svg";
import { markdownText, xmlText } from "./escape";
import { flowSvg } from "./flow-svg";
import { sheetMarkdown } from "./markdown";

const NASTY = [
  "<script>alert(1)</script>",
  "<img src=x onerror=alert(1)>",
  "[a link](javascript:alert(1))",
  "![picture](http://evil.example/p.png)",
  "http://evil.example www.evil.example me@evil.example",
  "a | b | c",
  "\\| `code` **bold** _soft_ ~~gone~~",
  "# heading",
  "- item",
  "1. item",
  "&lt;b&gt; &amp; \"quotes\" 'single'",
  "]]> --> <!-- <![CDATA[",
  "=1+1",
];
/** The sheet of quick verdicts, without readings. */
const sheetNow = (machine: Machine) => {
  const { figures, analysis } = analyse(machine);
  return sheetOf(figures, analysis, { judged: UNREAD });
};
const named = (name: string): Machine => ({
  ...simple(),
  name,
  parts: simple().parts.map((part) => (part.id === "motor" ? { ...part, name } : part)),
});

describe("texts that go out in files", () => {
  /** Read by a general-purpose Markdown reader with tables and bare links. */
  const parser = new new JSDOM().window.DOMParser();
  const html = (text: string) => parser.parseFromString(marked.parse(text, { async: false, gfm: true }), "text/html");

  it.each(NASTY)("stand in Markdown as they were written: %s", (name) => {
    const page = html(sheetMarkdown(named(name), sheetNow(named(name))));
    expect(page.querySelectorAll("a, img, script, code, strong, em, del").length).toBe(0);
    expect(page.querySelector("h1")?.textContent?.trim()).toBe(name);
    for (const row of page.querySelectorAll("tr")) expect(row.children.length).toBe(row.closest("table")?.querySelectorAll("th").length);
    expect([...page.querySelectorAll("td")].some((cell) => cell.textContent?.includes(name.trim()))).toBe(true);
  });

  it("of any characters at all stay one line of Markdown and one text of an SVG", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", minLength: 1, maxLength: 60 }), (text) => {
        const page = html(`x ${markdownText(text)}`);
        // A reader of Markdown folds spaces; what XML or a page cannot hold was left out.
        const folded = (each: string) => each.replace(/\s+/g, " ").trim();
        expect(folded(page.body.textContent ?? "")).toBe(folded(`x ${plain(text)}`));
        const svg = `<svg xmlns="http://www.w3.org/2000/svg"><title>${xmlText(text)}</title></svg>`;
        expect(parser.parseFromString(svg, "image/svg+xml").querySelector("title")?.textContent).toBe(plain(text));
      }),
      { numRuns: 300 },
    );
  });

  it.each(NASTY)("leave an SVG valid: %s", (name) => {
    const broken = named(`${name.slice(0, 60)}\u0000\ud800\ufffe`);
    for (const text of [flowSvg(broken, 0), drawingSvg(sheetNow(broken).drawing, broken.name)]) {
      const svg = new JSDOM(text, { contentType: "image/svg+xml" }).window.document;
      expect(svg.querySelector("title")?.textContent).toContain(name.slice(0, 60));
      expect(svg.querySelectorAll("script").length).toBe(0);
    }
  });
});

describe("characters that cannot be seen", () => {
  it("are refused in an edit, and taken out of a file that is read, with the places said", () => {
    expect(() => must(simple(), { type: "rename", name: "Two\nlines" })).toThrow("one line");
    const file = { ...simple(), name: "Gate\u202e\u0007", description: "First\r\nsecond\u0000" };
    const read = readMachine(file);
    expect(read.ok && [read.machine.name, read.machine.description, read.cleaned]).toEqual([
      "Gate",
      "First\nsecond",
      ["name", "description"],
    ]);
    const clean = readMachine(simple());
    expect(clean.ok && clean.cleaned).toEqual([]);
  });
});
