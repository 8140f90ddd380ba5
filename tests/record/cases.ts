import { analyseFully } from "@/core/analysis/fully";
import type { Machine } from "@/core/machine/schema";
import { gaugeLadder } from "@/core/sizing/ladder";
import { CASES } from "../cases/all";
import { line } from "./record";

/** What is computed of a small machine, in a line. */
function figuresOf(name: string, side: string, machine: Machine): string {
  const { figures, analysis, late } = analyseFully(machine);
  const verdicts = analysis.verdicts.map(({ severity, value, limit, remedies }) => ({
    severity,
    value,
    limit,
    offered: remedies.map(({ command }) => command),
  }));
  const ladders = machine.wires.slice(0, 3).map(({ id }) => gaugeLadder(figures, late.faults, id));
  return line(name, side, [verdicts, analysis.status, figures.parts, figures.wires, late.faults?.results, late.times, late.loose, ladders]);
}

/** The machines of all cases: small, and between them in every corner of the rules. */
export function recordOfCases(): string[] {
  return CASES.flatMap(({ rule, what, says, under, over }) => {
    const name = `${rule}: ${what}, ${says}`;
    return [figuresOf(name, "short of it", under()), figuresOf(name, "over", over())];
  });
}
