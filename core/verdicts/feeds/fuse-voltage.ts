import type { Build } from "../../figures/build";
import { fuseSites } from "../../figures/fuse-sites";
import { railMaxV } from "../../figures/rails";
import { smallestFuse } from "../../fuses/pick";
import { say, withArticle } from "../../quantity/format";
import { FUSE_FAMILIES, fuseRow } from "../../reference/fuses";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "fuse-voltage",
  title: "Fuse below the bus voltage",
  step: "feeds",
  needs: "A fuse whose sheet gives a DC voltage above what the bus reaches.",
});

/** A fuse must be able to break the highest voltage the bus can show; below that it may arc on instead of opening. */
export const fuseVoltage = rule({ speak, reads: "build", sized: true, evaluate });

function evaluate(figures: Build): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const site of fuseSites(figures)) {
    const row = fuseRow(site.fuse.family, site.fuse.ratingA);
    const busV = railMaxV(figures, figures.partOf.get(site.partId));
    if (!row) continue;
    // The same rating, or the next its wire allows.
    const room = site.subject.kind === "wire" ? (figures.wires[site.subject.id]?.ampacity?.fuseLimitA ?? 0) : site.fuse.ratingA;
    const better = smallestFuse(site.fuse.ratingA, Math.max(site.fuse.ratingA, room), busV, null);
    const remedies = better
      ? [
          {
            label:
              better.ratingA === site.fuse.ratingA
                ? "Take the same rating in a family for this voltage"
                : `Take ${withArticle(`${better.ratingA} A ${FUSE_FAMILIES[better.family].name}`)}`,
            command: site.change(better),
          },
        ]
      : [];
    if (row.maxV === null) {
      verdicts.push(
        speak({
          subject: site.subject,
          severity: "ask",
          headline: `${site.name}: which DC voltage may this fuse break?`,
          detail: `The ${FUSE_FAMILIES[site.fuse.family].name} is rated for AC; what it breaks at ${say(busV, "voltage", "up")} of DC stands only in its own sheet. A family with a DC rating settles it.`,
          remedies,
        }),
      );
      continue;
    }
    if (busV <= row.maxV) continue;
    verdicts.push(
      speak({
        subject: site.subject,
        severity: "stop",
        headline: `${site.name}: ${withArticle(`${row.maxV} V fuse`)} on a bus that reaches ${say(busV, "voltage", "up")}`,
        detail:
          "Above its voltage a fuse can melt and go on arcing. The DC voltage rating must be at least the highest voltage of the bus.",
        compared: { volts: busV, limit: row.maxV },
        remedies,
      }),
    );
  }
  return verdicts;
}
