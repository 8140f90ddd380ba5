import { oncePer } from "./once";
import type { BuiltMachine, Pack } from "./schema";

/** Blocks in series: a pack whose minus is joined to another pack's plus stands on it. */
export interface Strings {
  /** By pack: itself and the blocks below it, down to the one whose minus is the string's. */
  readonly down: ReadonlyMap<string, readonly Pack[]>;
  /** By pack: the block on top of its string. */
  readonly top: ReadonlyMap<string, Pack>;
  /** Terminals "part.terminal" on the metal between two blocks that are no block's and no plain metal: taps. */
  readonly taps: ReadonlyMap<string, readonly string[]>;
}

/** The strings of a machine; a pack alone is a string of one. */
export const stringsOf = oncePer((machine: BuiltMachine): Strings => {
  const packs = machine.parts.filter((part): part is Pack => part.kind === "pack");
  const down = new Map<string, readonly Pack[]>();
  const top = new Map<string, Pack>();
  const taps = new Map<string, readonly string[]>();
  if (packs.length < 2) {
    for (const pack of packs) {
      down.set(pack.id, [pack]);
      top.set(pack.id, pack);
    }
    return { down, top, taps };
  }
  const groups = metalGroups(machine);
  const below = new Map<string, Pack>();
  const taken = new Set<string>();
  for (const pack of packs) {
    const group = groups(`${pack.id}.-`);
    const under = packs.find(({ id }) => id !== pack.id && !taken.has(id) && group.includes(`${id}.+`));
    if (!under || group.includes(`${pack.id}.+`)) continue;
    below.set(pack.id, under);
    taken.add(under.id);
    const ends = new Set([`${pack.id}.-`, `${under.id}.+`]);
    const rest = group.filter((terminal) => !ends.has(terminal) && !plainMetal(machine, terminal));
    if (rest.length > 0) taps.set(under.id, rest);
  }
  for (const pack of packs) {
    const chain = [pack];
    for (let at = below.get(pack.id); at && !chain.includes(at); at = below.get(at.id)) chain.push(at);
    down.set(pack.id, chain);
  }
  for (const pack of packs) if (!taken.has(pack.id)) for (const block of down.get(pack.id) ?? []) top.set(block.id, pack);
  for (const pack of packs) if (!top.has(pack.id)) top.set(pack.id, pack);
  return { down, top, taps };
});

function plainMetal(machine: BuiltMachine, terminal: string): boolean {
  const kind = machine.parts.find(({ id }) => id === terminal.split(".")[0])?.kind;
  return kind === "bar" || kind === "fuse" || kind === "switch";
}

/** Terminals joined by wires, bars, fuses and closed contacts, by terminal. */
function metalGroups(machine: BuiltMachine): (terminal: string) => readonly string[] {
  const edges = new Map<string, string[]>();
  const join = (a: string, b: string) => {
    edges.set(a, [...(edges.get(a) ?? []), b]);
    edges.set(b, [...(edges.get(b) ?? []), a]);
  };
  for (const { role, from, to } of machine.wires)
    if (role === "supply" || role === "return") join(`${from.part}.${from.terminal}`, `${to.part}.${to.terminal}`);
  for (const part of machine.parts) if (part.kind === "fuse" || part.kind === "switch") join(`${part.id}.in`, `${part.id}.out`);
  return (terminal) => {
    const seen = new Set([terminal]);
    for (const at of seen) for (const next of edges.get(at) ?? []) seen.add(next);
    return [...seen];
  };
}

/** Open-circuit volts of a pack and the blocks below it, as planned. */
export function stringVolts(machine: BuiltMachine, pack: Pack): number {
  return (stringsOf(machine).down.get(pack.id) ?? [pack]).reduce((sum, { openCircuitV }) => sum + openCircuitV.value, 0);
}

/** The block whose minus is the minus of what hangs on a pack. */
export function bottomOf(machine: BuiltMachine, pack: Pack): Pack {
  return stringsOf(machine).down.get(pack.id)?.at(-1) ?? pack;
}
