import { perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, inMode, wireName } from "../../figures/names";
import { tightestTerminal } from "../../figures/terminal-range";
import { capital, inSentence, say, withArticle } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { ladderSteps, mostFuseA } from "../../reference/practice";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "terminal-fit",
  title: "More current than a terminal takes",
  step: "by role",
  needs: "A part with studs, less current, or more volts: thicker wire does not go into this terminal.",
});

/**
 * Lasting current against the thickest conductor that a terminal of the part's class takes, and a conductor that is thicker than
 * that. Source: handbook practice section 5, by class and rating, from memory; a stud that is entered counts before it.
 */
export const terminalFit = rule({ speak, reads: "figures", evaluate });

/** Sizes over what its class takes from which a conductor is said to be too thick for a terminal. */
const BEYOND = 2;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    // A return lands as its feed does: said once, of the feed.
    if (wire.board || wire.gauge === undefined || wire.pair !== undefined || wire.role === "signal" || wire.role === "bond") return [];
    const { amps, mode, low } = figures.wires[wire.id]?.worstContinuous ?? { amps: 0, mode: 0, low: false };
    const verdict = judge(figures, wire.id, amps, mode, low);
    return verdict ? [verdict] : [];
  });
}

const judge = perBuildFrom((build, wireId, amps: number, mode: number, low: boolean): Verdict | null => {
  const wire = build.wireOf.get(wireId);
  const size = wire?.gauge === undefined ? undefined : gaugeById(wire.gauge);
  if (!wire || !size) return null;
  // Ends of loads differ more than their classes tell: of them nothing is said.
  const by = tightestTerminal(build, wire, ({ kind }) => kind !== "load");
  const most = by && gaugeById(by.terminal.mostAwg);
  if (!by || !most) return null;
  const takesA = mostFuseA(most.areaMm2) * wire.parallel;
  const terminal = inSentence(by.terminal.name);
  if (amps > takesA)
    return speak({
      wire,
      cause: by.part.id,
      severity: "fix",
      headline: `${capital(wireName(build, wire))}: ${say(amps, "current", "up")} is too much for ${by.part.name === by.where ? `a terminal of ${by.where}` : by.where}`,
      detail: `${say(amps, "current", "up")} ${inMode(build, { amps, mode, low })}. ${capital(withArticle(terminal))} takes ${most.id} at most, good for ${say(takesA, "current", "down")} (typical of its class, from memory: its own sheet wins). Strands that are cut away to make a thicker wire fit make a hot joint.`,
      compared: { amps, limit: takesA },
    });
  // One size more may still go in: classes differ by that much.
  if (ladderSteps(most.areaMm2, size.areaMm2) < BEYOND) return null;
  return speak({
    wire,
    key: "thick",
    cause: by.part.id,
    severity: "watch",
    headline: `${capital(wireName(build, wire))}: ${gaugeText(wire)} is thicker than ${by.where} takes`,
    detail: `${capital(withArticle(terminal))} takes ${most.id} at most (typical of its class, from memory: its own sheet wins). Land the thick wire on a stud within 150 mm and go on with ${most.id} from there, behind the same fuse; or enter the stud that is really there.`,
    compared: { mm2: size.areaMm2, limit: most.areaMm2 },
  });
});
