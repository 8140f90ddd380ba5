/**
 * Minimum-degree elimination order of a symmetric pattern. Computed once a topology; power networks are nearly trees,
 * so the fill it leaves is close to none.
 * @param adjacency neighbours of each unknown, without itself
 * @returns order[k] = the unknown eliminated k-th
 */
export function minimumDegree(adjacency: readonly ReadonlySet<number>[]): Int32Array {
  const n = adjacency.length;
  const graph = adjacency.map((set) => new Set(set));
  const order = new Int32Array(n);
  const done = new Uint8Array(n);
  // Buckets by degree keep the choice of the next node cheap; stale entries are skipped when popped.
  const buckets: number[][] = [];
  const push = (node: number) => {
    const degree = graph[node]?.size ?? 0;
    while (buckets.length <= degree) buckets.push([]);
    buckets[degree]?.push(node);
  };
  for (let node = 0; node < n; node++) push(node);

  let low = 0;
  for (let k = 0; k < n; k++) {
    let node = -1;
    while (node < 0) {
      const candidate = buckets[low]?.pop();
      if (candidate === undefined) low++;
      else if (!done[candidate] && graph[candidate]?.size === low) node = candidate;
    }
    done[node] = 1;
    order[k] = node;
    const around = [...(graph[node] ?? [])];
    for (const a of around) {
      const set = graph[a];
      if (!set) continue;
      set.delete(node);
      for (const b of around) if (b !== a) set.add(b);
      push(a);
      low = Math.min(low, set.size);
    }
    graph[node]?.clear();
  }
  return order;
}
