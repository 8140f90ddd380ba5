import { names, partName } from "../../figures/names";
import type { Standing } from "../../figures/standing";
import type { Part } from "../../machine/schema";
import { groundOf } from "../../returns/ground";
import { returning } from "../../returns/shared";
import type { Verdict } from "../types";

export const id = "switched-return";
export const title = "A fuse or contact in the minus of a part with signals";

/** What can open the minus while the plus stays: the board's ground then floats up, and its current leaves through its signals. */
export function evaluate(figures: Standing): Verdict[] {
  const { machine, solved } = figures;
  const talking = new Set((machine.signals ?? []).flatMap(({ from, to }) => [from, to]));
  const ground = groundOf(figures);
  const cut = new Map<number, Part[]>();
  for (const part of returning(figures)) {
    if (!talking.has(part.id)) continue;
    for (const { branch } of ground.home(part) ?? []) {
      const element = solved.circuit.branches[branch];
      const opens = element?.kind === "switch" || element?.kind === "fuse" || machine.wires[branch]?.fuse !== undefined;
      if (opens) cut.set(branch, [...(cut.get(branch) ?? []), part]);
    }
  }
  return [...cut].map(([branch, parts]) => {
    const element = solved.circuit.branches[branch];
    const wire = element?.kind === "wire" ? machine.wires[branch] : undefined;
    const what = wire ? "A fuse" : partName(figures, element?.id ?? "");
    return {
      id: `${id}:${element?.id ?? branch}`,
      rule: id,
      severity: "fix" as const,
      step: "returns" as const,
      subject: { kind: wire ? ("wire" as const) : ("part" as const), id: element?.id ?? "" },
      also: parts.map((part) => part.id),
      headline: `${what} in the minus of ${names(parts.map(({ name }) => name))}`,
      detail:
        "When it opens the plus stays on: the board's ground floats up to it and the current leaves through its signal wires. Open the plus instead.",
      remedies: wire
        ? [{ label: "Take the fuse out of the return", command: { type: "setFuse" as const, wireId: wire.id, fuse: null } }]
        : [],
    };
  });
}
