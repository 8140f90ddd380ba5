import { expect } from "vitest";
import { applyCommand } from "@/core/machine/apply";
import { inverted, withChanges } from "@/core/machine/changes";
import type { Command } from "@/core/machine/commands";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";

interface Edits {
  turns: number;
  command: (machine: Machine, turn: number) => Command;
  /** Everything that can be shown of a machine, as text. */
  everything: (machine: Machine) => string;
  /** Looks at the machine after every so many edits. */
  every?: number;
}

/**
 * Edits a machine at random: what is refused says why, what is accepted leaves a valid document and finite words, and undone
 * one by one the machine is as it was.
 * @returns the machine after its last edit, and how many were accepted
 */
export function editedAndUndone(start: Machine, { turns, command, everything, every = 1 }: Edits): { edited: Machine; accepted: number } {
  let machine = start;
  const undo: ((now: Machine) => Machine)[] = [];
  for (let turn = 0; turn < turns; turn++) {
    const result = applyCommand(machine, command(machine, turn));
    if (!result.ok) {
      expect(result.message.length, `turn ${turn}`).toBeGreaterThan(10);
      continue;
    }
    const before = machine;
    machine = result.machine;
    undo.push((now) => withChanges(now, inverted(result.changes)).machine);
    // As they are kept: through text.
    expect(withChanges(before, JSON.parse(JSON.stringify(result.changes))).machine, `turn ${turn}`).toEqual(machine);
    if (turn % every !== every - 1) continue;
    const read = readMachine(JSON.parse(JSON.stringify(machine)));
    expect(read.ok ? [] : read.problems, `turn ${turn}`).toEqual([]);
    expect(everything(machine), `turn ${turn}`).not.toMatch(/NaN|Infinity|undefined|\[object/);
  }
  expect(undo.reduceRight((now, back) => back(now), machine)).toEqual(start);
  return { edited: machine, accepted: undo.length };
}
