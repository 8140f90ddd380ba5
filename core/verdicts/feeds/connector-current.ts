import { familiesThatSuit, plainEnd, shortTimeA } from "../../connectors/choose";
import { contactRating, contactSpotC, HOUSING_MAX_C } from "../../connectors/contact";
import { type EndSite, mateEnd, setEnd } from "../../connectors/ends";
import type { Build } from "../../figures/build";
import { sitesOf } from "../../figures/end-sites";
import type { Figures } from "../../figures/figures";
import { inMode, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { say } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { airAround } from "../../wires/ampacity";
import { carriesNoMore } from "../pairs";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";

const speak = speaker({ id: "connector-current", title: "Connector over its current", step: "by role" });

/** Each connector's contacts against what they carry for good, and for seconds; rotary joints by their rings. */
export const connectorCurrent = rule({ speak, reads: "figures", sized: true, evaluate });

/** Share of its rating from which a contact is watched (our choice: the tenth that derating is unsure by). */
const WATCH_FROM = 0.9;

/** Twice its current melts the housing or its solder (common practice, no source). */
const STOP_FROM = 2;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const site of sitesOf(figures)) {
    const figure = figures.wires[site.wire.id];
    // What a signal ground and its contacts carry is judged with the loop it closes.
    if (!figure || site.wire.role === "signal" || feedSpeaks(figures, site)) continue;
    const verdict = overCurrent(figures, site) ?? tooHot(figures, site);
    if (verdict) verdicts.push(verdict);
  }
  return verdicts;
}

/** Both poles sit in one housing: the supply wire speaks for a return that carries what it does. */
function feedSpeaks(figures: Figures, { wire, end, at }: EndSite): boolean {
  return mateEnd(figures.wireOf.get(wire.pair ?? ""), end)?.family === at.family && carriesNoMore(figures, wire);
}

function whereOf(figures: Build, site: EndSite): string {
  return `${site.row.sort === "rotary" ? "rotary joint" : "connector"} at the ${site.end === "from" ? "source" : "far"} end of the ${wireName(figures, site.wire)}`;
}

function overCurrent(figures: Figures, site: EndSite): Verdict | null {
  const { wire, at, row } = site;
  const airC = airAround(wire, figures.machine.settings);
  const rating = contactRating(row, at, airC);
  const figure = figures.wires[wire.id];
  if (!rating || !figure) return null;
  const { worst, worstContinuous } = figure;
  const lasting = rating.limitA > 0 ? worstContinuous.amps / rating.limitA : worstContinuous.amps > 0 ? Number.POSITIVE_INFINITY : 0;
  const short = shortTimeA(row, at, airC);
  const brief = short > 0 ? worst.amps / short : 0;
  if (lasting <= WATCH_FROM && brief <= 1) return null;
  const byTime = lasting <= 1 && brief > 1;
  const severity: Severity = lasting >= STOP_FROM ? "stop" : lasting > 1 || brief > 1 ? "fix" : "watch";
  const amps = byTime ? worst : worstContinuous;
  const limit = byTime ? short : rating.limitA;
  const each =
    rating.perPole > 1
      ? `${rating.perPole} ${row.sort === "rotary" ? "rings" : "contacts"} share it, ${say(amps.amps / rating.perPole, "current", "up")} each at best; `
      : "";
  const heat = (amps.amps ** 2 * row.agedMilliohm) / 1000 / rating.perPole;
  return speak({
    wire,
    about: `${wire.id}:${site.end}`,
    severity,
    headline:
      severity === "watch"
        ? `${row.name}: ${Math.floor(lasting * 100)}\u00a0% of what the ${whereOf(figures, site)} carries`
        : `${row.name}: ${say(amps.amps, "current", "up")} through a ${say(limit, "current", "down")} ${row.sort === "rotary" ? "joint" : "connector"}`,
    detail: `The ${whereOf(figures, site)} has ${say(amps.amps, "current", "up")} ${inMode(figures, amps)}. ${each}with ${rating.loaded} loaded contacts in ${say(airC, "temperature")} it carries ${say(rating.limitA, "current", "down")} for good${byTime ? ` and ${say(short, "current", "down")} for seconds` : ""}${row.printedA && row.printedA > (row.contactA ?? 0) ? `; the ${row.printedA} A often printed is not for good` : ""}. Worn, a pole makes ${say(heat, "power", "up")} of heat${severity === "watch" ? "" : `, and the spot where its metal touches reaches about ${say(contactSpotC((amps.amps * row.agedMilliohm) / 1000 / rating.perPole, airC), "temperature", "up")} (Holm)`}.`,
    compared: { amps: amps.amps, limit },
    remedies: remedies(figures, site, worstContinuous.amps, worst.amps, airC),
  });
}

function remedies(figures: Build, site: EndSite, amps: number, peakA: number, airC: number): Remedy[] {
  const { wire, at, row } = site;
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  if (!gauge) return [];
  const volts = railMaxV(figures, figures.partOf.get(wire.to.part));
  const set = (label: string, next: EndSite["at"]): Remedy => ({
    label,
    command: setEnd(site, next),
  });
  const need = { amps: amps / WATCH_FROM, peakA, volts, airC, gauge, parallel: wire.parallel };
  const [better] = familiesThatSuit(row, at, need);
  const list = better ? [set(`Use ${better.name}`, plainEnd(better.id, at))] : [];
  if (row.sort === "rotary") {
    for (let rings = (at.perPole ?? 1) + 1; rings <= row.maxPoles / 2; rings++) {
      const next = { ...at, perPole: rings, loaded: Math.min(64, 2 * rings) };
      if ((contactRating(row, next, airC)?.limitA ?? 0) < amps / WATCH_FROM) continue;
      list.push(set(`${rings} rings a pole`, next));
      break;
    }
  }
  return list;
}

/** A hot wire ends in a housing made for 105 °C. */
function tooHot(figures: Figures, site: EndSite): Verdict | null {
  const figure = figures.wires[site.wire.id];
  const hot = figure?.temperatureC;
  if (hot == null || hot <= HOUSING_MAX_C || site.row.sort === "joint") return null;
  return speak({
    wire: site.wire,
    key: "hot",
    about: `${site.wire.id}:${site.end}`,
    severity: "fix",
    headline: `${site.row.name}: the wire brings ${Number.isFinite(hot) ? say(hot, "temperature", "up") : "more heat than it bears"} into it`,
    detail: `The insulation of the ${wireName(figures, site.wire)} bears it, a common housing bears ${HOUSING_MAX_C} °C. Thicker wire runs cooler.`,
    compared: { celsius: hot, limit: HOUSING_MAX_C },
  });
}
