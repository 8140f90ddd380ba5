import type { Command } from "./commands";
import type { BuiltMachine, Signal, TerminalRef, Wire } from "./schema";
import { groundTerminal } from "./terminals";

/** The ground wire of a link, or its shield tied at both ends, from the sender's ground to the receiver's. */
export function signalWire(
  machine: BuiltMachine,
  signal: Signal,
  shield: boolean,
  run: Partial<Wire> = {},
): Extract<Command, { type: "addWire" }> {
  const end = (id: string): TerminalRef => {
    const part = machine.parts.find((each) => each.id === id);
    return { part: id, terminal: (part && groundTerminal(part)) ?? "-" };
  };
  return {
    type: "addWire",
    wire: {
      parallel: 1,
      insulation: "pvc80",
      ...run,
      role: "signal",
      signal: signal.id,
      from: end(signal.from),
      to: end(signal.to),
      ...(shield ? { shield: true } : {}),
    },
  };
}
