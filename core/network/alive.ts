import { nodeAt, type Wired } from "./circuit";
import { metalOf } from "./metal";

/**
 * Parts that still have voltage with some contacts open: joined by metal on both sides to a source, or to a converter or
 * board that is itself alive. Contacts not named are closed.
 */
export function aliveWith(circuit: Wired, open: (contact: number) => boolean): ReadonlySet<string> {
  const metal = metalOf(circuit.nodeCount, circuit.branches, open);
  const live = circuit.emfs.map(({ converter }) => converter < 0);
  const fed = (plus: number, minus: number) =>
    plus >= 0 && minus >= 0 && circuit.emfs.some(({ pos, neg }, i) => live[i] && metal(pos) === metal(plus) && metal(neg) === metal(minus));
  for (let changed = true; changed; ) {
    changed = false;
    for (const { emf, inPos, inNeg } of circuit.converters) {
      if (live[emf] || !fed(inPos, inNeg)) continue;
      live[emf] = true;
      changed = true;
    }
  }
  const alive = new Set<string>();
  for (const part of circuit.machine.parts) {
    const at = (terminal: string) => nodeAt(circuit, part.id, terminal);
    if (part.kind === "load") {
      // A motor behind a driver is alive while its driver is.
      const driver = circuit.feeds.get(part.id)?.driver.id;
      const own = driver ? fed(nodeAt(circuit, driver, "in+"), nodeAt(circuit, driver, "in-")) : fed(at("+"), at("-"));
      if (own) alive.add(part.id);
    } else if (part.kind === "driver" || part.kind === "converter") {
      if (fed(at("in+"), at("in-"))) alive.add(part.id);
    }
  }
  return alive;
}
