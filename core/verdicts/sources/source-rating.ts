import { type Excess, excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { SIMULTANEITY } from "../../loads/stepper";
import type { Pack } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import type { OperatingPoint } from "../../network/point";
import { say } from "../../quantity/format";
import { chemistryOf } from "../../reference/chemistries";
import { SUPPLY_KINDS } from "../../reference/supplies";
import { type Giver, type Rating, ratingOf } from "../../sources/ratings";
import { bearsFor } from "../../wires/brief";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Severity, Verdict } from "../types";

const speak = speaker({
  id: "source-rating",
  title: "Source over its rating",
  step: "sources",
  needs: "A stronger source, starts one after the other, or a load moved to another rail.",
});

/** Delivered current per mode, at both charges, against what holds continuously or for as long as the mode lasts. */
export const sourceRating = rule({ speak, reads: "figures", byDraw: true, evaluate });

/** Share of a rating that may be used continuously before little is left (common practice for supplies). */
const WATCH_FROM = 0.8;
/** The same of what it gives for a while. */
const BRIEF_FROM = 0.95;

/** What the solver's own rounding may leave above a limit that is met exactly. */
const ROUNDING = 1e-9;

const ASKS = {
  pack: "continuous discharge current",
  supply: "rated output current",
  converter: "rated output current",
} as const;

function evaluate(figures: Figures): Verdict[] {
  return figures.solved.circuit.emfs.flatMap((emf, index): Verdict[] => {
    const part = figures.partOf.get(emf.id);
    return part?.kind === "pack" || part?.kind === "supply" || part?.kind === "converter" ? ofSource(figures, part, index) : [];
  });
}

function ofSource(figures: Figures, part: Giver, index: number): Verdict[] {
  const rating = ratingOf(part, figures.machine.settings, figures.parts[part.id]?.highestV ?? null);
  const continuousA = rating.continuousA ?? undefined;
  const spared = simultaneity(figures, part.id);
  const given = (point: OperatingPoint, m: number) => Math.max(0, (point.emfA[index] as number) - spared(m));
  const verdicts = [...asks(figures, part, rating, given)];
  if (continuousA === undefined) return verdicts;
  const peakS = part.kind === "pack" ? part.peakS?.value : undefined;
  const { lasting, brief } = excessOf(figures, given, (seconds) => bearsFor(seconds, continuousA, rating.briefA ?? continuousA, peakS));
  if (lasting && lasting.share > WATCH_FROM) verdicts.push(over(figures, part, rating, lasting, null));
  if (brief && brief.share > BRIEF_FROM) verdicts.push(over(figures, part, rating, brief, figures.machine.modes[brief.mode]?.lastsS ?? 0));
  return verdicts;
}

function asks(figures: Figures, part: Giver, rating: Rating, given: (point: OperatingPoint, m: number) => number): Verdict[] {
  const { continuousA } = rating;
  if (continuousA !== null && !rating.assumed) return [];
  const { planned, low } = figures.solved;
  const gives = Math.max(0, ...[...planned, ...low].map((point, i) => given(point, i % planned.length)));
  if (gives <= 0) return [];
  return [
    speak({
      part,
      key: "ask",
      severity: "ask",
      headline: `${part.name}: what may it give continuously?`,
      detail: `The plan takes up to ${say(gives, "current", "up")} from it, but its ${ASKS[part.kind]} is not entered, ${continuousA === null ? "so nobody can say whether that is much" : `so it is judged by ${say(continuousA, "current", "down")} (${rating.because}), and its sheet may say less`}. Its label or sheet settles it.`,
    }),
  ];
}

/** More than it may give, or close to it: continuously, or in a mode of some seconds. */
function over(figures: Figures, part: Giver, rating: Rating, { share, amps, limitA, mode, low }: Excess, seconds: number | null): Verdict {
  const beyond = share > 1 + ROUNDING;
  const name = figures.modes[mode]?.name ?? "";
  const why = rating.because === "as entered" ? "" : ` (${rating.because})`;
  const time = seconds === null ? "continuously" : `for ${say(seconds, "time")}`;
  return speak({
    part,
    cause: part.id,
    ...(seconds === null ? {} : { key: "brief" }),
    severity: beyond ? worstOf(part, seconds) : "watch",
    headline: beyond
      ? part.kind === "supply" && part.usbPort
        ? `${part.name}: ${say(amps, "current", "up")} from a port that allows ${say(limitA, "current", "down")}`
        : `${part.name} gives ${say(amps, "current", "up")}, ${say(limitA, "current", "down")} is what it gives ${time}`
      : `${part.name}: ${Math.ceil(share * 100)}\u00a0% of its rating in ${name}`,
    detail: `In ${name}${low ? " with the pack low" : ""} it gives ${say(amps, "current", "up")} ${time}; ${say(limitA, "current", "down")} is what it may give that long${why}. ${
      beyond ? consequence(part, seconds) : "Printed ratings of small modules are often peaks; above 80 % little is left for a hot day."
    }`,
    compared: { amps, limit: limitA },
  });
}

/** Lithium cells above their limit continuously with nothing that would switch them off go on until they vent. */
function unwatched(part: Giver): boolean {
  return (
    part.kind === "pack" && part.management === "none" && part.chemistry !== undefined && chemistryOf(part.chemistry).family === "lithium"
  );
}

/** Cells of other kinds than lithium come without a board, unless it is said. */
function mayBeManaged({ management, chemistry }: Pack): boolean {
  if (management !== undefined) return management === "inside";
  return chemistry === undefined || chemistryOf(chemistry).family === "lithium";
}

function worstOf(part: Giver, seconds: number | null): Severity {
  return seconds === null && unwatched(part) ? "stop" : "fix";
}

const NOTHING = () => 0;

/** By how much the simultaneity school plans less than the sum of a rail's steppers, A by mode; nothing under the other school. */
function simultaneity(figures: Figures, origin: string): (mode: number) => number {
  if (figures.machine.settings.schools.stepperSum !== "simultaneity") return NOTHING;
  const steppers = figures.machine.parts.filter(
    (part) => part.kind === "load" && part.loadKind === "stepper" && railOrigin(figures.ledger, part.id) === origin,
  );
  if (steppers.length < 2) return NOTHING;
  return (mode) => (1 - SIMULTANEITY) * steppers.reduce((sum, { id: stepper }) => sum + (figures.parts[stepper]?.amps[mode] ?? 0), 0);
}

function consequence(part: Giver, seconds: number | null): string {
  if (seconds === null && unwatched(part))
    return "Nothing watches its cells and nothing switches them off: they heat until they vent. A management board, a pack that gives more, or fewer things at once.";
  if (part.kind === "pack")
    return `Cells overheat and age${mayBeManaged(part) ? ", and a management board may open under way" : ""}. Take a pack that gives more, or run fewer things at once.`;
  if (part.kind === "supply") return `${overloaded(part)} Take a larger one, stagger the starts, or move a load to another rail.`;
  return "It will fold back, switch off or overheat. Take a larger one, or move a load to another rail.";
}

/** What a supply does beyond its limit, by the behaviour of its protection. */
function overloaded(part: Extract<Giver, { kind: "supply" }>): string {
  switch (part.overload ?? (part.make === undefined ? undefined : SUPPLY_KINDS[part.make].overload)) {
    case "hiccup":
      return "Its protection switches off and tries again: the whole rail drops, not only what asked too much.";
    case "latch-off":
      return "Its protection switches off and stays off until the mains is cycled.";
    case "fold-back":
      return "It cuts its current as its voltage falls, so motors may never start on it.";
    case "constant current":
      return "It holds that current and lets the volts fall; boards on the rail reset.";
    default:
      return "It will fold back, switch off or overheat; which, its sheet says.";
  }
}
