import type { Circuit } from "./circuit";

/** Nodes joined by plain metal (wires, fuses, contacts; not by bridges): nodes with the same answer are one piece. */
export function metalOf(circuit: Circuit): (node: number) => number {
  const parents = Int32Array.from({ length: circuit.nodeCount }, (_, i) => i);
  const find = (node: number): number => {
    let root = node;
    while (parents[root] !== root) root = parents[root] as number;
    parents[node] = root;
    return root;
  };
  for (const branch of circuit.branches) if (branch.kind !== "bridge") parents[find(branch.a)] = find(branch.b);
  return find;
}
