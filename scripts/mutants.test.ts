import { describe, expect, it } from "vitest";
import { type KINDS, mutantsOf, withFault } from "./mutants";

const SOURCE = `import { a } from "./b3";
const SHARE = 0.75;
/** 4 * 5 < 6 */
export function f(x: number, list: number[]): string {
  const most = Math.max(x + 2 * SHARE, list[3] ?? 0);
  if (x > most) return \`over by \${x - most}\`;
  for (let i = 0; i < list.length; i++) x = x * 1e-9;
  return "x" + a;
}
`;

describe("small faults put into a file", () => {
  const found = mutantsOf("f.ts", SOURCE);
  const becomes = (kind: (typeof KINDS)[number]) =>
    found.filter((each) => each.kind === kind).map(({ was, becomes: to }) => `${was} → ${to}`);

  it("are found in computation, never in texts, types, indices or tolerances", () => {
    expect(becomes("factor off by 5 %")).toEqual([`0.75 → ${0.75 * 1.05}`, `2 → ${2 * 1.05}`]);
    expect(becomes("least for most")).toEqual(["max → min"]);
    expect(becomes("turned comparison")).toEqual(["> → <", "< → >"]);
    expect(becomes("dropped term")).toEqual(["x + 2 * SHARE → x"]);
  });

  it("change one place and nothing else", () => {
    for (const each of found) {
      const changed = withFault(SOURCE, each);
      expect(changed).not.toBe(SOURCE);
      expect(changed.slice(0, each.from)).toBe(SOURCE.slice(0, each.from));
      expect(changed.slice(each.from + each.becomes.length)).toBe(SOURCE.slice(each.to));
    }
  });
});
