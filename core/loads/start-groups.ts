import type { Load } from "../machine/schema";

/** Name of a load without its number: loads of one name are moved by one command. */
export const commandOf = ({ name }: Pick<Load, "name">) => name.replace(/\s+\d+$/, "");

/** Power that the starts of loads add to what they take running, W. */
function startW(loads: readonly Load[]): number {
  return loads.reduce((sum, { levels, count, nominalV }) => {
    const start = levels?.start?.value ?? levels?.stall?.value ?? 0;
    return sum + (start - (levels?.run?.value ?? 0)) * count * nominalV.value;
  }, 0);
}

/** Loads by the command that starts them, the group whose start is largest first. */
export function startGroups(loads: readonly Load[]): Load[][] {
  const groups = new Map<string, Load[]>();
  for (const load of loads) groups.set(commandOf(load), [...(groups.get(commandOf(load)) ?? []), load]);
  return [...groups.values()].sort((a, b) => startW(b) - startW(a));
}
