import { readFileSync } from "node:fs";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { STEPS } from "@/core/verdicts/types";
import { draftRule, RuleWords } from "./rule-draft";

const LIST = "core/verdicts/rules.ts";
const list = readFileSync(LIST, "utf8");
const named = (text: string) => [...text.matchAll(/^ {2}(\w+),$/gm)].map(([, name]) => name);
const words = (over: object = {}) => RuleWords.parse({ id: "hot-lid", step: "feeds", title: "A lid that gets hot", ...over });

describe("a new rule", () => {
  it.each(STEPS)("stands last of its step among the rules, which stay as they are: %s", (step) => {
    const files = draftRule(words({ step }), list);
    expect(Object.keys(files)).toEqual([`core/verdicts/${step}/hot-lid.ts`, `core/verdicts/${step}/hot-lid.test.ts`, LIST]);
    const after = named(files[LIST] ?? "");
    expect(after.filter((name) => name !== "hotLid")).toEqual(named(list));
    const before = after[after.indexOf("hotLid") - 1];
    expect(files[LIST]).toContain(`import { ${before} } from "./${step}/`);
    expect(files[LIST]).toContain(`import { hotLid } from "./${step}/hot-lid";`);
  });

  it.each(RuleWords.shape.reads.unwrap().options)("is sound TypeScript in all its files, reading %s", (reads) => {
    for (const [path, text] of Object.entries(draftRule(words({ reads }), list))) {
      const { diagnostics } = ts.transpileModule(text, { reportDiagnostics: true, fileName: path });
      expect(diagnostics, path).toEqual([]);
    }
  });

  it("is refused under a name that is taken, or with words that would not do", () => {
    expect(() => draftRule(words({ id: "fuse-voltage" }), list)).toThrow(/already/);
    expect(() => draftRule(words(), "export const OTHER = [];")).toThrow(/by hand/);
    for (const over of [{ id: "HotLid" }, { step: "signals" }, { title: 'a "quoted" one' }, { reads: "all" }])
      expect(RuleWords.safeParse({ ...words(), ...over }).success).toBe(false);
  });
});
