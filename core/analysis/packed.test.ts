import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { newMachine } from "../machine/defaults";
import { analyse } from "./analyse";
import { packAnalysis, unpackAnalysis } from "./packed";

describe("an analysis handed between threads", () => {
  it("arrives with every figure, flag and verdict it left with", () => {
    const machines = [newMachine("Empty"), generateMachine({ parts: 30, seed: 3, meshed: true }), ...EXAMPLES.map(({ make }) => make())];
    for (const machine of machines) {
      const { analysis } = analyse(machine);
      const there = unpackAnalysis(structuredClone(packAnalysis(analysis)));
      const { wires, ...rest } = analysis;
      expect(there).toMatchObject(rest);
      expect(Object.keys(there.parts)).toEqual(Object.keys(analysis.parts));
      // Exposure and ampacity stay with the rules; everything shown goes.
      for (const [id, wire] of Object.entries(wires)) expect(wire).toMatchObject(there.wires[id] ?? {});
      expect(Object.keys(there.wires)).toEqual(Object.keys(wires));
    }
  });
});
