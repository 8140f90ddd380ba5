import type { Figures } from "../figures/figures";
import { typical } from "../machine/figure";
import type { Part, Supply } from "../machine/schema";
import { capital, say } from "../quantity/format";
import { ENCLOSED_VOLTS, ENCLOSED_WATTS, SUPPLY_KINDS, USB_PORTS } from "../reference/supplies";
import { railDemand, takersOf } from "../sources/demand";
import { ratingOf } from "../sources/ratings";
import { mostVolts, ruledOut } from "./offer";
import { byRoom, type LowPoint, type SourceCandidate, shelfChanges } from "./packs";

/** Share of a rating that may be used continuously (common practice). */
const LOAD_FACTOR = 0.8;
/** Output resistance of a switched supply with its screws, Ω, typical. */
const OUTPUT_OHM = 0.01;

function weigh(
  figures: Figures,
  planned: Supply,
  candidate: Supply,
  about: Pick<SourceCandidate, "id" | "name" | "from" | "changes">,
): SourceCandidate {
  const rail = figures.ledger.rails.find((each) => each.origin === planned.id);
  const refused: string[] = [];
  const rooms: number[] = [];
  const demand = rail ? railDemand(figures, rail) : null;
  const rating = ratingOf(candidate, figures.machine.settings, null);
  const good = demand?.continuousA ?? 0;
  const peak = demand?.peakA ?? 0;
  if (rating.continuousA === null) refused.push("not known what it gives continuously");
  else if (good > 0) {
    const usable = rating.continuousA * LOAD_FACTOR;
    rooms.push(usable / good - 1);
    if (usable < good)
      refused.push(
        `80 % of what it gives at ${say(figures.machine.settings.ambientC, "temperature")} is ${say(usable, "current", "down")}, ${say(good, "current", "up")} asked continuously`,
      );
  }
  if (rating.briefA !== null && peak > 0) {
    rooms.push(rating.briefA / peak - 1);
    if (rating.briefA < peak)
      refused.push(
        `limits at ${say(rating.briefA, "current", "down")}, ${say(peak, "current", "up")} asked in ${figures.modes[demand?.peakMode ?? 0]?.name}`,
      );
  }
  const shift =
    candidate.outputV.value - planned.outputV.value - peak * ((candidate.outputOhm?.value ?? 0) - (planned.outputOhm?.value ?? 0));
  const points: LowPoint[] = [];
  for (const taker of takersOf(figures, planned.id)) {
    const most = mostVolts(taker);
    if (most !== null) {
      rooms.push(most / candidate.outputV.value - 1);
      if (candidate.outputV.value > most) refused.push(`${taker.name} bears ${say(most, "voltage", "down")}`);
    }
    const least = "inputMinV" in taker ? taker.inputMinV?.value : undefined;
    const volts = figures.parts[taker.id]?.lowestV?.volts;
    if (least === undefined || volts === undefined) continue;
    const here = volts + shift;
    rooms.push(here / least - 1);
    if (here < least) refused.push(`${taker.name} gets ${say(here, "voltage", "down")}, needs ${say(least, "voltage", "up")}`);
    points.push({ part: taker.name, volts: here, leastV: least });
  }
  const ruled = refused.length === 0 && about.changes ? ruledOut(figures, planned.id, about.changes) : [];
  refused.push(...ruled);
  if (ruled.length > 0) rooms.push(-1);
  return {
    ...about,
    margin: Math.min(...rooms, Number.POSITIVE_INFINITY),
    continuousA: rating.continuousA,
    peakA: rating.briefA,
    worstV: candidate.outputV.value - peak * (candidate.outputOhm?.value ?? 0),
    fullV: candidate.outputV.value,
    lows: byRoom(points),
    runS: null,
    runEnds: null,
    massKg: candidate.massKg?.value ?? null,
    cost: candidate.cost ?? null,
    heatW: null,
    refused,
  };
}

/** Supplies for a rail: the one planned, the shelf, and enclosed ones as sold near its volts; ports at 5 V. */
export function supplyCandidates(figures: Figures, origin: string, shelf: readonly { id: string; part: Part }[]): SourceCandidate[] {
  const planned = figures.partOf.get(origin);
  if (planned?.kind !== "supply") return [];
  const near = (volts: number) => Math.abs(volts - planned.outputV.value) / planned.outputV.value < 0.12;
  const own = shelf.flatMap(({ id, part }) =>
    part.kind === "supply" && near(part.outputV.value)
      ? [weigh(figures, planned, part, { id, name: part.name, from: "shelf", changes: shelfChanges(id, part) })]
      : [],
  );
  const enclosed = ENCLOSED_VOLTS.filter(near).flatMap((volts) =>
    ENCLOSED_WATTS.map((watts): SourceCandidate => {
      const rated = Number((watts / volts).toPrecision(3));
      const changes = {
        make: "enclosed" as const,
        overload: SUPPLY_KINDS.enclosed.overload,
        usbPort: undefined,
        outputV: typical(volts),
        outputOhm: typical(OUTPUT_OHM),
        ratedA: typical(rated),
        limitA: typical(Number((rated * SUPPLY_KINDS.enclosed.peak).toPrecision(3))),
      };
      const name = `Enclosed supply ${volts}\u00a0V, ${watts}\u00a0W`;
      return weigh(
        figures,
        planned,
        { ...planned, massKg: undefined, cost: undefined, ...changes },
        { id: `enclosed-${volts}-${watts}`, name, from: "class", changes: { ...changes, note: name } },
      );
    }),
  );
  const ports = Object.entries(USB_PORTS)
    .filter(([, port]) => near(port.volts))
    .map(([key, port]): SourceCandidate => {
      const changes = {
        make: "usb" as const,
        overload: SUPPLY_KINDS.usb.overload,
        usbPort: key as keyof typeof USB_PORTS,
        outputV: typical(port.volts),
        outputOhm: typical(0.1),
        ratedA: typical(port.allowedA),
        limitA: typical(port.allowedA),
      };
      return weigh(
        figures,
        planned,
        { ...planned, massKg: undefined, cost: undefined, ...changes },
        { id: key, name: capital(port.name), from: "class", changes: { ...changes, note: port.name } },
      );
    });
  return [
    weigh(figures, planned, planned, { id: planned.id, name: planned.name, from: "plan", changes: null }),
    ...own,
    ...enclosed,
    ...ports,
  ];
}
