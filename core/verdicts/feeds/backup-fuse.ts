import type { Build } from "../../figures/build";
import { fuseSites } from "../../figures/fuse-sites";
import { railMaxV } from "../../figures/rails";
import { smallestFuse } from "../../fuses/pick";
import { railOrigin } from "../../machine/tree";
import { FUSE_FAMILIES } from "../../reference/fuses";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "backup-fuse",
  title: "Only silicon or a resettable part guards a battery",
  step: "feeds",
  needs: "A fuse of a faster kind that you choose, where this one sits.",
});

/** Electronic fuses fail mostly short and resettable parts stay hot and leak: neither is the only guard of a battery. */
export const backupFuse = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return fuseSites(figures).flatMap((site): Verdict[] => {
    const { sort, name } = FUSE_FAMILIES[site.fuse.family];
    if (sort !== "electronic" && sort !== "resettable") return [];
    const source = figures.partOf.get(railOrigin(figures.ledger, site.partId) ?? "");
    if (source?.kind !== "pack" || guardedBefore(figures, site.wire?.from.part)) return [];
    const maxV = railMaxV(figures, figures.partOf.get(site.partId));
    const fuse = smallestFuse(site.fuse.ratingA, Number.POSITIVE_INFINITY, maxV, null);
    return [
      speak({
        subject: site.subject,
        severity: "fix",
        headline: `${site.name}: a ${name} is all that guards it from ${source.name}`,
        detail:
          sort === "electronic"
            ? "Transistors fail mostly short, and then nothing opens. A real fuse before it."
            : "It never breaks a fault so that it stays broken, and bears only so many amps at so many volts. A real fuse before it.",
        remedies: fuse ? [{ label: `A ${fuse.ratingA} A fuse in its place`, command: site.change(fuse) }] : [],
      }),
    ];
  });
}

/** Whether a real fuse stands somewhere between a part and its source. */
function guardedBefore(figures: Build, partId: string | undefined): boolean {
  const seen = new Set<string>();
  for (let at = partId; at !== undefined && !seen.has(at); ) {
    seen.add(at);
    const row = figures.ledger.rowOf.get(at);
    const own = row?.part.kind === "fuse" ? row.part.fuse : undefined;
    for (const fuse of [own, row?.feed?.fuse]) {
      const sort = fuse && FUSE_FAMILIES[fuse.family].sort;
      if (sort === "fuse" || sort === "breaker") return true;
    }
    at = row?.feed?.from.part;
  }
  return false;
}
