import type { FullAnalysis } from "../analysis/analyse";
import { ownRuns } from "../loads/phases";
import type { Machine, Part, PartKind } from "../machine/schema";
import { gaugeById } from "../reference/gauges";
import type { Verdict } from "../verdicts/types";

/** How one machine differs from another: usually a variant from where it came from. */
export interface Differences {
  readonly added: readonly string[];
  readonly removed: readonly string[];
  readonly changed: readonly {
    readonly name: string;
    readonly kind: PartKind;
    readonly fields: readonly { readonly field: string; readonly before: string; readonly after: string }[];
  }[];
  readonly links: { readonly added: number; readonly removed: number; readonly changed: number };
  readonly wires: { readonly added: number; readonly removed: number; readonly changed: number };
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

const NOT_COMPARED: ReadonlySet<string> = new Set(["id", "cells"]);

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

/** A field as a person reads it: the value of a figure, the text of a choice. */
function shown(value: unknown): string {
  if (value === undefined) return "–";
  if (typeof value === "object" && value !== null && "value" in value) return String((value as { value: unknown }).value);
  return typeof value === "object" ? JSON.stringify(value) : String(value);
}

function fieldsOf(a: Part, b: Part): { field: string; before: string; after: string }[] {
  const before = a as unknown as Record<string, unknown>;
  const after = b as unknown as Record<string, unknown>;
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((key) => !NOT_COMPARED.has(key));
  const fields = keys.flatMap((field) => {
    const [x, y] = [shown(before[field]), shown(after[field])];
    return x === y ? [] : [{ field, before: x, after: y }];
  });
  const cells = [before.cells, after.cells].map((each) => JSON.stringify(each ?? null));
  return cells[0] === cells[1] ? fields : [...fields, { field: "amps by mode", before: "", after: "other" }];
}

/** How many of a list came, went and changed, by id. */
function countChanges(before: readonly { id: string }[], after: readonly { id: string }[]) {
  const was = new Map(before.map((each) => [each.id, JSON.stringify(each)]));
  const is = new Map(after.map((each) => [each.id, JSON.stringify(each)]));
  return {
    added: [...is.keys()].filter((id) => !was.has(id)).length,
    removed: [...was.keys()].filter((id) => !is.has(id)).length,
    changed: [...is].filter(([id, text]) => was.has(id) && was.get(id) !== text).length,
  };
}

/** What differs between two machines, in words. */
export function differences(
  a: { machine: Machine; full: FullAnalysis; run: Bounded | null },
  b: { machine: Machine; full: FullAnalysis; run: Bounded | null },
): Differences {
  const [before, after] = [a.machine, b.machine];
  const first = new Map(before.parts.map((part) => [part.id, part]));
  const second = new Map(after.parts.map((part) => [part.id, part]));
  const said = new Set(a.full.analysis.verdicts.map(({ id, severity }) => `${id} ${severity}`));
  const says = new Set(b.full.analysis.verdicts.map(({ id, severity }) => `${id} ${severity}`));
  const ampsOf = (full: FullAnalysis, name: string) => {
    const mode = full.analysis.modes.find((each) => each.name === name);
    return mode && !mode.collapsed ? { value: mode.sourceA, bound: mode.atLeast } : null;
  };
  const names = [...new Set([...before.modes, ...after.modes].map(({ name }) => name))];
  return {
    added: after.parts.flatMap((part) => (first.has(part.id) ? [] : [part.name])),
    removed: before.parts.flatMap((part) => (second.has(part.id) ? [] : [part.name])),
    changed: after.parts.flatMap((part) => {
      const was = first.get(part.id);
      const fields = was ? fieldsOf(was, part) : [];
      return fields.length > 0 ? [{ name: part.name, kind: part.kind, fields }] : [];
    }),
    links: countChanges(before.signals ?? [], after.signals ?? []),
    wires: countChanges(before.wires, after.wires),
    gained: b.full.analysis.verdicts.filter(({ id, severity }) => !said.has(`${id} ${severity}`)),
    lost: a.full.analysis.verdicts.filter(({ id, severity }) => !says.has(`${id} ${severity}`)),
    modes: names.map((name) => ({ name, before: ampsOf(a.full, name), after: ampsOf(b.full, name) })),
    mass: { before: weightOf(before), after: weightOf(after) },
    cost: { before: costOf(before), after: costOf(after) },
    run: { before: a.run, after: b.run },
  };
}
