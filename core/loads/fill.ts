import type { Command } from "../machine/commands";
import { freshId } from "../machine/defaults";
import type { Cell } from "../machine/load-schema";
import { type Load, type Machine, MODES_MAX } from "../machine/schema";
import { canStall } from "./budget";

/** What the mode is called in which a motor is held still, and how long that lasts: until a program lets go (common practice). */
const HELD = { name: "Held", lastsS: 2 } as const;

/**
 * Writes what is known of a load and lets it count at once: modes that had no entry for it run it, and once its stall is known
 * there is a mode in which it is held still. What the builder entered for a mode stays.
 */
export function levelsCommand(machine: Machine, load: Load, levels: NonNullable<Load["levels"]>): Command {
  const write: Command = { type: "updatePart", id: load.id, changes: { levels } };
  const rest: Command[] = [];
  const fill = (modeId: string, cell: Cell) => rest.push({ type: "setCell", loadId: load.id, modeId, cell });
  const planned = Object.values(load.cells).some(({ state }) => state === "stall");
  if (levels.run) for (const { id } of machine.modes) if (!load.cells[id]) fill(id, { state: "run", percent: 100 });
  if (levels.stall && !planned && canStall(load)) {
    const held = machine.modes.find(({ name }) => name === HELD.name);
    const [usual] = machine.modes;
    if (!held && usual && machine.modes.length < MODES_MAX) {
      const id = freshId("m", machine.modes);
      rest.push({ type: "addMode", ...HELD, copyFrom: usual.id });
      fill(id, { state: "stall" });
    }
  }
  return rest.length === 0 ? write : { type: "batch", label: `What ${load.name} draws`, commands: [write, ...rest] };
}
