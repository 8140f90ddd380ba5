import { connectorBearsA, familiesThatSuit, plainEnd, suits } from "../../connectors/choose";
import { type ContactRating, contactRating, HOUSING_MAX_C } from "../../connectors/contact";
import { type EndSite, mateEnd, setEnd } from "../../connectors/ends";
import { type Build, branchOf } from "../../figures/build";
import { sitesOf } from "../../figures/end-sites";
import { ampsIn, briefThrough, excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { inMode, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import type { Worst } from "../../figures/types";
import { say } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { airAround } from "../../wires/ampacity";
import { contactSeverity } from "../contact-heat";
import { carriesNoMore } from "../pairs";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "connector-current",
  title: "Connector over its current",
  step: "by role",
  needs: "A connector for this current that takes this wire, or two of them: a part only you can choose.",
});

/** Each connector's contacts against what they carry continuously, and for seconds; rotary joints by their rings. */
export const connectorCurrent = rule({ speak, reads: "figures", byDraw: true, sized: true, evaluate });

/** Share of its rating from which a contact is watched (our choice: the tenth that derating is unsure by). */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const site of sitesOf(figures)) {
    const figure = figures.wires[site.wire.id];
    // What a signal ground and its contacts carry is judged with the loop it closes.
    if (!figure || site.wire.role === "signal" || feedSpeaks(figures, site)) continue;
    const found = overCurrent(figures, site);
    verdicts.push(...(found.length > 0 ? found : tooHot(figures, site)));
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

function overCurrent(figures: Figures, site: EndSite): Verdict[] {
  const { wire, at, row } = site;
  const airC = airAround(wire, figures.machine.settings);
  const rating = contactRating(row, at, airC);
  const figure = figures.wires[wire.id];
  // A contact bears at least for a time what it bears continuously.
  if (!rating || !figure || figure.worst.amps <= WATCH_FROM * rating.limitA) return [];
  const branch = branchOf(figures).get(wire.id) ?? -1;
  const timed = excessOf(figures, ampsIn(figures, wire.id, branch), (seconds) => connectorBearsA(row, rating, seconds)).brief;
  const { worstContinuous } = figure;
  const share = shareOf(worstContinuous.amps, rating.limitA);
  return [
    ...(share > WATCH_FROM ? [over(figures, site, rating, worstContinuous, rating.limitA, null)] : []),
    ...(timed && timed.share > 1 ? [over(figures, site, rating, timed, timed.limitA, figures.machine.modes[timed.mode]?.lastsS ?? 0)] : []),
  ];
}

function shareOf(amps: number, limitA: number): number {
  return limitA > 0 ? amps / limitA : amps > 0 ? Number.POSITIVE_INFINITY : 0;
}

/** A connector over what it bears continuously (`seconds` null) or for a mode's time, or close to it. */
function over(figures: Figures, site: EndSite, rating: ContactRating, worst: Worst, limit: number, seconds: number | null): Verdict {
  const { wire, row } = site;
  const { airC } = conditionsOf(figures, site);
  const share = shareOf(worst.amps, limit);
  const { severity, riseK } = contactSeverity(share);
  const each =
    rating.perPole > 1
      ? `${rating.perPole} ${row.sort === "rotary" ? "rings" : "contacts"} share it, ${say(worst.amps / rating.perPole, "current", "up")} each at best. `
      : "";
  const heat = (worst.amps ** 2 * row.agedMilliohm) / 1000 / rating.perPole;
  const settles = share > 1 && Number.isFinite(riseK) ? `, and it settles about ${Math.ceil(riseK)} K above the air` : "";
  return speak({
    wire,
    about: `${wire.id}:${site.end}${seconds === null ? "" : ":brief"}`,
    severity,
    headline:
      severity === "watch"
        ? `${row.name}: ${Math.floor(share * 100)}\u00a0% of what the ${whereOf(figures, site)} carries`
        : `${row.name}: ${say(worst.amps, "current", "up")} through a ${say(limit, "current", "down")} ${row.sort === "rotary" ? "joint" : "connector"}${seconds === null ? "" : ` for ${say(seconds, "time")}`}`,
    detail: `The ${whereOf(figures, site)} has ${say(worst.amps, "current", "up")} ${inMode(figures, worst)}. ${each}With ${rating.loaded} loaded contacts in ${say(airC, "temperature")} it carries ${say(rating.limitA, "current", "down")} continuously${seconds === null ? "" : ` and ${say(limit, "current", "down")} for ${say(seconds, "time")}`}${row.printedA && row.printedA > (row.contactA ?? 0) ? `; the ${row.printedA} A often printed is not continuously` : ""}. Worn, a pole makes ${say(heat, "power", "up")} of heat${settles}${severity === "stop" ? `; its housing bears ${HOUSING_MAX_C} °C` : ""}.`,
    compared: { amps: worst.amps, limit },
    remedies: remedies(figures, site),
  });
}

function conditionsOf(figures: Build, { wire }: EndSite) {
  return { airC: airAround(wire, figures.machine.settings) };
}

function remedies(figures: Figures, site: EndSite): Remedy[] {
  const { wire, at, row } = site;
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  if (!gauge) return [];
  const { airC } = conditionsOf(figures, site);
  const amps = figures.wires[wire.id]?.worstContinuous.amps ?? 0;
  const volts = railMaxV(figures, figures.partOf.get(wire.to.part));
  const set = (label: string, next: EndSite["at"]): Remedy => ({
    label,
    command: setEnd(site, next),
  });
  const brief = briefThrough(figures, wire.id, branchOf(figures).get(wire.id) ?? -1);
  const need = { amps: amps / WATCH_FROM, brief, volts, airC, gauge, parallel: wire.parallel };
  const [better] = familiesThatSuit(row, at, need);
  const list = better ? [set(`Use ${better.name}`, plainEnd(better.id, at))] : [];
  if (row.sort === "rotary") {
    for (let rings = (at.perPole ?? 1) + 1; rings <= row.maxPoles / 2; rings++) {
      const next = { ...at, perPole: rings, loaded: Math.min(64, 2 * rings) };
      if (!suits(row, next, need)) continue;
      list.push(set(`${rings} rings a pole`, next));
      break;
    }
  }
  return list;
}

/** A hot wire ends in a housing made for 105 °C. */
function tooHot(figures: Figures, site: EndSite): Verdict[] {
  const figure = figures.wires[site.wire.id];
  const hot = figure?.temperatureC;
  if (hot == null || hot <= HOUSING_MAX_C || site.row.sort === "joint") return [];
  return [
    speak({
      wire: site.wire,
      key: "hot",
      about: `${site.wire.id}:${site.end}`,
      severity: "fix",
      headline: `${site.row.name}: the wire brings ${Number.isFinite(hot) ? say(hot, "temperature", "up") : "more heat than it bears"} into it`,
      detail: `The insulation of the ${wireName(figures, site.wire)} bears it, a common housing bears ${HOUSING_MAX_C} °C. Thicker wire runs cooler.`,
      compared: { celsius: hot, limit: HOUSING_MAX_C },
    }),
  ];
}
