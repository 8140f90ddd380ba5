import { groupBy } from "./group";
import { oncePer } from "./once";
import { sameBuild } from "./same-build";
import type { BuiltMachine, BuiltPart, Machine, Part, Wire } from "./schema";
import { stringVolts } from "./strings";
import { givesLogic, inputTerminals, isSource, regulates } from "./terminals";

/** What one source or converter output feeds: tag "A24" is letter by order, number by volts. */
export interface Rail {
  tag: string;
  /** Index by order, for the hue. */
  order: number;
  origin: string;
  volts: number;
}

/** A line of the ledger: a part, the wire that feeds it, the return paired with that wire, and the rail it hangs on. */
export interface LedgerRow<P extends BuiltPart = Part> {
  part: P;
  depth: number;
  feed: Wire | null;
  back: Wire | null;
  rail: Rail | null;
  parent: string | null;
}

/** The account of a machine from source to load. */
export interface Ledger<P extends BuiltPart = Part> {
  rows: LedgerRow<P>[];
  rails: Rail[];
  rowOf: ReadonlyMap<string, LedgerRow<P>>;
  /** Wires that are neither the feed of a row nor its paired return: bar links, second feeds. */
  others: Wire[];
}

/** Volts a source, converter or onboard regulator is set to; 0 for what gives none. */
export function setVolts(part: BuiltPart | undefined): number {
  if (!part) return 0;
  if (part.kind === "driver" || part.kind === "load") return part.onboard?.outputV.value ?? 0;
  if (part.kind === "pack") return part.openCircuitV.value;
  if (part.kind === "supply" || part.kind === "converter") return part.outputV.value;
  return 0;
}

/** Names builders call rails by; a pack of 26.4 V is a 24 V rail. */
const NOMINAL_V = [3.3, 5, 6, 7.4, 9, 12, 15, 18, 24, 36, 48];

/** The volts a rail goes by: a pack of 26.4 V is a 24 V rail. */
export function nominalOf(volts: number): number {
  const away = (nominal: number) => Math.abs(Math.log(volts / nominal));
  const nearest = NOMINAL_V.reduce((best, nominal) => (away(nominal) < away(best) ? nominal : best));
  return away(nearest) < 0.12 ? nearest : Math.round(volts);
}

function railTag(order: number, volts: number): string {
  return `${String.fromCharCode(65 + (order % 26))}${nominalOf(volts)}`;
}

/** The last document asked for: the next one mostly differs from it in a cell. */
let last: { machine: Machine; ledger: Ledger } | null = null;

/** The ledger of a document, built once however many ask. */
export const ledgerOf = oncePer((machine: Machine): Ledger => {
  const ledger = last && sameBuild(last.machine, machine) ? withParts(last.ledger, machine) : buildLedger(machine);
  last = { machine, ledger };
  return ledger;
});

/** The same ledger with other versions of its parts; rows whose part stays are the same rows. */
function withParts(ledger: Ledger, { parts }: Machine): Ledger {
  const now = new Map(parts.map((part) => [part.id, part]));
  const rows = ledger.rows.map((row) => {
    const part = now.get(row.part.id) ?? row.part;
    return part === row.part ? row : { ...row, part };
  });
  return { ...ledger, rows, rowOf: new Map(rows.map((row) => [row.part.id, row])) };
}

/** Builds the indented account from source to load. Parts nothing feeds come last, at depth 0, so that none is hidden. */
export function buildLedger<P extends BuiltPart>(machine: BuiltMachine & { parts: readonly P[] }): Ledger<P> {
  const rows: LedgerRow<P>[] = [];
  const rails: Rail[] = [];
  const rowOf = new Map<string, LedgerRow<P>>();
  const feeds = new Map<string, { feed: Wire | null; back: Wire | null }>();
  const children = new Map<string, P[]>();
  const used = new Set<string>();

  for (const { part, feed, back } of feedsOf(machine)) {
    feeds.set(part.id, { feed, back });
    const parent = feed ? feed.from.part : (back?.to.part ?? null);
    if (feed) used.add(feed.id);
    if (back) used.add(back.id);
    const siblings = parent === null ? undefined : children.get(parent);
    if (siblings) siblings.push(part);
    else if (parent !== null) children.set(parent, [part]);
  }

  const visit = (part: P, depth: number, rail: Rail | null, parent: string | null) => {
    if (rowOf.has(part.id)) return;
    const { feed, back } = feeds.get(part.id) ?? { feed: null, back: null };
    const startsRail = isSource(part) || part.kind === "converter";
    const isReturnBar = part.kind === "bar" && part.side === "negative";
    let inner = rail;
    if (startsRail) {
      const volts = part.kind === "pack" ? stringVolts(machine, part) : setVolts(part);
      inner = { tag: railTag(rails.length, volts), order: rails.length, origin: part.id, volts };
      rails.push(inner);
    }
    const hanging = children.get(part.id) ?? [];
    // What hangs on a board's own regulator is a rail of its own, once something hangs there.
    const onLogic = (child: P) => regulates(part) && givesLogic(feeds.get(child.id)?.feed?.from.terminal);
    let logic: Rail | null = null;
    if (hanging.some(onLogic)) {
      const volts = setVolts(part);
      logic = { tag: railTag(rails.length, volts), order: rails.length, origin: part.id, volts };
      rails.push(logic);
    }
    const row: LedgerRow<P> = { part, depth, feed, back, rail: isReturnBar ? null : isSource(part) ? inner : rail, parent };
    rows.push(row);
    rowOf.set(part.id, row);
    for (const child of hanging) visit(child, depth + 1, onLogic(child) ? logic : inner, part.id);
  };

  for (const part of machine.parts) if (isSource(part)) visit(part, 0, null, null);
  for (const part of machine.parts) {
    const fed = feeds.get(part.id);
    if (!rowOf.has(part.id) && !fed?.feed && !fed?.back) visit(part, 0, null, null);
  }
  for (const part of machine.parts) if (!rowOf.has(part.id)) visit(part, 0, null, null);

  return { rows, rails, rowOf, others: machine.wires.filter((wire) => !used.has(wire.id)) };
}

/**
 * The wires that feed each part: the first supply or phase wire into its supply input, and the return paired with it
 * (for a negative bar, its own way back).
 */
function feedsOf<P extends BuiltPart>(machine: {
  parts: readonly P[];
  wires: readonly Wire[];
}): { part: P; feed: Wire | null; back: Wire | null }[] {
  const into = new Map<string, Wire>();
  const outOf = groupBy(machine.wires, (wire) =>
    wire.role === "signal" || wire.role === "bond" ? undefined : `${wire.from.part} ${wire.from.terminal}`,
  );
  for (const wire of machine.wires) {
    const toKey = `${wire.to.part} ${wire.to.terminal}`;
    if ((wire.role === "supply" || wire.role === "phase") && !into.has(toKey)) into.set(toKey, wire);
  }
  return machine.parts.map((part) => {
    const input = inputTerminals(part);
    const feed = input.supply ? (into.get(`${part.id} ${input.supply}`) ?? null) : null;
    const backs = input.back ? (outOf.get(`${part.id} ${input.back}`) ?? []) : [];
    const back =
      backs.find((wire) => wire.pair !== undefined && wire.pair === feed?.id) ?? backs.find((wire) => wire.pair === undefined) ?? null;
    return { part, feed, back };
  });
}

/** The source or converter on whose rail a terminal's part hangs, or null. */
export function railOrigin(ledger: Ledger<BuiltPart>, partId: string): string | null {
  const row = ledger.rowOf.get(partId);
  if (!row) return null;
  if (isSource(row.part)) return row.part.id;
  return row.rail?.origin ?? null;
}
