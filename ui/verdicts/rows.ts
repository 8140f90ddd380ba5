import type { Machine, Wire } from "@/core/machine/schema";
import { isFeed } from "@/core/machine/terminals";
import type { Cause } from "@/core/verdicts/causes";
import { membersOf } from "@/core/verdicts/causes";
import type { Severity, Verdict } from "@/core/verdicts/types";

/** The part whose row shows a wire: a feed at the part it feeds, a return at the part it comes from. */
function rowOfWire(wire: Wire): string {
  return isFeed(wire) ? wire.to.part : wire.from.part;
}

/** Rows a verdict speaks of: its subject's first, then those of everything it also names. */
export function rowsOf(verdict: Verdict, rows: ReadonlyMap<string, string>): string[] {
  return [verdict.subject.id, ...(verdict.also ?? [])].flatMap((id) => rows.get(id) ?? []);
}

/** The part whose row shows each part and wire, by id. */
export function rowIndex(machine: Machine): ReadonlyMap<string, string> {
  return new Map([
    ...machine.parts.map(({ id }): [string, string] => [id, id]),
    ...machine.wires.map((wire): [string, string] => [wire.id, rowOfWire(wire)]),
  ]);
}

/** What is looked for among verdicts. */
export interface Wanted {
  /** The step whose verdicts are shown; null: all. */
  step: string | null;
  severities: ReadonlySet<Severity>;
  text: string;
}

/** Whether a cause, or anything that is said of it, is what is looked for. */
export function isWanted(cause: Cause, { step, severities, text }: Wanted): boolean {
  const members = membersOf(cause);
  if (step !== null && !members.some((verdict) => verdict.step === step)) return false;
  if (severities.size > 0 && !members.some(({ severity }) => severities.has(severity))) return false;
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return true;
  const said = [cause.headline, ...members.flatMap(({ headline, detail }) => [headline, detail])].join(" ").toLowerCase();
  return words.every((word) => said.includes(word));
}
