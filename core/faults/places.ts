import { groupBy } from "../machine/group";
import type { Part } from "../machine/schema";
import { bottomOf } from "../machine/strings";
import { isSource } from "../machine/terminals";
import { type Ledger, railOrigin } from "../machine/tree";
import { type Circuit, nodeAt } from "../network/circuit";

/** Two nodes that a short may join: a supply terminal and the minus it belongs to. */
export interface FaultPlace {
  /** "part" or "part.terminal" where a part has more than one place. */
  id: string;
  part: string;
  /** Where on the part, in words; empty for its one supply terminal. */
  at: string;
  plus: number;
  minus: number;
  /** Straight across a source's own terminals: no wire, no fuse. */
  posts: boolean;
}

/** The minus of the source or converter whose rail a part hangs on. */
export function railMinus(circuit: Circuit, ledger: Ledger, part: Part): number {
  const origin = railOrigin(ledger, part.id);
  const source = circuit.machine.parts.find(({ id }) => id === origin);
  if (!source) return -1;
  if (source.kind === "pack") return nodeAt(circuit, bottomOf(circuit.machine, source).id, "-");
  return nodeAt(circuit, source.id, source.kind === "converter" ? "out-" : "-");
}

/** Every place of a machine where a short between supply and return can happen, in ledger order. */
export function faultPlaces(circuit: Circuit, ledger: Ledger): FaultPlace[] {
  const places: FaultPlace[] = [];
  const wiredFrom = groupBy(circuit.machine.wires, (wire) => `${wire.from.part}.${wire.from.terminal}`);
  for (const { part } of ledger.rows) {
    const at = (terminal: string) => nodeAt(circuit, part.id, terminal);
    const add = (plus: string, minus: number, words = "", posts = false) => {
      const node = at(plus);
      if (node < 0 || minus < 0 || node === minus) return;
      places.push({ id: words === "" ? part.id : `${part.id}.${plus}`, part: part.id, at: words, plus: node, minus, posts });
    };
    if (isSource(part)) add("+", at("-"), "", true);
    else if (part.kind === "bar") {
      if (part.side === "positive") add("bar", railMinus(circuit, ledger, part));
    } else if (part.kind === "switch" || part.kind === "fuse") add("out", railMinus(circuit, ledger, part));
    else if (part.kind === "converter") {
      add("in+", at("in-"), "at its input");
      add("out+", at("out-"), "at its output");
    } else if (part.kind === "driver") {
      add("in+", at("in-"));
      if (part.logic !== undefined) add("5v", at("in-"), "on its logic side");
    } else {
      add("+", at("-"));
      if (wiredFrom.has(`${part.id}.5v`) && at("5v") !== at("+")) add("5v", at("-"), "at its 5 V pin");
    }
  }
  return places;
}
