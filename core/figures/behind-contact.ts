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
  return fills(circuit, metal, [nodeAt(circuit, part.id, "in"), nodeAt(circuit, part.id, "out")]);
}

/**
 * Capacitors that a plug in a wire fills when it is pushed in; null where a contact before it is opened first, or where a source
 * is on both of its sides, or on neither.
 */
export function behindBranch(circuit: Circuit, branch: number): Behind | null {
  const element = circuit.branches[branch];
  if (!element) return null;
  const branches = circuit.branches.filter((_, i) => i !== branch);
  const later = (each: number) => circuit.switches[each]?.prechargeOhm !== undefined || circuit.switches[each]?.stop !== undefined;
  const ends: [number, number] = [element.a, element.b];
  const open = metalOf(circuit.nodeCount, branches, () => true);
  const sources = circuit.emfs.filter(({ converter }) => converter < 0);
  // With every contact open it is still live: nothing before it can be switched off.
  if (!ends.some((end) => sources.some(({ pos }) => open(pos) === open(end)))) return null;
  return fills(circuit, metalOf(circuit.nodeCount, branches, later), ends);
}

/** What is filled when two ends are joined, of which one has a source on it. */
function fills(circuit: Circuit, metal: (node: number) => number, ends: readonly [number, number]): Behind | null {
  const sourced = (piece: number) => circuit.emfs.some(({ pos, converter }) => converter < 0 && metal(pos) === piece);
  const [one, other] = ends.map(metal) as [number, number];
  if (one === other || sourced(one) === sourced(other)) return null;
  const empty = sourced(one) ? other : one;
  const found: Behind = { farads: 0, with: [], unsaid: [] };
  for (const each of circuit.machine.parts) {
    const terminal =
      each.kind === "driver" || each.kind === "converter" ? "in+" : each.kind === "load" ? "+" : each.kind === "bar" ? "bar" : null;
    if (terminal === null || metal(nodeAt(circuit, each.id, terminal)) !== empty) continue;
    const own = each.kind === "bar" ? each.bulkF : "inputF" in each ? each.inputF : undefined;
    if (own) {
      found.farads += own.value;
      found.with.push(each);
    } else if (each.kind === "driver") found.unsaid.push(each);
  }
  return found;
}
