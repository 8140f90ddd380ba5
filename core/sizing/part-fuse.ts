import { loadShare, PLAIN_FUSE } from "../fuses/rating";
import type { FuseRef, Machine, PartOf } from "../machine/schema";
import { ratingsOf } from "../reference/fuses";
import { familiesFrom, fuseServes, KEPT_UP_TO, type Needs } from "./needs";
import { stockOf, type Unit } from "./units";

/** Main fuse over the largest feed fuse: of several feeds, and of one that is nearly the whole machine (handbook practice section 4). */
const APART = 1.6;
const APART_ALONE = 1.25;
/** Rating from which one drive and the machine share a size (handbook practice section 10). */
const SHARED_FROM_A = 40;
/** Least main fuse of a battery from so many volts, A: smaller ones and their spares are no commoner (common practice, no source). */
const LEAST_MAIN = { fromV: 9, amps: 5 } as const;
/** A less usual family is taken where it needs so much less (common practice, no source). */
const MUCH_SMALLER = 0.7;

/** Ratings of the fuses behind a part, A. */
export function fusesBehind({ wires }: Pick<Machine, "wires">, partId: string): number[] {
  const found: number[] = [];
  const seen = new Set<string>([partId]);
  for (let open = [partId]; open.length > 0; ) {
    const at = open;
    const next = wires.filter(({ role, from, to }) => role === "supply" && at.includes(from.part) && !seen.has(to.part));
    for (const { fuse, to } of next) {
      if (fuse) found.push(fuse.ratingA);
      seen.add(to.part);
    }
    open = next.map(({ to }) => to.part);
  }
  return found;
}

/**
 * Fuse that a fuse part gets in place of its own; null: it stays. Where what serves is kept (`keep`), one that does not serve is
 * changed for the nearest that does. Else the smallest that serves and stands apart from those behind it (`behind`, A).
 * @param unit the feed of the part
 * @param allowed fuses that may be taken
 */
export function partFuse(
  needs: Needs,
  unit: Unit,
  part: PartOf<"fuse">,
  behind: readonly number[],
  allowed: (fuse: FuseRef) => boolean,
  keep: boolean,
): FuseRef | null {
  const { figures } = needs;
  const need = { ...needs.of(unit), throughA: needs.through(part.id) };
  const may = (fuse: FuseRef) => allowed(fuse) && fuseServes(figures, need, fuse);
  const serves = may(part.fuse);
  if (serves && (keep || need.atLeast)) return null;
  const stock = stockOf(figures.machine);
  const onPost = figures.partOf.get(unit.lead.from.part)?.kind === "pack";
  const all = familiesFrom(keep ? part.fuse.family : null, onPost)
    .flatMap((family) => ratingsOf(family).map((ratingA): FuseRef => ({ family, ratingA })))
    .filter((fuse) => stock.fuse(fuse) && may(fuse));
  const near = (fuse: FuseRef) => Math.abs(Math.log(fuse.ratingA / part.fuse.ratingA));
  const leastA = onPost && need.volts >= LEAST_MAIN.fromV ? LEAST_MAIN.amps : 0;
  const share = loadShare(PLAIN_FUSE, figures.machine.settings.schools.fuseLoadFactor);
  const fit = keep ? all.sort((a, b) => near(a) - near(b))[0] : usualFit(all, Math.max(leastA, apartFrom(behind, need.continuousA, share)));
  // One size more than needed is no reason to change what is there.
  const fine = serves && fit && part.fuse.ratingA >= fit.ratingA && part.fuse.ratingA <= fit.ratingA * KEPT_UP_TO;
  return fit && !fine ? fit : null;
}

/** Rating from which a fuse stands apart from those behind it, A: more above several than above one that is nearly the whole machine. */
function apartFrom(behind: readonly number[], lastingA: number, share: number): number {
  const largest = Math.max(0, ...behind);
  const isAlone = largest * share >= lastingA;
  return largest * (!isAlone ? APART : largest >= SHARED_FROM_A ? 1 : APART_ALONE);
}

/** Smallest fuse from a rating on, the more usual families first; another family only where it needs much less. */
function usualFit(all: readonly FuseRef[], leastA: number): FuseRef | undefined {
  let best: FuseRef | undefined;
  for (const fuse of all) if (fuse.ratingA >= leastA && (!best || fuse.ratingA < best.ratingA * MUCH_SMALLER)) best = fuse;
  return best ?? [...all].sort((a, b) => b.ratingA - a.ratingA)[0];
}
