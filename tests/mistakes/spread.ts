/**
 * Of all that can be tried in some machines, so many of each kind, each in another machine where there is one: what a usual
 * run tries of a search that takes long. `make` may find that a place gives nothing; then the next one is taken.
 *
 * @param lists what can be tried, by machine
 * @returns what is to be tried, by machine
 */
export function spread<T extends { kind: string }, R>(
  lists: readonly (readonly T[])[],
  many: number,
  make: (one: T) => R | null,
): { one: T; made: R }[][] {
  const chosen: { one: T; made: R }[][] = lists.map(() => []);
  const kinds = [...new Set(lists.flatMap((list) => list.map(({ kind }) => kind)))];
  for (const [k, kind] of kinds.entries()) {
    let left = many;
    for (let step = 0; step < lists.length && left > 0; step++) {
      // Beginning with another machine each time spreads the kinds over all of them.
      const at = (k + step) % lists.length;
      for (const one of lists[at] ?? []) {
        const made = one.kind === kind ? make(one) : null;
        if (made === null) continue;
        chosen[at]?.push({ one, made });
        left--;
        break;
      }
    }
  }
  return chosen;
}
