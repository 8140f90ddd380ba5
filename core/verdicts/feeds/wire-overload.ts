import { faultMaxC } from "../../faults/withstand";
import { perBuildFrom } from "../../figures/build";
import { ampsIn } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { conditions, gaugeText, inMode, wireName } from "../../figures/names";
import { limitAt, thinnest } from "../../fuses/pick";
import { goesOn } from "../../machine/lasting";
import type { Wire } from "../../machine/schema";
import { capital, say } from "../../quantity/format";
import { insulationById } from "../../reference/insulation";
import { type Ampacity, settledTemperature, temperatureAfter } from "../../wires/ampacity";
import { overloadRatio, overloadTime } from "../../wires/overload";
import { traceWidthMm } from "../../wires/trace";
import { carriesNoMore, joinsFeed } from "../pairs";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";
import { AGES_K, bearsC, heatWords, lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "wire-overload",
  title: "Wire over its continuous rating",
  step: "by role",
  needs: "Less current through it, or a second run: no size at hand carries this.",
});

/** Each wire's worst continuous current against its limit, and each timed mode against how long the wire may bear it. */
export const wireOverload = rule({ speak, reads: "figures", byDraw: true, sized: true, evaluate });

/** Share of the limit from which little is left. */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  const said = new Map<string, Verdict>();
  const push = (verdict: Verdict) => said.set(verdict.id, verdict);
  for (const [index, wire] of figures.machine.wires.entries()) {
    const figure = figures.wires[wire.id];
    // A signal ground speaks for itself: what it carries should not be there at all.
    if (!figure?.ampacity || wire.role === "signal") continue;
    const { ampacity } = figure;
    const { limitA } = ampacity;
    const worst = figure.worstContinuous;
    const ratio = limitA > 0 ? worst.amps / limitA : worst.amps > 0 ? Number.POSITIVE_INFINITY : 0;
    // Most wires carry less than their limit even at their worst: nothing to say about them.
    if ((ratio < WATCH_FROM && figure.worst.amps <= limitA) || !insulationById(wire.insulation)) continue;
    const brief = worstBrief(figures, index, wire, ampacity, ratio);
    if (ratio < WATCH_FROM && !brief) continue;
    const name = wireName(figures, wire);
    const base = { wire };

    const needed = Math.max(worst.amps / WATCH_FROM, brief ? brief.amps / brief.allowedRatio : 0);
    const remedies = () => carrying(figures, wire.id, needed);

    const joins = (key: string) => carriesNoMore(figures, wire) && joinsFeed(said, figures, wire, key);
    if (ratio >= WATCH_FROM && !joins(`${speak.id}:${wire.id}`)) {
      const hot = settledTemperature(wire, ampacity, worst.amps);
      const severity: Severity = ratio <= 1 ? "watch" : lastingSeverity(wire, hot);
      const amps = say(worst.amps, "current", "up");
      push(
        speak({
          ...base,
          severity,
          headline:
            severity === "watch"
              ? `${capital(name)}: ${Math.floor(ratio * 100)}\u00a0% of what ${gaugeText(wire)} may carry`
              : `${capital(name)}: ${amps} is too much for ${gaugeText(wire)}`,
          detail: `${amps} ${inMode(figures, worst)}; ${conditions(figures, wire)} it may carry ${say(limitA, "current", "down")} continuously.${
            severity === "watch" ? "" : ` There ${heatWords(wire, hot)}.`
          }`,
          compared: { amps: worst.amps, limit: limitA },
          remedies: remedies(),
        }),
      );
    }
    if (brief && !joins(`${speak.id}:${wire.id}:brief`)) {
      const bears = bearsC(wire);
      // A planned mode may not bring a wire to what only a fault may; below what it bears only its school minds.
      const severity = brief.endC > (faultMaxC(wire) ?? bears + AGES_K) ? "stop" : brief.endC > bears ? "fix" : "watch";
      const amps = say(brief.amps, "current", "up");
      const seconds = say(brief.lastsS, "time");
      const ends = `is at about ${say(brief.endC, "temperature", "up")} when that ends`;
      const allowed = say(brief.allowedS, "time", "down");
      push(
        speak({
          ...base,
          about: `${wire.id}:brief`,
          severity,
          headline: `${capital(name)}: ${amps} for ${seconds} ${severity === "watch" ? `is more than ${gaugeText(wire)} carries continuously` : `overheats ${gaugeText(wire)}`}`,
          detail: `In ${brief.mode} it carries ${brief.times.toFixed(1)} times its continuous limit, and ${ends}${
            severity === "watch"
              ? `, which ${wire.board ? "the board" : "its insulation"} bears; your school allows that for ${allowed}.`
              : `; it bears ${say(bears, "temperature")}${severity === "stop" ? " and is destroyed" : ""}. Starting warm it may do that for ${allowed}.`
          }`,
          compared: { amps: brief.amps, limit: limitA },
          remedies: remedies(),
        }),
      );
    }
  }
  return [...said.values()];
}

/** A size that carries so much. */
const carrying = perBuildFrom((build, wireId, needed: number): Remedy[] => {
  const wire = build.wireOf.get(wireId);
  const ampacity = build.wires[wireId]?.ampacity;
  if (!wire || !ampacity) return [];
  if (wire.board) return wider(wire, ampacity, needed);
  const larger = thinnest(wire, (size) => limitAt(size, wire, build.machine.settings) >= needed);
  return larger && larger.id !== wire.gauge
    ? [{ label: `Use ${larger.id}`, command: { type: "setFeed", id: wire.pair ?? wire.id, changes: { gauge: larger.id } } }]
    : [];
});

/** Where a mode leaves a wire, °C; kept by wire and mode. */
const endOf = perBuildFrom((_, __, wire: Wire, ampacity: Ampacity, amps: number, seconds: number, preload: number) =>
  temperatureAfter(wire, ampacity, amps, seconds, preload),
);

/** A trace wide enough for a current at the rise it is planned with. */
function wider(wire: Wire, { maxC, airC }: Ampacity, amps: number): Remedy[] {
  const { board } = wire;
  if (board?.kind !== "trace" || maxC <= airC) return [];
  const mm = traceWidthMm(amps / wire.parallel, board.copperUm.value, board.layer === "outside", maxC - airC);
  const widthMm = { ...board.widthMm, value: Math.ceil(mm * 2) / 2 };
  return [
    {
      label: `Make it ${widthMm.value} mm wide`,
      command: { type: "setFeed", id: wire.pair ?? wire.id, changes: { board: { ...board, widthMm } } },
    },
  ];
}

interface Brief {
  amps: number;
  mode: string;
  lastsS: number;
  allowedS: number;
  times: number;
  /** Conductor temperature when the mode ends, °C. */
  endC: number;
  /** Multiple of the limit that would be allowed for this long. */
  allowedRatio: number;
}

/** The timed mode that leaves the wire hottest of those that last longer than it may bear them, or null. */
function worstBrief(figures: Figures, index: number, wire: Wire, ampacity: Ampacity, preload: number): Brief | null {
  const { limitA, tauS, tauCopperS } = ampacity;
  const { machine, solved } = figures;
  if (limitA <= 0 || (figures.wires[wire.id]?.worst.amps ?? 0) <= limitA) return null;
  const at = ampsIn(figures, wire.id, index);
  let worst: Brief | null = null;
  for (let m = 0; m < machine.modes.length; m++) {
    const mode = machine.modes[m];
    if (!mode || mode.lastsS === null || goesOn(mode)) continue;
    const [planned, low] = [solved.planned[m], solved.low[m]];
    const amps = Math.max(planned ? at(planned) : 0, low ? at(low) : 0);
    const allowedS = overloadTime(amps / limitA, preload, tauS, tauCopperS);
    if (allowedS >= mode.lastsS) continue;
    const times = amps / limitA;
    const endC = endOf(figures, `${wire.id} ${mode.id}`, wire, ampacity, amps, mode.lastsS, preload);
    if (worst && worst.endC >= endC) continue;
    const allowedRatio = overloadRatio(mode.lastsS, Math.min(preload, 0.99), tauS, tauCopperS);
    worst = { amps, mode: mode.name, lastsS: mode.lastsS, allowedS, times, allowedRatio, endC };
  }
  return worst;
}
