import { capital } from "../quantity/format";
import { changeWords } from "./change-words";
import { type Change, changesBetween } from "./changes";
import type { Machine, Part, Wire } from "./schema";

/** What changed of one thing, in the builder's words: "Cutter feed", "16 → 12 AWG", "fuse 15 → 20 A". */
export interface Difference {
  readonly what: string;
  readonly said: readonly string[];
}

/** Fields whose values say what they are. */
const SAYS_ITSELF: ReadonlySet<string> = new Set(["conductor"]);

/** "16 AWG" and "12 AWG" as "16 → 12 AWG": what both end in is said once. */
export function arrow(before: string, after: string): string {
  const [was, is] = [before.split(/[ \u00a0]/), after.split(/[ \u00a0]/)];
  const unit = was.at(-1);
  const alike = was.length === 2 && is.length === 2 && unit === is.at(-1) && !/\d/.test(unit ?? "");
  return alike ? `${was[0]} → ${after}` : `${before} → ${after}`;
}

function nameOfPart(machine: Machine, id: string): string {
  return machine.parts.find((part) => part.id === id)?.name ?? "a part that is gone";
}

/** What a conductor is called, and under which name a feed and its return stand together. */
function owner(machine: Machine, wire: Wire): { key: string; name: string; back: boolean } {
  const back = wire.role === "return" || (wire.role === "phase" && wire.pair !== undefined);
  const of = back ? wire.from.part : wire.to.part;
  if (wire.role === "signal") return { key: wire.id, name: `Signal ground of ${nameOfPart(machine, wire.from.part)}`, back: false };
  if (wire.role === "bond") return { key: wire.id, name: `Bond of ${nameOfPart(machine, wire.to.part)}`, back: false };
  const name = nameOfPart(machine, of);
  const kind = wire.role === "phase" ? "lead" : wire.to.terminal === "5v" ? "logic feed" : "feed";
  return { key: wire.pair ?? wire.id, name: `${name} ${kind}`, back };
}

const FUSE = "fuse";

function fuseWords({ before, after }: Change): string {
  const amps = (value: unknown) => (value as { ratingA?: number } | undefined)?.ratingA;
  const [was, is] = [amps(before), amps(after)];
  if (was === undefined) return `fuse ${is}\u00a0A added`;
  if (is === undefined) return `fuse ${was}\u00a0A taken out`;
  return was === is ? `fuse ${is}\u00a0A of another family or place` : `fuse ${was} → ${is}\u00a0A`;
}

/** A return runs the other way: its start is where its feed ends. */
const MIRRORED: Readonly<Record<string, string>> = {
  "connector at its start": "connector at its end",
  "connector at its end": "connector at its start",
  end: "lands on",
};

const KNOWN_BY = /, (measured|datasheet|typical|guess)$/;

function said(machine: Machine, change: Change, back: boolean): string {
  if (change.path.length > 2 && change.path.at(-1) === FUSE) return fuseWords(change);
  const { what, before, after } = changeWords(machine, change);
  const own = what.includes(": ") ? what.slice(what.indexOf(": ") + 2) : what;
  if (after === "added" || after === "removed" || after === "replaced") return after;
  if (before === "as it was") return "in another order";
  const field = back ? (MIRRORED[own] ?? own) : own;
  const label = SAYS_ITSELF.has(field) ? "" : `${field} `;
  if (after === "nothing") return `${field} taken out, was ${before.replace(KNOWN_BY, "")}`;
  if (before === "nothing") return `${label}${after}`;
  // How a figure is known is said where that is what changed.
  const same = KNOWN_BY.exec(before)?.[1] === KNOWN_BY.exec(after)?.[1];
  return `${label}${same ? arrow(before.replace(KNOWN_BY, ""), after.replace(KNOWN_BY, "")) : arrow(before, after)}`;
}

/**
 * What tells two versions of a machine apart, a line a thing: parts first, then feeds, links, modes and what holds for the
 * whole. A feed counts with its return: what changed of both alike is said once.
 */
export function differenceWords(before: Machine, after: Machine): Difference[] {
  const groups = new Map<string, { what: string; rank: number; said: Map<string, { back: number; out: number }> }>();
  const put = (key: string, what: string, rank: number, words: string, back: boolean) => {
    const group = groups.get(key) ?? { what, rank, said: new Map<string, { back: number; out: number }>() };
    const count = group.said.get(words) ?? { back: 0, out: 0 };
    if (back) count.back++;
    else count.out++;
    group.said.set(words, count);
    groups.set(key, group);
  };
  const changes = changesBetween(before, after);
  // A part and its wires come and go together: the part says it for all of them.
  const whole = new Set(changes.flatMap(({ path }) => (path[0] === "parts" && path.length === 2 ? [path[1]] : [])));
  // So does a mode, for what each load does in it.
  const modes = new Set(changes.flatMap(({ path }) => (path[0] === "modes" && path.length === 2 ? [path[1]] : [])));
  for (const change of changes) {
    const [list = "", id = ""] = change.path;
    if (list === "parts" && change.path[2] === "cells" && modes.has(change.path[3])) continue;
    const gone = change.path.length === 2 && change.after === undefined;
    const machine = gone ? before : after;
    if (list === "wires" && change.path.length > 1) {
      const wire = (after.wires.find((each) => each.id === id) ?? before.wires.find((each) => each.id === id)) as Wire | undefined;
      if (!wire || (change.path.length === 2 && (whole.has(wire.from.part) || whole.has(wire.to.part)))) continue;
      const { key, name, back } = owner(after.wires.some((each) => each.id === id) ? after : before, wire);
      put(`wire ${key}`, name, 1, said(machine, change, back), back);
    } else if (list === "parts" && change.path.length > 1) {
      const name = gone ? nameOfPart(before, id) : nameOfPart(after, id);
      if (change.path.at(-1) === "shelf" || change.path.at(-1) === "id") continue;
      put(`part ${id}`, name, 0, said(machine, change, false), false);
    } else {
      const { what } = changeWords(machine, change);
      const named = what.includes(": ") ? what.slice(0, what.indexOf(": ")) : what;
      put(`${list} ${change.path.length > 1 && list !== "settings" ? id : ""}`, named, 2, said(machine, change, false), false);
    }
  }
  return [...groups.values()]
    .sort((a, b) => a.rank - b.rank)
    .map(({ what, said: all }) => ({
      what: capital(what),
      said: [...all].map(([words, { back, out }]) => (back > 0 && out === 0 ? `return: ${words}` : words)),
    }));
}

/** A conductor by what it belongs to: where it feeds, or what comes home by it. */
function placeOf(wire: Wire): string {
  const back = wire.role === "return" || (wire.role === "phase" && wire.pair !== undefined);
  const { part, terminal } = back ? wire.from : wire.to;
  return `${wire.role} ${back} ${part}.${terminal}`;
}

/**
 * The same machine with the ids another one has for what is called or placed alike: for two that were not copied from each
 * other, or whose conductors were numbered apart.
 */
export function alignedTo(base: Machine, other: Machine): Machine {
  const named = new Map(base.parts.map(({ id, name }) => [id, name]));
  const shared = other.parts.filter(({ id, name }) => named.get(id) === name);
  const copied = shared.length * 2 >= Math.min(base.parts.length, other.parts.length);
  const byName = new Map(base.parts.map((part) => [`${part.kind} ${part.name.toLowerCase()}`, part.id]));
  const ids = matched(other.parts, base.parts, (part) =>
    copied ? (named.has(part.id) ? part.id : undefined) : byName.get(`${part.kind} ${part.name.toLowerCase()}`),
  );
  const end = (ref: Wire["from"]) => ({ ...ref, part: ids.get(ref.part) ?? ref.part });
  const moved = other.wires.map((wire) => ({ ...wire, from: end(wire.from), to: end(wire.to) }));
  const places = new Map(base.wires.map((wire) => [wire.id, placeOf(wire)]));
  const byPlace = new Map(base.wires.map((wire) => [placeOf(wire), wire.id]));
  const wireIds = matched(moved, base.wires, (wire) => (places.get(wire.id) === placeOf(wire) ? wire.id : byPlace.get(placeOf(wire))));
  const renamed = (id: string) => wireIds.get(id) ?? id;
  const modeNames = new Map(base.modes.map((mode) => [mode.name.toLowerCase(), mode.id]));
  const modeIds = matched(other.modes, base.modes, (mode) => modeNames.get(mode.name.toLowerCase()));
  const ofMode = (id: string) => modeIds.get(id) ?? id;
  const inModes = (part: Part): Part => {
    if (part.kind === "load")
      return { ...part, cells: Object.fromEntries(Object.entries(part.cells).map(([mode, cell]) => [ofMode(mode), cell])) };
    return part.kind === "switch" ? { ...part, openIn: part.openIn.map(ofMode) } : part;
  };
  return {
    ...other,
    modes: other.modes.map((mode) => ({ ...mode, id: ofMode(mode.id) })),
    ...(other.mission
      ? { mission: { ...other.mission, steps: other.mission.steps.map((step) => ({ ...step, mode: ofMode(step.mode) })) } }
      : {}),
    parts: other.parts.map((part) => ({ ...inModes(part), id: ids.get(part.id) ?? part.id })),
    wires: moved.map((wire) => ({ ...wire, id: renamed(wire.id), ...(wire.pair === undefined ? {} : { pair: renamed(wire.pair) }) })),
    ...(other.signals
      ? {
          signals: other.signals.map((signal) => ({
            ...signal,
            from: ids.get(signal.from) ?? signal.from,
            to: ids.get(signal.to) ?? signal.to,
          })),
        }
      : {}),
  };
}

/** The id each element takes: the one it matches, once; what matches none keeps away from those that are taken. */
function matched<T extends { readonly id: string }>(
  list: readonly T[],
  base: readonly { readonly id: string }[],
  match: (each: T) => string | undefined,
): Map<string, string> {
  const taken = new Set<string>();
  const reserved = new Set(base.map(({ id }) => id));
  const found = new Map<string, string>();
  for (const each of list) {
    const id = match(each);
    if (id === undefined || taken.has(id)) continue;
    found.set(each.id, id);
    taken.add(id);
  }
  for (const { id } of list) {
    if (found.has(id)) continue;
    let free = id;
    for (let n = 1; taken.has(free) || reserved.has(free); n++) free = `${id}-${n}`;
    found.set(id, free);
    taken.add(free);
  }
  return found;
}
