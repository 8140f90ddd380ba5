import type { Command } from "../machine/commands";
import type { BuiltMachine, TerminalRef } from "../machine/schema";
import { groundTerminal, sameTerminal } from "../machine/terminals";

/** Lands a part's return at a place: its own return moved there, or, where it has none, a new one like its feed. Null: it is there already. */
export function landCommand(machine: BuiltMachine, partId: string, at: TerminalRef): Command | null {
  const part = machine.parts.find(({ id }) => id === partId);
  const terminal = part && groundTerminal(part);
  if (!part || !terminal) return null;
  const from: TerminalRef = { part: partId, terminal };
  const own = machine.wires.find((wire) => wire.role === "return" && sameTerminal(wire.from, from));
  if (own) return sameTerminal(own.to, at) ? null : { type: "reland", wireId: own.id, end: "to", at };
  const feed = machine.wires.find((wire) => wire.role === "supply" && wire.to.part === partId && wire.to.terminal !== "5v");
  const conductor = feed
    ? { gauge: feed.gauge, lengthM: feed.lengthM, parallel: feed.parallel, insulation: feed.insulation, pair: feed.id }
    : { parallel: 1, insulation: "pvc80" };
  return { type: "addWire", wire: { role: "return", from, to: at, ...conductor } };
}
