import type { Branch } from "./circuit";

/**
 * Nodes joined by plain metal (wires, fuses, contacts; not by bridges): nodes with the same answer are one piece.
 * `open`: contacts, by index, that do not join anything.
 */
export function metalOf(
  nodeCount: number,
  branches: readonly Branch[],
  open: (contact: number) => boolean = () => false,
): (node: number) => number {
  const parents = Int32Array.from({ length: nodeCount }, (_, i) => i);
  const find = (node: number): number => {
    let root = node;
    while (parents[root] !== root) root = parents[root] as number;
    parents[node] = root;
    return root;
  };
  for (const branch of branches)
    if (branch.kind !== "bridge" && !(branch.contact >= 0 && open(branch.contact))) parents[find(branch.a)] = find(branch.b);
  return find;
}
