import { terminalsOf } from "../machine/terminals";
import { wireName } from "../verdicts/helpers";
import type { Figures } from "./figures";

export interface AccountLine {
  label: string;
  amps: number;
}

/** What arrives at a part, what leaves it, what it uses itself, and what is left over: nothing, or the account is wrong. */
export interface Account {
  arrives: AccountLine[];
  leaves: AccountLine[];
  own: number;
  balance: number;
  returns: AccountLine[];
}

/**
 * The account of a part in a mode: supply-side wires in and out, own use, and the conductors its current goes home by.
 * For a converter own use is the input's share: input and output are two accounts tied by power, so its outputs are not summed.
 */
export function accountOf(figures: Figures, partId: string, mode: number): Account | null {
  const part = figures.partOf.get(partId);
  const figure = figures.parts[partId];
  if (!part || !figure) return null;
  const point = figures.solved.planned[mode];
  const { circuit } = figures.solved;
  const nodes = new Map<number, string>();
  for (const terminal of terminalsOf(part)) nodes.set(circuit.nodeOf.get(`${part.id}.${terminal}`) ?? -1, terminal);
  const isReturnBar = part.kind === "bar" && part.side === "negative";
  const minus = (terminal: string) => terminal === "-" || terminal === "in-" || terminal === "out-";

  const arrives: AccountLine[] = [];
  const leaves: AccountLine[] = [];
  const returns: AccountLine[] = [];
  figures.machine.wires.forEach((wire, i) => {
    const amps = point?.branchA[i] ?? 0;
    for (const [end, sign] of [
      [wire.to, 1],
      [wire.from, -1],
    ] as const) {
      if (end.part !== partId) continue;
      const flow = sign * amps;
      const label = wireName(figures, wire);
      const bridgeBack = part.kind === "driver" && /^\db$/.test(end.terminal);
      if ((minus(end.terminal) || bridgeBack) && !isReturnBar) {
        if (!bridgeBack) returns.push({ label, amps: -flow });
      } else if (part.kind === "converter" && end.terminal === "out+") continue;
      else if (flow >= 0) arrives.push({ label, amps: flow });
      else leaves.push({ label, amps: -flow });
    }
  });
  const sum = (lines: readonly AccountLine[]) => lines.reduce((total, line) => total + line.amps, 0);
  let own = 0;
  if (part.kind === "load" || part.kind === "converter") own = figure.amps[mode] ?? 0;
  if (part.kind === "driver") own = point?.loadA[circuit.loads.findIndex((load) => load.id === part.id)] ?? 0;
  if (part.kind === "pack" || part.kind === "supply") {
    const given = figure.amps[mode] ?? 0;
    arrives.push({ label: "given by its cells or converter", amps: given });
  }
  return { arrives, leaves, own, balance: sum(arrives) - sum(leaves) - own, returns };
}
