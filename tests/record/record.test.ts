import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { recordOfCases } from "./cases";
import { RECORDED } from "./machines";
import { recordOf } from "./record";

/** A change that is meant to move figures is read here line by line, then written down: npm run record. */
const RECORDS: Readonly<Record<string, () => string[]>> = {
  ...Object.fromEntries(Object.entries(RECORDED).map(([name, make]) => [name, () => recordOf(make())])),
  cases: recordOfCases,
};

describe("figures on record", () => {
  it.each(Object.keys(RECORDS))("%s: nothing moved that nobody meant to move", (name) => {
    const recorded = readFileSync(`tests/record/${name}.txt`, "utf8").trimEnd().split("\n");
    const now = RECORDS[name]?.() ?? [];
    const before = new Set(recorded);
    const after = new Set(now);
    expect({
      gone: recorded.filter((each) => !after.has(each)).slice(0, 20),
      come: now.filter((each) => !before.has(each)).slice(0, 20),
    }).toEqual({ gone: [], come: [] });
  });
});
