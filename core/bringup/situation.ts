import { drawIn } from "../loads/draw";
import { guess } from "../machine/figure";
import type { Cell } from "../machine/load-schema";
import type { Load, Machine, Part } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { ELECTRONICS, type LoadKind } from "../reference/load-kinds";

/** What feeds the machine while readings are taken. */
export type FedBy = "nothing" | "bench" | "own";

/**
 * A state in which the machine stands while readings are taken: what feeds it, what is plugged in and what that does. All
 * readings of one situation are of one operating point.
 */
export interface Situation {
  /** Stable: stage, and what is on in it. */
  readonly id: string;
  /** In words, for the step: "bench supply in place of the pack, all loads unplugged". */
  readonly words: string;
  readonly fedBy: FedBy;
  /** Share of the planned volts a bench supply is set to, 0 to 1. */
  readonly share: number;
  /** Loads and drivers that are plugged in. */
  readonly plugged: ReadonlySet<string>;
  /** What plugged loads do; one that is not named is off. */
  readonly cells: ReadonlyMap<string, Cell>;
  /** Contacts that are open; the rest are closed. */
  readonly open: ReadonlySet<string>;
  /** Conductors are warm, as the plan has them; else as cold as the bench. */
  readonly warm: boolean;
}

/** The one mode of a machine in a situation. */
export const NOW = "now";

/** What a driver or a converter draws by itself where nobody said, A (handbook: a few to some tens of mA; common practice, no source). */
const OWN_UNKNOWN_A = { driver: 0.015, converter: 0.01 } as const;
/** How far that may be off: nothing is as likely as double. */
const OWN_UNKNOWN_TOLERANCE = 1.5;

/** What turns, pushes or flaps. */
const MOVES: ReadonlySet<LoadKind> = new Set(["motor", "brushless", "stepper", "servo", "actuator", "pump", "fan"]);
/** What has a current of its own when nothing holds it. */
const RUNS_FREE: ReadonlySet<LoadKind> = new Set(["motor", "brushless", "stepper", "servo", "actuator"]);

/** A board, or what belongs to one. */
export function isLogic(part: Part): boolean {
  return part.kind === "load" && ELECTRONICS.has(part.loadKind);
}

/** A load that moves something. */
export function moves(part: Part): part is Load {
  return part.kind === "load" && MOVES.has(part.loadKind);
}

/** Whether a load runs free when nothing holds it: its idle current is that of turning without work. */
export function runsFree(part: Load): boolean {
  return RUNS_FREE.has(part.loadKind);
}

/**
 * What a load does when it is on and nothing is asked of it: turning free, waiting, or for what knows but one state, that one.
 * A motor without a no-load current keeps the state: what it draws is then not known, and is asked for.
 */
export function restingCell(machine: Machine, load: Load): Cell {
  if (load.levels?.idle || runsFree(load)) return { state: "idle" };
  if (load.levels?.run) return { state: "run", percent: 100 };
  const planned = machine.modes.map(({ id }) => load.cells[id]).find((cell) => cell !== undefined && cell.state !== "off");
  return planned ?? { state: "run", percent: 100 };
}

/** Whether what a load draws in a state is known. */
export function drawKnown(load: Load, cell: Cell): boolean {
  return drawIn(load, cell).missing === null;
}

/** The machine in a situation: one mode, with what is unplugged drawing nothing. */
export function machineIn(machine: Machine, situation: Situation): Machine {
  const bench = situation.warm ? machine.settings : { ...machine.settings, conductorC: BENCH_C, ambientC: BENCH_C };
  return {
    ...machine,
    settings: { ...bench, schools: { ...bench.schools, peakBudget: "named modes" } },
    modes: [{ id: NOW, name: situation.words, lastsS: null }],
    mission: undefined,
    parts: machine.parts.map((part) => partIn(part, situation)),
  };
}

/** Temperature at a bench, °C. */
export const BENCH_C = 22;

function partIn(part: Part, { plugged, cells, open }: Situation): Part {
  switch (part.kind) {
    case "load":
      return { ...part, cells: { [NOW]: plugged.has(part.id) ? (cells.get(part.id) ?? { state: "off" }) : { state: "off" } } };
    case "switch":
      return { ...part, openIn: open.has(part.id) ? [NOW] : [] };
    case "driver": {
      if (!plugged.has(part.id)) {
        const { ownA: _own, logicA: _logic, ...rest } = part;
        return rest;
      }
      return part.ownA ? part : { ...part, ownA: unknownOwn("driver") };
    }
    case "converter":
      return part.quiescentA ? part : { ...part, quiescentA: unknownOwn("converter") };
    default:
      return part;
  }
}

function unknownOwn(kind: keyof typeof OWN_UNKNOWN_A) {
  return { ...guess(OWN_UNKNOWN_A[kind]), tolerance: OWN_UNKNOWN_TOLERANCE };
}

/** Packs and supplies of a machine. */
export function sourcesOf(machine: Machine) {
  return machine.parts.filter(isSource);
}
