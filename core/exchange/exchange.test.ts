import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { must, part, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { typical } from "../machine/figure";
import { weightOf } from "./compare";
import { fileStem, machineJsonSchema } from "./json";
import { buildSheet } from "./sheet";
import { toSpice } from "./spice";

const sheetOf = (machine: ReturnType<typeof simple>) => buildSheet(machine, analyse(machine).analysis);

describe("the sheet", () => {
  it("totals wire by size with a tenth to spare, and says what is not counted", () => {
    let machine = simple({ metres: 2, gauge: "14 AWG" });
    machine = must(machine, { type: "setFeed", id: "w2", changes: { parallel: 2 } });
    const row = sheetOf(machine).buy.find((each) => each.what === "Wire 14 AWG");
    expect(row?.count).toBe("8.8\u00a0m");
    const unknown = must(machine, { type: "setFeed", id: "w2", changes: { lengthM: undefined } });
    expect(sheetOf(unknown).buy.find((each) => each.what === "Wire 14 AWG")?.detail).toContain("unknown length");
  });

  it("cuts, buys and weighs the leads that loads bring along: two for each piece of a group, four to a stepper", () => {
    const lead = { gauge: "22 AWG", insulation: "pvc80", lengthM: typical(0.5) };
    const plain = must(simple(), { type: "updatePart", id: "motor", changes: { count: 3 } });
    const grouped = must(plain, { type: "updatePart", id: "motor", changes: { ownLead: lead } });
    const stepper = must(plain, { type: "updatePart", id: "motor", changes: { loadKind: "stepper", count: 1, phaseLead: lead } });
    const bought = (machine: typeof plain) => sheetOf(machine).buy.find((each) => each.what === "Wire 22 AWG")?.count;
    expect([plain, grouped, stepper].map(bought)).toEqual([undefined, "3.3\u00a0m", "2.2\u00a0m"]);
    expect(sheetOf(grouped).cut.at(-1)).toMatchObject({ conductor: "6 × 22 AWG", length: "0.50\u00a0m" });
    const copper = (machine: typeof plain) => weightOf(machine).copperKg - weightOf(plain).copperKg;
    expect(copper(grouped) / copper(stepper)).toBeCloseTo(6 / 4, 9);
  });

  it("counts fuses of a kind together, with spares of the same number", () => {
    const machine = must(simple(), { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 20 } });
    const rows = sheetOf(machine).buy.filter((each) => each.what.startsWith("Fuse"));
    expect(rows).toHaveLength(1);
    expect(rows[0]?.count).toBe("2 + 2 spare");
  });

  it("marks what is not known and what is a lower bound", () => {
    const machine = must(must(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: null }), {
      type: "setFeed",
      id: "w2",
      changes: { gauge: undefined },
    });
    const row = sheetOf(machine).feeds.find((each) => each.name === "motor");
    expect(row).toMatchObject({ conductor: "?", limit: "?" });
    expect(row?.worst.startsWith("≥")).toBe(true);
  });

  it("gives every wire a label of its own and names both ends", () => {
    const { cut } = sheetOf(simple());
    expect(new Set(cut.map((row) => row.label)).size).toBe(cut.length);
    expect(cut[0]).toMatchObject({ from: "pack +", to: "main in" });
  });
});

describe("exports", () => {
  it("the JSON Schema in docs is the one the code would write", () => {
    expect(JSON.parse(readFileSync("docs/machine.schema.json", "utf8"))).toEqual(JSON.parse(JSON.stringify(machineJsonSchema())));
  });

  it("file names survive any machine name", () => {
    expect(["Reedcutter", "Möbius / lift №2", "   ", "../../etc", "机器"].map(fileStem)).toEqual([
      "reedcutter",
      "mo-bius-lift-no2",
      "machine",
      "etc",
      "machine",
    ]);
  });

  it("a netlist leaves out what no source reaches, and draws nothing that is off", () => {
    let machine = part(simple(), "load", "lost", { cells: { m1: { state: "amps", amps: typical(9) } } }, { from: "main.out", wire: {} });
    machine = must(machine, { type: "setCell", loadId: "motor", modeId: "m1", cell: { state: "off" } });
    const { text, load } = toSpice(machine, "m1");
    expect(load).toEqual([null, null]);
    expect(text).not.toMatch(/^[ib]\d/m);
    expect(text).toMatch(/\.end\n$/);
  });

  it("names in a netlist are plain ASCII whatever the builder called them", () => {
    const machine = { ...simple(), name: "Träger № 3 \n.end" };
    expect(toSpice(machine, "m1").text).toMatch(/^[\x20-\x7e\n]*$/);
    expect(toSpice(machine, "m1").text.match(/^\.end$/gm)).toHaveLength(1);
  });
});
