import type { Command } from "./commands";
import { freshId } from "./defaults";
import type { Machine, TerminalRef, Wire } from "./schema";
import { terminalName } from "./terminals";
import { ledgerOf } from "./tree";

/** A conductor pair by which a source feeds into a rail that something else feeds too. */
export interface Joint {
  readonly supply: Wire;
  readonly back: Wire | null;
}

/** Supply wires from a source's plus that are no part's own feed, with their returns: chargers, second batteries. */
export function jointsOf(machine: Machine, sourceId: string): Joint[] {
  const { others } = ledgerOf(machine);
  return others
    .filter((wire) => wire.role === "supply" && wire.from.part === sourceId)
    .map((supply) => ({ supply, back: machine.wires.find(({ pair }) => pair === supply.id) ?? null }));
}

/** Where a source's plus may be joined: positive bars, and the inputs of switches and fuses. */
export function plusPlaces(machine: Machine): { at: TerminalRef; name: string }[] {
  return machine.parts.flatMap((part) => {
    const terminal = part.kind === "bar" && part.side === "positive" ? "bar" : part.kind === "switch" || part.kind === "fuse" ? "in" : null;
    return terminal ? [{ at: { part: part.id, terminal }, name: terminalName(part, terminal) }] : [];
  });
}

/** Joins a source to a rail with a supply wire and its return, in one step. */
export function joinSource(
  machine: Machine,
  sourceId: string,
  plus: TerminalRef,
  minus: TerminalRef,
  run: Partial<Pick<Wire, "gauge" | "lengthM" | "fuse">>,
): Command {
  const first = freshId("w", machine.wires);
  const second = freshId("w", [...machine.wires, { id: first }]);
  const { fuse, ...bare } = run;
  const wire = { parallel: 1, insulation: "pvc80", ...bare };
  const name = machine.parts.find(({ id }) => id === sourceId)?.name ?? "source";
  return {
    type: "batch",
    label: `Join ${name} to a rail`,
    commands: [
      {
        type: "addWire",
        wire: { ...wire, id: first, role: "supply", from: { part: sourceId, terminal: "+" }, to: plus, ...(fuse ? { fuse } : {}) },
      },
      { type: "addWire", wire: { ...wire, id: second, role: "return", from: minus, to: { part: sourceId, terminal: "-" }, pair: first } },
    ],
  };
}
