import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { toJson } from "@/core/exchange/json";
import { readMachineText } from "@/core/machine/read";
import { FORMAT_VERSION } from "@/core/machine/schema";
import { wholeSheet } from "@/core/sheet/whole";

const folder = join(process.cwd(), "tests/earlier");
const files = readdirSync(folder).filter((name) => name.endsWith(".json"));

describe("machine files that earlier states of this program wrote", () => {
  it("are there of the first state on, up to the version written today", () => {
    expect(files.length).toBeGreaterThanOrEqual(4);
    expect(files.every((name) => name.startsWith(`version-${FORMAT_VERSION}-`))).toBe(true);
  });

  it.each(files)("%s is read as it is, nothing left out, and printed", (name) => {
    const text = readFileSync(join(folder, name), "utf8");
    const read = readMachineText(text);
    if (!read.ok) throw new Error(JSON.stringify(read.problems.slice(0, 3)));
    expect(read.cleaned).toEqual([]);
    // Nothing is lost and nothing added: every figure of the old file stands in the new one.
    expect(JSON.parse(toJson(read.machine))).toEqual(JSON.parse(text));
    const { sheet, analysis } = wholeSheet(read.machine);
    expect(sheet.feeds).toHaveLength(read.machine.parts.length);
    expect(analysis.verdicts.length).toBeGreaterThan(10);
  });

  it("of another version or another program are refused in words, with what was expected", () => {
    const text = readFileSync(join(folder, files[0] ?? ""), "utf8");
    const newer = readMachineText(text.replace('"version":1', '"version":99'));
    expect(newer.ok ? [] : newer.problems.map(({ path }) => path)).toContain("version");
    for (const wrong of ["", "{}", "[1,2]", '{"format":"something/else"}', text.slice(0, 400)]) {
      const refused = readMachineText(wrong);
      expect(refused.ok).toBe(false);
      expect(refused.ok ? [] : refused.problems.length).toBeGreaterThan(0);
    }
  });
});
