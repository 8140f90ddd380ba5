import { computeFigures, type Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { drawIn, readingOf } from "../loads/draw";
import type { Command } from "../machine/commands";
import type { Cell } from "../machine/load-schema";
import type { Load, Machine } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { say } from "../quantity/format";

/** What to set on a bench supply in place of a source, for one mode. */
export interface BenchSetting {
  readonly mode: number;
  /** Expected by the plan, A; a least value where loads are unknown. */
  readonly expectedA: number;
  readonly atLeast: boolean;
  /** Current limit to set, A. */
  readonly limitA: number;
  /** Some load of the mode has no reading yet. */
  readonly unread: number;
}

/** One rail on the bench. */
export interface BenchRail {
  readonly origin: string;
  readonly name: string;
  /** Volts to set: what the source would stand at, as planned. */
  readonly setV: number;
  /** Never above this: what the weakest part bears. */
  readonly mostV: number | null;
  /** Modes in the order to try them: least amps first. */
  readonly settings: readonly BenchSetting[];
}

/** Room above the expected current, share, and the least a limit is set to, A. */
const ROOM = 1.3;
const LEAST_A = 0.1;

/** Upwards to a value that can be set on a knob. */
function settable(amps: number): number {
  const step = amps < 1 ? 0.05 : amps < 10 ? 0.1 : 1;
  return Number((Math.ceil(amps / step - 1e-9) * step).toFixed(2));
}

/** Every source of a machine as a bench supply would stand in for it. */
export function benchPlan(figures: Figures): BenchRail[] {
  return figures.machine.parts.flatMap((part) => {
    if (!isSource(part)) return [];
    const figure = figures.parts[part.id];
    const loads = loadsBehind(figures, part.id);
    let mostV: number | null = null;
    for (const each of figures.machine.parts) {
      if ((each.kind !== "load" && each.kind !== "driver" && each.kind !== "converter") || !each.inputMaxV) continue;
      if (railOrigin(figures.ledger, each.id) === part.id) mostV = Math.min(mostV ?? Number.POSITIVE_INFINITY, each.inputMaxV.value);
    }
    const settings = figures.machine.modes
      .map((mode, m): BenchSetting => {
        const expectedA = Math.max(0, figure?.amps[m] ?? 0);
        return {
          mode: m,
          expectedA,
          atLeast: figure?.atLeast[m] === 1 || figures.modes[m]?.collapsed === true,
          limitA: settable(Math.max(LEAST_A, expectedA * ROOM)),
          unread: loads.filter((load) => !read(load, mode.id)).length,
        };
      })
      .sort((a, b) => a.expectedA - b.expectedA);
    const planned = part.kind === "pack" ? part.openCircuitV.value : part.outputV.value;
    return [{ origin: part.id, name: part.name, setV: mostV === null ? planned : Math.min(planned, mostV), mostV, settings }];
  });
}

function read(load: Load, modeId: string): boolean {
  const cell = load.cells[modeId];
  return (
    cell !== undefined &&
    (cell.state === "off" || readingOf(cell) !== undefined || (cell.state === "amps" && cell.amps.provenance === "measured"))
  );
}

/** Loads that a source feeds, through converters too. */
function loadsBehind(figures: Figures, sourceId: string): Load[] {
  const behind = (partId: string): boolean => {
    for (let at = railOrigin(figures.ledger, partId); at !== null; ) {
      if (at === sourceId) return true;
      const up = railOrigin(figures.ledger, at);
      if (up === at) return false;
      at = up;
    }
    return false;
  };
  return figures.machine.parts.filter((part): part is Load => part.kind === "load" && behind(part.id));
}

/** What makes the budget agree with a reading, or why nothing does. */
export type Fitted = { ok: true; command: Command; factor: number; loads: number } | { ok: false; message: string };

/** Half of the halvings tried; how narrow the factor gets and how near the reading has to be met, shares. */
const ROUNDS = 12;
const CLOSE_A = 1e-4;
const CLOSE_SHARE = 0.01;
/** Beyond these the reading and the plan speak of different machines. */
const FACTOR_LEAST = 0.05;
const FACTOR_MOST = 20;
/** A share of a reading is known less well than a reading of its own. */
const SHARED_TOLERANCE = 0.25;

/**
 * Makes the budget agree with what a bench supply showed for a whole rail in one mode: estimates without a reading of
 * their own are scaled alike until the solved network draws what was read.
 */
export function fitReading(figures: Figures, sourceId: string, mode: number, amps: number): Fitted {
  const { machine } = figures;
  const modeId = machine.modes[mode]?.id;
  const source = figures.partOf.get(sourceId);
  if (modeId === undefined || !source) return { ok: false, message: "That mode or source is gone." };
  const open = loadsBehind(figures, sourceId).filter((load) => !read(load, modeId));
  const guesses = open.map((load) => ({ load, estimateA: drawIn(load, load.cells[modeId]).nominalA }));
  const total = guesses.reduce((sum, { estimateA }) => sum + estimateA, 0);
  if (open.length === 0) return { ok: false, message: "Every load there has its own reading in this mode: change the one that is off." };
  if (total <= 0) {
    const only = open.length === 1 ? "It has no estimate yet" : "They have no estimates yet";
    return {
      ok: false,
      message: `${only}, so the reading cannot be shared out: enter what is known of ${open.map(({ name }) => name).join(", ")}.`,
    };
  }
  const with_ = (factor: number): Machine => ({
    ...machine,
    parts: machine.parts.map((part) => {
      const guess = guesses.find(({ load }) => load.id === part.id);
      return guess && part.kind === "load"
        ? { ...part, cells: { ...part.cells, [modeId]: shared(guess.load.cells[modeId], guess.estimateA * factor) } }
        : part;
    }),
  });
  const drawn = (factor: number) => {
    const then = computeFigures(solveMachine(with_(factor)));
    return then.modes[mode]?.collapsed ? Number.POSITIVE_INFINITY : (then.parts[sourceId]?.amps[mode] ?? 0);
  };
  let [low, high] = [FACTOR_LEAST, FACTOR_MOST];
  if (drawn(low) > amps)
    return { ok: false, message: `The loads with readings of their own already draw more than ${say(amps, "current")}.` };
  // Doubling finds the far end without asking the network for the impossible.
  high = low;
  while (high < FACTOR_MOST && drawn(high) < amps) high *= 2;
  if (drawn(high) < amps)
    return {
      ok: false,
      message: `The plan would have to be twenty times off to draw ${say(amps, "current")}: check the mode and the unit.`,
    };
  low = high / 2;
  for (let k = 0; k < ROUNDS * 2 && high - low > CLOSE_A * low; k++) {
    const mid = (low + high) / 2;
    if (drawn(mid) < amps) low = mid;
    else high = mid;
  }
  const factor = (low + high) / 2;
  // Before the volts collapse the plan may never draw that much: then there is nothing to fit.
  if (!(Math.abs(drawn(factor) - amps) < CLOSE_SHARE * amps))
    return { ok: false, message: `The plan's volts collapse before it draws ${say(amps, "current")}: check the mode and the unit.` };
  const commands = guesses.map(
    ({ load, estimateA }): Command => ({ type: "setCell", loadId: load.id, modeId, cell: shared(load.cells[modeId], estimateA * factor) }),
  );
  const label = `Reading of ${say(amps, "current")} on ${source.name} in ${machine.modes[mode]?.name}`;
  return { ok: true, factor, loads: open.length, command: { type: "batch", label, commands } };
}

/** A cell with its share of a reading beside its estimate. */
function shared(cell: Cell | undefined, amps: number): Cell {
  const measured = { value: Number(amps.toPrecision(4)), provenance: "measured" as const, tolerance: SHARED_TOLERANCE };
  return cell === undefined || cell.state === "off" ? { state: "amps", amps: measured } : { ...cell, measured };
}
