import type { Command } from "../machine/commands";
import { freshId } from "../machine/defaults";
import type { Cell } from "../machine/load-schema";
import { type Load, type Machine, MODES_MAX } from "../machine/schema";
import { canStall } from "./budget";
import { type Side, sidesOf } from "./sides";

interface PresetMode {
  name: string;
  lastsS: number | null;
  /** What each load does, by its kind, its place among the loads that turn, and the side it drives. */
  state: (load: Load, turning: number, side: Side | "both" | undefined) => Cell;
}

/** A ready-made set of modes. */
export interface Preset {
  id: string;
  name: string;
  what: string;
  modes: readonly PresetMode[];
}

const OFF: Cell = { state: "off" };
const IDLE: Cell = { state: "idle" };
const RUN: Cell = { state: "run", percent: 100 };
const START: Cell = { state: "start" };
const STALL = { state: "stall" } as const satisfies Cell;

/** Boards and sensors stay on whatever the motors do; what has no idle current of its own runs or is off. */
function rest(load: Load, awake: boolean): Cell {
  if (load.loadKind === "board" || load.loadKind === "computer" || load.loadKind === "sensor" || load.loadKind === "radio") return RUN;
  if (load.loadKind === "stepper" || load.loadKind === "servo" || load.loadKind === "sound") return IDLE;
  return awake && !canStall(load) ? RUN : OFF;
}

const parked: PresetMode = { name: "Parked", lastsS: null, state: (load) => rest(load, false) };
const working: PresetMode = { name: "Working", lastsS: null, state: () => RUN };
const starting = (lastsS: number): PresetMode => ({ name: "All start", lastsS, state: (load) => (canStall(load) ? START : RUN) });
const jammed: PresetMode = { name: "One jammed", lastsS: 2, state: (_load, turning) => (turning === 0 ? STALL : RUN) };
const stopped: PresetMode = { name: "Stopped", lastsS: null, state: (load) => (canStall(load) ? OFF : rest(load, true)) };

/** Modes by what a machine does, with a state for every load it has already. */
export const PRESETS: readonly Preset[] = [
  {
    id: "driven-sides",
    name: "Driven on two sides",
    what: "Cruise at part load, both sides starting, turning on the spot, one side jammed, stopped by the e-stop.",
    modes: [
      parked,
      { name: "Cruise", lastsS: null, state: (load) => (load.loadKind === "motor" ? { state: "run", percent: 60 } : RUN) },
      { name: "Both start", lastsS: 1, state: (_load, _turning, side) => (side ? START : RUN) },
      {
        name: "Spot turn",
        lastsS: 5,
        state: (_load, _turning, side) => (side ? { state: "run", percent: 200, duty: 0.4 } : RUN),
      },
      {
        name: "One side jammed",
        lastsS: 2,
        state: (load, _turning, side) => (side === "one" ? STALL : side === "both" ? { ...STALL, pieces: load.count / 2 } : RUN),
      },
      stopped,
    ],
  },
  {
    id: "one-tool",
    name: "One tool and its helpers",
    what: "Waiting, working, the start, the tool jammed, stopped.",
    modes: [parked, working, starting(0.5), jammed, stopped],
  },
  {
    id: "figures",
    name: "Figures and axes that move in turn",
    what: "Holding, a quiet passage, everything at once, finding home, one of a group held still.",
    modes: [
      { name: "Holding", lastsS: null, state: (load) => rest(load, true) },
      {
        name: "Quiet passage",
        lastsS: null,
        state: (load) => (canStall(load) || load.loadKind === "stepper" ? { state: "run", percent: 60 } : RUN),
      },
      { name: "Everything at once", lastsS: 30, state: () => RUN },
      { name: "Finding home", lastsS: 6, state: (load) => (load.loadKind === "actuator" ? STALL : RUN) },
      {
        name: "One held still",
        lastsS: 2,
        state: (load, turning) => (turning >= 0 ? { state: "stall", ...(load.count > 1 ? { pieces: 1 } : {}) } : RUN),
      },
    ],
  },
  {
    id: "hoist",
    name: "Lifts and lowers",
    what: "Waiting, lifting, the start under load, lowering at part load, run into its end.",
    modes: [
      parked,
      { name: "Lifting", lastsS: 60, state: () => RUN },
      starting(0.5),
      { name: "Lowering", lastsS: 60, state: (load) => (canStall(load) ? { state: "run", percent: 40 } : RUN) },
      { name: "Into its end", lastsS: 2, state: (_load, turning) => (turning === 0 ? STALL : RUN) },
    ],
  },
];

/** Adds a preset's modes to a machine, with a state for each of its loads; refused where they do not fit. */
export function presetCommand(machine: Machine, preset: Preset): Command | null {
  if (machine.modes.length + preset.modes.length > MODES_MAX) return null;
  const loads = machine.parts.filter((part): part is Load => part.kind === "load");
  const turning = new Map(loads.filter(canStall).map((load, i) => [load.id, i]));
  const taken = machine.modes.map(({ id }) => ({ id }));
  const sides = sidesOf(machine);
  const commands: Command[] = [];
  for (const mode of preset.modes) {
    const modeId = freshId("m", taken);
    taken.push({ id: modeId });
    commands.push({ type: "addMode", name: mode.name, lastsS: mode.lastsS });
    for (const load of loads)
      commands.push({ type: "setCell", loadId: load.id, modeId, cell: mode.state(load, turning.get(load.id) ?? -1, sides.get(load.id)) });
  }
  return { type: "batch", label: `Modes: ${preset.name}`, commands };
}
