import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { must } from "@/tests/support/small";
import type { Command } from "../machine/commands";
import type { Machine, Part } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { analyse } from "./analyse";

/**
 * A wrong Clear is the worst bug. These tests take a machine that is clear and break one thing at a time: whatever is
 * missing or worsened, somebody must say so.
 */
const corrected = EXAMPLES.filter(({ key }) => key.endsWith("corrected")).map(({ key, make }) => [key, make()] as const);

const loud = (machine: Machine) => analyse(machine).analysis.verdicts.filter((verdict) => verdict.severity !== "watch");

function silentOnes(machine: Machine, breakages: readonly { what: string; command: Command }[]): string[] {
  return breakages.filter(({ command }) => loud(must(machine, command)).length === 0).map(({ what }) => what);
}

/** Ties between bars of two rails carry only what crosses between them; taking one away can be a fair choice. */
function isTie(machine: Machine, wireId: string): boolean {
  const wire = machine.wires.find((each) => each.id === wireId);
  const kind = (id: string | undefined) => machine.parts.find((part) => part.id === id)?.kind;
  return wire?.role === "return" && wire.pair === undefined && kind(wire.from.part) === "bar" && kind(wire.to.part) === "bar";
}

describe.each(corrected)("%s, one thing broken at a time", (_key, machine) => {
  it("starts without anything to stop, fix or ask", () => {
    expect(loud(machine)).toEqual([]);
  });

  it("no wire can be taken away in silence", () => {
    const breakages = machine.wires
      .filter((wire) => !isTie(machine, wire.id))
      .map((wire) => ({ what: wire.id, command: { type: "removeWire", id: wire.id } as const }));
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no size and no length can be forgotten in silence", () => {
    const breakages = machine.wires.flatMap((wire) => [
      { what: `${wire.id} size`, command: { type: "updateWire", id: wire.id, changes: { gauge: undefined } } as const },
      { what: `${wire.id} length`, command: { type: "updateWire", id: wire.id, changes: { lengthM: undefined } } as const },
    ]);
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no load's current can be forgotten in silence, in any mode", () => {
    const breakages = machine.parts.flatMap((part) =>
      part.kind === "load"
        ? machine.modes.map((mode) => ({
            what: `${part.id} ${mode.id}`,
            command: { type: "setCell", loadId: part.id, modeId: mode.id, cell: null } as const,
          }))
        : [],
    );
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no figure that a rule needs can be forgotten in silence", () => {
    const needed: Partial<Record<Part["kind"], string[]>> = {
      pack: ["internalOhm", "continuousA", "fullV", "lowV"],
      supply: ["ratedA", "outputOhm"],
      switch: ["contactOhm"],
      converter: ["ratedA", "outputOhm", "inputMinV", "inputMaxV"],
      driver: ["bridgeOhm", "inputMinV", "inputMaxV"],
    };
    const breakages = machine.parts.flatMap((part) =>
      (needed[part.kind] ?? []).map((key) => ({
        what: `${part.id} ${key}`,
        command: { type: "updatePart", id: part.id, changes: { [key]: undefined } } as const,
      })),
    );
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no wire can become thirty gauge in silence", () => {
    const breakages = machine.wires
      .filter((wire) => !isTie(machine, wire.id))
      .map((wire) => ({ what: wire.id, command: { type: "updateWire", id: wire.id, changes: { gauge: "30 AWG" } } as const }));
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no inline fuse can become the largest of its family in silence", () => {
    const breakages = machine.wires
      // Behind a supply its own limit may protect the wire whatever the fuse.
      .filter((wire) => wire.fuse && machine.parts.some((part) => part.kind === "pack"))
      .map((wire) => ({
        what: wire.id,
        command: { type: "setFuse", wireId: wire.id, fuse: { family: "strip_m8_70v", ratingA: 500 } } as const,
      }));
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no load can draw three hundred times its current in silence", () => {
    const breakages = machine.parts.flatMap((part) =>
      part.kind === "load"
        ? Object.entries(part.cells).flatMap(([modeId, cell]) =>
            cell.state === "amps" && cell.amps.value > 0
              ? [
                  {
                    what: `${part.id} ${modeId}`,
                    command: {
                      type: "setCell",
                      loadId: part.id,
                      modeId,
                      cell: { state: "amps", amps: { ...cell.amps, value: Math.min(2000, cell.amps.value * 300) } },
                    } as const,
                  },
                ]
              : [],
          )
        : [],
    );
    expect(silentOnes(machine, breakages)).toEqual([]);
  });

  it("no source can be removed in silence", () => {
    const minus = (id: string) => ({ part: id, terminal: "-" });
    for (const source of machine.parts.filter(isSource)) {
      const wires = machine.wires.filter((wire) => wire.from.part === source.id || wire.to.part === source.id);
      const commands: Command[] = [
        ...wires.map((wire): Command => ({ type: "removeWire", id: wire.id })),
        { type: "removePart", id: source.id },
      ];
      expect(loud(must(machine, { type: "batch", label: "no source", commands })).length, minus(source.id).part).toBeGreaterThan(0);
    }
  });
});

describe("what is unknown spreads upstream and nowhere else", () => {
  it.each(corrected)("%s", (_key, machine) => {
    const clean = analyse(machine).analysis;
    for (const part of machine.parts) {
      if (part.kind !== "load") continue;
      const mode = machine.modes[0]?.id ?? "";
      const doubted = analyse(must(machine, { type: "setCell", loadId: part.id, modeId: mode, cell: null })).analysis;
      const feed = machine.wires.find((wire) => wire.to.part === part.id && wire.role !== "return" && wire.pair === undefined);
      expect(doubted.wires[feed?.id ?? ""]?.atLeast[0], part.id).toBe(1);
      expect(doubted.status[feed?.id ?? ""], part.id).not.toBe("clear");
      for (const other of machine.parts) {
        if (other.kind !== "load" || other.id === part.id) continue;
        const own = machine.wires.find((wire) => wire.to.part === other.id && wire.pair === undefined && wire.role !== "return");
        expect(doubted.wires[own?.id ?? ""]?.atLeast[0] ?? 0, `${part.id} doubts ${other.id}`).toBe(
          clean.wires[own?.id ?? ""]?.atLeast[0] ?? 0,
        );
      }
    }
  });
});

it("an unknown load on the same pack leaves no voltage on that pack called clear, regulated rails apart", () => {
  const machine = corrected.find(([key]) => key.startsWith("reedcutter"))?.[1];
  if (!machine) throw new Error("no barge");
  const doubted = must(machine, { type: "setCell", loadId: "conveyor", modeId: "cruise", cell: null });
  const { status, parts } = analyse(doubted).analysis;
  for (const id of ["paddle-left", "drive-cutter", "buck-12", "buck-5"]) expect(status[id], id).not.toBe("clear");
  expect(parts.computer?.voltsUnsure).toBe(false);
  expect(analyse(machine).analysis.parts["paddle-left"]?.voltsUnsure).toBe(false);
});
