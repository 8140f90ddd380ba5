import { describe, expect, it } from "vitest";
import { at, must, part, simple } from "@/tests/support/small";
import { newMachine } from "../machine/defaults";
import { typical } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { buildCircuit } from "../network/build";
import { returnExposure, supplyExposure } from "./exposure";

const wire = (gauge = "14 AWG", metres = 0.5) => ({ gauge, lengthM: typical(metres) });

function exposures(machine: Machine) {
  const circuit = buildCircuit(machine);
  const supply = supplyExposure(circuit);
  const back = returnExposure(circuit, supply);
  return (partId: string, role: "supply" | "return" | "phase" = "supply") => {
    const index = machine.wires.findIndex((each) => each.role === role && (role === "return" ? each.from.part : each.to.part) === partId);
    return supply[index] ?? back[index] ?? null;
  };
}

/** Pack, bar without a fuse, and two fused ways from it to a second bar. */
function ring(): Machine {
  let machine = part(newMachine("Ring"), "pack", "pack", { openCircuitV: typical(24) });
  machine = part(machine, "bar", "a", {}, { from: "pack.+", wire: { ...wire(), fuse: { family: "strip_m5_58v", ratingA: 100 } } });
  machine = part(machine, "bar", "b", {}, { from: "a", wire: { ...wire(), fuse: { family: "blade_regular_32v", ratingA: 10 } } });
  return part(machine, "load", "lamp", {}, { from: "b", back: "pack.-", wire: wire() });
}

describe("what limits a fault on a wire", () => {
  it("is its own fuse, or the smallest on the way to it", () => {
    const exposure = exposures(ring());
    expect(exposure("a")).toMatchObject({ limitA: 100, by: { kind: "wire" } });
    expect(exposure("b")?.limitA).toBe(10);
    expect(exposure("lamp")?.limitA).toBe(10);
  });

  it("is the widest of several ways: a second, larger feed undoes the small fuse", () => {
    const machine = must(ring(), {
      type: "addWire",
      wire: {
        role: "supply",
        from: at("a"),
        to: at("b"),
        parallel: 1,
        insulation: "pvc80",
        ...wire(),
        fuse: { family: "blade_regular_32v", ratingA: 40 },
      },
    });
    const exposure = exposures(machine);
    expect(exposure("lamp")?.limitA).toBe(40);
    expect(exposure("b")?.limitA).toBe(40);
  });

  it("does not count a fuse that sits at the far end of what it should protect", () => {
    const before = ring();
    const feed = before.wires.find((each) => each.to.part === "b");
    const machine = must(before, {
      type: "batch",
      label: "turn the feed round",
      commands: [
        { type: "reland", wireId: feed?.id ?? "", end: "from", at: at("b") },
        { type: "reland", wireId: feed?.id ?? "", end: "to", at: at("a") },
      ],
    });
    const circuit = buildCircuit(machine);
    const index = machine.wires.findIndex((each) => each.id === feed?.id);
    expect(supplyExposure(circuit)[index]?.limitA).toBe(100);
  });

  it("reaches motor leads through the driver, and their way back through the pair", () => {
    let machine = part(ring(), "driver", "drive", {}, { from: "b", back: "pack.-", wire: wire() });
    machine = part(machine, "load", "motor", {}, { from: "drive.1a", back: "drive.1b", wire: wire("18 AWG") });
    const exposure = exposures(machine);
    expect(exposure("motor", "phase")?.limitA).toBe(10);
    expect(exposure("drive", "return")?.limitA).toBe(10);
  });

  it("stops at a converter, whose own limit takes over, known or not", () => {
    const build = (limit: Record<string, unknown>) => {
      const machine = part(ring(), "converter", "buck", { outputV: typical(5), ...limit }, { from: "b", back: "pack.-", wire: wire() });
      return exposures(part(machine, "load", "board", {}, { from: "buck.out+", back: "buck.out-", wire: wire("26 AWG") }));
    };
    expect(build({ limitA: typical(3) })("board")).toMatchObject({ limitA: 3, by: { kind: "source", id: "buck" }, unknown: false });
    expect(build({})("board")?.unknown).toBe(true);
  });

  it("measures the bare run from the pack along the shortest way", () => {
    let machine = part(newMachine("Bare"), "pack", "pack", { openCircuitV: typical(24) });
    machine = part(machine, "switch", "main", {}, { from: "pack.+", wire: wire("6 AWG", 0.2) });
    machine = part(machine, "load", "lamp", {}, { from: "main.out", back: "pack.-", wire: wire("14 AWG", 0.7) });
    const exposure = exposures(machine);
    expect(exposure("main")?.unfused?.runM).toBeCloseTo(0.2, 9);
    expect(exposure("lamp")?.unfused?.runM).toBeCloseTo(0.9, 9);
    expect(exposure("lamp")?.limitA).toBe(Number.POSITIVE_INFINITY);
  });

  it("claims nothing for a return that is one of several ways", () => {
    let machine = part(simple(), "bar", "n1", { side: "negative" }, { back: "pack.-", wire: wire("22 AWG") });
    const back = machine.wires.find((each) => each.role === "return" && each.from.part === "motor");
    machine = must(machine, { type: "reland", wireId: back?.id ?? "", end: "to", at: at("n1") });
    expect(exposures(machine)("n1", "return")?.limitA).toBe(20);
    const meshed = must(machine, {
      type: "addWire",
      wire: { role: "return", from: at("n1"), to: at("pack.-"), parallel: 1, insulation: "pvc80", ...wire() },
    });
    expect(exposures(meshed)("n1", "return")).toBeNull();
  });
});
