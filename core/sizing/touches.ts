import type { Command } from "../machine/commands";

/** Fields of a conductor that are chosen by sizing. */
const SIZES: readonly string[] = ["gauge", "parallel", "fromEnd", "toEnd"];

/** Whether a command changes nothing but sizes, fuses and ends. `sized`: of these wires and fuse parts; absent: of any. */
export function isSizing(command: Command, sized?: ReadonlySet<string>): boolean {
  const may = (id: string) => sized === undefined || sized.has(id);
  if (command.type === "batch") return command.commands.every((each) => isSizing(each, sized));
  if (command.type === "setFuse") return may(command.wireId);
  if (command.type === "updatePart") return may(command.id) && Object.keys(command.changes).every((key) => key === "fuse");
  if (command.type === "setFeed" || command.type === "updateWire")
    return may(command.id) && Object.keys(command.changes).every((key) => SIZES.includes(key));
  return false;
}
