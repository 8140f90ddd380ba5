import type { Standing } from "../analysis/standing";
import type { Worst } from "../analysis/types";
import type { Part, Wire } from "../machine/schema";
import { terminalName } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { say } from "../quantity/format";
import { airAround } from "../wires/ampacity";
import type { Step, Verdict } from "./types";

export function partName(figures: Standing, id: string): string {
  return figures.partOf.get(id)?.name ?? "a part that is gone";
}

/** A wire in words: "feed of Cutter bar", "return of Controller", "link from Bar N2 to Bar N1". */
export function wireName(figures: Standing, wire: Wire): string {
  const from = figures.partOf.get(wire.from.part);
  const to = figures.partOf.get(wire.to.part);
  if (!from || !to) return "a wire";
  if (wire.role === "return")
    return from.kind === "bar" && to.kind === "bar" ? `link from ${from.name} to ${to.name}` : `return of ${from.name}`;
  if (wire.role === "signal") return `${wire.shield ? "shield" : "signal ground"} from ${from.name} to ${to.name}`;
  if (wire.role === "bond") return `bond from ${from.name} to ${to.name}`;
  if (wire.role === "phase") return wire.pair === undefined ? `lead to ${to.name}` : `lead back from ${from.name}`;
  return `feed of ${to.name}`;
}

/** Where a wire runs, for the second sentence. */
export function wireEnds(figures: Standing, wire: Wire): string {
  const name = (end: Wire["from"]) => {
    const part = figures.partOf.get(end.part);
    return part ? terminalName(part, end.terminal) : "?";
  };
  return `from ${name(wire.from)} to ${name(wire.to)}`;
}

/** The machine is grouped by step; a return's troubles are settled on the Returns step. */
export function stepOf(wire: Wire): Step {
  return wire.role === "supply" || wire.role === "phase" ? "feeds" : "returns";
}

/** "in Cruise", or "in Cruise with the pack low". */
export function inMode(figures: Standing, worst: Worst): string {
  if (worst.mission) return "over the mission, as heating goes";
  const name = figures.machine.modes[worst.mode]?.name ?? "a mode";
  return worst.low ? `in ${name} with the pack low` : `in ${name}`;
}

export function gaugeText(wire: Wire): string {
  if (wire.board) return wire.board.kind === "trace" ? `a ${wire.board.widthMm.value} mm trace` : "a row of pads";
  const gauge = wire.gauge ?? "unknown size";
  return wire.parallel > 1 ? `${wire.parallel} × ${gauge}` : gauge;
}

/** Highest voltage a wire's rail can show, V: the pack full, or the output that feeds it; falls back on the rail's own figure. */
export function railMaxV(figures: Standing, part: Part | undefined): number {
  if (!part) return 0;
  const highest = figures.parts[part.id]?.highestV;
  if (highest != null) return highest;
  const origin = railOrigin(figures.ledger, part.id);
  const source = origin === null ? undefined : figures.partOf.get(origin);
  if (source?.kind === "pack") return source.openCircuitV.value;
  return source?.kind === "supply" || source?.kind === "converter" ? source.outputV.value : 0;
}

/** Wire conditions in words: "3 together at 40 °C". */
export function conditions(figures: Standing, wire: Wire): string {
  const { settings } = figures.machine;
  const bundle = wire.bundle ?? settings.bundle;
  return `${bundle > 1 ? `${bundle} loaded wires together, ` : ""}${say(airAround(wire, settings), "temperature")} around it`;
}

/** A feed's return of the same size says nothing its supply wire has not said: it joins that verdict instead of repeating it. */
export function joinsFeed(said: ReadonlyMap<string, Verdict>, figures: Standing, wire: Wire, ruleId: string): boolean {
  const feed = wire.pair === undefined ? undefined : figures.wireOf.get(wire.pair);
  if (!feed || feed.gauge !== wire.gauge || feed.bundle !== wire.bundle || feed.parallel !== wire.parallel) return false;
  const earlier = said.get(ruleId.replace(wire.id, feed.id));
  if (!earlier) return false;
  earlier.also = [...(earlier.also ?? []), wire.id];
  return true;
}
