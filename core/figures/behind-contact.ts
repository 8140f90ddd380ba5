import type { Part, Switch } from "../machine/schema";
import { type Circuit, nodeAt } from "../network/circuit";
import { metalOf } from "../network/metal";

/** What a contact connects to the source when it closes. */
export interface Behind {
  farads: number;
  /** Parts whose capacitance is in `farads`, and those that have some nobody told of. */
  with: Part[];
  unsaid: Part[];
}

/** Capacitors that a closing contact fills; null where a source is on both of its sides, or on neither. */
export function behindContact(circuit: Circuit, part: Switch): Behind | null {
  const contact = circuit.switches.findIndex(({ id }) => id === part.id);
  // What has a precharge of its own, or a stop loop to be reset, closes after this one.
  const later = (each: number) => circuit.switches[each]?.prechargeOhm !== undefined || circuit.switches[each]?.stop !== undefined;
  const metal = metalOf(circuit.nodeCount, circuit.branches, (each) => each === contact || later(each));
  const [inside, outside] = [metal(nodeAt(circuit, part.id, "in")), metal(nodeAt(circuit, part.id, "out"))];
  const sourced = (piece: number) => circuit.emfs.some(({ pos, converter }) => converter < 0 && metal(pos) === piece);
  if (inside === outside || !sourced(inside) || sourced(outside)) return null;
  const found: Behind = { farads: 0, with: [], unsaid: [] };
  for (const each of circuit.machine.parts) {
    const terminal =
      each.kind === "driver" || each.kind === "converter" ? "in+" : each.kind === "load" ? "+" : each.kind === "bar" ? "bar" : null;
    if (terminal === null || metal(nodeAt(circuit, each.id, terminal)) !== outside) continue;
    const own = each.kind === "bar" ? each.bulkF : "inputF" in each ? each.inputF : undefined;
    if (own) {
      found.farads += own.value;
      found.with.push(each);
    } else if (each.kind === "driver") found.unsaid.push(each);
  }
  return found;
}
