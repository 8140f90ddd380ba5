import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { bringUpOf } from "@/core/bringup/plan";
import { Search } from "@/core/bringup/search";
import { carillon } from "@/demo/carillon";
import { marbleLift } from "@/demo/marble-lift";
import { reedcutter } from "@/demo/reedcutter";
import { searchFor } from "../support/fault-search";

/** Of every so many faults one is hidden in the usual run; all with `npm run test:long`. */
const every = (usual: number) => (process.env.NODE_LEDGER_SEEDS === "all" ? 1 : usual);

describe("the true fault is first in nine of ten cases, after at most eight readings", () => {
  it.each([
    ["Marble lift", () => marbleLift(true), every(1)],
    ["Carillon", () => carillon(true), every(31)],
    ["Reedcutter", () => reedcutter(true), every(59)],
  ] as const)("%s", { timeout: 900_000 }, (name, make, step) => {
    const { figures } = analyse(make());
    const bringUp = bringUpOf(figures);
    const search = new Search(figures, bringUp);
    const tried = search.faults.filter((_, i) => i % step === 0);
    const missed: string[] = [];
    let readings = 0;
    tried.forEach((fault, i) => {
      const found = searchFor(figures, bringUp, search, fault, 100 + i * step);
      readings += found.extra;
      if (!found.first) missed.push(`${fault.words}${found.silent ? " (shows nowhere)" : ""}`);
    });
    const share = 1 - missed.length / tried.length;
    if (process.env.NODE_LEDGER_REPORT)
      process.stdout.write(
        `${name}: ${tried.length - missed.length} of ${tried.length} (${(100 * share).toFixed(1)} %), ${(readings / tried.length).toFixed(2)} readings each\n  ${missed.join("\n  ")}\n`,
      );
    expect(share, missed.join("; ")).toBeGreaterThanOrEqual(0.9);
  });
});
