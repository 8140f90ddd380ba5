import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { must, part, simple } from "@/tests/support/small";
import { typical } from "../machine/figure";
import { fileStem, machineJsonSchema } from "./json";
import { toSpice } from "./spice";

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
