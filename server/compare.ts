import { analyseFully } from "@/core/analysis/analyse";
import { type Differences, differences } from "@/core/exchange/compare";
import type { Machine } from "@/core/machine/schema";
import { wishedRun } from "@/core/sources/end";
import type { Db } from "./database";
import { getMachine, orUnreadable, UnreadableMachine } from "./machines";

export interface Compared {
  readonly a: { readonly id: string; readonly name: string };
  readonly b: { readonly id: string; readonly name: string };
  readonly differences: Differences;
}

/** Two stored machines side by side, or null when one of them is gone or cannot be read. */
export function compareStored(db: Db, aId: string, bId: string): Compared | null {
  const [a, b] = [aId, bId].map((id) => orUnreadable(() => getMachine(db, id)));
  if (!a || !b || a instanceof UnreadableMachine || b instanceof UnreadableMachine) return null;
  const read = (machine: Machine) => {
    const full = analyseFully(machine);
    const run = wishedRun(full.late.times)?.run;
    return { machine, full, run: run && run.end.cause !== "endless" ? { value: run.end.seconds, bound: run.atMost } : null };
  };
  return {
    a: { id: a.id, name: a.document.name },
    b: { id: b.id, name: b.document.name },
    differences: differences(read(a.document), read(b.document)),
  };
}
