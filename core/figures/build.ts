import { phaseCurrent } from "../loads/phases";
import { groupBy } from "../machine/group";
import { oncePer } from "../machine/once";
import type { BuiltMachine, BuiltPart, Machine, Wire } from "../machine/schema";
import { buildLedger, type Ledger } from "../machine/tree";
import { builtInOhm, fuseOhm, type Skeleton, type Wired } from "../network/circuit";
import { metalOf } from "../network/metal";
import type { AtRest } from "../network/rest";
import type { Topology } from "../network/topology";
import { type Ampacity, ampacityOf } from "../wires/ampacity";
import { type Exposure, exposuresOf } from "./exposure";
import { type PartPlan, planParts } from "./part-plan";
import type { Wiring } from "./types";

/** What is known of a wire whatever it carries. */
export interface WireStatics {
  id: string;
  runOhm: number;
  fuseOhm: number;
  limitA: number | null;
  ampacity: Ampacity | null;
  exposure: Exposure | null;
  /** A lead between a driver and a stepper carries what its phase is set to while it is on, A r.m.s.; 0 for any other wire. */
  phaseA: number;
}

/** What is known of a part whatever it draws. */
export interface PartStatics {
  id: string;
  wiring: Wiring;
  /** Highest volts with every pack full and nothing running; null where nothing reaches it or a pack's full voltage is missing. */
  highestV: number | null;
  /** The same with what is known: what a pack without a full voltage shows as planned counts. Null where nothing reaches it. */
  reachesV: number | null;
}

/**
 * A machine's build: what is known of it before anybody says what its loads do. How it is wired, what its wires may carry,
 * what protects them. All versions of a machine that differ in cells alone share one, and cells are what a builder edits most.
 * Its machine has no cells, in its type either, so that nothing that is kept with it can hang on one. Figures are a build too,
 * and know the one they share as `build`.
 */
export interface Build {
  machine: BuiltMachine;
  ledger: Ledger<BuiltPart>;
  /** The network, and its topology with every switch closed. */
  solved: { circuit: Wired; wiring: Topology };
  /** The machine with every pack full and nothing running, in every state of its contacts. */
  rest: AtRest;
  wires: Readonly<Record<string, WireStatics>>;
  parts: Readonly<Record<string, PartStatics>>;
  partOf: ReadonlyMap<string, BuiltPart>;
  wireOf: ReadonlyMap<string, Wire>;
  /** Conductors that return for a supply wire, by its id. */
  returnsOf: ReadonlyMap<string, readonly Wire[]>;
  /** Wires by what limits a fault on them: "wire w3", "part main-fuse", "source buck-5". */
  guardedBy: ReadonlyMap<string, readonly Wire[]>;
  /** Where each part's figures are read. */
  plans: readonly PartPlan[];
  build: Build;
}

function withoutCells(machine: Machine): BuiltMachine {
  return {
    ...machine,
    parts: machine.parts.map((part): BuiltPart => {
      if (part.kind !== "load") return part;
      const { cells: _, ...built } = part;
      return built;
    }),
  };
}

/** Leads of steppers on a driver's channel, with the phase current of all their pieces. */
function phaseLeads({ feeds }: Wired, partOf: ReadonlyMap<string, BuiltPart>): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  for (const [id, { out, back }] of feeds) {
    const load = partOf.get(id);
    const phase = load?.kind === "load" ? phaseCurrent(load) : null;
    if (load?.kind !== "load" || !phase) continue;
    for (const wire of back ? [out, back] : [out]) found.set(wire.id, phase.rmsA * load.count);
  }
  return found;
}

/** @param wiring topology of the machine's circuit with every switch closed */
export function buildOf(full: Machine, skeleton: Skeleton, wiring: Topology, rest: AtRest): Build {
  const machine = withoutCells(full);
  const circuit: Wired = { ...skeleton, machine };
  const ledger = buildLedger(machine);
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  const exposures = exposuresOf(circuit);
  const wires: Record<string, WireStatics> = {};
  const phases = phaseLeads(circuit, partOf);
  machine.wires.forEach((wire, i) => {
    const inline = wire.fuse ? fuseOhm(wire.fuse) : 0;
    const ampacity = ampacityOf(wire, machine.settings);
    wires[wire.id] = {
      id: wire.id,
      runOhm: (circuit.branches[i]?.ohm ?? 0) - inline - builtInOhm(wire),
      fuseOhm: inline,
      limitA: ampacity?.limitA ?? null,
      ampacity,
      exposure: exposures[i] ?? null,
      phaseA: phases.get(wire.id) ?? 0,
    };
  });
  const plans = planParts(circuit, wiring, rest, ledger, partOf);
  const build = {
    machine,
    ledger,
    solved: { circuit, wiring },
    wires,
    rest,
    parts: Object.fromEntries(
      plans.map(({ id, wiring, reach }) => [
        id,
        { id, wiring, highestV: reach?.known ? reach.volts : null, reachesV: reach?.volts ?? null },
      ]),
    ),
    partOf,
    wireOf: new Map(machine.wires.map((wire) => [wire.id, wire])),
    returnsOf: groupBy(machine.wires, (wire) => wire.pair),
    guardedBy: groupBy(machine.wires, (wire) => {
      const by = wires[wire.id]?.exposure?.by;
      return by ? `${by.kind} ${by.id}` : undefined;
    }),
    plans,
  };
  return Object.defineProperty(build, "build", { get: () => build }) as typeof build & { build: Build };
}

/** Sees an answer that is given again, and the same made anew. */
type Audit = (kept: unknown, again: unknown) => void;

let audit: Audit | null = null;

/**
 * For tests: while `run` runs, whatever is kept is frozen, and each time it is given again it is made anew and both are shown
 * to `check`. A kept answer that an edit should have changed, or that somebody writes to, does not go unseen then.
 */
export function auditKept<T>(check: Audit, run: () => T): T {
  audit = check;
  try {
    return run();
  } finally {
    audit = null;
  }
}

function deepFreeze(value: unknown): void {
  if (typeof value !== "object" || value === null || Object.isFrozen(value) || ArrayBuffer.isView(value)) return;
  Object.freeze(value);
  for (const each of Object.values(value)) deepFreeze(each);
}

function firstTime<T>(made: T): T {
  if (audit) deepFreeze(made);
  return made;
}

function again<T>(check: Audit, kept: T, make: () => T): T {
  // What is made anew may ask for other kept answers: each is looked at where it is asked for itself.
  audit = null;
  try {
    check(kept, make());
  } finally {
    audit = check;
  }
  return kept;
}

/**
 * What is kept with a build, by what makes it: it goes when the build goes. One weak reference a build, not one an answer:
 * each costs the collector a visit.
 */
const keptWith = oncePer((_: Build) => new Map<unknown, { made: unknown }>());

function keep<T>(build: Build, by: unknown, make: () => T): T {
  const all = keptWith(build);
  const before = all.get(by);
  // What a maker is the key of is what it made.
  if (before) return before.made as T;
  const made = make();
  all.set(by, { made });
  return made;
}

/** A reading of a build, made once for all versions of a machine that differ in cells alone. */
export function perBuild<T>(make: (build: Build) => T): (figures: Build) => T {
  const kept = (build: Build) => keep(build, make, () => firstTime(make(build)));
  return ({ build }) => (audit ? again(audit, kept(build), () => make(build)) : kept(build));
}

/**
 * What is made of a build and a few readings of one part, wire or link: made again only when a reading is another one.
 * `make` sees nothing of the figures but those, so that it cannot hang on anything else. Numbers are readings, and so are a
 * load and an operating point: modes that an edit left alone keep theirs.
 */
export function perBuildFrom<R extends readonly unknown[], T>(
  make: (build: Build, id: string, ...readings: R) => T,
): (figures: Build, id: string, ...readings: R) => T {
  type Known = Map<string, { readings: R; made: T }>;
  return ({ build }, id, ...readings) => {
    const known = keep(build, make, (): Known => new Map());
    const before = known.get(id);
    if (before?.readings.every((each, i) => each === readings[i]))
      return audit ? again(audit, before.made, () => make(build, id, ...readings)) : before.made;
    const made = firstTime(make(build, id, ...readings));
    known.set(id, { readings, made });
    return made;
  };
}

/** The same without readings: of one part, wire or link at a time, by its id. */
export function perBuildOf<T>(make: (build: Build, id: string) => T): (figures: Build, id: string) => T {
  return perBuildFrom<[], T>(make);
}

/** Place of each wire among the branches of the network, by id. */
export const branchOf = perBuild(
  (build): ReadonlyMap<string, number> => new Map(build.machine.wires.map(({ id }, branch) => [id, branch])),
);

/** Pieces of plain metal with every switch closed: nodes with the same answer are one piece. */
export const closedMetal = perBuild(({ solved: { circuit } }) => metalOf(circuit.nodeCount, circuit.branches));
