import { computeFigures, type Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { bearingOf } from "../loads/volts";
import type { PartChanges } from "../machine/commands";
import { oncePer } from "../machine/once";
import type { Part } from "../machine/schema";
import { severityRank } from "../verdicts/order";
import { evaluateAll } from "../verdicts/rules";
import type { Severity } from "../verdicts/types";

/** What the rules say of a plan as it is, by verdict. */
const saidOf = oncePer(
  (figures: Figures): ReadonlyMap<string, Severity> => new Map(evaluateAll(figures).map(({ id, severity }) => [id, severity])),
);

/** Most reasons told of one candidate. */
const MOST_REASONS = 2;

/** What the rules would say against a plan with a part changed, and do not say now: whatever is offered is judged by them first. */
export function ruledOut(figures: Figures, partId: string, changes: PartChanges): string[] {
  const before = saidOf(figures);
  const parts = figures.machine.parts.map((part): Part => (part.id === partId ? changed(part, changes) : part));
  const after = evaluateAll(computeFigures(solveMachine({ ...figures.machine, parts })));
  return after
    .filter(({ id, severity }) => {
      const was = before.get(id);
      return (severity === "stop" || severity === "fix") && (was === undefined || severityRank(severity) < severityRank(was));
    })
    .slice(0, MOST_REASONS)
    .map(({ headline }) => headline);
}

function changed(part: Part, changes: PartChanges): Part {
  const kept = Object.entries({ ...part, ...changes }).filter(([, value]) => value !== undefined);
  return Object.fromEntries(kept) as Part;
}

/** The most volts a part bears: as entered, else by the volts a load is meant for; null where nothing tells. */
export function mostVolts(part: Part): number | null {
  if ("inputMaxV" in part && part.inputMaxV) return part.inputMaxV.value;
  return part.kind === "load" ? bearingOf(part).fixV : null;
}
