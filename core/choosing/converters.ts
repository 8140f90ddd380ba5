import { linearLoss } from "../converters/linear";
import { boostMost, efficiencyAt, inputPower, type LossModel } from "../converters/switched";
import { leastInput } from "../converters/window";
import type { Figures } from "../figures/figures";
import { typical } from "../machine/figure";
import { goesOn } from "../machine/lasting";
import type { Converter, Part } from "../machine/schema";
import { lossModelOf, nodeAt } from "../network/circuit";
import { capital, say } from "../quantity/format";
import { REGULATORS, type RegulatorClass } from "../reference/regulators";
import { takersOf } from "../sources/demand";
import { converterRating } from "../sources/ratings";
import { mostVolts, ruledOut } from "./offer";
import type { SourceCandidate } from "./packs";
import { byRoom, shelfChanges } from "./packs";

/** A regulator class as a converter's figures at an output voltage, all typical. */
export function converterFromClass(row: RegulatorClass, outV: number): Partial<Converter> {
  const maybe = (value: number | null) => (value === null ? undefined : typical(value));
  const linear = row.kind === "linear";
  return {
    topology: row.kind === "isolated" ? "buck-boost" : row.kind,
    isolated: row.kind === "isolated",
    outputV: typical(outV),
    efficiency: typical(row.efficiency),
    printedA: typical(row.printedA),
    ratedA: typical(row.stillAirA),
    limitA: linear ? typical(row.printedA) : maybe(row.limitA),
    quiescentA: maybe(row.quiescentA),
    inputMinV: typical(row.inputMinV),
    inputMaxV: typical(row.inputMaxV),
    lossW: maybe(row.lossW),
    lossV: maybe(row.lossV),
    lossOhm: maybe(row.lossOhm),
    lossBasis: row.basis ?? undefined,
    lossAtV: linear ? undefined : typical(row.atInV),
    dropoutV: maybe(row.dropoutV),
    dutyMax: maybe(row.dutyMax),
    startsAtV: maybe(row.startsAtV),
    kelvinPerWatt: maybe(row.kelvinPerWatt),
    junctionMaxC: maybe(row.junctionMaxC),
  };
}

/** Volts at a converter's input over all modes at both charges, and the highest that can appear. */
function inputSpan(figures: Figures, part: Part): { lowV: number; highV: number } | null {
  const figure = figures.parts[part.id];
  const pos = nodeAt(figures.solved.circuit, part.id, "in+");
  if (pos < 0 || !figure?.lowestV) return null;
  return { lowV: figure.lowestV.volts, highV: figure.highestV ?? Math.max(...figure.volts) };
}

/** Ripple of a boost's coil current, share of its mean (handbook 5.3, typical). */
const BOOST_RIPPLE = 0.3;

function weigh(
  figures: Figures,
  planned: Converter,
  candidate: Converter,
  about: Pick<SourceCandidate, "id" | "name" | "from" | "changes">,
): SourceCandidate {
  const refused: string[] = [];
  const rooms: number[] = [];
  const figure = figures.parts[planned.id];
  const span = inputSpan(figures, planned);
  const { ambientC } = figures.machine.settings;
  let good = 0;
  let goodMode = 0;
  figures.machine.modes.forEach((mode, m) => {
    if (!goesOn(mode) || (figure?.outA?.[m] ?? 0) <= good) return;
    good = figure?.outA?.[m] ?? 0;
    goodMode = m;
  });
  const peak = figure?.worstOut?.amps ?? 0;
  const rating = converterRating(candidate, ambientC, span?.highV ?? null);
  // A boost is limited where its switch sits, at the input: the lower that is, the less comes out.
  const switched =
    candidate.topology === "boost" && candidate.limitA && span
      ? boostMost(candidate.limitA.value, BOOST_RIPPLE, span.lowV, candidate.efficiency.value, candidate.outputV.value)
      : Number.POSITIVE_INFINITY;
  const brief = rating.briefA === null ? null : Math.min(rating.briefA, switched);
  for (const [limit, asked, words] of [
    [rating.continuousA, good, `continuously at ${say(ambientC, "temperature")}`],
    [brief, peak, "for a short time"],
  ] as const) {
    if (limit === null || asked === 0) continue;
    rooms.push(limit / asked - 1);
    if (limit < asked) refused.push(`gives ${say(limit, "current", "down")} ${words}, ${say(asked, "current", "up")} asked`);
  }
  const least = leastInput(candidate);
  if (span && least !== null) {
    rooms.push(span.lowV / least - 1);
    if (span.lowV < least) refused.push(`needs ${say(least, "voltage", "up")} in, gets ${say(span.lowV, "voltage", "down")} at worst`);
  }
  const most = candidate.inputMaxV?.value;
  if (span && most !== undefined) {
    rooms.push(most / span.highV - 1);
    if (span.highV > most) refused.push(`bears ${say(most, "voltage", "down")}, its input reaches ${say(span.highV, "voltage", "up")}`);
  }
  if (candidate.topology === "boost" && span && span.highV > candidate.outputV.value)
    refused.push("a boost passes its input through when that is above its output");
  if (planned.isolated && !candidate.isolated) refused.push("not isolated");
  const loss: LossModel | null = lossModelOf(candidate);
  const outW = candidate.outputV.value * good;
  const inV = figure?.volts[goodMode] ?? 0;
  const heat =
    candidate.topology === "linear"
      ? linearLoss(inV, candidate.outputV.value, good, candidate.quiescentA?.value ?? 0)
      : (loss ? inputPower(loss, outW, good, inV) : outW / candidate.efficiency.value) - outW + inV * (candidate.quiescentA?.value ?? 0);
  if (loss && Number.isNaN(efficiencyAt(loss, candidate.outputV.value, peak, span?.lowV ?? inV)))
    refused.push("cannot carry the peak at its lowest input");
  for (const taker of takersOf(figures, planned.id)) {
    const most = mostVolts(taker);
    if (most === null) continue;
    rooms.push(most / candidate.outputV.value - 1);
    if (candidate.outputV.value > most)
      refused.push(`gives ${say(candidate.outputV.value, "voltage", "up")}, ${taker.name} bears ${say(most, "voltage", "down")}`);
  }
  const ruled = refused.length === 0 && about.changes ? ruledOut(figures, planned.id, about.changes) : [];
  refused.push(...ruled);
  if (ruled.length > 0) rooms.push(-1);
  const lows = byRoom(
    figures.machine.parts.flatMap((part) => {
      if (part.kind !== "load" || figures.ledger.rowOf.get(part.id)?.rail?.origin !== planned.id) return [];
      const leastV = part.inputMinV?.value;
      const volts = figures.parts[part.id]?.lowestV?.volts;
      if (leastV === undefined || volts === undefined) return [];
      return [{ part: part.name, volts: volts + candidate.outputV.value - planned.outputV.value, leastV }];
    }),
  );
  return {
    ...about,
    margin: Math.min(...rooms, Number.POSITIVE_INFINITY),
    continuousA: rating.continuousA,
    peakA: brief,
    worstV: candidate.outputV.value - peak * (candidate.outputOhm?.value ?? 0),
    fullV: null,
    lows,
    runS: null,
    runEnds: null,
    massKg: candidate.massKg?.value ?? null,
    cost: candidate.cost ?? null,
    heatW: Number.isFinite(heat) ? heat : null,
    refused,
  };
}

/** Converters for a rail: the one planned, those on the shelf, and every reference class that can be set to its volts. */
export function converterCandidates(figures: Figures, origin: string, shelf: readonly { id: string; part: Part }[]): SourceCandidate[] {
  const planned = figures.partOf.get(origin);
  if (planned?.kind !== "converter") return [];
  const outV = planned.outputV.value;
  const fits = (low: number, high: number) => outV >= low * 0.96 && outV <= high * 1.04;
  const own = shelf.flatMap(({ id, part }) =>
    part.kind === "converter" && fits(part.outputV.value, part.outputV.value)
      ? [weigh(figures, planned, part, { id, name: part.name, from: "shelf", changes: shelfChanges(id, part) })]
      : [],
  );
  const classes = REGULATORS.filter((row) => fits(row.outMinV, row.outMaxV)).map((row) => {
    const changes = converterFromClass(row, row.outMinV === row.outMaxV ? row.outMinV : outV);
    const candidate = { ...planned, massKg: undefined, cost: undefined, ...changes } as Converter;
    return weigh(figures, planned, candidate, {
      id: row.id,
      name: capital(row.name),
      from: "class",
      changes: { ...changes, note: row.name },
    });
  });
  return [weigh(figures, planned, planned, { id: planned.id, name: planned.name, from: "plan", changes: null }), ...own, ...classes];
}
