/** Nodes that are joined to nothing yet: each its own set. Sets are kept as an array of parents. */
export function separate(count: number): Int32Array {
  return Int32Array.from({ length: count }, (_, node) => node);
}

/** The node that stands for a node's set; shortens the way there. */
export function find(parents: Int32Array, node: number): number {
  let root = node;
  while (parents[root] !== root) root = parents[root] as number;
  let walk = node;
  while (parents[walk] !== root) {
    const next = parents[walk] as number;
    parents[walk] = root;
    walk = next;
  }
  return root;
}

/** Joins the sets of two nodes. */
export function union(parents: Int32Array, a: number, b: number): void {
  parents[find(parents, a)] = find(parents, b);
}
