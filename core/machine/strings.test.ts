import { describe, expect, it } from "vitest";
import { at, must, part } from "@/tests/support/small";
import { newMachine } from "./defaults";
import { typical } from "./figure";
import type { Machine } from "./schema";
import { stringsOf, stringVolts } from "./strings";

/** Blocks of 12 V in series, the first on top. */
function stacked(count: number): Machine {
  let machine = newMachine("Stacked");
  for (let i = 0; i < count; i++) machine = part(machine, "pack", `b${i}`, { openCircuitV: typical(12 + i) });
  for (let i = 1; i < count; i++)
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: "return",
        from: at(`b${i - 1}.-`),
        to: at(`b${i}.+`),
        gauge: "6 AWG",
        lengthM: typical(0.1),
        parallel: 1,
        insulation: "pvc80",
      },
    });
  return machine;
}

describe("blocks in series", () => {
  it.each([1, 2, 3, 4])("%d of them are one string under its top, with the volts of all", (count) => {
    const machine = stacked(count);
    const { down, top } = stringsOf(machine);
    const ids = Array.from({ length: count }, (_, i) => `b${i}`);
    expect(down.get("b0")?.map(({ id }) => id)).toEqual(ids);
    expect(ids.map((id) => top.get(id)?.id)).toEqual(ids.map(() => "b0"));
    const first = machine.parts[0];
    if (first?.kind !== "pack") throw new Error("no pack");
    expect(stringVolts(machine, first)).toBeCloseTo(
      ids.reduce((sum, _, i) => sum + 12 + i, 0),
      9,
    );
  });

  it("apart or side by side are strings of their own", () => {
    let machine = stacked(2);
    machine = part(machine, "pack", "alone", { openCircuitV: typical(12) });
    const { down } = stringsOf(machine);
    expect(down.get("alone")?.map(({ id }) => id)).toEqual(["alone"]);
    expect(down.get("b0")?.map(({ id }) => id)).toEqual(["b0", "b1"]);
  });
});
