import type { FaultWalk } from "../../faults/walk";
import type { Build } from "../../figures/build";
import { wayThere } from "../../figures/drop";
import type { Figures } from "../../figures/figures";
import { type FuseSite, fuseSites } from "../../figures/fuse-sites";
import { partName, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { breakingAt, FUSE_FAMILIES, fuseRow, USUAL_FUSES } from "../../reference/fuses";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "breaking-capacity",
  title: "Fuse cannot break the short-circuit current",
  step: "feeds",
  needs: "A fuse that breaks this current: look for its breaking figure at your volts.",
});

/** The strongest short through each fuse (pack full and new, wires cold) against what its family breaks at these volts. */
export const breakingCapacity = rule({ speak, reads: "shorts", sized: true, evaluate });

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  const verdicts: Verdict[] = [];
  const close = new Map<string, { site: FuseSite; amps: number; breaks: number }[]>();
  for (const site of fuseSites(figures)) {
    const row = fuseRow(site.fuse.family, site.fuse.ratingA);
    const amps = walk.through[`${site.subject.kind} ${site.subject.id}`] ?? 0;
    const busV = railMaxV(figures, figures.partOf.get(site.partId));
    // Above its voltage it breaks nothing: that rule has spoken.
    if (!row || row.maxV === null || busV > row.maxV) continue;
    const base = { subject: site.subject };
    const breaks = breakingAt(row, busV);
    if (breaks === null) {
      if (amps <= site.fuse.ratingA) continue;
      verdicts.push(
        speak({
          ...base,
          severity: "ask",
          headline: `${site.name}: how many amps can it break?`,
          detail: `A short drives up to ${say(amps, "current", "up")} through it. For a ${FUSE_FAMILIES[site.fuse.family].name} that stands only in its sheet; many need a fuse behind them.`,
          remedies: stronger(figures, site, amps, busV),
        }),
      );
      continue;
    }
    if (amps <= breaks) {
      const near = walk.behindHolder[site.subject.id] ?? 0;
      const from = site.wire?.from.part ?? "";
      if (near > breaks) close.set(from, [...(close.get(from) ?? []), { site, amps: near, breaks }]);
      continue;
    }
    const unknown = unknownBefore(figures, site);
    if (unknown !== null) {
      verdicts.push(
        speak({
          ...base,
          key: "unsure",
          severity: "ask",
          headline: `${site.name}: how much can a short drive through it? It breaks ${say(breaks, "current", "down")}`,
          detail: `Up to ${say(amps, "current", "up")} as far as is known, but ${unknown} is not: with it the short may be weak enough.`,
          compared: { amps, limit: breaks },
          remedies: stronger(figures, site, amps, busV),
        }),
      );
      continue;
    }
    verdicts.push(
      speak({
        ...base,
        severity: "stop",
        headline: `${site.name}: a short can drive ${say(amps, "current", "up")}, this fuse breaks ${say(breaks, "current", "down")}`,
        detail: `With the source full and new and the wires cold. Beyond its breaking capacity a fuse can burst and go on arcing. Typical figures of its family at ${say(busV, "voltage", "up")}; some makers' parts break more.`,
        compared: { amps, limit: breaks },
        remedies: stronger(figures, site, amps, busV),
      }),
    );
  }
  for (const [from, sites] of close) verdicts.push(atHolder(figures, from, sites));
  return verdicts;
}

/** Shorts along the wire are within what the fuses break; one at the holder itself would not be. One verdict a place. */
function atHolder(figures: Figures, from: string, sites: readonly { site: FuseSite; amps: number; breaks: number }[]): Verdict {
  const [worst] = [...sites].sort((a, b) => b.amps - a.amps);
  const { site, amps, breaks } = worst as (typeof sites)[number];
  const rest = sites.length - 1;
  return speak({
    subject: site.subject,
    key: "holder",
    cause: from,
    about: from,
    severity: "watch",
    also: sites.map((each) => each.site.subject.id),
    headline: `A short right behind a fuse on ${partName(figures, from)} drives ${say(amps, "current", "up")}, the fuse breaks ${say(breaks, "current", "down")}`,
    detail: `The ${site.name}${rest > 0 ? ` and ${rest} more` : ""}: anywhere along the wire its resistance keeps the current low enough; at the holder itself it does not. Cover the holder's output, or take a family that breaks more.`,
    compared: { amps, limit: breaks },
    remedies: stronger(figures, site, amps, railMaxV(figures, figures.partOf.get(site.partId))),
  });
}

/** The family closest to the present rating that breaks this much. */
function stronger(figures: Figures, site: FuseSite, amps: number, busV: number): Remedy[] {
  const room = site.subject.kind === "wire" ? figures.wires[site.subject.id]?.ampacity?.fuseLimitA : undefined;
  const onPost = figures.partOf.get(site.wire?.from.part ?? "")?.kind === "pack";
  for (const family of USUAL_FUSES) {
    // The block that mounts on a battery's stud belongs there.
    if (family === "cube_single_bolt" && !onPost) continue;
    const row = fuseRow(family, site.fuse.ratingA);
    if (!row || (breakingAt(row, busV) ?? 0) < amps || site.fuse.ratingA > (room ?? Number.POSITIVE_INFINITY)) continue;
    return [{ label: `Take a ${FUSE_FAMILIES[family].name}, ${row.ratingA} A`, command: site.change({ family, ratingA: row.ratingA }) }];
  }
  return [];
}

/** What on the way to a fuse is not known and would keep a short weaker: the pack's resistance or the size of a wire; null: nothing. */
function unknownBefore(build: Build, site: FuseSite): string | null {
  const origin = build.partOf.get(railOrigin(build.ledger, site.partId) ?? "");
  if (origin?.kind === "pack" && !origin.internalOhm) return `the resistance of ${origin.name}`;
  const bare = wayThere(build, site.partId).find((wire) => wire.gauge === undefined && wire.board === undefined);
  return bare ? `the size of the ${wireName(build, bare)}` : null;
}
