import type { Figures } from "../figures/figures";
import { say } from "../quantity/format";
import { explainGroundOffset, explainLinkBudget, explainLinkOffset } from "./ground";
import { explainPart } from "./part";
import { explainRun } from "./source";
import type { FigureRef, Working, WorkingInput } from "./types";
import { explainWire } from "./wire";

/** The derivation of a figure: formula, numbers, inputs with how they are known, and source. Null when it is gone. */
export function explain(figures: Figures, ref: FigureRef): Working | null {
  if ("wire" in ref) return explainWire(figures, ref);
  if ("part" in ref) return explainPart(figures, ref);
  if (ref.kind === "groundOffset") return explainGroundOffset(figures, ref.of, ref.mode);
  if ("signal" in ref) {
    const signal = figures.machine.signals?.find(({ id }) => id === ref.signal);
    if (!signal) return null;
    return ref.kind === "linkOffset" ? explainLinkOffset(figures, signal, ref.mode) : explainLinkBudget(figures, signal, ref.mode);
  }
  return ref.kind === "run" ? explainRun(figures, ref.mode) : explainSources(figures, ref.mode);
}

function explainSources(figures: Figures, mode: number): Working | null {
  const figure = figures.modes[mode];
  if (!figure) return null;
  const sources = figures.machine.parts.filter((part) => part.kind === "pack" || part.kind === "supply");
  const inputs = sources.map(
    (part): WorkingInput => ({ label: part.name, text: say(figures.parts[part.id]?.amps[mode] ?? 0, "current"), known: "computed" }),
  );
  return {
    title: `Amps leaving the ${sources.length === 1 ? (sources[0]?.name ?? "source") : "sources"}, ${figure.name}`,
    value: figure.sourceA,
    dimension: "current",
    formula: "I = Σ I of packs and supplies",
    numbers: `${inputs.map((input) => input.text).join(" + ") || "0"} = ${say(figure.sourceA, "current")}`,
    inputs,
    source: "Kirchhoff's current law on the solved network (supply and return side together).",
    notes: [
      `Check: power delivered less consumed less lost leaves ${Math.abs(figure.balanceW).toExponential(0)} W.`,
      ...(figure.atLeast ? ["A load of this mode has no figure yet: this is the least it can be."] : []),
    ],
  };
}
