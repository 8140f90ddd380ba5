import type { BuiltMachine, BuiltPart, Machine, Wire, WireEnd } from "../machine/schema";
import { type Ledger, railOrigin } from "../machine/tree";
import { connectorById } from "../reference/connectors";
import { isKeyed } from "./contact";
import { endsOf } from "./ends";

/** A plug somewhere in the machine: which wire, which end, and the rail it is on (null: a motor's lead). */
export interface Plug {
  wire: string;
  end: "from" | "to";
  family: string;
  coding: string | null;
  /** Source or converter whose rail it carries, or null. */
  rail: string | null;
  /** Carries a motor's current behind a driver, not a rail. */
  phase: boolean;
}

/** Every plug of the machine once a feed: the return of a pair sits in the same housing. */
export function plugsOf(machine: BuiltMachine, ledger: Ledger<BuiltPart>): Plug[] {
  const plugs: Plug[] = [];
  const add = (wire: Wire, end: "from" | "to", at: WireEnd | undefined) => {
    if (!at || connectorById(at.family)?.sort !== "plug") return;
    const source = wire.role === "return" ? wire.to.part : wire.from.part;
    const part = machine.parts.find(({ id }) => id === source);
    const rail = part?.kind === "converter" ? part.id : railOrigin(ledger, source);
    plugs.push({ wire: wire.id, end, family: at.family, coding: at.coding ?? null, rail, phase: wire.role === "phase" });
  };
  for (const wire of machine.wires) {
    // A signal's contacts carry no rail.
    if (wire.pair !== undefined || wire.role === "signal" || wire.role === "bond") continue;
    add(wire, "from", wire.fromEnd);
    add(wire, "to", wire.toEnd);
  }
  return plugs;
}

/** Plugs that go into one another and should not. */
export interface Mates {
  family: string;
  /** Plugs that go into one another although they carry different rails, or a rail and a motor's lead. */
  plugs: Plug[];
  rails: (string | null)[];
}

/** Groups of plugs of one family and coding that carry more than one voltage: each can be put into another's place. */
export function crossMates(machine: BuiltMachine, ledger: Ledger<BuiltPart>): Mates[] {
  const groups = new Map<string, Plug[]>();
  for (const plug of plugsOf(machine, ledger)) {
    const row = connectorById(plug.family);
    // A coding only helps where the family really keys by it.
    const key = `${plug.family} ${row && isKeyed(row) ? (plug.coding ?? "") : ""}`;
    groups.set(key, [...(groups.get(key) ?? []), plug]);
  }
  const found: Mates[] = [];
  for (const plugs of groups.values()) {
    const rails = [...new Set(plugs.map(({ rail, phase }) => (phase ? null : rail)))];
    if (rails.length > 1) found.push({ family: plugs[0]?.family ?? "", plugs, rails });
  }
  return found;
}

/** Length below which a lead with two kinds of plug is nothing but an adapter, m (common practice, no source). */
const ADAPTER_M = 0.3;

/** Leads short enough to be nothing but an adapter, with two kinds of plug. */
export function adaptersOf(machine: Machine): Wire[] {
  return machine.wires.filter((wire) => {
    const kinds = endsOf(wire).filter(({ row }) => row.sort === "plug");
    const [a, b] = kinds;
    return wire.pair === undefined && a && b && a.row !== b.row && (wire.lengthM?.value ?? ADAPTER_M) < ADAPTER_M;
  });
}
