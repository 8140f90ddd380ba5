import { type FaultResult, type FaultWalk, SLOW_S } from "../../faults/walk";
import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { isDriverFeed } from "../../fuses/driver-feed";
import { largestFuse } from "../../fuses/pick";
import { leastForWire } from "../../fuses/rating";
import type { Driver, Wire } from "../../machine/schema";
import { say, withArticle } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "driver-feeds",
  title: "Driver feeds under the chosen school",
  step: "feeds",
  needs: "A fuse at the start of this feed, or a feed thick enough to live on the main fuse.",
});

/**
 * One fuse for each driver, or the main fuse only: each school has something that must then hold. Under the second, a
 * driver's feed must survive a short until the main fuse opens.
 */
export const driverFeeds = rule({ speak, reads: "shorts", evaluate });

/** A run that may go without its own fuse when it is enclosed and at little risk, m (IEC 60364-4-43 cl. 433.2). */
const SHORT_RUN_M = 3;

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  const school = figures.machine.settings.schools.driverFeeds;
  if (school === undefined) return [];
  return figures.machine.parts.flatMap((part): Verdict[] => {
    const feed = part.kind === "driver" ? figures.ledger.rowOf.get(part.id)?.feed : null;
    if (part.kind !== "driver" || !feed || feed.role !== "supply") return [];
    return school === "each fused" ? eachFused(figures, part, feed) : mainOnly(figures, walk, part, feed);
  });
}

function eachFused(figures: Figures, driver: Driver, feed: Wire): Verdict[] {
  const own = feed.fuse ?? fuseBefore(figures, feed);
  if (own) return [];
  return [
    speak({
      wire: feed,
      about: driver.id,
      severity: "fix",
      headline: `${driver.name} has no fuse of its own`,
      detail: "Your school gives each driver feed one, at the split: a fault in one branch then leaves the others running.",
      remedies: addFuse(figures, feed),
    }),
  ];
}

/** A fuse part right before the feed that guards nothing else. */
function fuseBefore(figures: Build, feed: Wire): boolean {
  const before = figures.partOf.get(feed.from.part);
  return before?.kind === "fuse" && figures.machine.wires.filter((wire) => wire.from.part === before.id).length === 1;
}

function addFuse(figures: Figures, feed: Wire): Remedy[] {
  const figure = figures.wires[feed.id];
  const maxV = railMaxV(figures, figures.partOf.get(feed.to.part));
  const least = leastForWire(figures.machine.settings, feed, figure?.worstContinuous.amps ?? 0);
  const fuse = largestFuse(least, figure?.ampacity?.fuseLimitA ?? 0, maxV, null);
  return fuse ? [{ label: `Add ${withArticle(`${fuse.ratingA} A fuse`)} here`, command: { type: "setFuse", wireId: feed.id, fuse } }] : [];
}

function mainOnly(figures: Figures, walk: FaultWalk, driver: Driver, feed: Wire): Verdict[] {
  if (feed.fuse) return brakesInto(figures, driver, feed);
  if (!isDriverFeed(figures.machine, feed)) return [];
  const base = { wire: feed, remedies: addFuse(figures, feed) };
  const here = walk.results.filter(({ place, bolted }) => bolted && (place === driver.id || motorsOf(figures, driver).includes(place)));
  const burnt = here.find(({ wire }) => wire && (wire.fate.fate === "burns" || wire.fate.fate === "overheats"));
  if (burnt || here.some(({ opens, held }) => !opens && !held))
    return [
      speak({
        ...base,
        key: "burns",
        about: driver.id,
        severity: "stop",
        headline: `${driver.name}: its feed does not survive a short on the main fuse alone`,
        detail:
          "Your school leaves driver feeds without a fuse. Then the wire must bear what the main fuse lets through, and this one does not. A fuse here, or thicker wire.",
      }),
    ];
  const unsure = here.find(({ unknown, wire }) => unknown.length > 0 || wire?.fate.fate === "unknown");
  if (unsure || feed.lengthM === undefined)
    return [
      speak({
        ...base,
        key: "ask",
        about: driver.id,
        severity: "ask",
        headline: `${driver.name}: does its feed survive a short on the main fuse alone?`,
        detail: `Your school leaves driver feeds without a fuse, so this must be known. Missing: ${unsure ? unsureOf(figures, unsure) : "the length of the feed"}.`,
      }),
    ];
  const slow = here.find(({ opens }) => (opens?.slowestS ?? 0) > SLOW_S);
  if (slow)
    return [
      speak({
        ...base,
        key: "slow",
        about: driver.id,
        severity: "fix",
        headline: `${driver.name}: the main fuse may take ${say(slow.opens?.slowestS ?? 0, "time", "up")} to clear a short there`,
        detail: `Only ${say(slow.leastA, "current", "down")} flow at the end of this feed; without a fuse of its own it should be over in ${SLOW_S} s.`,
        compared: { seconds: slow.opens?.slowestS ?? 0, limit: SLOW_S },
      }),
    ];
  const runM = feed.lengthM.value;
  return [
    speak({
      ...base,
      about: driver.id,
      severity: runM > SHORT_RUN_M ? "fix" : "watch",
      headline: `${driver.name}: its feed survives a short on the main fuse, and nothing guards it against overload`,
      detail: `${say(runM, "length")} of it. Keep it short (up to ${SHORT_RUN_M} m), enclosed and away from what moves; the driver's own limit is then what keeps it cool.`,
      compared: { metres: runM, limit: SHORT_RUN_M },
    }),
  ];
}

/** The figure that keeps a short from being judged. */
function unsureOf(figures: Build, { unknown, wire }: FaultResult): string {
  const source = figures.partOf.get(unknown[0] ?? "");
  if (source) return `${source.kind === "pack" ? "the resistance" : "the current limit"} of ${source.name}`;
  const found = wire && figures.wireOf.get(wire.id);
  return found ? `size and insulation of the ${wireName(figures, found)}` : "a figure of a source or a wire on the way";
}

function motorsOf(figures: Build, driver: Driver): string[] {
  return [...figures.solved.circuit.feeds].filter(([, feed]) => feed.driver.id === driver.id).map(([load]) => load);
}

/** Under this school a fuse that opens leaves a braking motor alone with the driver's capacitor. */
function brakesInto(figures: Build, driver: Driver, feed: Wire): Verdict[] {
  const braking = motorsOf(figures, driver).some((load) => {
    const part = figures.partOf.get(load);
    return part?.kind === "load" && (part.brakingJ?.value ?? 0) > 0;
  });
  if (!braking) return [];
  return [
    speak({
      wire: feed,
      key: "regen",
      about: driver.id,
      severity: "watch",
      headline: `${driver.name}: if its fuse opens while it brakes, the energy has nowhere to go`,
      detail:
        "Your school leaves driver feeds unfused for this reason. With a fuse, a capacitor, clamp or brake on the driver's side of it must take one full stop.",
      remedies: [{ label: "Take the fuse out", command: { type: "setFuse", wireId: feed.id, fuse: null } }],
    }),
  ];
}
