import { newPart } from "@/core/machine/defaults";
import { datasheet, measured, typical } from "@/core/machine/figure";
import { entryOf, type ShelfEntry, type ShelfPart, type ShelfThing } from "@/core/machine/shelf";

const some = (thing: ShelfThing, count: number | null, about: Partial<ShelfEntry> = {}): ShelfEntry => ({
  thing,
  count,
  cost: null,
  note: "",
  quirks: "",
  ...about,
});
const part = (own: ShelfPart, count: number, about: Partial<ShelfEntry> = {}): ShelfEntry => ({ ...entryOf(own), count, ...about });

/** An invented shelf to try things on: parts with ratings, wire by the metre, fuses and connectors. */
export function demoShelf(): ShelfEntry[] {
  return [
    part(
      newPart("driver", "p1", "Two-channel driver board", {
        channels: 2,
        headlineA: datasheet(30),
        continuousA: measured(12),
        peakA: datasheet(30),
        inputMaxV: datasheet(30),
        bridgeOhm: measured(0.021),
      }),
      2,
      { cost: 18.5, note: "drawer 3", quirks: "channel 2 drops out above 18 A\nlogic input floats high at power-up" },
    ),
    part(
      newPart("converter", "p1", "Step-down module 5 V", {
        outputV: measured(5.08),
        ratedA: datasheet(3),
        printedA: datasheet(5),
        inputMinV: datasheet(7),
        inputMaxV: datasheet(32),
        efficiency: typical(0.88),
      }),
      3,
      { cost: 6, quirks: "hums above 2.5 A" },
    ),
    part(
      newPart("pack", "p1", "Sealed block 12 V", {
        openCircuitV: typical(12.7),
        capacityAh: datasheet(18),
        chemistry: "lead_agm",
        series: 6,
        internalOhm: measured(0.019),
        continuousA: datasheet(54),
      }),
      2,
      { cost: 42, note: "bought used, charged monthly" },
    ),
    part(
      newPart("load", "p1", "Small gearmotor 12 V", {
        loadKind: "motor",
        nominalV: datasheet(12),
        levels: { run: measured(0.9), stall: measured(5.2) },
      }),
      4,
    ),
    some({ sort: "wire", gauge: "14 AWG", insulation: "pvc80" }, 9.5, { cost: 0.9 }),
    some({ sort: "wire", gauge: "18 AWG", insulation: "pvc80" }, 22, { cost: 0.4 }),
    some({ sort: "wire", gauge: "22 AWG", insulation: "pvc80" }, 30, { cost: 0.25 }),
    some({ sort: "fuse", family: "blade_regular_32v", ratingA: 5 }, 8, { cost: 0.3 }),
    some({ sort: "fuse", family: "blade_regular_32v", ratingA: 15 }, 6, { cost: 0.3 }),
    some({ sort: "fuse", family: "blade_regular_32v", ratingA: 30 }, 0, { cost: 0.3 }),
    some({ sort: "connector", family: "key60" }, null, { note: "bag of assorted" }),
  ];
}
