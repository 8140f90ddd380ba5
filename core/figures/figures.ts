import { missionOf } from "../loads/mission";
import type { Machine, Part } from "../machine/schema";
import { type Ledger, ledgerOf } from "../machine/tree";
import type { OperatingPoint } from "../network/point";
import { Rows } from "../network/rows";
import type { Build, WireStatics } from "./build";
import { partFigures } from "./part-figures";
import type { Solved } from "./solved";
import type { JudgedWire, ModeFigures, PartFigures } from "./types";
import { wireFigures } from "./wire-figures";
import { anyCollapse } from "./worst";

/** Figures of the whole machine before any rule has looked at them. */
export interface Figures extends Build {
  machine: Machine;
  ledger: Ledger;
  partOf: ReadonlyMap<string, Part>;
  solved: Solved;
  modes: ModeFigures[];
  wires: Record<string, JudgedWire>;
  parts: Record<string, PartFigures>;
}

/** Power delivered by packs and supplies, less everything consumed and lost, W. Nil but for rounding. */
export function powerBalance(solved: Solved, mode: number): number {
  const { circuit } = solved;
  const point = solved.planned[mode] as OperatingPoint;
  if (point.status !== "solved") return 0;
  const across = (a: number, b: number) => (point.nodeV[a] as number) - (point.nodeV[b] as number);
  let balance = 0;
  circuit.emfs.forEach((emf, i) => {
    const amps = point.emfA[i] as number;
    balance += across(emf.pos, emf.neg) * amps;
  });
  circuit.branches.forEach((branch, i) => {
    balance -= (point.branchA[i] as number) ** 2 * branch.ohm;
  });
  circuit.loads.forEach((load, i) => {
    balance -= across(load.pos, load.neg) * (point.loadA[i] as number);
  });
  circuit.converters.forEach((converter, i) => {
    balance -= across(converter.inPos, converter.inNeg) * (point.converterA[i] as number);
  });
  return balance;
}

/** Reads every figure the screens and rules need off the solved network. */
export function computeFigures(solved: Solved): Figures {
  const { machine, circuit, planned, low, unknown, build } = solved;
  const collapse = anyCollapse(solved);
  const scratch = new Float64Array(machine.modes.length);
  const rows = new Rows(machine.modes.length);

  const plan = missionOf(machine);

  const wires: Record<string, JudgedWire> = {};
  machine.wires.forEach((wire, i) => {
    wires[wire.id] = wireFigures(solved, plan, scratch, rows, wire, i, build.wires[wire.id] as WireStatics, collapse);
  });
  const parts: Record<string, PartFigures> = {};
  for (const plan of build.plans) parts[plan.id] = partFigures(solved, scratch, rows, plan, collapse);

  const modes = machine.modes.map((mode, m): ModeFigures => {
    let sourceA = 0;
    let lowA = 0;
    let atLeast = false;
    circuit.emfs.forEach((emf, i) => {
      if (emf.converter >= 0) return;
      sourceA += planned[m]?.emfA[i] ?? 0;
      lowA += low[m]?.emfA[i] ?? 0;
      atLeast ||= unknown[m]?.emf[i] === 1;
    });
    return {
      id: mode.id,
      name: mode.name,
      collapsed: planned[m]?.status === "collapsed",
      collapsedLow: low[m]?.status === "collapsed",
      sourceA,
      worstA: Math.max(sourceA, lowA),
      atLeast,
      balanceW: powerBalance(solved, m),
    };
  });
  const { wireOf, returnsOf, guardedBy, plans, rest } = build;
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  return { solved, machine, ledger: ledgerOf(machine), modes, wires, parts, partOf, wireOf, returnsOf, guardedBy, plans, rest, build };
}
