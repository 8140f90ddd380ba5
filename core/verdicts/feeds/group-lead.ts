import type { Figures } from "../../figures/figures";
import { inMode } from "../../figures/names";
import type { Load, Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { ampacityOf, settledTemperature } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";
import { heatWords, lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "group-lead",
  title: "Each piece's own lead in a group",
  step: "feeds",
  needs: "Thicker leads for each piece, or a smaller fuse before the group.",
});

/** A group counts as one load behind one feed; each piece's own lead must bear its share, and what the group's fuse lets through. */
export const groupLead = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => (part.kind === "load" && part.ownLead ? judge(figures, part) : []));
}

function judge(figures: Figures, load: Load): Verdict[] {
  const { ownLead } = load;
  const feed = figures.ledger.rowOf.get(load.id)?.feed;
  if (!ownLead || !feed) return [];
  const { settings } = figures.machine;
  const lead: Wire = {
    id: "own-lead",
    role: "supply",
    from: feed.from,
    to: feed.to,
    gauge: ownLead.gauge,
    insulation: ownLead.insulation,
    parallel: 1,
    bundle: 2,
  };
  const ampacity = ampacityOf(lead, settings);
  const worst = figures.parts[load.id]?.worstContinuous;
  if (!ampacity || !worst) return [];
  const found: Verdict[] = [];
  const each = worst.amps / load.count;
  if (each > ampacity.limitA) {
    const hot = settledTemperature(lead, ampacity, each);
    found.push(
      speak({
        part: load,
        severity: lastingSeverity(lead, hot),
        headline: `${load.name}: ${say(each, "current", "up")} through each piece's ${ownLead.gauge}`,
        detail: `${inMode(figures, worst)}; it may carry ${say(ampacity.limitA, "current", "down")} continuously. There ${heatWords(lead, hot)}.`,
        compared: { amps: each, limit: ampacity.limitA },
      }),
    );
  }
  const guard = figures.wires[feed.id]?.exposure;
  if (guard && !guard.unknown && guard.limitA > ampacity.fuseLimitA) {
    const hot = settledTemperature(lead, ampacity, guard.limitA);
    found.push(
      speak({
        part: load,
        key: "fuse",
        severity: lastingSeverity(lead, hot),
        headline: `${load.name}: what guards the group does not protect each piece's ${ownLead.gauge}`,
        detail: `Up to ${Number.isFinite(guard.limitA) ? say(guard.limitA, "current") : "everything the pack gives"} can flow in one lead on a fault in one piece; it may carry ${say(ampacity.fuseLimitA, "current", "down")}: ${heatWords(lead, hot)}. A fuse a piece, a smaller one for the group, or thicker leads.`,
        compared: Number.isFinite(guard.limitA) ? { amps: guard.limitA, limit: ampacity.fuseLimitA } : undefined,
      }),
    );
  }
  return found;
}
