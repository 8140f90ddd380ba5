import { describe, expect, it } from "vitest";
import { seeds } from "../support/seeds";
import { comparedMachine } from "./compare";
import { MACHINES } from "./machines";
import { measured, practiceRows } from "./measure";

/**
 * Against the practice tables (tests/practice/practice.csv, the handbook's chapter on practice: what experienced builders fit;
 * common practice, no source). The usual run drafts a quarter of the lines, `npm run practice` all of them.
 */
describe("what is drafted is what experienced builders fit", () => {
  const rows = practiceRows();
  const tried = seeds(0, rows.length - 1).flatMap((i) => rows[i] ?? []);
  const found = [...tried.flatMap((row) => measured(row).map((each) => ({ where: `${row.id} ${row.lengthM} m`, ...each })))];
  const whole = MACHINES.flatMap(comparedMachine);

  it("has all lines of the table", () => {
    expect(rows.length).toBeGreaterThan(200);
    expect(new Set(rows.map(({ id }) => id)).size).toBe(57);
  });

  it("nine choices in ten lie inside the accepted range", () => {
    const all = [...found, ...whole];
    const outside = all
      .filter(({ off }) => off !== 0)
      .map(({ where, what, got, accepted }) => `${where} ${what} ${got}, accepted ${accepted}`);
    expect(1 - outside.length / all.length, outside.join("\n")).toBeGreaterThanOrEqual(0.9);
  });

  it("no gauge lies more than two sizes outside", () => {
    const far = [...found, ...whole].filter(({ what, off }) => what.endsWith("gauge") && !(Math.abs(off) <= 2));
    expect(far).toEqual([]);
  });

  it("no machine carries more than one and a half times the copper that practice gives it", () => {
    const heavy = whole.filter(({ what, off }) => what === "copper" && off > 0.5);
    expect(heavy).toEqual([]);
  });
});
