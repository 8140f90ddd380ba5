import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { FIGURES } from "./figures";
import { matrix } from "./matrix";
import { GAP, lineOf } from "./table";

const text = readFileSync("docs/matrix.md", "utf8");
const lines = text.split("\n").filter((line) => line.startsWith("| "));
const whys = new Map([...text.matchAll(/^(\d+)\. (.*)$/gm)].map(([, n, why]) => [why ?? "", n ?? ""]));

/** One row in twenty; all of them in a long run. */
const STRIDE = process.env.NODE_LEDGER_SEEDS === "all" ? 1 : 20;

describe("the matrix of figures and rules", () => {
  it("leaves no cell empty without a reason", () => {
    expect(lines.filter((line) => line.includes(GAP))).toEqual([]);
  });

  it("has every figure that a part can have", () => {
    const known = new Set(lines.map((line) => line.split(" | ")[1]));
    const all = [...FIGURES.values()].flat();
    expect(all.filter((path) => path !== "massKg" && !known.has(path))).toEqual([]);
  });

  it("says what the rules say", () => {
    const tried = matrix(STRIDE, 3 % STRIDE).map((row) => lineOf(row, (why) => whys.get(why) ?? `no number for "${why}"`));
    expect(tried.length).toBeGreaterThan(10);
    expect(tried.filter((line) => !lines.includes(line))).toEqual([]);
  });
});
