import { givesLogic, regulates, terminalsOf } from "../machine/terminals";
import { nodeAt } from "../network/circuit";
import type { Figures } from "./figures";

/** One line of an account. */
export interface AccountLine {
  /** The wire, or the source itself. */
  id: string;
  /** The part at the other end. */
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
  for (const terminal of terminalsOf(part)) nodes.set(nodeAt(circuit, part.id, terminal), terminal);
  const isReturnBar = part.kind === "bar" && part.side === "negative";
  const minus = (terminal: string) => terminal === "-" || terminal === "in-" || terminal === "out-";

  const arrives: AccountLine[] = [];
  const leaves: AccountLine[] = [];
  const returns: AccountLine[] = [];
  figures.machine.wires.forEach((wire, i) => {
    const amps = point?.branchA[i] ?? 0;
    const ends = [
      { end: wire.to, other: wire.from, sign: 1 },
      { end: wire.from, other: wire.to, sign: -1 },
    ];
    for (const { end, other, sign } of ends) {
      if (end.part !== partId) continue;
      const flow = sign * amps;
      const label = figures.partOf.get(other.part)?.name ?? "?";
      const bridgeBack = part.kind === "driver" && /^\db$/.test(end.terminal);
      // Logic output and input are accounts of their own; a board without a regulator passes its supply through.
      const logic = givesLogic(end.terminal) && (part.kind === "driver" || regulates(part));
      const ownOutput = logic || (part.kind === "converter" && end.terminal === "out+");
      if (bridgeBack || ownOutput) continue;
      if (minus(end.terminal) && !isReturnBar) returns.push({ id: wire.id, label, amps: -flow });
      else if (flow >= 0) arrives.push({ id: wire.id, label, amps: flow });
      else leaves.push({ id: wire.id, label, amps: -flow });
    }
  });
  const sum = (lines: readonly AccountLine[]) => lines.reduce((total, line) => total + line.amps, 0);
  let own = 0;
  if (part.kind === "load" || part.kind === "converter") own = figure.amps[mode] ?? 0;
  if (part.kind === "driver") {
    const converter = circuit.converters.findIndex(({ id }) => id === part.id);
    own = converter < 0 ? 0 : (point?.converterA[converter] ?? 0);
    circuit.loads.forEach((load, i) => {
      const amps = point?.loadA[i] ?? 0;
      if (load.role === "own" && load.id === part.id) own += amps;
      const feed = load.role === "loop" ? circuit.feeds.get(load.id) : undefined;
      if (feed?.driver.id !== part.id || amps === 0) return;
      const line = { id: load.id, label: "circulating in the motor loop", amps: Math.abs(amps) };
      // A rail too low to drive the limit it is set to asks more of the bus than of the motor.
      (amps < 0 ? arrives : leaves).push(line);
    });
  }
  if (part.kind === "pack" || part.kind === "supply") {
    const given = figure.amps[mode] ?? 0;
    arrives.push({ id: part.id, label: part.kind === "pack" ? "its cells" : "the supply", amps: given });
  }
  return { arrives, leaves, own, balance: sum(arrives) - sum(leaves) - own, returns };
}
