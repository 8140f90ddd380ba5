import { type Build, perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, names, partName, wireName } from "../../figures/names";
import { thinnest } from "../../fuses/pick";
import { lengthOf } from "../../machine/length";
import type { Signal } from "../../machine/schema";
import { signalWire } from "../../machine/signal-wire";
import type { OperatingPoint } from "../../network/point";
import { say } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { ladderSteps } from "../../reference/practice";
import type { Tolerance } from "../../returns/budget";
import { LINK_WORDS, linkName } from "../../returns/link-words";
import { type LinkFigures, type LinkPlan, largestDrop, linkPlanOf, linksOf, pointOf, shareOf } from "../../returns/links";
import { homesOf } from "../../returns/shared";
import { betterLandings, isolate, isWorthIsolating, ownReturn } from "../link-remedies";
import { offsetSeverity, WATCH_FROM } from "../link-severity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";

const speak = speaker({
  id: "link-offset",
  title: "The ground between two boards moves more than their link bears",
  step: "returns",
  needs: "Returns that move less, a link that bears more, or levels that fit: which, only you can choose.",
});

const speakOfError = speaker({
  id: "analogue-error",
  title: "An analogue reading that is off by what its ground moves",
  step: "returns",
  needs: "Returns that move less, a link that bears more, or levels that fit: which, only you can choose.",
});

/** Each link's ground offset against its budget in every mode; analogue links as counts of error. */
export const linkOffset = rule({ speak, others: [speakOfError], reads: "figures", byDraw: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  const found: Verdict[] = [];
  // Links that one conductor moves beyond their budget are one trouble: the worst speaks for the rest.
  const byCulprit = new Map<string, { share: number; verdict: Verdict; signal: Signal }[]>();
  const links = linksOf(figures);
  for (const [i, signal] of (figures.machine.signals ?? []).entries()) {
    const { worst, unsure } = links[i] as LinkFigures;
    const point = (worst && pointOf(figures, worst)) ?? null;
    const { verdicts, culprit } = judge(figures, signal.id, unsure, point, worst?.mode ?? 0, worst?.low ?? false, worst?.volts ?? 0);
    const [verdict] = verdicts;
    if (!worst || !verdict || culprit === null) found.push(...verdicts);
    else byCulprit.set(culprit, [...(byCulprit.get(culprit) ?? []), { share: worst.share, verdict, signal }]);
  }
  for (const group of byCulprit.values()) found.push(together(figures, group));
  return found;
}

function together(figures: Build, group: readonly { share: number; verdict: Verdict; signal: Signal }[]): Verdict {
  const worst = group.reduce((most, each) => (each.share > most.share ? each : most));
  const rest = group.filter((each) => each !== worst);
  if (rest.length === 0) return worst.verdict;
  const also = [...new Set(group.flatMap(({ verdict }) => [verdict.subject.id, ...(verdict.also ?? [])]))];
  return {
    ...worst.verdict,
    also: also.filter((each) => each !== worst.verdict.subject.id),
    detail: `${worst.verdict.detail} Too far apart for the same reason: ${names(rest.map(({ signal }) => linkName(figures, signal)))}.`,
  };
}

/** Where most of a link's budget is used, and the metal between its grounds there. */
interface Worst {
  mode: number;
  low: boolean;
  volts: number;
  share: number;
  most: ReturnType<typeof largestDrop>;
}

/** What is said of one link, and the conductor that is to blame where it goes beyond its budget. */
const judge = perBuildFrom(
  (
    build,
    signalId,
    unsure: boolean,
    point: OperatingPoint | null,
    mode: number,
    low: boolean,
    volts: number,
  ): { verdicts: readonly Verdict[]; culprit: string | null } => {
    const signal = build.machine.signals?.find((each) => each.id === signalId);
    const plan = linkPlanOf(build, signalId);
    if (!signal || !plan) return { verdicts: [], culprit: null };
    const worst = point && { mode, low, volts, share: shareOf(plan.allowed, volts), most: largestDrop(build, signalId, point) };
    const verdicts = judged(build, signal, plan, unsure, worst);
    const blames = worst !== null && worst.share > 1 && verdicts[0]?.rule === speak.id;
    return { verdicts, culprit: blames ? (worst.most?.wire.id ?? null) : null };
  },
);

/** Whose link it is, and what else has a share in it. */
type Base = { part: { id: string }; also: readonly string[] };

function judged(figures: Build, signal: Signal, plan: LinkPlan, unsure: boolean, worst: Worst | null): Verdict[] {
  const name = linkName(figures, signal);
  const base = { part: { id: signal.from }, also: [signal.to, ...plan.own] };
  const { allowed } = plan;
  if (allowed.kind === "isolated" || allowed.kind === "heard") return [];
  if (allowed.kind === "invalid")
    return [
      speak({
        ...base,
        key: "levels",
        about: signal.id,
        severity: "fix",
        headline: `${name}: the two do not understand each other's levels`,
        detail: `As a ${LINK_WORDS[signal.kind]} link it does not work: ${allowed.why}.`,
      }),
    ];
  if (allowed.kind === "missing")
    return [
      speak({
        ...base,
        key: "missing",
        about: signal.id,
        severity: "ask",
        headline: `${name}: ${allowed.what}?`,
        detail:
          signal.kind === "analogue"
            ? "Without full scale and bits an offset cannot be told as counts. Both are in the sheet of the board that reads."
            : "How far the grounds may move apart depends on it. The sheets of both boards tell: V_OL and V_OH of the sender, V_IL and V_IH of the receiver.",
      }),
    ];
  const cable = signal.kind === "usb" && plan.own.length === 0 ? [askCable(base, figures, signal)] : [];
  if (plan.way === null || !worst) return cable;
  const severity = offsetSeverity(allowed, worst, unsure || cable.length > 0);
  if (severity === null) return [];
  if (severity === "ask") return cable.length > 0 ? cable : [askConductor(base, figures, signal, worst)];
  const steady = worst.volts >= 0 ? allowed.steadyAboveV : allowed.steadyBelowV;
  return [
    (allowed.step ? speakOfError : speak)({
      ...base,
      about: signal.id,
      severity,
      headline: headline(figures, signal, worst, allowed, steady),
      detail: `${cause(figures, signal, worst)} ${meaning(figures, signal, worst, allowed, severity)}`,
      compared: { volts: Math.abs(worst.volts), limit: steady },
      cause: worst.most?.wire.id,
      remedies: cures(figures, signal, worst, steady),
    }),
  ];
}

function when(figures: Build, worst: Worst): string {
  return `in ${figures.machine.modes[worst.mode]?.name ?? "a mode"}${worst.low ? " with the pack low" : ""}`;
}

function headline(figures: Build, signal: Signal, worst: Worst, allowed: Tolerance, steady: number): string {
  const volts = Math.abs(worst.volts);
  const name = linkName(figures, signal);
  if (allowed.step) {
    const counts = volts / allowed.step.volts;
    return `${name} reads ${upCounts(counts)} counts wrong ${when(figures, worst)}`;
  }
  return `${name}: grounds ${say(volts, "voltage", "up")} apart of ${say(steady, "voltage", "down")} ${when(figures, worst)}`;
}

/** Counts never rounded down. */
export function upCounts(counts: number): string {
  return counts < 10 ? (Math.ceil(counts * 10 - 1e-9) / 10).toString() : Math.ceil(counts - 1e-9).toString();
}

/** Which conductor makes most of it, and whose current. */
function cause(figures: Build, signal: Signal, worst: Worst): string {
  const { most } = worst;
  if (!most) return "";
  const others = (homesOf(figures).through.get(most.wire.id) ?? []).filter(({ id: part }) => part !== signal.from && part !== signal.to);
  const run = most.wire.lengthM ? `${say(most.wire.lengthM.value, "length")} of ${gaugeText(most.wire)}` : gaugeText(most.wire);
  const whose = others.length > 0 ? `, shared with ${names(others.map(({ name }) => name))}` : "";
  return `${say(Math.abs(most.volts), "voltage")} of it is lost in the ${wireName(figures, most.wire)} (${run}${whose}).`;
}

function meaning(figures: Build, signal: Signal, worst: Worst, allowed: Tolerance, severity: Severity): string {
  if (allowed.step) {
    const wish = `${allowed.step.counts} ${allowed.step.counts === 1 ? "count" : "counts"}`;
    return `${partName(figures, signal.to)} sees its own ground, not the sensor's: one count is ${say(allowed.step.volts, "voltage")}, ${allowed.step.wished ? `${wish} are wished` : `${wish} is taken as the wish`}.`;
  }
  const whole = worst.volts >= 0 ? allowed.aboveV : allowed.belowV;
  const level = worst.volts >= 0 ? "low" : "high";
  const whence = `${allowed.source}${allowed.fromMemory && !allowed.source.includes("typical") ? ", typical" : ""}`;
  if (severity === "stop")
    return `That is more than the whole margin of ${say(whole, "voltage", "down")} (${whence}): a ${level} is no longer read as ${level}, with motors behind it.`;
  const left = Math.max(0, (worst.volts >= 0 ? allowed.peakAboveV : allowed.peakBelowV) - Math.abs(worst.volts));
  return `The margin for a ${level} is ${say(whole, "voltage", "down")} (${whence}); ${say(left, "voltage", "down")} of it is left for spikes.`;
}

/** Land it better, make the culprit thicker, or isolate. */
function cures(figures: Build, signal: Signal, worst: Worst, steady: number): Remedy[] {
  const { most } = worst;
  const found: Remedy[] = [];
  for (const end of [signal.from, signal.to]) {
    // Metal of its own it takes along wherever it lands.
    const shared = most && most.wire.id !== ownReturn(figures, end)?.id && (homesOf(figures).of.get(end) ?? []).includes(most.wire);
    if (shared) found.push(...betterLandings(figures, end).slice(0, 1));
  }
  if (most?.wire.gauge && !most.wire.board) {
    const excess = Math.abs(worst.volts) - steady * WATCH_FROM;
    const keep = 1 - excess / Math.abs(most.volts);
    const gauge = figures.wires[most.wire.id];
    const lengthM = lengthOf(most.wire);
    const needed = keep > 0 && gauge ? (gauge.runOhm * keep) / lengthM : 0;
    const size = needed > 0 ? thinnest(most.wire, (each) => each.r20OhmPerKm / 1000 / most.wire.parallel <= needed) : null;
    const now = gaugeById(most.wire.gauge);
    // A ground shift that wants more copper than that wants another landing.
    if (size && now && size.id !== most.wire.gauge && ladderSteps(now.areaMm2, size.areaMm2) <= STEPS_FOR_SHIFT)
      found.push({
        label: `Use ${size.id} for the ${wireName(figures, most.wire)}`,
        command: { type: "updateWire", id: most.wire.id, changes: { gauge: size.id } },
      });
  }
  return [...found, ...(signal.kind !== "analogue" && isWorthIsolating(figures, signal) ? [isolate(figures, signal)] : [])];
}

/** Sizes by which a return is thickened against a ground shift, at most (handbook practice section 5). */
const STEPS_FOR_SHIFT = 2;

/** A USB cable always ties the two grounds: without its conductor no loop through it is seen. */
function askCable(base: Base, figures: Build, signal: Signal): Verdict {
  return speak({
    ...base,
    key: "cable",
    about: signal.id,
    severity: "ask",
    headline: `${linkName(figures, signal)}: what ground wire has its cable?`,
    detail:
      "A USB cable ties the two grounds with its ground wire and its shield. Give its size and length, so that a loop through it is seen; 24 to 28 AWG are usual.",
    remedies: [{ label: "Take 28 AWG for it", command: signalWire(figures.machine, signal, false, { gauge: "28 AWG" }) }],
  });
}

function askConductor(base: Base, figures: Build, signal: Signal, worst: Worst): Verdict {
  return speak({
    ...base,
    key: "unsure",
    kin: "unsure",
    about: signal.id,
    severity: "ask",
    headline: `${linkName(figures, signal)}: how far do their grounds move?`,
    detail: `At least ${say(Math.abs(worst.volts), "voltage")}. A return on the way between them lacks its size or length, or a load that would move them is not known yet. Volts between the two minus terminals with the motors running settle it.`,
  });
}
