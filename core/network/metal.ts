import type { Branch } from "./circuit";
import { find, separate, union } from "./sets";

/**
 * Nodes joined by plain metal (wires, fuses, contacts; not by bridges): nodes with the same answer are one piece.
 * `open`: contacts, by index, that do not join anything.
 */
export function metalOf(
  nodeCount: number,
  branches: readonly Branch[],
  open: (contact: number) => boolean = () => false,
): (node: number) => number {
  const parents = separate(nodeCount);
  for (const branch of branches)
    if (branch.kind !== "bridge" && !(branch.contact >= 0 && open(branch.contact))) union(parents, branch.a, branch.b);
  return (node) => find(parents, node);
}
