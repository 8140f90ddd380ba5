import { type OpenBench, openBench } from "@/core/engine/bench";
import { readMachineText } from "@/core/machine/read";
import type { Job } from "./jobs";

/** Benches that are kept, the newest. */
const KEPT = 12;
const open = new Map<string, { document: string; bench: OpenBench }>();

/** Says lines to the bench of a session; it is set up with its first. Another document builds the machine anew. */
export function askBench({ session, document, seed, drill, lines }: Job & { kind: "bench" }): (string | null)[] | null {
  const known = open.get(session);
  let bench = known?.document === document ? known.bench : null;
  if (!bench) {
    const read = readMachineText(document);
    if (!read.ok) return null;
    try {
      bench = openBench(read.machine, seed, drill);
    } catch {
      return null;
    }
    open.delete(session);
    open.set(session, { document, bench });
    for (const old of [...open.keys()].slice(0, -KEPT)) open.delete(old);
  }
  const { session: speaks } = bench;
  return lines.map((line) => speaks.ask(line));
}

/** What was hidden in a session's machine, in words; null: nothing, or no such session. */
export function revealed(session: string): { id: string; words: string; size: string } | null {
  const hidden = open.get(session)?.bench.hidden;
  return hidden ? { id: hidden.fault.id, words: hidden.fault.words, size: hidden.fault.sizeWords(hidden.size) } : null;
}
