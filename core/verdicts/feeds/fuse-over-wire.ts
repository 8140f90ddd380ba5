import { type Build, perBuild, perBuildFrom } from "../../figures/build";
import type { Exposure } from "../../figures/exposure";
import type { Figures } from "../../figures/figures";
import { conditions, gaugeText, partName, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { isDriverFeed } from "../../fuses/driver-feed";
import { fuseLimitAt, largestFuse, thinnest } from "../../fuses/pick";
import { leastForWire } from "../../fuses/rating";
import type { FuseRef, Wire } from "../../machine/schema";
import { isFeed } from "../../machine/terminals";
import { capital, say } from "../../quantity/format";
import { joinsFeed } from "../pairs";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({ id: "fuse-over-wire", title: "Fuse larger than its wire allows", step: "by role" });

export const fuseOverWire = rule({ speak, reads: "figures", sized: true, evaluate });

/**
 * I_n ≤ I_z for every wire: what protects it must not let more through for good than the wire bears. Blade, strip and
 * block fuses open by 1.35 × I_n, which IEC 60364-4-43 accepts (I_2 ≤ 1.45 I_z). A supply or converter without a fuse
 * protects by its own limit, where that is known.
 */
function evaluate(figures: Figures): Verdict[] {
  return tooLarge(figures).map(({ verdict, own }) => {
    if (!own) return verdict;
    const amps = (wire: Wire) => figures.wires[wire.id]?.worstContinuous.amps ?? 0;
    const fuse = ownFuse(figures, verdict.id, own, Math.max(amps(own.target), amps(own.wire)));
    return { ...verdict, remedies: [...verdict.remedies, ...fuse] };
  });
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

const tooLarge = perBuild((figures): readonly TooLarge[] => {
  const said = new Map<string, Verdict>();
  const owns = new Map<string, Own | null>();
  const push = (verdict: Verdict) => said.set(verdict.id, verdict);
  const asked = new Set<string>();
  for (const wire of figures.machine.wires) {
    const figure = figures.wires[wire.id];
    const exposure = figure?.exposure;
    if (!figure?.ampacity || !exposure || !Number.isFinite(exposure.limitA)) continue;
    if (exposure.unknown && exposure.by?.kind === "source") {
      if (!asked.has(exposure.by.id)) push(askLimit(figures, exposure.by.id));
      asked.add(exposure.by.id);
      continue;
    }
    // A school may allow thin wire a smaller fuse than it may carry amps.
    const limitA = figure.ampacity.fuseLimitA;
    if (exposure.limitA <= limitA || isDriverFeed(figures.machine, wire)) continue;
    if (joinsFeed(said, figures, wire, `${speak.id}:${wire.id}`)) continue;
    const bySource = exposure.by?.kind === "source";
    const returning = !isFeed(wire);
    const guard = bySource ? partName(figures, exposure.by?.id ?? "") : `the ${exposure.ratingA ?? exposure.limitA} A fuse`;
    push(
      speak({
        wire,
        severity: "stop",
        headline: bySource
          ? `${capital(wireName(figures, wire))}: ${gaugeText(wire)} is too thin for what ${guard} gives`
          : `${capital(wireName(figures, wire))}: ${guard} does not protect ${gaugeText(wire)}`,
        detail: `With ${conditions(figures, wire)} the wire may carry ${say(limitA, "current", "down")} for good. On a fault up to ${say(exposure.limitA, "current")} can flow ${returning ? "back through it" : "in it"} and ${
          bySource ? "the source does not switch off" : `the fuse need not open${where(figures, exposure, wire)}`
        }: the wire cooks.`,
        compared: { amps: exposure.limitA, limit: limitA },
        remedies: thicker(figures, wire, exposure),
      }),
    );
    owns.set(`${speak.id}:${wire.id}`, placeOf(figures, wire, exposure, limitA));
  }
  return [...said.values()].map((verdict) => ({ verdict, own: owns.get(verdict.id) ?? null }));
});

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
  return [{ label: `Use ${size.id}`, command: { type: "setFeed", id: feedOf(figures, wire).id, changes: { gauge: size.id } } }];
}

/** A motor lead is protected by the fuse of its driver's feed; any other wire may get a fuse of its own. */
function placeOf(figures: Build, wire: Wire, exposure: Exposure, limitA: number): Own | null {
  const feed = feedOf(figures, wire);
  const target = feed.role === "supply" ? feed : exposure.by?.kind === "wire" ? figures.wireOf.get(exposure.by.id) : undefined;
  return target ? { wire, target, limitA } : null;
}

/** A fuse of its own for a wire, by what goes through it for good. */
const ownFuse = perBuildFrom((build, _, { wire, target, limitA }: Own, continuousA: number): Remedy[] => {
  const maxV = railMaxV(build, build.partOf.get(target.to.part));
  const present: FuseRef | undefined = target.fuse;
  const fuse = largestFuse(leastForWire(build.machine.settings, target, continuousA), limitA, maxV, present?.family ?? null);
  if (!fuse) return [];
  const label = present ? `Keep ${gaugeText(wire)}, fuse ${fuse.ratingA} A` : `Add a ${fuse.ratingA} A fuse here`;
  return [{ label, command: { type: "setFuse", wireId: target.id, fuse } }];
});
