import { canStall } from "../loads/budget";
import { startGroups } from "../loads/start-groups";
import { freshId } from "../machine/defaults";
import type { Cell, Load, Machine, Part } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import type { Builder } from "./builder";
import { sideOf } from "./demand";

/** How long a start and a held motor last, s: until it turns, until a program lets go (common practice, no source). */
const START_S = 0.5;
const HELD_S = 2;
/** How long all that drives works at its full load, s: a slope, a thick patch (common practice, no source). */
const FULL_S = 120;

/** Share of rated current that drives draw while the machine works, %: on the flat, in the open (handbook practice section 1: 0.4 to 0.7). */
const DRIVE_PERCENT = 60;

const OFF: Cell = { state: "off" };
const RUN: Cell = { state: "run", percent: 100 };

/** Loads that work for seconds at a time: they count on their own feed, not in what lasts (handbook practice section 1). */
const OCCASIONAL = /\b(winch|windlass|hoist|tipper|tilt|crane|capstan|horn|siren|bell|buzzer|gripper|latch|lock|strobe|flash)/i;

/** Motors whose work never eases: what they push is always there. */
const STEADY = /thrust|prop|pump|conveyor|belt|auger|mixer|agitator|stirrer|fan|blower|saw|cutter|spindle|roller|paddle|compressor/i;

/** Reports whether a load works for seconds only. */
export function isOccasional({ loadKind, name }: Pick<Load, "loadKind" | "name">): boolean {
  return loadKind === "actuator" || OCCASIONAL.test(name);
}

/** Reports whether a load drives the machine: its current follows the ground and the work. */
function drives({ loadKind, name }: Load): boolean {
  return loadKind === "motor" && !STEADY.test(name);
}

/** Cell of a load while the machine works, as it lasts. */
function working(load: Load): Cell {
  if (isOccasional(load)) return resting(load);
  return drives(load) ? { state: "run", percent: DRIVE_PERCENT } : RUN;
}

/** Cell of a load while nothing is asked of it. */
function resting(load: Load): Cell {
  if (sideOf(load.loadKind) === "logic") return RUN;
  if (load.levels?.idle && (load.loadKind === "stepper" || load.loadKind === "servo" || load.loadKind === "sound"))
    return { state: "idle" };
  return OFF;
}

/** Loads that a mode is about: those that start on one command, the one that is held, the occasional one that works. */
interface Chosen {
  readonly start: ReadonlySet<string>;
  readonly held: string | undefined;
  readonly occasional: string | undefined;
}

interface UsualMode {
  readonly name: string;
  readonly lastsS: number | null;
  readonly cell: (load: Load, chosen: Chosen) => Cell;
}

/** Cells of every load in the usual modes. Without a current nothing is entered: it is asked for. */
const USUAL: readonly UsualMode[] = [
  { name: "Parked", lastsS: null, cell: resting },
  { name: "Running", lastsS: null, cell: working },
  {
    name: "Full load",
    lastsS: FULL_S,
    cell: (load, { occasional }) => (drives(load) && !isOccasional(load) ? RUN : load.id === occasional ? RUN : working(load)),
  },
  { name: "Start", lastsS: START_S, cell: (load, { start }) => (start.has(load.id) ? { state: "start" } : working(load)) },
  {
    name: "One held still",
    lastsS: HELD_S,
    cell: (load, { held }) => (load.id === held ? { state: "stall", ...(load.count > 1 ? { pieces: 1 } : {}) } : working(load)),
  },
  { name: "Stopped", lastsS: null, cell: resting },
];

const most = (loads: readonly Load[], amps: (load: Load) => number): Load | undefined =>
  [...loads].sort((a, b) => amps(b) * b.nominalV.value - amps(a) * a.nominalV.value)[0];

const runOf = (load: Load) => (load.levels?.run?.value ?? 0) * load.count;
/** Loads that start together: of all groups the one whose start is largest; the others wait their turn. */
function startsTogether(loads: readonly Load[]): ReadonlySet<string> {
  const able = loads.filter((load) => canStall(load) || (load.loadKind === "brushless" && load.levels?.start));
  return new Set(startGroups(able)[0]?.map(({ id }) => id));
}

/** Loads the modes of a machine are about. A motor that nothing drives is held by its fuse alone: nobody plans that. */
function chosenOf(machine: Machine, loads: readonly Load[]): Chosen {
  const ledger = ledgerOf(machine);
  const isDriven = ({ id }: Load) => machine.parts.some((part) => part.kind === "driver" && part.id === ledger.rowOf.get(id)?.parent);
  const able = loads.filter((load) => canStall(load) && load.levels?.stall && (isDriven(load) || load.loadKind === "servo"));
  return {
    start: startsTogether(loads),
    held: most(able, ({ levels }) => levels?.stall?.value ?? 0)?.id,
    occasional: most(loads.filter(isOccasional), runOf)?.id,
  };
}

/** Whether a load tells any current. */
const tells = (load: Load) => Object.keys(load.levels ?? {}).length > 0;

const loadsOf = ({ parts }: Machine) => parts.filter((part: Part): part is Load => part.kind === "load");

/** The usual modes of a machine, with what each load does in them; the stop's contacts are open in the last. */
export function usualModes(builder: Builder, stops: readonly string[]): void {
  const { machine } = builder;
  const loads = loadsOf(machine);
  const chosen = chosenOf(machine, loads);
  const starts = chosen.start.size > 0;
  const varies = loads.some((load) => drives(load) || load.id === chosen.occasional);
  const usual = USUAL.filter(({ name }) =>
    name === "One held still" ? chosen.held !== undefined : name === "Start" ? starts : name === "Full load" ? varies : true,
  );
  for (const load of loads)
    if (drives(load) && tells(load)) builder.do({ type: "updatePart", id: load.id, changes: { assumed: ["share"] } });
  const modes: { id: string }[] = machine.modes.map(({ id }) => ({ id }));
  usual.forEach((mode, i) => {
    const id = i === 0 ? (modes[0]?.id ?? "m1") : freshId("m", modes);
    if (i > 0) {
      modes.push({ id });
      builder.do({ type: "addMode", name: mode.name, lastsS: mode.lastsS });
    } else builder.do({ type: "updateMode", id, changes: { name: mode.name, lastsS: mode.lastsS } });
    for (const load of loads) if (tells(load)) builder.do({ type: "setCell", loadId: load.id, modeId: id, cell: mode.cell(load, chosen) });
    if (mode.name === "Stopped") for (const stop of stops) builder.do({ type: "updatePart", id: stop, changes: { openIn: [id] } });
  });
}
