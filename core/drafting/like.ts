import type { Command } from "../machine/commands";
import { freshId } from "../machine/defaults";
import type { Figure, Provenance } from "../machine/figure";
import type { Machine, Part, TerminalRef, Wire } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { ledgerOf } from "../machine/tree";

/** Names that nothing has: "Pump" is followed by "Pump 2", "Winch 3" by "Winch 4". */
function namesAfter(machine: Machine, name: string): () => string {
  const taken = new Set(machine.parts.map((part) => part.name.toLowerCase()));
  const stem = name.replace(/ \d+$/, "");
  let n = 2;
  return () => {
    while (taken.has(`${stem} ${n}`.toLowerCase())) n++;
    const made = `${stem} ${n}`;
    taken.add(made.toLowerCase());
    return made;
  };
}

/**
 * More of a part: each with the figures, the modes, the place and the conductors of the first. A motor takes a free channel of
 * its driver or of one like it, else it comes with a driver like its own. Null for what has no place to stand beside itself.
 */
export function likeThis(machine: Machine, partId: string, many: number): Command | null {
  const part = machine.parts.find(({ id }) => id === partId);
  const ledger = ledgerOf(machine);
  const row = ledger.rowOf.get(partId);
  if (!part || !row || many < 1 || (!row.feed && !row.back && !isSource(part))) return null;
  const ids = machine.parts.map(({ id }) => ({ id }));
  const next = () => {
    const id = freshId("p", ids);
    ids.push({ id });
    return id;
  };
  const called = namesAfter(machine, part.name);
  const commands: Command[] = [];
  const copy = (of: Part, name: string): Part => ({ ...structuredClone(of), id: next(), name });
  const feedOf = (feed: Wire | null, back: Wire | null, from?: TerminalRef, to?: TerminalRef) => ({
    ...(feed ? { from: from ?? feed.from } : {}),
    ...(back ? { back: to ?? back.to } : {}),
    wire: sameConductor(feed ?? back),
  });
  const parent = machine.parts.find(({ id }) => id === row.parent);
  const above = parent?.kind === "driver" ? ledger.rowOf.get(parent.id) : undefined;
  const driven = parent?.kind === "driver" && above?.feed && row.feed?.from.terminal.match(/^\d/);
  const free: { driver: string; channel: number }[] = [];
  if (driven)
    for (let channel = 1; channel <= parent.channels; channel++)
      if (!machine.wires.some(({ from }) => from.part === parent.id && from.terminal === `${channel}a`))
        free.push({ driver: parent.id, channel });
  const drivers = parent ? namesAfter(machine, parent.name) : called;
  for (let i = 0; i < many; i++) {
    const made = copy(part, called());
    if (!driven) {
      commands.push({ type: "addPart", part: made, ...(row.feed || row.back ? { feed: feedOf(row.feed, row.back) } : {}) });
      continue;
    }
    if (free.length === 0) {
      const driver = copy(parent, drivers());
      commands.push({ type: "addPart", part: driver, feed: feedOf(above.feed, above.back) });
      for (let channel = 1; channel <= parent.channels; channel++) free.push({ driver: driver.id, channel });
    }
    const place = free.shift();
    if (!place) return null;
    const leg = (end: string): TerminalRef => ({ part: place.driver, terminal: `${place.channel}${end}` });
    commands.push({ type: "addPart", part: made, feed: feedOf(row.feed, row.back, leg("a"), leg("b")) });
  }
  return { type: "batch", label: many === 1 ? `Another like ${part.name}` : `${many} like ${part.name}`, commands };
}

function sameConductor(wire: Wire | null): Partial<Pick<Wire, "gauge" | "lengthM" | "parallel" | "insulation" | "bundle" | "fuse">> {
  if (!wire) return {};
  const { gauge, lengthM, parallel, insulation, bundle, fuse } = wire;
  return {
    parallel,
    insulation,
    ...(gauge ? { gauge } : {}),
    ...(lengthM ? { lengthM } : {}),
    ...(bundle ? { bundle } : {}),
    ...(fuse ? { fuse } : {}),
  };
}

/** What several feeds get alike. */
export interface Alike {
  readonly lengthM?: Figure;
  readonly gauge?: string;
  /** How their lengths are known. */
  readonly known?: Provenance;
}

/** Gives several feeds the same length, the same size, or the same standing of their lengths, in one step. */
export function setSeveral(machine: Machine, feeds: readonly string[], { lengthM, gauge, known }: Alike): Command {
  const commands = feeds.flatMap((id): Command[] => {
    const wire = machine.wires.find((each) => each.id === id);
    if (!wire) return [];
    const length = lengthM ?? (known && wire.lengthM ? { ...wire.lengthM, provenance: known } : undefined);
    const changes = { ...(length ? { lengthM: length } : {}), ...(gauge ? { gauge } : {}) };
    return Object.keys(changes).length > 0 ? [{ type: "setFeed", id, changes }] : [];
  });
  return { type: "batch", label: `Edit ${commands.length} feed${commands.length === 1 ? "" : "s"} alike`, commands };
}
