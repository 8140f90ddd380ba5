import type { FaultResult, FaultWalk } from "../../faults/walk";
import { SLOW_S } from "../../faults/walk";
import { faultMaxC } from "../../faults/withstand";
import { deviceName, energyText, placeName } from "../../faults/words";
import { postLead } from "../../figures/before-fuse";
import type { Build } from "../../figures/build";
import { briefThrough } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { type FuseSite, fuseSites } from "../../figures/fuse-sites";
import { gaugeText, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { fuseOpening, holdsBriefly } from "../../fuses/opening";
import { smallestFuse, thinnest } from "../../fuses/pick";
import { leastForWire } from "../../fuses/rating";
import type { FuseRef, Wire } from "../../machine/schema";
import { capital, say } from "../../quantity/format";
import { breakingAt, fuseRow } from "../../reference/fuses";
import { insulationById } from "../../reference/insulation";
import { adiabaticK } from "../../wires/adiabatic";
import { airAround } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";
import { AGES_K, bearsC } from "../wire-heat";

const speak = speaker({
  id: "short-circuit",
  title: "A short is not cleared in time",
  step: "by role",
  needs: "A shorter or thicker way to that place, or a faster fuse before it.",
});

/**
 * What a short does before it is cleared: a wire that burns although its fuse suits it continuously, and a fuse that takes longer
 * than 5 s. What no fuse guards at all, and what a fuse lets through continuously, other rules have said.
 */
export const shortCircuit = rule({ speak, reads: "shorts", sized: true, evaluate });

/** A thicker wire lets a little more current through: room for that. */
const MORE = 1.15;

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  const verdicts: Verdict[] = [];
  const burnt = new Map<string, FaultResult>();
  const unsure = new Map<string, FaultResult>();
  const slow = new Map<string, FaultResult[]>();
  const never = new Map<string, FaultResult[]>();
  for (const result of walk.results) {
    const wire = result.wire;
    if (wire && !saidBefore(figures, wire.id)) {
      if (wire.fate.fate === "burns" && !burnt.has(wire.id)) burnt.set(wire.id, result);
      if (wire.fate.fate === "unknown" && figures.wires[wire.id]?.ampacity && !unsure.has(wire.id)) unsure.set(wire.id, result);
    }
    if (result.danger === "slow" && result.opens) {
      const key = `${result.opens.kind} ${result.opens.id}`;
      slow.set(key, [...(slow.get(key) ?? []), result]);
    }
  }
  for (const result of walk.results) {
    if (!result.bolted || result.danger !== "never" || result.held) continue;
    const wire = figures.ledger.rowOf.get(result.place.split(".")[0] ?? "")?.feed;
    const by = wire && !saidBefore(figures, wire.id) ? figures.wires[wire.id]?.exposure?.by : null;
    if (by) never.set(`${by.kind} ${by.id}`, [...(never.get(`${by.kind} ${by.id}`) ?? []), result]);
  }
  for (const [guard, results] of never) verdicts.push(notCleared(figures, walk, guard, results));
  for (const [wireId, result] of burnt) verdicts.push(burns(figures, wireId, result));
  for (const [wireId, result] of unsure) verdicts.push(asks(figures, wireId, result));
  for (const results of slow.values()) verdicts.push(takesLong(figures, walk, results));
  return verdicts;
}

/** The wire is too thin for its protection anyway, or has none: that verdict comes first. */
function saidBefore(figures: Build, wireId: string): boolean {
  const figure = figures.wires[wireId];
  const wire = figures.wireOf.get(wireId);
  // The lead to a first fuse has nothing before it by nature, and no other rule speaks of it: what that fuse lets through while it takes its time is said here.
  const isPostLead = wire && figures.partOf.get(wire.from.part)?.kind === "pack" && postLead(figures.machine, wire) !== null;
  if (!figure?.exposure || isPostLead) return false;
  return figure.exposure.unknown || !(figure.exposure.limitA <= (figure.ampacity?.fuseLimitA ?? 0));
}

function burns(figures: Build, wireId: string, result: FaultResult): Verdict {
  const wire = figures.wireOf.get(wireId) as Wire;
  const { amps, fate } = result.wire as NonNullable<FaultResult["wire"]>;
  const opens = result.opens;
  const until =
    opens === null
      ? "nothing ends it"
      : Number.isFinite(opens.slowestS)
        ? `${deviceName(figures, opens)} may take ${say(opens.slowestS, "time", "up")}`
        : `${deviceName(figures, opens)} does not end all of it`;
  const energy =
    fate.letThroughA2s !== null && fate.withstandA2s !== null
      ? ` That is ${energyText(fate.letThroughA2s)}, and ${gaugeText(wire)} bears ${energyText(fate.withstandA2s)}.`
      : fate.endC !== null && Number.isFinite(fate.endC)
        ? ` The conductor would reach ${say(fate.endC, "temperature", "up")}.`
        : "";
  return speak({
    wire,
    severity: "stop",
    headline: `${capital(wireName(figures, wire))}: a short at ${placeName(figures, result.place)} burns ${gaugeText(wire)}`,
    detail: `${say(amps, "current", "up")} flow in it and ${until}.${energy}`,
    compared:
      fate.letThroughA2s !== null && fate.withstandA2s !== null ? { amps2s: fate.letThroughA2s, limit: fate.withstandA2s } : undefined,
    remedies: thicker(figures, wire, fate.letThroughA2s),
  });
}

function thicker(figures: Build, wire: Wire, letThrough: number | null): Remedy[] {
  const final = faultMaxC(wire);
  const maxC = figures.wires[wire.id]?.ampacity?.maxC;
  if (letThrough === null || final === null || maxC === undefined) return [];
  const area = (Math.sqrt(letThrough) * MORE) / adiabaticK(maxC, final) / wire.parallel;
  const size = thinnest(wire, (gauge) => gauge.areaMm2 >= area);
  return size && size.id !== wire.gauge
    ? [{ label: `Use ${size.id}`, command: { type: "setFeed", id: wire.pair ?? wire.id, changes: { gauge: size.id } } }]
    : [];
}

function asks(figures: Build, wireId: string, result: FaultResult): Verdict {
  const wire = figures.wireOf.get(wireId) as Wire;
  return speak({
    wire,
    key: "ask",
    severity: "ask",
    headline: `${capital(wireName(figures, wire))}: how hot may its insulation get in a short?`,
    detail: `A short at ${placeName(figures, result.place)} drives ${say(result.wire?.amps ?? 0, "current", "up")} through it. For ${insulationById(wire.insulation)?.name ?? "this insulation"} no final temperature is known, so nobody can say that it survives. Another insulation, or its maker's figure, settles it.`,
  });
}

/** A short so weak that the fuse before it need not open at all. */
function notCleared(figures: Figures, walk: FaultWalk, guard: string, results: readonly FaultResult[]): Verdict {
  const weakest = [...results].sort((a, b) => a.leastA - b.leastA)[0] as FaultResult;
  const places = [...new Set(results.map(({ place }) => place))];
  const [kind = "wire", guardId = ""] = guard.split(" ");
  const site = fuseSites(figures).find(({ subject }) => subject.kind === kind && subject.id === guardId);
  const row = figures.ledger.rowOf.get(weakest.place.split(".")[0] ?? "");
  return speak.at("feeds")({
    subject: { kind: row?.feed ? "wire" : "part", id: row?.feed?.id ?? guardId },
    key: "never",
    about: guardId,
    severity: destroys(figures, results) ? "stop" : "fix",
    also: places.map((place) => place.split(".")[0] ?? ""),
    headline: `A short at ${placeName(figures, weakest.place)}${places.length > 1 ? ` (and ${places.length - 1} more)` : ""} is cleared by nothing`,
    detail: `${goesOn(figures, weakest, site)}. The source and the wires heat for as long as it lasts. A smaller fuse, or thicker and shorter wire.`,
    compared: { amps: weakest.leastA, limit: site?.fuse.ratingA },
    remedies: site ? smallerFuse(figures, walk, site, results) : [],
  });
}

/** Whether some wire on the way of a short that nothing ends gets hotter than it bears continuously; else only the source and the place itself suffer. */
function destroys(figures: Build, results: readonly FaultResult[]): boolean {
  return results.some(({ wire }) => {
    const own = wire && figures.wireOf.get(wire.id);
    return own !== undefined && own !== null && (wire?.fate.fate === "unknown" || (wire?.fate.endC ?? 0) > bearsC(own) + AGES_K);
  });
}

/** Why nothing ends it: too weak for any fuse, or for the one left after the first has opened. */
function goesOn(figures: Build, { leastA, opens }: FaultResult, site: FuseSite | undefined): string {
  const fuse = site ? `, and the ${site.fuse.ratingA} A fuse need not open at that` : "";
  if (!opens) return `Only ${say(leastA, "current", "down")} flow there with the source weak and the wires hot${fuse}`;
  return `Of ${say(leastA, "current", "down")} ${deviceName(figures, opens)} cuts its share, the rest goes on another way${fuse}`;
}

/** A smaller fuse that is a cure: it ends these shorts in time, breaks the strongest there is, and holds what flows without a fault. */
function smallerFuse(figures: Figures, walk: FaultWalk, site: FuseSite, results: readonly FaultResult[]): Remedy[] {
  const { settings } = figures.machine;
  const wireId = site.wire?.id ?? "";
  const continuous = figures.wires[wireId]?.worstContinuous.amps ?? 0;
  const brief = briefThrough(figures, wireId, site.branch);
  const airC = airAround(site.wire ?? {}, settings);
  const coldC = Math.min(settings.coldestC ?? settings.ambientC, settings.ambientC);
  const weakest = Math.min(...results.map(({ leastA }) => leastA));
  const strongest = walk.through[`${site.subject.kind} ${site.subject.id}`] ?? 0;
  const { family, ratingA } = site.fuse;
  const maxV = railMaxV(figures, figures.partOf.get(site.partId));
  const cures = (fuse: FuseRef) => {
    const row = fuseRow(fuse.family, fuse.ratingA);
    return (
      row !== undefined &&
      (breakingAt(row, maxV) ?? 0) >= strongest &&
      holdsBriefly(fuse, brief, airC) &&
      fuseOpening(fuse, weakest, airC, coldC, true).maxS <= SLOW_S
    );
  };
  const fuse = smallestFuse(leastForWire(settings, site.wire, continuous, family), ratingA * 0.99, maxV, family, cures);
  return fuse ? [{ label: `Fuse of ${fuse.ratingA} A`, command: site.change(fuse) }] : [];
}

function takesLong(figures: Figures, walk: FaultWalk, results: readonly FaultResult[]): Verdict {
  const result = results[0] as FaultResult;
  const places = [...new Set(results.map(({ place }) => place))];
  const parts = [...new Set(places.map((place) => place.split(".")[0] ?? ""))];
  const opens = result.opens as NonNullable<FaultResult["opens"]>;
  const site = fuseSites(figures).find(({ subject }) => subject.kind === opens.kind && subject.id === opens.id);
  return speak.at("feeds")({
    subject: { kind: opens.kind, id: opens.id },
    key: "slow",
    severity: "fix",
    also: parts,
    headline: `A short at ${placeName(figures, result.place)}${places.length > 1 ? ` (and ${places.length - 1} more ${places.length > 2 ? "places" : "place"})` : ""} may take ${say(opens.slowestS, "time", "up")} to clear`,
    detail: `Only ${say(result.leastA, "current", "down")} flow there with the source weak and the wires hot, ${(result.leastA / opens.fuse.ratingA).toFixed(1)} times what ${deviceName(figures, opens)} is rated for. It should open within ${SLOW_S} s: a smaller fuse on that feed, a faster family, or thicker wire.`,
    compared: { seconds: opens.slowestS, limit: SLOW_S },
    remedies: site ? smallerFuse(figures, walk, site, results) : [],
  });
}
