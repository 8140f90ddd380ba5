/** How a source with limits stands: holding its volts, giving its least, giving its most. */
export const HOLDS = 0;
export const LEAST = 1;
export const MOST = 2;

/** Rounds for each source with limits, in which one is moved, until none is. */
export const ROUNDS_A_SOURCE = 6;

/** A source with limits at a solution, A. */
export interface Standing {
  readonly stands: number;
  /** What it would give at the volts its terminals have now. */
  readonly couldA: number;
  readonly leastA: number;
  readonly mostA: number;
  readonly ohm: number;
}

/** A by which a limit must be passed to count, and V by which a source must be able to hold again. */
const SLACK = 1e-9;

interface Move {
  to: number;
  rank: number;
  by: number;
}

function moveOf({ stands, couldA, leastA, mostA, ohm }: Standing): Move | null {
  if (stands === HOLDS) {
    if (couldA < leastA - SLACK) return { to: LEAST, rank: 0, by: leastA - couldA };
    return couldA > mostA + SLACK ? { to: MOST, rank: 1, by: couldA / Math.max(mostA, SLACK) } : null;
  }
  const by = stands === LEAST ? couldA - leastA : mostA - couldA;
  return by * ohm > SLACK ? { to: HOLDS, rank: 2, by } : null;
}

/**
 * The one source to move over or off its limit next; null when all stand as they are. One at a time, since each move changes
 * what the others do: what may not flow into a source is stopped first, then the one furthest over its most is held there, and
 * what could hold its volts again does so last.
 * @param of by index; null: one without limits or not in a live circuit
 */
export function nextStand(count: number, of: (i: number) => Standing | null): { i: number; to: number } | null {
  let best: (Move & { i: number }) | null = null;
  for (let i = 0; i < count; i++) {
    const standing = of(i);
    const move = standing && moveOf(standing);
    if (move && (!best || move.rank < best.rank || (move.rank === best.rank && move.by > best.by))) best = { i, ...move };
  }
  return best;
}
