import type { Tolerance } from "../returns/budget";
import type { LinkFigures } from "../returns/links";
import { worseMark } from "./order";
import type { Mark, Severity, Verdict } from "./types";

/** Share of the steady budget from which little is left (our choice). */
export const WATCH_FROM = 0.8;

/**
 * How bad an offset is for a link with levels: beyond its whole margin it stops, analogue readings only err; null where there
 * is nothing to say.
 * @param worst where most of the budget is used: volts with their sign, and their share of what a steady offset may use
 * @param unsure a conductor on the way is not known: what looks like enough may not be
 */
export function offsetSeverity(allowed: Tolerance, worst: { volts: number; share: number }, unsure: boolean): Severity | null {
  if (worst.share > 1)
    return Math.abs(worst.volts) > (worst.volts >= 0 ? allowed.aboveV : allowed.belowV) && allowed.step === null ? "stop" : "fix";
  if (unsure) return "ask";
  return worst.share > WATCH_FROM ? "watch" : null;
}

function alone({ allowed, joined, unsure, worst }: LinkFigures): Severity | null {
  if (allowed.kind === "isolated") return null;
  if (!joined || allowed.kind === "invalid") return "fix";
  if (allowed.kind === "missing") return "ask";
  if (allowed.kind === "held" && worst) return offsetSeverity(allowed, worst, unsure);
  return unsure ? "ask" : null;
}

/**
 * What a link comes to over all modes. One verdict may speak for several links that the same conductor moves, so each is
 * weighed for itself too, and the worse of both holds.
 */
export function linkMark(link: LinkFigures, verdicts: readonly Verdict[]): Mark {
  const said = verdicts.filter(({ id }) => id.endsWith(`:${link.id}`));
  // What the builder accepted of it stands for the link's own figure, too.
  const own = said.some(({ decided }) => decided) ? null : alone(link);
  const marks = said.map(({ severity, decided }): Mark => (decided ? "accepted" : severity));
  return [...marks, ...(own ? [own] : [])].reduce<Mark>(worseMark, "clear");
}
