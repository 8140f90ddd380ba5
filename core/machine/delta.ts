import type { Machine, Part, Wire } from "./schema";

/** What turns one version of a machine into the next: everything short in full, of the long lists only the new elements. */
export interface MachineDelta {
  rest: Omit<Machine, "parts" | "wires">;
  parts: ListDelta<Part>;
  wires: ListDelta<Wire>;
}

interface ListDelta<T> {
  length: number;
  /** Elements that are not the very object at the same place before. */
  changed: [index: number, element: T][];
}

function listDelta<T>(before: readonly T[], after: readonly T[]): ListDelta<T> {
  const changed: [number, T][] = [];
  after.forEach((element, index) => {
    if (before[index] !== element) changed.push([index, element]);
  });
  return { length: after.length, changed };
}

function patchList<T>(before: readonly T[], { length, changed }: ListDelta<T>): T[] {
  const after = before.slice(0, length);
  for (const [index, element] of changed) after[index] = element;
  return after;
}

/** Compares by identity: edits share what they do not touch. Without a version before, everything is new. */
export function deltaOf(before: Machine | null, after: Machine): MachineDelta {
  const { parts, wires, ...rest } = after;
  return { rest, parts: listDelta(before?.parts ?? [], parts), wires: listDelta(before?.wires ?? [], wires) };
}

/** The next version of a machine from the last one and what changed; unchanged parts and wires stay the same objects. */
export function applyDelta(before: Machine | null, delta: MachineDelta): Machine {
  return { ...delta.rest, parts: patchList(before?.parts ?? [], delta.parts), wires: patchList(before?.wires ?? [], delta.wires) };
}
