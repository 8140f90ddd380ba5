import { perBuild, perBuildFrom } from "../../figures/build";
import { type Excess, excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import type { PartOf } from "../../machine/schema";
import type { OperatingPoint } from "../../network/point";
import { say } from "../../quantity/format";
import { bearsFor, CONTACT_PEAK } from "../../wires/brief";
import { contactSeverity } from "../contact-heat";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "node-rating",
  title: "More than a bar or Y-lead carries",
  step: "feeds",
  needs: "A heavier bar or stud, or a second one that shares the branches.",
});

/**
 * The sum that a bar, strip or Y-lead's trunk carries against its rating: every branch may be well and the trunk over. One
 * without a rating is asked for it once it carries more than the smallest of its form does.
 */
export const nodeRating = rule({ speak, reads: "figures", byDraw: true, evaluate });

type Bar = PartOf<"bar">;

/** What the smallest of each form carries, A (handbook, families of terminals; typical, from memory). */
const SMALLEST_A: Readonly<Record<NonNullable<Bar["form"]>, number>> = {
  bar: 30,
  stud: 40,
  "terminal strip": 15,
  "Y-lead": 5,
  "fuse block": 30,
  board: 2,
  junction: 10,
  chassis: Number.POSITIVE_INFINITY,
};
/** What a bar's own metal carries with a rise of about 30 K, A a mm² (common practice, no source). */
const BAR_A_PER_MM2 = 2;
/** Share of a rating from which little is left. */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => (part.kind === "bar" ? ofBar(figures, part) : []));
}

/** A wire that ends at a bar, its place among the branches, and the sign with which its current arrives there. */
interface End {
  readonly id: string;
  readonly branch: number;
  readonly sign: 1 | -1;
}

const endsAt = perBuild((build): ReadonlyMap<string, readonly End[]> => {
  const found = new Map<string, End[]>(build.machine.parts.flatMap(({ kind, id }) => (kind === "bar" ? [[id, []]] : [])));
  build.machine.wires.forEach(({ id, from, to }, branch) => {
    found.get(to.part)?.push({ id, branch, sign: 1 });
    found.get(from.part)?.push({ id, branch, sign: -1 });
  });
  return found;
});

/** What arrives at a bar by its wires, A. */
function arriving(figures: Figures, part: Bar): (point: OperatingPoint) => number {
  const wires = endsAt(figures).get(part.id) ?? [];
  return ({ branchA }) => {
    let sum = 0;
    for (const { branch, sign } of wires) sum += Math.max(0, sign * (branchA[branch] as number));
    return sum;
  };
}

/** No more than this can arrive in any mode, A. */
function mostArriving(figures: Figures, part: Bar): number {
  return (endsAt(figures).get(part.id) ?? []).reduce((sum, { id }) => sum + (figures.wires[id]?.worst.amps ?? 0), 0);
}

function ofBar(figures: Figures, part: Bar): Verdict[] {
  const rated = part.ratedA?.value ?? (part.copperMm2 && BAR_A_PER_MM2 * part.copperMm2.value);
  const least = SMALLEST_A[part.form ?? "bar"];
  if (mostArriving(figures, part) <= WATCH_FROM * (rated ?? least)) return [];
  const amps = arriving(figures, part);
  if (rated === undefined) {
    const { lasting, brief } = excessOf(figures, amps, (seconds) => bearsFor(seconds, least, CONTACT_PEAK * least));
    const worst = [lasting, brief].flatMap((each) => (each && each.share > 1 ? [each] : [])).sort((a, b) => b.share - a.share)[0];
    return worst ? [askRating(figures, part.id, worst.amps, worst.mode)] : [];
  }
  const { lasting, brief } = excessOf(figures, amps, (seconds) => bearsFor(seconds, rated, CONTACT_PEAK * rated));
  return [...(lasting ? over(figures, part, lasting, false) : []), ...(brief ? over(figures, part, brief, true) : [])];
}

const askRating = perBuildFrom((build, id, amps: number, mode: number): Verdict => {
  const part = build.partOf.get(id) as Bar;
  const form = part.form ?? "bar";
  return speak.at(part.side === "negative" ? "returns" : "feeds")({
    part,
    key: "ask",
    kin: "ask",
    severity: "ask",
    headline: `${part.name}: how many amps may it carry?`,
    detail: `${say(amps, "current", "up")} meet there in ${build.machine.modes[mode]?.name}; the smallest ${form} carries about ${say(SMALLEST_A[form], "current", "down")} (typical, from memory). Its rating stands in its sheet, or follows from its metal: about ${BAR_A_PER_MM2} A a mm² of copper.`,
  });
});

function over(figures: Figures, part: Bar, { share, amps, limitA, mode }: Excess, timed: boolean): Verdict[] {
  if (share <= WATCH_FROM) return [];
  const trunk = part.form === "Y-lead" ? "its trunk carries the sum of its branches" : "all of it goes through this metal";
  const { severity, riseK } = contactSeverity(share);
  return [
    speak.at(part.side === "negative" ? "returns" : "feeds")({
      part,
      ...(timed ? { key: "brief" } : {}),
      severity,
      headline: `${part.name}: ${say(amps, "current", "up")} of ${say(limitA, "current", "down")} in ${figures.modes[mode]?.name}`,
      detail: `Each branch may be within its limit, but ${trunk}${share > 1 ? `, and its joints rise by about ${Math.ceil(riseK)} K` : ""}. ${part.form === "Y-lead" ? "Give the larger load a feed of its own" : "A heavier one, or a second one"}.`,
      compared: { amps, limit: limitA },
    }),
  ];
}
