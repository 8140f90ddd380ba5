import type { Build } from "../../figures/build";
import { names, partName } from "../../figures/names";
import type { BuiltPart } from "../../machine/schema";
import { groundOf } from "../../returns/ground";
import { returning } from "../../returns/shared";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "switched-return",
  title: "A fuse or contact in the minus of a part with signals",
  step: "returns",
  needs: "The switch in the plus instead of in the minus.",
});

/** What can open the minus while the plus stays: the board's ground then floats up, and its current leaves through its signals. */
export const switchedReturn = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const { machine, solved } = figures;
  const talking = new Set((machine.signals ?? []).flatMap(({ from, to }) => [from, to]));
  const ground = groundOf(figures);
  const cut = new Map<number, BuiltPart[]>();
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
    return speak({
      subject: { kind: wire ? "wire" : "part", id: element?.id ?? "" },
      about: element?.id ?? String(branch),
      severity: "fix",
      also: parts.map((part) => part.id),
      headline: `${what} in the minus of ${names(parts.map(({ name }) => name))}`,
      detail:
        "When it opens the plus stays on: the board's ground floats up to it and the current leaves through its signal wires. Open the plus instead.",
      remedies: wire
        ? [{ label: "Take the fuse out of the return", command: { type: "setFuse" as const, wireId: wire.id, fuse: null } }]
        : [],
    });
  });
}
