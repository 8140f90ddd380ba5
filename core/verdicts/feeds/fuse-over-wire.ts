import { type Build, perBuild, perBuildFrom } from "../../figures/build";
import type { Exposure, Guard } from "../../figures/exposure";
import type { Figures } from "../../figures/figures";
import { conditions, gaugeText, names, partName, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { isDriverFeed } from "../../fuses/driver-feed";
import { fuseLimitAt, largestFuse, thinnest } from "../../fuses/pick";
import { leastForWire } from "../../fuses/rating";
import type { FuseRef, Wire } from "../../machine/schema";
import { isFeed } from "../../machine/terminals";
import { capital, say, withArticle } from "../../quantity/format";
import { homesOf } from "../../returns/shared";
import { type Ampacity, settledTemperature } from "../../wires/ampacity";
import { betterLandings } from "../link-remedies";
import { joinsFeed } from "../pairs";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";
import { heatWords, lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "fuse-over-wire",
  title: "Fuse larger than its wire allows",
  step: "by role",
  needs: "Another way of feeding it: no one size and no one fuse makes this wire safe.",
});

/** Most returns that are offered to land elsewhere. */
const MOST_LANDINGS = 2;

/**
 * I_n ≤ I_z for every wire: what protects it must not let more through continuously than the wire bears. Blade, strip and
 * block fuses open by 1.35 × I_n, which IEC 60364-4-43 accepts (I_2 ≤ 1.45 I_z). A supply or converter without a fuse
 * protects by its own limit, where that is known.
 */
export const fuseOverWire = rule({ speak, reads: "figures", sized: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  const amps = (wire: Wire) => figures.wires[wire.id]?.worstContinuous.amps ?? 0;
  return tooLarge(figures).map(({ verdict, own }) =>
    own ? withFuse(figures, verdict.id, verdict, own, Math.max(amps(own.target), amps(own.wire))) : verdict,
  );
}

/** A wire behind too large a fuse, and where a fuse of its own would sit: how large that must be hangs on what the wire carries. */
interface TooLarge {
  verdict: Verdict;
  own: Own | null;
}

interface Own {
  wire: Wire;
  target: Wire;
  limitA: number;
}

const tooLarge = perBuild((build): readonly TooLarge[] => {
  const said = new Map<string, Verdict>();
  const owns = new Map<string, Own | null>();
  const push = (verdict: Verdict) => said.set(verdict.id, verdict);
  const asked = new Set<string>();
  for (const wire of build.machine.wires) {
    const figure = build.wires[wire.id];
    const exposure = figure?.exposure;
    if (!figure?.ampacity || !exposure || !Number.isFinite(exposure.limitA)) continue;
    // A school may allow thin wire a smaller fuse than it may carry amps.
    const limitA = figure.ampacity.fuseLimitA;
    if (exposure.limitA <= limitA) {
      // Returns are asked about with the feeds whose current they bring home.
      if (!exposure.unknown || exposure.by?.kind !== "source" || asked.has(exposure.by.id)) continue;
      push(askLimit(build, exposure.by.id));
      asked.add(exposure.by.id);
      continue;
    }
    if (isDriverFeed(build.machine, wire)) continue;
    const feed = wire.pair === undefined ? undefined : build.wires[wire.pair]?.exposure;
    const sameAsFeed = feed != null && exposure.limitA <= feed.limitA;
    if (sameAsFeed && joinsFeed(said, build, wire, `${speak.id}:${wire.id}`)) continue;
    if (exposure.shares && (isFeed(wire) || !sameAsFeed)) {
      push(byTogether(build, wire, figure.ampacity, exposure, exposure.shares));
      continue;
    }
    const bySource = exposure.by?.kind === "source";
    const returning = !isFeed(wire);
    const hot = settledTemperature(wire, figure.ampacity, exposure.limitA);
    const guard = bySource ? partName(build, exposure.by?.id ?? "") : `the ${exposure.ratingA ?? exposure.limitA} A fuse`;
    push(
      speak({
        wire,
        severity: lastingSeverity(wire, hot),
        headline: bySource
          ? `${capital(wireName(build, wire))}: ${gaugeText(wire)} is too thin for what ${guard} gives`
          : `${capital(wireName(build, wire))}: ${guard} does not protect ${gaugeText(wire)}`,
        detail: `${capital(conditions(build, wire))} the wire may carry ${say(limitA, "current", "down")} continuously. On a fault up to ${say(exposure.limitA, "current")} can flow ${returning ? "back through it" : "in it"} and ${
          bySource ? "the source does not switch off" : `the fuse need not open${where(build, exposure, wire)}`
        }: ${heatWords(wire, hot)}.`,
        compared: { amps: exposure.limitA, limit: limitA },
        ...originOf(build, wire, exposure),
        remedies: thicker(build, wire, exposure),
      }),
    );
    owns.set(`${speak.id}:${wire.id}`, placeOf(build, wire, exposure, limitA));
  }
  return [...said.values()].map((verdict) => ({ verdict, own: owns.get(verdict.id) ?? null }));
});

/** What several wires have in common that one guard does not protect: nothing sits between it and them. */
function originOf(build: Build, wire: Wire, { by }: Exposure): { kin?: string; cause?: string } {
  if (by?.kind === "source") return { kin: `source:${by.id}` };
  if (by?.kind === "part") return { kin: `part:${by.id}` };
  const fused = by && build.wireOf.get(by.id);
  return fused && fused.id !== wire.id && fused.id !== wire.pair ? { cause: fused.id } : { kin: "own" };
}

/** Several guards together let more through than the wire bears: parallel ways into a feed, or what else lands on a return. */
function byTogether(build: Build, wire: Wire, ampacity: Ampacity, exposure: Exposure, shares: readonly Guard[]): Verdict {
  const limitA = ampacity.fuseLimitA;
  const hot = settledTemperature(wire, ampacity, exposure.limitA);
  if (isFeed(wire))
    return speak({
      wire,
      severity: lastingSeverity(wire, hot),
      headline: `${capital(wireName(build, wire))}: ${gaugeText(wire)} is too thin for what feeds it together`,
      detail: `${names(shares.map((guard) => guardName(build, guard)))} let up to ${say(exposure.limitA, "current", "up")} into it continuously: parallel ways add. ${capital(conditions(build, wire))} it may carry ${say(limitA, "current", "down")}: ${heatWords(wire, hot)}.`,
      compared: { amps: exposure.limitA, limit: limitA },
      remedies: thicker(build, wire, exposure),
    });
  const others = (homesOf(build).through.get(wire.id) ?? []).filter(({ id }) => id !== wire.from.part);
  return speak({
    wire,
    severity: lastingSeverity(wire, hot),
    headline: `${capital(wireName(build, wire))}: ${gaugeText(wire)} is too thin for all that may come home through it`,
    detail: `${others.length > 0 ? `${names(others.map(({ name }) => name))} ${others.length > 1 ? "come" : "comes"} home through it too. ` : ""}Up to ${say(exposure.limitA, "current", "up")} can flow there continuously before ${names(shares.map((guard) => guardName(build, guard)))} ${shares.length > 1 ? "open" : "opens"}; ${conditions(build, wire)} it may carry ${say(limitA, "current", "down")}: ${heatWords(wire, hot)}.`,
    compared: { amps: exposure.limitA, limit: limitA },
    remedies: [
      ...others.flatMap(({ id, name }) => betterLandings(build, id, name).slice(0, 1)).slice(0, MOST_LANDINGS),
      ...thicker(build, wire, exposure),
    ],
  });
}

/** "the 20 A fuse in the feed of Winch", "the 80 A Main fuse", "the limit of Buck 5 V". */
function guardName(build: Build, { by, ratingA }: Guard): string {
  if (by?.kind === "source") return `the limit of ${partName(build, by.id)}`;
  if (by?.kind === "part") return `the ${ratingA} A ${partName(build, by.id)}`;
  const fused = by && build.wireOf.get(by.id);
  return `the ${ratingA} A fuse${fused ? ` in the ${wireName(build, fused)}` : ""}`;
}

function where(figures: Build, exposure: Exposure, wire: Wire): string {
  if (!exposure.by || (exposure.by.kind === "wire" && exposure.by.id === wire.id)) return "";
  if (exposure.by.kind === "part") return ` (the fuse is ${partName(figures, exposure.by.id)})`;
  const fused = figures.wireOf.get(exposure.by.id);
  return fused ? ` (the fuse is in the ${wireName(figures, fused)})` : "";
}

function askLimit(figures: Build, sourceId: string): Verdict {
  const name = partName(figures, sourceId);
  return speak.at("sources")({
    part: { id: sourceId },
    key: "limit",
    severity: "ask",
    headline: `${name}: at what current does it limit?`,
    detail:
      "Wires on its output have no fuse, so its own overload limit is what protects them. Look for overload or short-circuit current in its sheet; many limit at 1.05 to 1.5 times the rating.",
  });
}

function feedOf(figures: Build, wire: Wire): Wire {
  return wire.pair === undefined ? wire : (figures.wireOf.get(wire.pair) ?? wire);
}

function thicker(figures: Build, wire: Wire, exposure: Exposure): Remedy[] {
  const size = thinnest(wire, (gauge) => fuseLimitAt(gauge, wire, figures.machine.settings) >= exposure.limitA);
  if (!size || size.id === wire.gauge) return [];
  return [
    { label: `Use ${size.id}`, way: "wire", command: { type: "setFeed", id: feedOf(figures, wire).id, changes: { gauge: size.id } } },
  ];
}

/** A motor lead is protected by the fuse of its driver's feed; any other wire may get a fuse of its own. */
function placeOf(figures: Build, wire: Wire, exposure: Exposure, limitA: number): Own | null {
  const feed = feedOf(figures, wire);
  const target = feed.role === "supply" ? feed : exposure.by?.kind === "wire" ? figures.wireOf.get(exposure.by.id) : undefined;
  return target ? { wire, target, limitA } : null;
}

/** With a fuse of its own for the wire, by what goes through it continuously. */
const withFuse = perBuildFrom((build, _, verdict: Verdict, { wire, target, limitA }: Own, continuousA: number): Verdict => {
  const maxV = railMaxV(build, build.partOf.get(target.to.part));
  const present: FuseRef | undefined = target.fuse;
  const fuse = largestFuse(leastForWire(build.machine.settings, target, continuousA), limitA, maxV, present?.family ?? null);
  if (!fuse) return verdict;
  const label = present ? `Keep ${gaugeText(wire)}, fuse ${fuse.ratingA} A` : `Add ${withArticle(`${fuse.ratingA} A fuse`)} here`;
  return { ...verdict, remedies: [...verdict.remedies, { label, way: "fuse", command: { type: "setFuse", wireId: target.id, fuse } }] };
});
