/**
 * The seeds first…last (both counted) that a random test tries in this run: one of every four, in every usual run the
 * same, so that a red test is red again; all of them with NODE_LEDGER_SEEDS=all, which `npm run test:long` sets. Which of
 * the four changes from block to block, so that what a test does by `seed % 2` or `seed % 3` still comes up.
 */
export function seeds(first: number, last: number): number[] {
  const all = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  return process.env.NODE_LEDGER_SEEDS === "all" ? all : all.filter((_, i) => i % 4 === Math.floor(i / 4) % 4);
}
