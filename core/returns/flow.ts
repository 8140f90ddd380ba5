import type { ShownFigures } from "../figures/types";
import { groupBy } from "../machine/group";
import type { Machine, Part, Wire } from "../machine/schema";
import { groundTerminal, isChassis, isConsumer, isReturnBar, isSource } from "../machine/terminals";
import { type Ledger, ledgerOf } from "../machine/tree";
import { listens } from "./shared";
import type { ReturnsFigures } from "./summary";

/** A load on the axis of the picture: everything with a return of its own, a driver with its motors as one. */
export interface FlowLoad {
  id: string;
  name: string;
  /** A at its input in the mode drawn. */
  amps: number;
  atLeast: boolean;
  /** Its ground above the reference, V; null where no metal leads there. */
  offsetV: number | null;
  rail: number;
  /** Hub it is fed from; null: nothing feeds it. */
  from: string | null;
  /** Its own return and the part that lands on; null: none. */
  back: { wire: string; at: string } | null;
  board: boolean;
}

/** A place where bands meet: a source, a bar, a regulator. */
export interface FlowHub {
  id: string;
  name: string;
  kind: "source" | "bar" | "converter";
  /** The hub towards the source, and the amps between the two; null at a source. */
  up: { at: string; wire: string; amps: number } | null;
  rail: number;
  tag: string;
  /** Sources: volts at their terminals. */
  volts: number | null;
}

/** A conductor besides the tree: a signal's ground, a shield, a bond, a second link or return, a second feed. */
export interface FlowTie {
  wire: string;
  from: string;
  to: string;
  kind: "signal" | "bond" | "return" | "supply";
  amps: number;
  looped: boolean;
}

/** Metal that a board shares with motors, for the callouts. */
export interface FlowShare {
  wires: string[];
  boards: { id: string; name: string; liftNowV: number; worstV: number; mode: number }[];
  movers: string[];
}

/** What flows where in one mode, without any geometry. */
export interface Flow {
  mode: number;
  loads: FlowLoad[];
  supply: FlowHub[];
  returns: FlowHub[];
  frames: { id: string; name: string }[];
  ties: FlowTie[];
  shares: FlowShare[];
  /** Loads and regulators whose own amps come home through each return conductor. */
  through: Readonly<Record<string, readonly string[]>>;
  /** The same with everything behind those regulators: whose current it is in the end. */
  follows: Readonly<Record<string, readonly string[]>>;
}

/** Signed current of a wire in a mode, A. */
function ampsIn(analysis: Pick<ShownFigures, "wires">, wire: string, mode: number): number {
  return analysis.wires[wire]?.amps[mode] ?? 0;
}

/** Drivers are called by what they move where that is one thing. */
function nameOf(ledger: Ledger, part: Part): string {
  if (part.kind !== "driver") return part.name;
  const motors = ledger.rows.filter((row) => row.parent === part.id && row.feed?.role === "phase");
  return motors.length === 1 ? (motors[0]?.part.name ?? part.name) : part.name;
}

/** Reads a mode's flow off the figures: the tree from sources to loads, and the tree by which returns come home. */
export function flowOf(machine: Machine, analysis: Pick<ShownFigures, "wires" | "parts">, returns: ReturnsFigures, mode: number): Flow {
  const ledger = ledgerOf(machine);
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  const wiresFrom = groupBy(machine.wires, (wire) => (wire.role === "return" ? `${wire.from.part} ${wire.from.terminal}` : undefined));
  const ownReturn = (part: Part, terminal: string | null): Wire | undefined => wiresFrom.get(`${part.id} ${terminal}`)?.[0];
  const isLoad = (part: Part) =>
    isConsumer(part) && ledger.rowOf.get(part.id)?.feed?.role !== "phase" && !(part.kind === "converter" && feedsOthers(ledger, part));

  const supply: FlowHub[] = [];
  const hubAbove = (id: string): string | null => {
    let row = ledger.rowOf.get(ledger.rowOf.get(id)?.parent ?? "");
    while (row && (row.part.kind === "switch" || row.part.kind === "fuse")) row = ledger.rowOf.get(row.parent ?? "");
    return row?.part.id ?? null;
  };
  for (const { part, feed, rail } of ledger.rows) {
    const hub =
      isSource(part) || (part.kind === "bar" && part.side === "positive") || (part.kind === "converter" && feedsOthers(ledger, part));
    if (!hub) continue;
    const above = isSource(part) ? null : hubAbove(part.id);
    const own = ledger.rails.find(({ origin }) => origin === part.id) ?? rail;
    supply.push({
      id: part.id,
      name: part.name,
      kind: isSource(part) ? "source" : part.kind === "bar" ? "bar" : "converter",
      up: above && feed ? { at: above, wire: feed.id, amps: Math.abs(ampsIn(analysis, feed.id, mode)) } : null,
      rail: own?.order ?? 0,
      tag: own?.tag ?? "",
      volts: isSource(part) && analysis.parts[part.id]?.live[mode] ? (analysis.parts[part.id]?.volts[mode] ?? null) : null,
    });
  }

  const loads = ledger.rows.flatMap(({ part, rail }): FlowLoad[] => {
    if (!isLoad(part)) return [];
    const back = ownReturn(part, groundTerminal(part));
    const figure = analysis.parts[part.id];
    const above = hubAbove(part.id);
    return [
      {
        id: part.id,
        name: nameOf(ledger, part),
        amps: figure?.amps[mode] ?? 0,
        atLeast: figure?.atLeast[mode] === 1,
        offsetV: returns.offsets[part.id]?.volts[mode] ?? null,
        rail: rail?.order ?? 0,
        from: above,
        back: back ? { wire: back.id, at: back.to.part } : null,
        board: listens(part),
      },
    ];
  });

  const returnHubs: FlowHub[] = [];
  for (const part of machine.parts) {
    const converts = part.kind === "converter" && feedsOthers(ledger, part);
    if (!isSource(part) && !isReturnBar(part) && !converts) continue;
    const back = isSource(part) ? undefined : ownReturn(part, groundTerminal(part));
    const rail = ledger.rails.find(({ origin }) => origin === part.id);
    returnHubs.push({
      id: part.id,
      name: part.name,
      kind: isSource(part) ? "source" : part.kind === "bar" ? "bar" : "converter",
      up: back ? { at: back.to.part, wire: back.id, amps: Math.abs(ampsIn(analysis, back.id, mode)) } : null,
      rail: rail?.order ?? 0,
      tag: rail?.tag ?? "",
      volts: null,
    });
  }

  const drawn = new Set([...returnHubs, ...supply].flatMap(({ up }) => (up ? [up.wire] : [])));
  for (const { back } of loads) if (back) drawn.add(back.wire);
  const looped = new Set(returns.grounds.filter((ground) => ground.looped).map(({ wire }) => wire));
  const placed = new Set([...loads, ...supply, ...returnHubs].map(({ id }) => id));
  for (const part of machine.parts) if (isChassis(part)) placed.add(part.id);
  const ties = machine.wires.flatMap((wire): FlowTie[] => {
    if (drawn.has(wire.id) || !placed.has(wire.from.part) || !placed.has(wire.to.part)) return [];
    const extraFeed = wire.role === "supply" && isSource(partOf.get(wire.from.part) as Part) && partOf.get(wire.to.part)?.kind === "bar";
    if (wire.role === "phase" || (wire.role === "supply" && !extraFeed)) return [];
    return [
      {
        wire: wire.id,
        from: wire.from.part,
        to: wire.to.part,
        kind: wire.role,
        amps: ampsIn(analysis, wire.id, mode),
        looped: looped.has(wire.id),
      },
    ];
  });
  return {
    mode,
    loads,
    supply,
    returns: returnHubs,
    frames: machine.parts.filter(isChassis).map(({ id, name }) => ({ id, name })),
    ties,
    shares: sharesOf(partOf, loads, returns, mode),
    through: returns.through,
    follows: Object.fromEntries(
      Object.entries(returns.through).map(([wire, ids]) => [wire, [...new Set(ids.flatMap((id) => [id, ...behind(supply, loads, id)]))]]),
    ),
  };
}

/** Loads behind a hub, through any number of others. */
export function behind(supply: readonly FlowHub[], loads: readonly FlowLoad[], hub: string): string[] {
  return [
    ...loads.filter(({ from }) => from === hub).map(({ id }) => id),
    ...supply.filter(({ up }) => up?.at === hub).flatMap(({ id }) => behind(supply, loads, id)),
  ];
}

function feedsOthers(ledger: Ledger, part: Part): boolean {
  return ledger.rows.some((row) => row.parent === part.id);
}

/** Boards that share the same conductors with motors, as one callout, the worst first. */
function sharesOf(partOf: ReadonlyMap<string, Part>, loads: readonly FlowLoad[], returns: ReturnsFigures, mode: number): FlowShare[] {
  const named = (id: string) => loads.find((load) => load.id === id)?.name ?? partOf.get(id)?.name ?? "?";
  const groups = new Map<string, FlowShare>();
  for (const { board, wires, movers, liftV, mode: worst } of returns.shared) {
    const key = wires.join(" ");
    const group = groups.get(key) ?? { wires, boards: [], movers: movers.map(named) };
    group.boards.push({ id: board, name: named(board), liftNowV: liftV[mode] ?? 0, worstV: liftV[worst] ?? 0, mode: worst });
    groups.set(key, group);
  }
  const most = ({ boards }: FlowShare) => Math.max(...boards.map(({ worstV }) => worstV));
  return [...groups.values()].sort((a, b) => most(b) - most(a));
}
