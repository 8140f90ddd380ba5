import type { Figures } from "../../figures/figures";
import { fuseSites } from "../../figures/fuse-sites";
import type { TerminalRef } from "../../machine/schema";
import { type Rail, railOrigin } from "../../machine/tree";

/** Plus and minus of what feeds a rail; null where the part gives none. */
export function railEnds(figures: Figures, rail: Rail): { plus: TerminalRef; minus: TerminalRef } | null {
  const part = figures.partOf.get(rail.origin);
  const ends = (plus: string, minus: string) => ({
    plus: { part: rail.origin, terminal: plus },
    minus: { part: rail.origin, terminal: minus },
  });
  switch (part?.kind) {
    case "pack":
    case "supply":
      return ends("+", "-");
    case "converter":
      return ends("out+", "out-");
    case "driver":
      return ends("5v", "in-");
    case "load":
      return ends("5v", "-");
    default:
      return null;
  }
}

/** What a rail may carry before something opens, A: its largest fuse, else what its source is rated for; null where neither is known. */
export function railAmps(figures: Figures, rail: Rail): number | null {
  const fuses = fuseSites(figures).flatMap(({ fuse, partId }) =>
    railOrigin(figures.ledger, partId) === rail.origin ? [fuse.ratingA] : [],
  );
  if (fuses.length > 0) return Math.max(...fuses);
  const part = figures.partOf.get(rail.origin);
  if (part?.kind === "supply" || part?.kind === "converter") return part.ratedA?.value ?? null;
  if (part?.kind === "driver" || part?.kind === "load") return part.onboard?.outputA?.value ?? null;
  return null;
}

/** Rail tags carry their hue; in words a rail is its tag and what feeds it. */
export function railWords(figures: Figures, rail: Rail): string {
  return `${rail.tag} (${figures.partOf.get(rail.origin)?.name ?? "?"})`;
}
