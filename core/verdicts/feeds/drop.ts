import { type Build, perBuild, perBuildFrom } from "../../figures/build";
import { ampsIn, dropLimit, dropWish, largestLoss } from "../../figures/drop";
import type { Figures } from "../../figures/figures";
import { gaugeText, wireName } from "../../figures/names";
import { railIn, railVolts, sharesRail } from "../../figures/rails";
import { thinnest } from "../../fuses/pick";
import { lengthOf } from "../../machine/length";
import type { BuiltPart, Part, Wire } from "../../machine/schema";
import type { OperatingPoint } from "../../network/point";
import { capital, say } from "../../quantity/format";
import { runResistance } from "../../wires/resistance";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "drop",
  title: "Voltage drop over the limit",
  step: "feeds",
  needs: "A shorter way, a higher voltage, or its source nearer to it: the drop is spread over several runs.",
});

/**
 * Voltage drop in modes of a minute and more: over the most that a part may lose it is to be fixed, over what is wished a motor is a
 * little slower. Briefer dips are judged by the windows of what they reach.
 */
export const drop = rule({ speak, reads: "figures", sized: true, evaluate });

/** Parts whose drop is judged, with what they should lose at most in every mode, V. */
const judgedParts = perBuild((build) =>
  build.machine.parts.flatMap((part) => {
    const rail = railVolts(build, part.id);
    if (build.parts[part.id]?.wiring !== "ok" || rail === 0 || part.kind === "driver") return [];
    const limitsV = Float64Array.from(build.machine.modes, (_, mode) => {
      const percent = dropWish(build, part, mode);
      return percent === null ? Number.POSITIVE_INFINITY : (percent / 100) * rail;
    });
    return [{ part, limitsV, shared: sharesRail(build, part.id) }];
  }),
);

/** The same where another source of the rail may be the one that feeds it in a mode. */
function limitIn(figures: Figures, part: BuiltPart, mode: number): number {
  const point = figures.solved.planned[mode];
  const percent = dropWish(figures, part, mode);
  return point && percent !== null ? (percent / 100) * railIn(figures, part.id, point).volts : Number.POSITIVE_INFINITY;
}

/** Share of the limit from which little is left. */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const { part, limitsV, shared } of judgedParts(figures)) {
    const dropV = figures.parts[part.id]?.dropV;
    if (!dropV) continue;
    let over = WATCH_FROM;
    let worst = -1;
    for (let mode = 0; mode < dropV.length; mode++) {
      const limitV = shared ? limitIn(figures, part, mode) : (limitsV[mode] as number);
      const share = (dropV[mode] as number) / limitV;
      if (!(share > over)) continue;
      over = share;
      worst = mode;
    }
    const point = figures.solved.planned[worst];
    if (point) verdicts.push(judge(figures, part.id, dropV[worst] as number, worst, point));
  }
  return verdicts;
}

const judge = perBuildFrom((build, partId, dropV: number, mode: number, point: OperatingPoint): Verdict => {
  const part = build.partOf.get(partId) as Part;
  const { source, volts: rail } = railIn(build, partId, point);
  const most = dropLimit(build, part, mode) ?? build.machine.settings.dropBriefPercent;
  const wish = dropWish(build, part, mode) ?? most;
  const percent = (dropV / rail) * 100;
  const limit = percent > most ? most : wish;
  const culprit = largestLoss(build, partId, point);
  return speak({
    part: { id: partId },
    severity: percent > most ? "fix" : "watch",
    headline: `${part.name} loses ${percent.toFixed(1)}\u00a0% on the way, ${percent > most ? "limit" : "wished at most"} ${limit}\u00a0%`,
    detail: `${say(dropV, "voltage", "up")} of ${say(rail, "voltage")} stay in wires, ends and fuses between ${source?.name ?? "the source"} and here in ${build.machine.modes[mode]?.name}.${
      culprit
        ? ` The most, ${say(culprit.drop, "voltage")}, in the ${wireName(build, culprit.wire)}${culprit.wire.gauge ? ` (${gaugeText(culprit.wire)})` : ""}.`
        : ""
    }`,
    compared: { percent, limit },
    cause: culprit?.wire.id,
    remedies: percent > limit && culprit ? thicker(build, culprit.wire, point, ((percent - limit * 0.95) / 100) * rail) : [],
  });
});

/** A thicker size for the conductor that costs the most, where that alone brings the drop inside its limit. */
function thicker(build: Build, culprit: Wire, point: OperatingPoint, saveV: number): Remedy[] {
  const { settings } = build.machine;
  const feed = culprit.pair === undefined ? culprit : (build.wireOf.get(culprit.pair) ?? culprit);
  const own = [feed, ...(build.returnsOf.get(feed.id) ?? [])];
  const conductorC = Math.max(settings.conductorC, settings.ambientC);
  // Volts lost now, and of another size: those in the joints, and those that grow with its ohms per kilometre.
  let now = 0;
  let joints = 0;
  let perOhm = 0;
  for (const wire of own) {
    const amps = ampsIn(build, wire, point);
    const run = (ohmPerKm: number) => runResistance(ohmPerKm, lengthOf(wire), conductorC, settings.jointOhm, wire.parallel);
    now += amps * (build.wires[wire.id]?.runOhm ?? 0);
    joints += amps * run(0);
    perOhm += amps * (run(1) - run(0));
  }
  const size = thinnest(feed, (gauge) => now - joints - perOhm * gauge.r20OhmPerKm >= saveV);
  if (!size || size.id === feed.gauge) return [];
  return [
    {
      label: `${capital(wireName(build, culprit))}: use ${size.id}`,
      command: { type: "setFeed", id: feed.id, changes: { gauge: size.id } },
    },
  ];
}
