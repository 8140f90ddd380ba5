import { type Build, perBuild, perBuildFrom } from "../../figures/build";
import { wayThere } from "../../figures/drop";
import type { Figures } from "../../figures/figures";
import { type FuseSite, fuseSites } from "../../figures/fuse-sites";
import { inMode } from "../../figures/names";
import { sourceGives } from "../../figures/own-need";
import { railMaxV } from "../../figures/rails";
import { middleOpeningS, openingTime, ridesThrough } from "../../fuses/opening";
import { fuseLimitAt, smallestFuse, thinnest } from "../../fuses/pick";
import { carryingFactor, leastForWire, loadShare, wireMustBear } from "../../fuses/rating";
import { bearingOf } from "../../loads/volts";
import type { Command } from "../../machine/commands";
import { goesOn } from "../../machine/lasting";
import type { BuiltLoad, BuiltPart } from "../../machine/schema";
import { say } from "../../quantity/format";
import { type FuseGate, gatesOf, ratingsOf } from "../../reference/fuses";
import { airAround } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "fuse-too-small",
  title: "Fuse too small for its current",
  step: "feeds",
  needs: "Less through this fuse, or a second feed: no larger fuse fits its wire and its short.",
});

/**
 * Continuous current against the school's share of the rating, and modes that end against the middle of the fuse's curve, half as
 * long again; where only the quickest of a lot may open, little is left. A current that the source's own management ends does not flow for good.
 */
export const fuseTooSmall = rule({ speak, reads: "figures", byDraw: true, sized: true, evaluate });

/** A fuse, and what it holds where it sits, A. */
interface Limit {
  site: FuseSite;
  gates: readonly FuseGate[];
  airC: number;
  holdsA: number;
}

const limitsOf = perBuild(
  (figures): ReadonlyMap<string, Limit> =>
    new Map(
      fuseSites(figures).map((site) => {
        const airC = airAround(site.wire ?? {}, figures.machine.settings);
        const holdsA = site.fuse.ratingA * carryingFactor(site.fuse.family, airC);
        return [`${site.subject.kind} ${site.subject.id}`, { site, gates: gatesOf(site.fuse.family, site.fuse.ratingA), airC, holdsA }];
      }),
    ),
);

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const [key, limit] of limitsOf(figures)) {
    const { continuous, brief } = worstThrough(figures, limit);
    const verdict = judge(figures, key, continuous.amps, continuous.mode, continuous.low, brief?.amps ?? 0, brief?.mode ?? -1);
    if (verdict) verdicts.push(verdict);
  }
  return verdicts;
}

/** Weight of a mode that a usual fuse does not ride through, over those that only the quickest of a lot does not. */
const OPENS_FIRST = 1e9;

/** The largest current continuously, and the largest of a timed mode that may open the fuse before the mode ends. */
function worstThrough(figures: Figures, { site, gates, holdsA, airC }: Limit) {
  const { machine, solved } = figures;
  const gives = site.wire ? sourceGives(figures, site.wire) : null;
  let continuous = { amps: 0, mode: 0, low: false };
  let brief: { amps: number; mode: number; share: number } | null = null;
  for (let m = 0; m < machine.modes.length; m++) {
    const mode = machine.modes[m];
    const lastsS = mode && !goesOn(mode) ? mode.lastsS : null;
    for (const low of [false, true]) {
      if (low && solved.low === solved.planned) break;
      const flows = Math.abs((low ? solved.low : solved.planned)[m]?.branchA[site.branch] ?? 0);
      const amps = Math.min(flows, (lastsS === null ? gives?.lastingA : gives?.brieflyA) ?? Number.POSITIVE_INFINITY);
      if (lastsS === null) {
        if (amps > continuous.amps) continuous = { amps, mode: m, low };
        continue;
      }
      // Below its rating no fuse opens: most are there.
      if (amps <= holdsA) continue;
      const { minS } = openingTime(gates, amps / holdsA, true);
      // The one that asks most of the fuse counts: how long it lasts against when the fuse may open.
      const share = (lastsS / minS) * (ridesThrough(site.fuse, [{ amps, seconds: lastsS }], airC) ? 1 : OPENS_FIRST);
      if (share > Math.max(1, brief?.share ?? 0)) brief = { amps, mode: m, share };
    }
  }
  return { continuous, brief };
}

const judge = perBuildFrom((build, key, amps: number, mode: number, low: boolean, briefA: number, brief: number): Verdict | null => {
  const limit = limitsOf(build).get(key);
  if (!limit) return null;
  const { site, gates, airC, holdsA } = limit;
  const { settings, modes } = build.machine;
  const base = { subject: site.subject, severity: "fix" as const };
  const needed = leastForWire(settings, site.wire, amps, site.fuse.family);
  // What takes too much because its rail is too high for it is not cured by a fuse that lets it.
  const overfed = overfedBehind(build, site);
  if (needed > site.fuse.ratingA) {
    const words = say(amps, "current", "up");
    const mayA = site.fuse.ratingA * (amps / needed);
    return speak({
      ...base,
      headline: `${site.name}: ${site.fuse.ratingA} A fuse carries ${words} continuously`,
      detail: `${words} ${inMode(build, { amps, mode, low })}. Loaded to at most ${Math.round(loadShare(site.fuse.family, settings.schools.fuseLoadFactor) * 100)}\u00a0% at ${say(airC, "temperature")} this fuse may carry ${say(mayA, "current", "down")}; above that it runs hot, ages and opens without a fault.${overfed ? ` ${overfed.name} is made for ${say(overfed.nominalV.value, "voltage")} and takes more here.` : ""}`,
      compared: { amps, limit: mayA },
      ...(overfed ? { cause: overfed.id } : {}),
      remedies: overfed ? [] : larger(build, site, needed),
    });
  }
  const lastsS = modes[brief]?.lastsS;
  if (lastsS == null) return null;
  const { minS } = openingTime(gates, briefA / holdsA, true);
  const middleS = middleOpeningS(site.fuse, briefA, airC);
  const rides = ridesThrough(site.fuse, [{ amps: briefA, seconds: lastsS }], airC);
  const opensAfter = (seconds: number) => (seconds < 0.01 ? "less than 0.01 s" : say(seconds, "time", "down"));
  return speak({
    ...base,
    severity: rides ? "watch" : "fix",
    about: `${site.subject.id}:brief`,
    headline: rides
      ? `${site.name}: ${modes[brief]?.name ?? "a mode"} may open a quick ${site.fuse.ratingA} A fuse`
      : `${site.name}: ${modes[brief]?.name ?? "a mode"} may open the ${site.fuse.ratingA} A fuse`,
    detail: `${say(briefA, "current", "up")} for ${say(lastsS, "time")} is ${Math.round((briefA / site.fuse.ratingA) * 100)}\u00a0% of its rating; a usual fuse of this family opens after ${opensAfter(middleS)}, the quickest of a lot after ${opensAfter(minS)}.`,
    compared: { amps: briefA, limit: site.fuse.ratingA },
    ...(overfed ? { cause: overfed.id } : {}),
    remedies: overfed || rides ? [] : larger(build, site, holdsFor(build, site, briefA, lastsS, needed)),
  });
});

/** A resistive load behind a fuse, with no driver between, whose rail is above what it bears; undefined where there is none. */
function overfedBehind(build: Build, site: FuseSite): BuiltLoad | undefined {
  const behind = ({ id }: BuiltPart) => {
    const way = wayThere(build, id);
    return way.some((wire) => wire.id === site.wire?.id || wire.from.part === site.partId);
  };
  return build.machine.parts.find((part): part is BuiltLoad => {
    if (part.kind !== "load" || part.behaviour !== "resistance" || build.solved.circuit.feeds.has(part.id) || !behind(part)) return false;
    return (build.parts[part.id]?.reachesV ?? 0) > bearingOf(part).fixV;
  });
}

/** Least rating of the same family that rides this current through for this long, A. */
function holdsFor(figures: Build, site: FuseSite, amps: number, lastsS: number, needed: number): number {
  const airC = airAround(site.wire ?? {}, figures.machine.settings);
  const { family, ratingA } = site.fuse;
  const rides = ratingsOf(family).find(
    (rating) => rating > ratingA && ridesThrough({ family, ratingA: rating }, [{ amps, seconds: lastsS }], airC),
  );
  return rides === undefined ? Number.POSITIVE_INFINITY : Math.max(needed, rides);
}

/** A larger fuse where every wire it guards may carry it; else the same together with the wire size that may. */
function larger(figures: Build, site: FuseSite, neededA: number): Remedy[] {
  const { settings } = figures.machine;
  const maxV = railMaxV(figures, figures.partOf.get(site.partId));
  const guarded = figures.guardedBy.get(`${site.subject.kind} ${site.subject.id}`) ?? [];
  const roomA = Math.min(...guarded.map((wire) => figures.wires[wire.id]?.ampacity?.fuseLimitA ?? 0));
  const fuse = smallestFuse(neededA, roomA, maxV, site.fuse.family);
  if (fuse) return [{ label: `Raise it to ${fuse.ratingA} A`, command: site.change(fuse) }];
  const bigger = smallestFuse(neededA, Number.POSITIVE_INFINITY, maxV, site.fuse.family);
  if (!bigger) return [];
  const bearA = wireMustBear(bigger, settings.coldestC ?? settings.ambientC);
  const commands: Command[] = [site.change(bigger)];
  const sizes = new Set<string>();
  for (const wire of guarded) {
    if ((figures.wires[wire.id]?.ampacity?.fuseLimitA ?? 0) >= bearA) continue;
    const size = thinnest(wire, (gauge) => fuseLimitAt(gauge, wire, settings) >= bearA);
    if (!size) return [];
    sizes.add(size.id);
    commands.push({ type: "updateWire", id: wire.id, changes: { gauge: size.id } });
  }
  const label = `${bigger.ratingA} A with ${[...sizes].join(" and ")}`;
  return [{ label, command: { type: "batch", label: `Fuse ${label}`, commands } }];
}
