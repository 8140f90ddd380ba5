import { canStall } from "../loads/budget";
import { freshId } from "../machine/defaults";
import type { Cell, Load, Part } from "../machine/schema";
import type { Builder } from "./builder";
import { sideOf } from "./demand";

/** How long starts and a held motor last, s: until it turns, until a program lets go (common practice, no source). */
const START_S = 0.5;
const HELD_S = 2;

const OFF: Cell = { state: "off" };
const RUN: Cell = { state: "run", percent: 100 };

/** What a load does while nothing is asked of it. */
function resting(load: Load): Cell {
  if (sideOf(load.loadKind) === "logic") return RUN;
  if (load.levels?.idle && (load.loadKind === "stepper" || load.loadKind === "servo" || load.loadKind === "sound"))
    return { state: "idle" };
  return OFF;
}

/** What every load does in each of the usual modes. Without a current nothing is entered: it is asked for. */
const USUAL = [
  { name: "Parked", lastsS: null, cell: resting },
  { name: "Running", lastsS: null, cell: (): Cell => RUN },
  {
    name: "All start",
    lastsS: START_S,
    cell: (load: Load): Cell => (canStall(load) || load.levels?.start ? { state: "start" } : RUN),
  },
  {
    name: "One held still",
    lastsS: HELD_S,
    cell: (load: Load, held: string | undefined): Cell =>
      load.id === held ? { state: "stall", ...(load.count > 1 ? { pieces: 1 } : {}) } : RUN,
  },
  { name: "Stopped", lastsS: null, cell: resting },
] as const;

/** The load whose stall weighs most. */
function strongest(loads: readonly Load[]): string | undefined {
  const able = loads.filter((load) => canStall(load) && load.levels?.stall);
  return able.sort((a, b) => (b.levels?.stall?.value ?? 0) * b.nominalV.value - (a.levels?.stall?.value ?? 0) * a.nominalV.value)[0]?.id;
}

/** Whether a load tells any current. */
const tells = (load: Load) => Object.keys(load.levels ?? {}).length > 0;

/** The usual modes of a machine, with what each load does in them; the stop's contacts are open in the last. */
export function usualModes(builder: Builder, stops: readonly string[]): void {
  const { machine } = builder;
  const loads = machine.parts.filter((part: Part): part is Load => part.kind === "load");
  const turning = loads.some(canStall);
  const held = strongest(loads);
  const starts = turning || loads.some(({ levels }) => levels?.start);
  const usual = USUAL.filter(({ name }) => (name === "One held still" ? held !== undefined : name === "All start" ? starts : true));
  for (const load of loads)
    if (canStall(load) && tells(load)) builder.do({ type: "updatePart", id: load.id, changes: { assumed: ["share"] } });
  const modes: { id: string }[] = machine.modes.map(({ id }) => ({ id }));
  usual.forEach((mode, i) => {
    const id = i === 0 ? (modes[0]?.id ?? "m1") : freshId("m", modes);
    if (i > 0) {
      modes.push({ id });
      builder.do({ type: "addMode", name: mode.name, lastsS: mode.lastsS });
    } else builder.do({ type: "updateMode", id, changes: { name: mode.name, lastsS: mode.lastsS } });
    for (const load of loads) if (tells(load)) builder.do({ type: "setCell", loadId: load.id, modeId: id, cell: mode.cell(load, held) });
    if (mode.name === "Stopped") for (const stop of stops) builder.do({ type: "updatePart", id: stop, changes: { openIn: [id] } });
  });
}
