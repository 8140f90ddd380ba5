import type { FullAnalysis } from "../analysis/analyse";
import { ownRuns } from "../loads/phases";
import { alignedTo, type Difference, differenceWords } from "../machine/difference-words";
import type { Machine, Part } from "../machine/schema";
import { capital } from "../quantity/format";
import { gaugeById } from "../reference/gauges";
import type { Verdict } from "../verdicts/types";

/** How one machine differs from another: usually a variant from where it came from. */
export interface Differences {
  readonly added: readonly string[];
  readonly removed: readonly string[];
  /** What else differs, a line a thing: figures of parts, feeds, links, modes, settings. */
  readonly changed: readonly Difference[];
  /** Verdicts only the second has, and only the first had. */
  readonly gained: readonly Verdict[];
  readonly lost: readonly Verdict[];
  /** Amps from all sources by mode name; null where a machine lacks the mode or has no solution. */
  readonly modes: readonly { readonly name: string; readonly before: Bounded | null; readonly after: Bounded | null }[];
  readonly mass: { readonly before: Weight; readonly after: Weight };
  readonly cost: { readonly before: Cost; readonly after: Cost };
  /** s; a bound from above where loads are unknown. */
  readonly run: { readonly before: Bounded | null; readonly after: Bounded | null };
}

/** A figure that unknown loads would change: amps are then the least, run times the most they can be. */
export interface Bounded {
  readonly value: number;
  readonly bound: boolean;
}

/** Copper of all wires, and what is known of the parts; kg. */
export interface Weight {
  readonly copperKg: number;
  readonly partsKg: number;
  readonly unknown: number;
}

/** Cost of what is known, and how much is not. */
export interface Cost {
  readonly known: number;
  readonly unknown: number;
}

function countOf(part: Part): number {
  return part.kind === "load" ? part.count : 1;
}

/** What a machine's parts and copper weigh, as far as it is known. */
export function weightOf(machine: Machine): Weight {
  const copperKg = machine.wires.reduce((sum, wire) => {
    const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
    return sum + ((gauge?.copperGPerM ?? 0) * (wire.lengthM?.value ?? 0) * wire.parallel) / 1000;
  }, 0);
  const leads = machine.parts.flatMap((part) => (part.kind === "load" ? ownRuns(part) : []));
  const leadKg = leads.reduce(
    (sum, { lead, conductors }) => sum + ((gaugeById(lead.gauge)?.copperGPerM ?? 0) * (lead.lengthM?.value ?? 0) * conductors) / 1000,
    0,
  );
  const parts = machine.parts.filter((part) => part.kind !== "bar" && part.kind !== "fuse");
  return {
    copperKg: copperKg + leadKg,
    partsKg: parts.reduce((sum, part) => sum + (part.massKg?.value ?? 0) * countOf(part), 0),
    unknown: parts.filter((part) => part.massKg === undefined).length,
  };
}

/** What a machine's parts cost, as far as it is known. */
export function costOf(machine: Machine): Cost {
  const parts = machine.parts.filter((part) => part.kind !== "bar" && part.kind !== "fuse");
  return {
    known: parts.reduce((sum, part) => sum + (part.cost ?? 0) * countOf(part), 0),
    unknown: parts.filter((part) => part.cost === undefined).length,
  };
}

/** What differs between two machines, in words. */
export function differences(
  a: { machine: Machine; full: FullAnalysis; run: Bounded | null },
  b: { machine: Machine; full: FullAnalysis; run: Bounded | null },
): Differences {
  const [before, after] = [a.machine, b.machine];
  // Their own names and descriptions are what they are told apart by.
  const alike = { ...alignedTo(before, after), name: before.name, description: before.description };
  const first = new Map(before.parts.map((part) => [part.id, part]));
  const second = new Map(alike.parts.map((part) => [part.id, part]));
  const whole = new Set(["added", "removed"]);
  const said = new Set(a.full.analysis.verdicts.map(({ id, severity }) => `${id} ${severity}`));
  const says = new Set(b.full.analysis.verdicts.map(({ id, severity }) => `${id} ${severity}`));
  const ampsOf = (full: FullAnalysis, name: string) => {
    const mode = full.analysis.modes.find((each) => each.name === name);
    return mode && !mode.collapsed ? { value: mode.sourceA, bound: mode.atLeast } : null;
  };
  const names = [...new Set([...before.modes, ...after.modes].map(({ name }) => name))];
  const added = alike.parts.flatMap((part) => (first.has(part.id) ? [] : [part.name]));
  const removed = before.parts.flatMap((part) => (second.has(part.id) ? [] : [part.name]));
  // Parts that came and went are named apart.
  const gone = new Set([...added, ...removed].map(capital));
  return {
    added,
    removed,
    changed: differenceWords(before, alike).filter(
      ({ what, said: words }) => !(gone.has(what) && words.length === 1 && whole.has(words[0] ?? "")),
    ),
    gained: b.full.analysis.verdicts.filter(({ id, severity }) => !said.has(`${id} ${severity}`)),
    lost: a.full.analysis.verdicts.filter(({ id, severity }) => !says.has(`${id} ${severity}`)),
    modes: names.map((name) => ({ name, before: ampsOf(a.full, name), after: ampsOf(b.full, name) })),
    mass: { before: weightOf(before), after: weightOf(after) },
    cost: { before: costOf(before), after: costOf(after) },
    run: { before: a.run, after: b.run },
  };
}
