/** A spanning forest of a graph that also knows which edges nothing goes around. */
export interface Forest {
  /** All nodes, each after the one it was reached from. */
  readonly order: Int32Array;
  /** The node each was reached from; −1 for a root. */
  readonly parent: Int32Array;
  /** By edge: its end away from the root where the edge is the only way there; −1 where there is another way. */
  readonly far: Int32Array;
}

/**
 * Finds the edges without which a graph falls apart (bridges), by depth-first search with low points (Tarjan 1974), in
 * time linear in nodes and edges.
 * @param ends two nodes 0..nodeCount−1 per edge; parallel edges and loops are allowed
 * @param roots where to begin, in this order; nodes they do not reach become roots of their own
 */
export function findBridges(nodeCount: number, ends: readonly (readonly [number, number])[], roots: readonly number[]): Forest {
  const first = new Int32Array(nodeCount).fill(-1);
  const next = new Int32Array(2 * ends.length);
  ends.forEach((pair, edge) => {
    pair.forEach((node, side) => {
      next[2 * edge + side] = first[node] as number;
      first[node] = 2 * edge + side;
    });
  });
  const parent = new Int32Array(nodeCount).fill(-1);
  const reached = new Int32Array(nodeCount).fill(-1);
  const low = new Int32Array(nodeCount);
  const by = new Int32Array(nodeCount).fill(-1);
  const walk = first.slice();
  const order = new Int32Array(nodeCount);
  const far = new Int32Array(ends.length).fill(-1);
  const stack: number[] = [];
  let count = 0;
  const enter = (node: number) => {
    reached[node] = count;
    low[node] = count;
    order[count++] = node;
    stack.push(node);
  };
  const search = (root: number) => {
    if ((reached[root] as number) >= 0) return;
    enter(root);
    while (stack.length > 0) {
      const node = stack[stack.length - 1] as number;
      const half = walk[node] as number;
      if (half < 0) {
        stack.pop();
        const above = parent[node] as number;
        if (above < 0) continue;
        if ((low[node] as number) > (reached[above] as number)) far[by[node] as number] = node;
        low[above] = Math.min(low[above] as number, low[node] as number);
        continue;
      }
      walk[node] = next[half] as number;
      const edge = half >> 1;
      if (edge === by[node]) continue;
      const other = ends[edge]?.[1 - (half & 1)] as number;
      if ((reached[other] as number) >= 0) {
        low[node] = Math.min(low[node] as number, reached[other] as number);
        continue;
      }
      parent[other] = node;
      by[other] = edge;
      enter(other);
    }
  };
  for (const root of roots) search(root);
  for (let node = 0; node < nodeCount; node++) search(node);
  return { order, parent, far };
}
