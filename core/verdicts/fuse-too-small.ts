import type { Figures } from "../analysis/figures";
import { type Standing, steady } from "../analysis/standing";
import { openingTime } from "../fuses/opening";
import { carryingFactor, leastForWire, loadShare, wireMustBear } from "../fuses/rating";
import type { Command } from "../machine/commands";
import { say } from "../quantity/format";
import { gatesOf } from "../reference/fuses";
import { fuseLimitAt, smallestFuse, thinnest } from "../sizing/pick";
import { airAround } from "../wires/ampacity";
import { type FuseSite, fuseSites } from "./fuses";
import { inMode, railMaxV } from "./helpers";
import type { Remedy, Verdict } from "./types";

export const id = "fuse-too-small";
export const title = "Fuse too small for its current";

/** What each fuse holds where it sits, A. */
const limitsOf = steady((figures) =>
  fuseSites(figures).map((site) => {
    const airC = airAround(site.wire ?? {}, figures.machine.settings);
    const holdsA = site.fuse.ratingA * carryingFactor(site.fuse.family, airC);
    return { site, gates: gatesOf(site.fuse.family, site.fuse.ratingA), airC, holdsA };
  }),
);

/** Continuous current against the school's share of the rating, and timed modes against the earliest the fuse may open. */
export function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const { machine, solved } = figures;

  for (const { site, gates, airC, holdsA } of limitsOf(figures)) {
    const base = { rule: id, step: "feeds" as const, subject: site.subject, unit: "A" };
    let continuous = { amps: 0, mode: 0, low: false };
    let opens: { amps: number; mode: number; minS: number; lastsS: number } | null = null;
    machine.modes.forEach((mode, m) => {
      for (const [points, low] of [
        [solved.planned, false],
        [solved.low, true],
      ] as const) {
        const amps = Math.abs(points[m]?.branchA[site.branch] ?? 0);
        if (mode.lastsS === null) {
          if (amps > continuous.amps) continuous = { amps, mode: m, low: low && solved.low !== solved.planned };
          continue;
        }
        // Below its rating no fuse opens: most are there.
        if (amps <= holdsA) continue;
        const { minS } = openingTime(gates, amps / holdsA, true);
        if (minS < mode.lastsS && amps > (opens?.amps ?? 0)) opens = { amps, mode: m, minS, lastsS: mode.lastsS };
      }
    });
    const needed = leastForWire(machine.settings, site.wire, continuous.amps, site.fuse.family);
    if (needed > site.fuse.ratingA) {
      const amps = say(continuous.amps, "current", "up");
      verdicts.push({
        ...base,
        id: `${id}:${site.subject.id}`,
        severity: "fix",
        value: continuous.amps,
        limit: site.fuse.ratingA * (continuous.amps / needed),
        headline: `${site.name}: ${site.fuse.ratingA} A fuse carries ${amps} for good`,
        detail: `${amps} ${inMode(figures, continuous)}. Loaded to at most ${Math.round(loadShare(site.fuse.family, machine.settings.schools.fuseLoadFactor) * 100)}\u00a0% at ${say(airC, "temperature")} this fuse may carry ${say(site.fuse.ratingA * (continuous.amps / needed), "current", "down")}; above that it runs hot, ages and opens without a fault.`,
        remedies: larger(figures, site, needed),
      });
    } else if (opens !== null) {
      const { amps, mode, minS, lastsS } = opens as { amps: number; mode: number; minS: number; lastsS: number };
      const name = figures.modes[mode]?.name ?? "";
      verdicts.push({
        ...base,
        id: `${id}:${site.subject.id}:brief`,
        severity: "fix",
        value: amps,
        limit: site.fuse.ratingA,
        headline: `${site.name}: ${name} may open the ${site.fuse.ratingA} A fuse`,
        detail: `${say(amps, "current", "up")} for ${say(lastsS, "time")} is ${Math.round((amps / site.fuse.ratingA) * 100)}\u00a0% of its rating; a fuse of this family may open after ${minS < 0.01 ? "no time at all" : say(minS, "time", "down")}.`,
        remedies: larger(figures, site, holdsFor(figures, site, amps, lastsS, needed)),
      });
    }
  }
  return verdicts;
}

/** Least rating of the same family that strictly holds this current for this long, A. */
function holdsFor(figures: Standing, site: FuseSite, amps: number, lastsS: number, needed: number): number {
  const gates = gatesOf(site.fuse.family, site.fuse.ratingA);
  const factor = carryingFactor(site.fuse.family, airAround(site.wire ?? {}, figures.machine.settings));
  const multiples = gates.filter((gate) => gate.minS >= lastsS).map((gate) => gate.multiple);
  return multiples.length > 0 ? Math.max(needed, amps / (Math.max(...multiples) * factor)) : Number.POSITIVE_INFINITY;
}

/** A larger fuse where every wire it guards may carry it; else the same together with the wire size that may. */
function larger(figures: Standing, site: FuseSite, neededA: number): Remedy[] {
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
