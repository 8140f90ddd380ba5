import { groupBy } from "../machine/group";
import type { Machine, Part, Wire } from "../machine/schema";
import { type Ledger, ledgerOf } from "../machine/tree";
import { fuseOhm, type Skeleton, type Wired } from "../network/circuit";
import type { Topology } from "../network/topology";
import { type Ampacity, ampacityOf } from "../wires/ampacity";
import { type Exposure, returnExposure, supplyExposure } from "./exposure";
import { type PartPlan, planParts } from "./part-plan";
import type { Wiring } from "./types";

/** What is known of a wire whatever it carries. */
export interface StandingWire {
  id: string;
  runOhm: number;
  fuseOhm: number;
  limitA: number | null;
  ampacity: Ampacity | null;
  exposure: Exposure | null;
}

/** What is known of a part whatever it draws. */
export interface StandingPart {
  id: string;
  wiring: Wiring;
  highestV: number | null;
}

/**
 * What is known of a machine before anybody says what its loads do: how it is wired, what its wires may carry, what protects
 * them. It stands while only cells are edited, which is what a builder does most. Its machine has no cells, so that nothing
 * that is kept with it can hang on one. Figures are a standing too, and know theirs as `still`.
 */
export interface Standing {
  machine: Machine;
  ledger: Ledger;
  /** The network, and its topology with every switch closed. */
  solved: { circuit: Wired; wiring: Topology };
  wires: Readonly<Record<string, StandingWire>>;
  parts: Readonly<Record<string, StandingPart>>;
  partOf: ReadonlyMap<string, Part>;
  wireOf: ReadonlyMap<string, Wire>;
  /** Conductors that return for a supply wire, by its id. */
  returnsOf: ReadonlyMap<string, readonly Wire[]>;
  /** Wires by what limits a fault on them: "wire w3", "part main-fuse", "source buck-5". */
  guardedBy: ReadonlyMap<string, readonly Wire[]>;
  still: Still;
}

/** The one standing that all versions of a machine share which differ in cells alone. */
export interface Still extends Standing {
  plans: readonly PartPlan[];
}

function withoutCells(machine: Machine): Machine {
  return { ...machine, parts: machine.parts.map((part) => (part.kind === "load" ? { ...part, cells: {} } : part)) };
}

/** @param wiring topology of the machine's circuit with every switch closed */
export function standingOf(full: Machine, skeleton: Skeleton, wiring: Topology): Still {
  const machine = withoutCells(full);
  const circuit: Wired = { ...skeleton, machine };
  const ledger = ledgerOf(machine);
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  const supply = supplyExposure(circuit);
  const back = returnExposure(circuit, supply);
  const wires: Record<string, StandingWire> = {};
  machine.wires.forEach((wire, i) => {
    const inline = wire.fuse ? fuseOhm(wire.fuse) : 0;
    const ampacity = ampacityOf(wire, machine.settings);
    wires[wire.id] = {
      id: wire.id,
      runOhm: (circuit.branches[i]?.ohm ?? 0) - inline - (wire.resistorOhm?.value ?? 0),
      fuseOhm: inline,
      limitA: ampacity?.limitA ?? null,
      ampacity,
      exposure: supply[i] ?? back[i] ?? null,
    };
  });
  const plans = planParts(circuit, wiring, ledger, partOf);
  const still = {
    machine,
    ledger,
    solved: { circuit, wiring },
    wires,
    parts: Object.fromEntries(plans.map(({ id, wiring, highestV }) => [id, { id, wiring, highestV }])),
    partOf,
    wireOf: new Map(machine.wires.map((wire) => [wire.id, wire])),
    returnsOf: groupBy(machine.wires, (wire) => wire.pair),
    guardedBy: groupBy(machine.wires, (wire) => {
      const by = wires[wire.id]?.exposure?.by;
      return by ? `${by.kind} ${by.id}` : undefined;
    }),
    plans,
  };
  return Object.defineProperty(still, "still", { get: () => still }) as typeof still & { still: Still };
}

/** A reading of a standing, made once for all versions of a machine that differ in cells alone. */
export function steady<T>(make: (still: Still) => T): (figures: Standing) => T {
  const known = new WeakMap<Still, { made: T }>();
  return ({ still }) => {
    const before = known.get(still);
    if (before) return before.made;
    const made = make(still);
    known.set(still, { made });
    return made;
  };
}

/**
 * What is made of a standing and a few readings of one part, wire or link: made again only when a reading is another one.
 * `make` sees nothing of the figures but those, so that it cannot hang on anything else. Numbers are readings, and so are a
 * load and an operating point: modes that an edit left alone keep theirs.
 */
export function steadyFrom<R extends readonly unknown[], T>(
  make: (still: Still, id: string, ...readings: R) => T,
): (figures: Standing, id: string, ...readings: R) => T {
  const all = steady(() => new Map<string, { readings: R; made: T }>());
  return (figures, id, ...readings) => {
    const known = all(figures);
    const before = known.get(id);
    if (before?.readings.every((each, i) => each === readings[i])) return before.made;
    const made = make(figures.still, id, ...readings);
    known.set(id, { readings, made });
    return made;
  };
}

/** The same without readings: of one part, wire or link at a time, by its id. */
export function steadyOf<T>(make: (still: Still, id: string) => T): (figures: Standing, id: string) => T {
  return steadyFrom<[], T>(make);
}

/** Place of each wire among the branches of the network, by id. */
export const branchOf = steady((still): ReadonlyMap<string, number> => new Map(still.machine.wires.map(({ id }, branch) => [id, branch])));
