import { figuresOf, judged } from "../analysis/analyse";
import type { Figure } from "../machine/figure";
import { finish } from "../machine/finish";
import type { Cell, Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import type { Severity, Verdict } from "../verdicts/types";
import { type Assumption, assumptionsOf, withPlaces } from "./assumptions";

/** An assumption with what it could change. */
export interface Weighed {
  readonly assumption: Assumption;
  /** How much it could change, to sort by: 0: no verdict of the quick rules changed at either end of its range. */
  readonly weight: number;
  /** The worst that it could bring, or take away, at an end of its range; null: nothing. */
  readonly worst: { readonly severity: Severity; readonly headline: string; readonly brings: boolean } | null;
}

/** What a verdict that comes or goes counts; a graver one outweighs some lighter ones. */
const COUNTS: Readonly<Record<Severity, number>> = { stop: 1000, fix: 100, watch: 5, ask: 1 };

/** Figures that say how strong a part is, and the volts a board bears. */
const STRENGTH = /(?:A|Ah|Ohm|F)$/;
const WINDOW = /^input(?:Min|Max)V$/;
/** Figures that are the smaller the stronger a part is: they go the other way. */
const INVERSE = /Ohm$|^bridgeV$|loss/i;

/** The share of its range a machine's assumption is moved to. */
function moved(machine: Machine, assumption: Assumption, end: "low" | "high"): Machine {
  const factor = assumption.off[end];
  if (assumption.choice?.about === "share") {
    const ids = new Set(assumption.choice.ids);
    const cell = (now: Cell): Cell =>
      now.state === "run" ? { ...now, percent: Math.min(300, Math.max(1, Math.round(now.percent * factor))) } : now;
    return {
      ...machine,
      parts: machine.parts.map((part) =>
        part.kind === "load" && ids.has(part.id)
          ? { ...part, cells: Object.fromEntries(Object.entries(part.cells).map(([mode, now]) => [mode, cell(now)])) }
          : part,
      ),
    };
  }
  if (assumption.choice) return machine;
  return withPlaces(machine, assumption.places, (figure: Figure, path) => {
    const field = path.at(-1) ?? "";
    const several = assumption.typed === null && assumption.places.length > 1;
    // Of a class its strength is in doubt; the volts it is made for are not what somebody would get wrong by half.
    const value =
      several && !STRENGTH.test(field)
        ? figure.value * (WINDOW.test(field) && assumption.id.startsWith("window") ? factor : 1)
        : figure.value * (INVERSE.test(field) ? 1 / factor : factor);
    return { ...figure, value };
  });
}

/** What differs between two sets of verdicts, weighed, with the gravest of it. */
function difference(before: readonly Verdict[], after: readonly Verdict[]): Pick<Weighed, "weight" | "worst"> {
  const was = new Map(before.map((verdict) => [verdict.id, verdict]));
  const is = new Map(after.map((verdict) => [verdict.id, verdict]));
  let weight = 0;
  let worst: Weighed["worst"] = null;
  const put = (verdict: Verdict, brings: boolean) => {
    const counts = COUNTS[verdict.severity];
    weight += counts;
    if (!worst || counts > COUNTS[worst.severity]) worst = { severity: verdict.severity, headline: verdict.headline, brings };
  };
  for (const verdict of after) {
    const old = was.get(verdict.id);
    if (!old || COUNTS[old.severity] < COUNTS[verdict.severity]) put(verdict, true);
  }
  for (const verdict of before) if (!is.has(verdict.id) && verdict.severity !== "ask") put(verdict, false);
  return { weight, worst };
}

/**
 * Every assumption with what both ends of its range would change, those that could change most first. Each end is analysed as
 * the screen would analyse it; yields how far it is.
 */
export function* weighed(machine: Machine): Generator<{ done: number; of: number }, Weighed[]> {
  const assumptions = assumptionsOf(machine);
  const cache = new TopologyCache();
  const said = (each: Machine) => judged(figuresOf(each, cache)).verdicts;
  const now = said(machine);
  const rows: Weighed[] = [];
  for (const [i, assumption] of assumptions.entries()) {
    yield { done: i, of: assumptions.length };
    const ends = (["low", "high"] as const).map((end) => {
      const other = moved(machine, assumption, end);
      return other === machine ? { weight: 0, worst: null } : difference(now, said(other));
    });
    const most = ends.reduce((best, each) => (each.weight > best.weight ? each : best));
    // A choice has no ends to try: it stands above what changes nothing.
    rows.push({
      assumption,
      ...(assumption.choice && most.weight === 0 ? { weight: assumption.choice.about === "share" ? 0 : 0.5, worst: null } : most),
    });
  }
  return rows
    .map((row, i) => ({ row, i }))
    .sort((a, b) => b.row.weight - a.row.weight || a.i - b.i)
    .map(({ row }) => row);
}

/** The same without stopping for progress. */
export function weighedAtOnce(machine: Machine): Weighed[] {
  return finish(weighed(machine));
}
