import type { Figures } from "../../figures/figures";
import { SIMULTANEITY } from "../../loads/stepper";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { SUPPLY_KINDS } from "../../reference/supplies";
import { type Giver, ratingOf } from "../../sources/ratings";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "source-rating", title: "Source over its rating", step: "sources" });

/** Delivered current per mode, at both charges, against the continuous rating or, in timed modes, the peak. */
export const sourceRating = rule({ speak, reads: "figures", evaluate });

/** Share of a rating that may be used for good before little is left (common practice for supplies). */
const WATCH_FROM = 0.8;

/** What the solver's own rounding may leave above a limit that is met exactly. */
const ROUNDING = 1e-9;

const ASKS = {
  pack: "continuous discharge current",
  supply: "rated output current",
  converter: "rated output current",
} as const;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const { solved, machine } = figures;
  solved.circuit.emfs.forEach((emf, index) => {
    const part = figures.partOf.get(emf.id);
    if (part?.kind !== "pack" && part?.kind !== "supply" && part?.kind !== "converter") return;
    const rating = ratingOf(part, machine.settings, figures.parts[part.id]?.highestV ?? null);
    const continuousA = rating.continuousA ?? undefined;
    const briefA = rating.briefA ?? undefined;
    const base = { part };
    const spared = simultaneity(figures, part.id);
    let worst: { share: number; amps: number; limit: number; mode: number; brief: boolean; low: boolean } | null = null;
    let gives = 0;
    machine.modes.forEach((mode, m) => {
      const brief = mode.lastsS !== null;
      const limit = brief ? briefA : continuousA;
      for (const [points, low] of [
        [solved.planned, false],
        [solved.low, solved.low !== solved.planned],
      ] as const) {
        const amps = Math.max(0, (points[m]?.emfA[index] ?? 0) - spared(m));
        gives = Math.max(gives, amps);
        if (limit === undefined) continue;
        const share = amps / limit;
        if (share > (worst?.share ?? 0)) worst = { share, amps, limit, mode: m, brief, low };
      }
    });
    if (continuousA === undefined || rating.assumed) {
      if (gives > 0) {
        verdicts.push(
          speak({
            ...base,
            key: "ask",
            severity: "ask",
            headline: `${part.name}: what may it give for good?`,
            detail: `The plan takes up to ${say(gives, "current", "up")} from it, but its ${ASKS[part.kind]} is not entered, ${continuousA === undefined ? "so nobody can say whether that is much" : `so it is judged by ${say(continuousA, "current", "down")} (${rating.because}), and its sheet may say less`}.`,
          }),
        );
      }
      if (continuousA === undefined) return;
    }
    if (worst === null) return;
    const { share, amps, limit, mode, brief, low } = worst as {
      share: number;
      amps: number;
      limit: number;
      mode: number;
      brief: boolean;
      low: boolean;
    };
    if (share <= (brief ? 0.95 : WATCH_FROM)) return;
    const over = share > 1 + ROUNDING;
    const kind = !brief ? "for good" : limit === continuousA ? "by its rating" : "for a short time";
    const why = rating.because === "as entered" ? "" : ` (${rating.because})`;
    verdicts.push(
      speak({
        ...base,
        severity: over ? "fix" : "watch",
        headline: over
          ? part.kind === "supply" && part.usbPort
            ? `${part.name}: ${say(amps, "current", "up")} from a port that allows ${say(limit, "current", "down")}`
            : `${part.name} gives ${say(amps, "current", "up")}, rated ${say(limit, "current", "down")}${brief ? "" : " for good"}`
          : `${part.name}: ${Math.ceil(share * 100)}\u00a0% of its rating in ${figures.modes[mode]?.name}`,
        detail: `In ${figures.modes[mode]?.name}${low ? " with the pack low" : ""} it gives ${say(amps, "current", "up")}${brief ? ` for ${say(machine.modes[mode]?.lastsS ?? 0, "time")}` : ""}; ${say(limit, "current", "down")} is what it may give ${kind}${why}. ${
          over ? consequence(part) : "Printed ratings of small modules are often peaks; above 80 % little is left for a hot day."
        }`,
        compared: { amps, limit },
      }),
    );
  });
  return verdicts;
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

function consequence(part: Giver): string {
  if (part.kind === "pack")
    return "Cells overheat and age, and a management board may open under way. Take a pack that gives more, or run fewer things at once.";
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
